import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { planJob } from "../job/plan";
import { smallSystem } from "../model/testing";
import { DEFAULT_SITUATION, type Situation } from "../model/types";
import { randomFrom } from "../strip/random-plan";
import { heardAt, orderCost, orderTests, type Test, testList } from "./tests";

const START: Situation = { ...DEFAULT_SITUATION, key: "off" };
const [fn] = smallSystem().functions;
if (!fn) throw new Error("the small system has a function");
const test = (id: string, situation: Partial<Situation>): Test => ({
  id,
  fn,
  situationId: "r",
  label: id,
  situation: { ...DEFAULT_SITUATION, ...situation },
  minutes: 1,
  sense: "picture",
  at: [],
});

function* permutations<T>(list: readonly T[]): Generator<T[]> {
  if (list.length === 0) yield [];
  for (const [i, first] of list.entries())
    for (const rest of permutations([...list.slice(0, i), ...list.slice(i + 1)])) yield [first, ...rest];
}

describe("the order of tests", () => {
  it("keeps tests of one state of the car together", () => {
    const tests = [
      test("a", { key: "on" }),
      test("b", { key: "running" }),
      test("c", { key: "on", selector: "R" }),
      test("d", { key: "running", selector: "R" }),
    ];
    const order = orderTests(tests, START);
    expect(orderCost(order, START)).toBeCloseTo(1 + 0.4 + 1 + 0.4, 9);
  });

  it("is never worse than 1.15 times the best of all orders, on random sets of six", () => {
    const random = randomFrom(11);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
    let worst = 1;
    for (let round = 0; round < 25; round++) {
      const tests = Array.from({ length: 6 }, (_, i) =>
        test(`${i}`, {
          key: pick(["off", "on", "running"] as const),
          selector: pick(["P", "R", "N"] as const),
          phone: pick(["none", "wired", "wireless"] as const),
          pictureMode: pick(["factory", "phone"] as const),
        }),
      );
      const costs = [...permutations(tests)].map((p) => orderCost(p, START));
      worst = Math.max(worst, orderCost(orderTests(tests, START), START) / Math.max(1e-9, Math.min(...costs)));
    }
    expect(worst).toBeLessThanOrEqual(1.15);
  });

  it("holds every test once, and does not depend on how they were listed", () => {
    const { tests } = planJob(demoDocuments(), { choices: null });
    const again = orderTests([...tests].reverse(), START);
    expect(again.map((t) => t.id).sort()).toEqual(tests.map((t) => t.id).sort());
    expect(new Set(tests.map((t) => t.id)).size).toBe(tests.length);
    expect(orderCost(again, START)).toBeLessThanOrEqual(1.1 * orderCost(tests, START));
  });
});

describe("what is listened to", () => {
  it("are the loudspeakers of the test, each once, by the names of their contacts", () => {
    const { tests, fitted } = planJob(demoDocuments(), { choices: null });
    const heard = (id: string) => {
      const test = tests.find((t) => t.id === id);
      return test ? heardAt(test, fitted).map((h) => h.name) : null;
    };
    expect(heard("tunerSound/on")?.sort()).toEqual([
      "left front loudspeaker",
      "left rear loudspeaker",
      "right front loudspeaker",
      "right rear loudspeaker",
    ]);
    expect(heard("factoryPicture/on")).toEqual([]);
  });

  it("is drawn on every shipped car, so that no loudspeaker of a test is left out", () => {
    const cars = shippedLibrary().flatMap((p) => (p.document === "car" ? [p] : []));
    expect(cars.length).toBeGreaterThan(5);
    for (const car of cars) {
      const drawn = new Set(car.drawings?.plan?.speakers?.map((s) => s.contact));
      const cones = car.parts.flatMap((p) =>
        p.ports.flatMap((x) => x.contacts.flatMap((c) => (x.id === "cones" ? [`${p.id}.${x.id}.${c.id}`] : []))),
      );
      expect(cones.filter((c) => !drawn.has(c))).toEqual([]);
    }
  });
});

describe("the list of tests", () => {
  it("holds what works in the sound car and leaves out what the kit takes away", () => {
    const system = smallSystem();
    expect(testList(system, {}).map((t) => t.id)).toEqual(["rear/r"]);
    const without = { ...system, links: system.links.filter((l) => l.id !== "camera-screen") };
    expect(testList(without, {})).toEqual([]);
  });
});
