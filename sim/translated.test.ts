import { describe, expect, it } from "vitest";
import { describedSignal, type FoundSignal } from "../core/bus/hunt/found";
import { draftRules } from "../core/bus/translation/draft";
import { ALWAYS, AS_THE_CAR, NEVER, toldSetting } from "../core/bus/translation/told";
import { type Rule, usualRule } from "../core/bus/translation/translation";
import type { Documents } from "../core/fit/resolve-fit";
import type { Job, OpenedWith } from "../core/job/job";
import { openNow } from "../core/job/plan";
import { isSet } from "../core/job/set-state";
import type { Command } from "../core/log/entry";
import { DEFAULT_SITUATION, type Situation } from "../core/model/types";
import { shippedLibrary } from "../profiles/library";
import { jobOf, press, signedJob } from "../tests/support/jobs";
import { observe } from "./bench";
import { standInDbc } from "./car";
import { outputsIn, toldIn } from "./translated";

const DBC = standInDbc();
const FILE = "6f5f4f0e-2d0c-4c57-9f2f-2a1f4b0a1c11";
const SIGNALS = DBC.messages.flatMap((m) =>
  m.signals.map((s) => describedSignal(m, s, FILE)).filter((f): f is FoundSignal => typeof f !== "string"),
);
const RULES = draftRules(DBC.messages);

const situation = (set: Partial<Situation>): Situation => ({ ...DEFAULT_SITUATION, ...set });
const on = (set: Partial<Situation>, rules = RULES) => [...outputsIn({ rules }, SIGNALS, situation(set))].sort();

describe("a translation on the stand-in car", () => {
  it("switches on what the car does, and nothing else", () => {
    expect(on({})).toEqual(["accessory"]);
    // Without messages the lock is on.
    expect(on({ key: "off" })).toEqual(["motionLock"]);
    expect(on({ key: "running", selector: "R" })).toEqual(["accessory", "reverse"]);
    expect(on({ lights: true })).toEqual(["accessory", "lights"]);
    expect(on({ key: "running", selector: "D", speedKmh: 12 })).toEqual(["accessory", "motionLock"]);
    for (const key of ["back", "next", "volumeUp", "volumeDown"] as const) {
      expect(on({ pressed: key, heldS: 0.5 })).toEqual(["accessory", key].sort());
      expect(on({ pressed: key, heldS: 6 })).toEqual(["accessory", key].sort());
    }
  });

  it("tells a module apart that is not told, or told at all times", () => {
    const back: Rule = { ...usualRule("back"), when: [[{ signal: "WheelKeys.KeyCode", is: "=", value: 0 }]] };
    const modules = [{ output: "back" as const, ref: "module.told-back" }];
    const told = (set: Partial<Situation>, rules: Rule[]) =>
      toldIn(modules, { rules }, SIGNALS, situation(set))["module.told-back"];
    expect(told({ pressed: "back", heldS: 1 }, RULES)).toBe(AS_THE_CAR);
    expect(told({ pressed: "back", heldS: 1 }, [back])).toBe(NEVER);
    expect(told({}, [back])).toBe(ALWAYS);
    expect(told({}, RULES)).toBe(NEVER);
    expect(told({ pressed: "back", heldS: 1 }, [])).toBe(NEVER);
  });
});

const library = shippedLibrary();
const find = (id: string) => library.find((p) => p.id === id);

describe.each([
  ["a blank interface", "velmora-osk-18", "velmora-osk-18-o1", "orvanto-om9-blank", "module.data", ["back", "next"]],
  ["a bus module", "kestrane-fjell-11", "kestrane-fjell-11-f1", "pellimar-free-7", "busModule.data", ["accessory"]],
  ["a passenger video module", "sundrey-tarn-21", "sundrey-tarn-21-t2", "orvanto-still", "module.data", ["next"]],
] as const)("%s with the translation of its job", (_, car, variant, kit, setting, needed) => {
  const opened = { car: find(car), variant: find(variant), kit: find(kit) } as OpenedWith & Documents;
  const fresh = signedJob(opened);
  const made = fresh.plan.sets.filter((s) => s.setting !== setting);
  const done = press(
    fresh,
    ...fresh.plan.connections.map((c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } })),
    ...made.map((s): Command => ({ kind: "configure.set", data: { setting: s.setting, done: true } })),
    { kind: "bus.file", data: { file: FILE } },
    ...SIGNALS.map((data): Command => ({ kind: "bus.signal", data: { ...data, thing: "test" } })),
  );
  const withRules = (rules: Rule[]) =>
    press(
      done,
      { kind: "bus.translation", data: { rules } },
      { kind: "configure.loaded", data: { setting, what: "loaded", identification: "", data: "", translation: true } },
    );
  const failing = (job: Job) => [
    ...new Set(
      job.plan.tests.filter((t) => observe(job.plan, job.state, null, t.id).answer !== "pass").map((t) => t.fn.id),
    ),
  ];
  const loaded = (job: Job) => {
    const set = job.plan.sets.find((s) => s.setting === setting);
    return set !== undefined && isSet(job.plan, job.state, set);
  };

  it("passes every test, as with the data of its maker", () => {
    const job = withRules(RULES);
    expect(loaded(job)).toBe(true);
    expect(failing(job)).toEqual([]);
  });

  it.each(needed)("fails where it is not told: %s", (output) => {
    const job = withRules(RULES.filter((r) => r.output !== output));
    expect(failing(job).length).toBeGreaterThan(0);
    const part = setting.split(".")[0];
    expect(openNow(job.plan, job.state).settings?.[`${part}.${toldSetting(output)}`]).toBe(NEVER);
  });

  it("counts as not loaded once the translation has changed", () => {
    const job = press(withRules(RULES), { kind: "bus.translation", data: { rules: RULES.slice(1) } });
    expect(loaded(job)).toBe(false);
  });
});

describe("the lock of moving pictures", () => {
  const opened = {
    car: find("velmora-osk-18"),
    variant: find("velmora-osk-18-o1"),
    kit: find("orvanto-om9-blank"),
  } as OpenedWith;

  it("stays locked on a module whose translation has no rule for it", () => {
    const job = press(
      jobOf(opened),
      { kind: "bus.file", data: { file: FILE } },
      ...SIGNALS.map((data): Command => ({ kind: "bus.signal", data: { ...data, thing: "test" } })),
      { kind: "bus.translation", data: { rules: RULES.filter((r) => r.output !== "motionLock") } },
      {
        kind: "configure.loaded",
        data: { setting: "module.data", what: "loaded", identification: "", data: "", translation: true },
      },
    );
    expect(openNow(job.plan, job.state).settings?.["module.told-motionLock"]).toBe(ALWAYS);
  });
});
