/** Tests that can be answered in one go, because car and phone stand the same way for them. */
import type { Test } from "./tests";

/**
 * The tests of a list that want just the state of a test, apart from what is pressed. Those that the law asks for are
 * answered one by one.
 */
export function alikeWith(test: Test, tests: readonly Test[]): Test[] {
  const state = stateOf(test);
  return tests.filter((t) => t.id !== test.id && t.fn.who !== "law" && stateOf(t) === state);
}

const states = new WeakMap<Test, string>();

function stateOf(test: Test): string {
  let state = states.get(test);
  if (state === undefined) {
    const { pressed: _, heldS: __, ...wanted } = test.situation;
    state = JSON.stringify(Object.entries(wanted).sort());
    states.set(test, state);
  }
  return state;
}
