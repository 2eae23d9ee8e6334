import { describe, expect, it } from "vitest";
import { Model } from "../model/outcome";
import type { SwitchBank } from "../model/profile";
import { smallSystem } from "../model/testing";
import type { Condition, FunctionSpec, System } from "../model/types";
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

  it("as it stands is compared switch by switch; what was not entered is not judged", () => {
    const solution = solve(withSwitches(is("sw1", "on")));
    expect(compareSwitches(solution, bank, { "camera.sw1": "off", "camera.sw2": "off" })).toEqual([
      { place: 1, should: "on", is: "off", breaks: ["Rear camera"] },
    ]);
  });
});
