/** The engine against the plain evaluator: the same outcomes, ways, times and reasons, on random and shipped systems. */
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { randomDisturbance, randomSystem } from "../../tests/support/random-system";
import { compile as compilePlain } from "../../tests/support/reference/compile";
import { evaluate as evaluatePlain } from "../../tests/support/reference/evaluate";
import { Model as PlainModel } from "../../tests/support/reference/outcome";
import { planJob } from "../job/plan";
import { compile } from "./compile";
import { mergeDisturbances } from "./disturbance";
import { evaluate } from "./evaluate";
import { singleFaults } from "./faults";
import { Model, type Tried } from "./outcome";
import { contact, smallSystem } from "./testing";
import type { Disturbance, Settings, System } from "./types";

const SYSTEMS = 100;
const DISTURBANCES = 6;

/** What a person could see of a try. */
const seen = ({ outcome, situation, missed }: Tried) => ({
  outcome,
  situation,
  missed: missed.map((m) => ({ action: m.action.id, break: m.break })),
});

function everyTry(system: System, disturbance: Disturbance, settings: Settings = {}) {
  const both = [new Model(system, disturbance, settings), new PlainModel(system, disturbance, settings)];
  return both.map((model) =>
    system.functions.map((fn) => fn.situations.map((s) => seen(model.try(fn, s.id) as Tried))),
  );
}

function everywhere(system: System, disturbance: Disturbance) {
  const situation = { ...system.defaultSituation, ...system.functions[0]?.situations[0]?.set };
  const both = [
    evaluate(compile(system, disturbance), situation),
    evaluatePlain(compilePlain(system, disturbance), situation),
  ];
  return both.map((e) =>
    system.parts.flatMap((p) =>
      p.ports.flatMap((port) =>
        port.contacts.flatMap((c) =>
          (["in", "out"] as const).map((side) => {
            const ref = `${p.id}.${port.id}.${c.id}`;
            const arrivals = e.arrivals(ref, side).map((a) => ({ signal: a.signal, afterMs: a.afterMs }));
            return { ref, side, arrivals, hops: side === "in" ? e.hops(ref, () => true) : [] };
          }),
        ),
      ),
    ),
  );
}

describe("random systems under random disturbances", () => {
  it("give the same signals everywhere, with the same times and ways", () => {
    let arrived = 0;
    for (let seed = 0; seed < SYSTEMS; seed++) {
      const system = randomSystem(seed);
      for (let d = 0; d < DISTURBANCES; d++) {
        const [engine, plain] = everywhere(system, d === 0 ? {} : randomDisturbance(1000 * seed + d, system));
        expect(engine).toEqual(plain);
        arrived += engine?.filter((x) => x.arrivals.length > 0).length ?? 0;
      }
    }
    expect(arrived).toBeGreaterThan(3000);
  });

  it("give the same outcomes with the same reasons, of every kind there is", () => {
    const kinds = new Set<string>();
    let missed = 0;
    for (let seed = 0; seed < SYSTEMS; seed++) {
      const system = randomSystem(seed);
      for (let d = 0; d < DISTURBANCES; d++) {
        const disturbance = d === 0 ? {} : randomDisturbance(1000 * seed + d, system);
        const settings: Settings = d === 3 ? { "p1.mode": "b" } : {};
        const [engine, plain] = everyTry(system, disturbance, settings);
        expect(engine).toEqual(plain);
        for (const tried of engine?.flat() ?? []) {
          kinds.add(tried.outcome.kind);
          missed += tried.missed.length;
        }
      }
    }
    expect([...kinds].sort()).toEqual(["absent", "doubled", "late", "ok", "wrong"]);
    expect(missed).toBeGreaterThan(20);
  });
});

describe("the demonstration", () => {
  it("gives the same under every single fault, and under pairs of them", () => {
    const plan = planJob(demoDocuments(), { choices: null });
    const faults = singleFaults(plan.fitted, plan.touched);
    expect(faults.length).toBeGreaterThan(80);
    const pairs = faults.slice(0, 40).map((f, i) => [f, faults[(7 * i + 41) % faults.length] ?? f] as const);
    const disturbances = [
      ...faults.map((f) => f.disturbance),
      ...pairs.map(([a, b]) => mergeDisturbances([a.disturbance, b.disturbance])),
    ];
    for (const disturbance of disturbances) {
      const [engine, plain] = everyTry(plan.fitted, disturbance, plan.settings);
      expect(engine).toEqual(plain);
    }
  });
});

describe("a signal that comes on two ways", () => {
  it("counts with the quicker one, also where that has more steps", () => {
    const system = smallSystem();
    const screen = system.parts[3];
    screen?.ports.push({ id: "board", label: "board", contacts: [contact("1", "compositeVideo", "wire")] });
    // Directly it takes 200 ms; over the board it takes two steps and 50 ms.
    screen?.routes?.push(
      { id: "toBoard", from: "v.1", to: "board.1", settleMs: 30 },
      { id: "fromBoard", from: "board.1", to: "glass.1", settleMs: 20 },
    );
    if (screen?.ports[2]) screen.ports[2].inside = true;
    const [fn] = system.functions;
    if (!fn) throw new Error("the small system has a function");
    const quick = { ...fn, withinMs: 360 };
    const { outcome } = new Model({ ...system, functions: [quick] }).try(quick, "r");
    expect(outcome).toMatchObject({ kind: "ok", afterMs: 350 });
    const { outcome: late } = new Model(system).try({ ...fn, withinMs: 340 }, "r");
    expect(late).toMatchObject({ kind: "late", afterMs: 350, withinMs: 340 });
  });
});

describe("the condition of an action", () => {
  const held = (when: System["actions"][number]["when"]) => {
    const system = smallSystem();
    const [fn] = system.functions;
    if (!fn) throw new Error("the small system has a function");
    const action = { id: "hold", say: "Hold", part: "camera", press: "home", holdS: { min: 2, max: 4 }, when, set: {} };
    const with_ = { ...fn, situations: [{ id: "r", label: "r", set: { selector: "R" as const }, actions: ["hold"] }] };
    return new Model({ ...system, actions: [action], functions: [with_] }).try(with_, "r").missed.length === 0;
  };

  it("is read like every other one: situation, setting, all, any and not", () => {
    expect(held({ situation: "selector", is: ["R"] })).toBe(true);
    expect(held({ situation: "selector", is: ["P"] })).toBe(false);
    expect(held({ not: { situation: "selector", is: ["P"] } })).toBe(true);
    expect(held({ all: [{ present: "p.1" }, { situation: "lights", is: [true] }] })).toBe(false);
    expect(held({ any: [{ present: "p.1" }, { situation: "lights", is: [true] }] })).toBe(true);
  });
});
