import { describe, expect, it } from "vitest";
import { Model } from "../model/outcome";
import type { SwitchBank } from "../model/profile";
import { contact, smallSystem } from "../model/testing";
import type { Condition, FunctionSpec, Port, System } from "../model/types";
import { compareSwitches, solveSwitches } from "./switches";

const bank: SwitchBank = { part: "camera", label: "Bank", switches: ["sw1", "sw2", "sw3"], on: "on", off: "off" };

/** The small car whose camera sends only while its switches meet a condition. */
function withSwitches(when: Condition): System {
  const system = smallSystem();
  return {
    ...system,
    parts: system.parts.map((p) =>
      p.id === "camera"
        ? {
            ...p,
            settings: bank.switches.map((id) => ({ id, label: id, values: ["off", "on"], initial: "off" })),
            sources: (p.sources ?? []).map((s) => ({ ...s, when: { all: [s.when as Condition, when] } })),
          }
        : p,
    ),
  };
}
const is = (setting: string, value: string): Condition => ({ setting, is: [value] });
const solve = (system: System) => solveSwitches(system, bank, ["rear"]);
const stands = (system: System) => solve(system).switches.map((s) => s.value);

describe("a switch bank", () => {
  it("changes the fewest switches from how it is delivered", () => {
    const system = withSwitches({ any: [{ all: [is("sw1", "on"), is("sw2", "on")] }, is("sw3", "on")] });
    expect(stands(system)).toEqual(["off", "off", "on"]);
    expect(solve(system).solutions).toBe(5);
  });

  it("says which switch each function needs, and which is free", () => {
    const solution = solve(withSwitches({ all: [is("sw1", "on"), is("sw2", "off")] }));
    expect(solution.switches.map((s) => [s.value, s.free, s.breaks])).toEqual([
      ["on", false, ["Rear camera"]],
      ["off", false, ["Rear camera"]],
      ["off", true, []],
    ]);
  });

  it("finds just the positions that trying every one finds", () => {
    for (const when of [
      is("sw2", "on"),
      { not: is("sw1", "off") },
      { all: [is("sw1", "on"), { any: [is("sw2", "on"), is("sw3", "on")] }] },
    ] as Condition[]) {
      const system = withSwitches(when);
      const [fn] = system.functions as [FunctionSpec];
      const good = Array.from({ length: 8 }, (_, mask) =>
        Object.fromEntries(bank.switches.map((id, i) => [`camera.${id}`, mask & (1 << i) ? "on" : "off"])),
      ).filter((settings) => new Model(system).try(fn, "r", settings).outcome.kind === "ok");
      const { solutions, settings } = solve(system);
      expect(solutions).toBe(good.length);
      expect(good).toContainEqual(settings);
    }
  });

  it("gives no position when none does, and names the function that is missing", () => {
    const solution = solve(withSwitches({ all: [is("sw1", "on"), is("sw1", "off")] }));
    expect([solution.settings, solution.solutions, solution.missing]).toEqual([null, 0, ["Rear camera"]]);
  });

  it("names what cannot be had together and each way out, and solves nothing until one is taken", () => {
    // The camera sends its picture with switch 1 on, a dimmed one with it off and switch 2 on; never both.
    const system = withSwitches(is("sw1", "on"));
    const [rear] = system.functions.map((f) => ({ ...f, who: "customer" as const })) as [FunctionSpec];
    const dimmed: FunctionSpec = {
      ...rear,
      id: "dimmed",
      name: "Dimmed picture",
      observe: [{ at: "screen.glass.1", where: { picture: "dimmed" } }],
    };
    const both: System = {
      ...system,
      functions: [rear, dimmed],
      parts: system.parts.map((p) =>
        p.id !== "camera"
          ? p
          : {
              ...p,
              sources: [
                ...(p.sources ?? []),
                {
                  id: "dim",
                  at: ["v.1"],
                  attributes: { picture: "dimmed" },
                  when: { all: [{ present: "p.2" }, is("sw1", "off"), is("sw2", "on")] },
                },
              ],
            },
      ),
    };
    const solution = solveSwitches(both, bank, ["rear", "dimmed"]);
    expect([solution.settings, solution.missing]).toEqual([null, []]);
    expect(solution.switches.map((s) => [s.value, s.free, s.breaks])).toEqual(Array(3).fill([null, false, []]));
    expect(solution.conflict.map((way) => [way.givesUp.map((f) => f.id), Object.values(way.settings)])).toEqual([
      [["dimmed"], ["on", "off", "off"]],
      [["rear"], ["off", "on", "off"]],
    ]);
    expect(solution.clash).toEqual(["Rear camera", "Dimmed picture"]);
    // What the law asks for is not among what can be given up.
    const lawful = { ...both, functions: [{ ...rear, who: "law" as const }, dimmed] };
    const ways = solveSwitches(lawful, bank, ["rear", "dimmed"]).conflict;
    expect(ways.map((way) => way.givesUp.map((f) => f.id))).toEqual([["dimmed"]]);
    // Nobody has chosen, so no entered position is wrong yet.
    expect(compareSwitches(solution, bank, { "camera.sw1": "off", "camera.sw2": "off" })).toEqual([]);
    expect(solveSwitches(both, bank, ["dimmed"])).toMatchObject({ conflict: [], settings: { "camera.sw2": "on" } });
  });

  it("names three that clash only all together, and leaves out who has no part in it", () => {
    const wants: Record<string, Condition> = {
      one: { any: [is("sw1", "on"), is("sw2", "on")] },
      two: is("sw1", "off"),
      three: is("sw2", "off"),
      four: { any: [is("sw1", "off"), is("sw1", "on")] },
    };
    const ids = Object.keys(wants);
    const system = withSwitches(is("sw1", "on"));
    const [rear] = system.functions as [FunctionSpec];
    const lamps: Port = {
      id: "x",
      label: "lamps",
      inside: true,
      contacts: ids.map((id) => contact(id, "trigger", "out")),
    };
    const all: System = {
      ...system,
      functions: ids.map((id) => ({
        ...rear,
        ...{ id, name: id, who: "customer" as const },
        observe: [{ at: `camera.x.${id}`, where: {} }],
      })),
      parts: system.parts.map((p) =>
        p.id === "camera"
          ? {
              ...p,
              ports: [...p.ports, lamps],
              sources: ids.map((id) => ({ id, at: [`x.${id}`], when: wants[id] as Condition })),
            }
          : p,
      ),
    };
    expect(solveSwitches(all, bank, ids).clash).toEqual(["one", "two", "three"]);
    expect(solveSwitches(all, bank, ["one", "two", "four"]).clash).toEqual([]);
  });

  it("as it stands is compared switch by switch; what was not entered is not judged", () => {
    const solution = solve(withSwitches(is("sw1", "on")));
    expect(compareSwitches(solution, bank, { "camera.sw1": "off", "camera.sw2": "off" })).toEqual([
      { number: 1, should: "on", is: "off", breaks: ["Rear camera"] },
    ]);
  });
});
