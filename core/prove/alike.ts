/** Tests that can be answered in one go, because car and phone stand the same way for them. */
import { oncePer } from "../model/once";
import type { Test } from "./tests";

/**
 * The tests of a list that want the car to stand just so: key, selector, brake and speed; picture, source and phone are
 * changed on the way. Those that the law asks for are answered one by one.
 */
export function alikeWith(test: Test, tests: readonly Test[]): Test[] {
  const state = stateOf(test);
  return tests.filter((t) => t.id !== test.id && t.fn.who !== "law" && stateOf(t) === state);
}

const stateOf = oncePer(({ situation: { key, selector, parkingBrake, speedKmh } }: Test) =>
  JSON.stringify([key, selector, parkingBrake, speedKmh]),
);
