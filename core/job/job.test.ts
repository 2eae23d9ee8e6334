import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, signedFor } from "../../tests/support/jobs";
import type { Command, JobEntry } from "../log/entry";
import { effective, foldJob } from "../log/fold";
import { trays } from "../strip/fasteners";
import { jobCarState, jobStripView } from "./car-state";
import { openNow, planJob } from "./plan";
import { handoverReport } from "./report";
import { repeatedTests } from "./rounds";

const documents = demoDocuments();
const plan = planJob(documents, { choices: null });
let clock = Date.parse("2026-03-02T08:00:00Z");
const NOW = "2026-03-02T20:00:00Z";
const log = (...bodies: Command[]): JobEntry[] =>
  bodies.map((body, i) => {
    clock += 120_000;
    return { ...body, id: `e${clock}-${i}`, at: new Date(clock).toISOString(), by: "Test" } as JobEntry;
  });
const sheet = {
  identification: "0VMCRA186J1000007",
  plate: "",
  odometer: "",
  firmware: "",
  faultCodes: "",
  note: "",
};
const intake = () =>
  log(
    { kind: "intake.car", data: { changed: sheet, before: {} } },
    ...plan.baseline.map((t): Command => ({ kind: "intake.baseline", data: { test: t.id, result: "pass", note: "" } })),
  );
const stripped = () =>
  log(
    ...jobStripView(plan, foldJob([]), NOW).left.map(
      (t): Command => ({ kind: "strip.step", data: { step: t.id, direction: "in" } }),
    ),
  );
const plugged = () =>
  log(...plan.connections.map((c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } })));
const fit: Command = { kind: "fit.confirm", data: { choices: { soundPath: "line" } } };

describe("the job log", () => {
  it("undoes by a new entry, and an undo of the undo brings it back", () => {
    const [first] = log({ kind: "handover.point", data: { text: "scratch" } }) as [JobEntry];
    const [undo] = log({ kind: "undo", data: { entry: first.id } }) as [JobEntry];
    const [redo] = log({ kind: "undo", data: { entry: undo.id } }) as [JobEntry];
    expect(effective([first, undo])).toEqual([]);
    expect(effective([first, undo, redo])).toEqual([first]);
    expect(foldJob([first, undo]).points).toEqual([]);
  });

  it("takes a double tap on a step as one event", () => {
    const step: Command = { kind: "strip.step", data: { step: "cover", direction: "in" } };
    expect(foldJob(log(step, step)).strip.stepEvents).toHaveLength(1);
    expect(
      foldJob(log({ kind: "strip.step", data: { step: "cover", direction: "back" } })).strip.stepEvents,
    ).toHaveLength(0);
  });

  it("clears test results after a repair, because the car is another one", () => {
    const entries = log(
      { kind: "prove.result", data: { test: "a/b", answer: "nothing", note: "" } },
      { kind: "prove.repair", data: { fault: "x" } },
      { kind: "prove.result", data: { test: "c/d", answer: "pass", note: "" } },
    );
    const state = foldJob(entries);
    expect([...state.results.keys()]).toEqual(["c/d"]);
    expect(state.repairs).toHaveLength(1);
  });

  it("asks for a power cycle again when a switch was changed after it", () => {
    const set = (v: string): Command => ({ kind: "configure.switches", data: { settings: { "module.sw1": v } } });
    const cycle: Command = { kind: "configure.powerCycle", data: { step: "in" } };
    expect(foldJob(log(set("on"), cycle)).powerCycled).toBe(true);
    expect(foldJob(log(set("on"), cycle, set("on"))).powerCycled).toBe(true);
    expect(foldJob(log(set("on"), cycle, set("off"))).powerCycled).toBe(false);
  });

  it("leaves long pauses out of the minutes", () => {
    const entries: JobEntry[] = ["08:00", "08:10", "12:00", "12:05"].map((t, i) => ({
      kind: "configure.powerCycle",
      data: { step: "in" },
      id: `${i}`,
      at: `2026-03-02T${t}:00Z`,
      by: "Test",
    }));
    expect(foldJob(entries).workMinutes).toBe(15);
  });
});

describe("Next and the car state strip", () => {
  const next = (entries: JobEntry[]) => jobOf(documents, entries).next(NOW);

  it("leads through the stages in the order of the work", () => {
    const soFar: JobEntry[] = [];
    const visit = (more: JobEntry[], stage: string, action: RegExp) => {
      soFar.push(...more);
      expect(next(soFar)).toMatchObject({ stage, action: expect.stringMatching(action) });
    };
    visit([], "intake", /identification number/);
    visit(log({ kind: "intake.car", data: { changed: sheet, before: {} } }), "intake", /Baseline/);
    visit(intake(), "fit", /what changes/);
    visit(log(fit), "fit", /signed/);
    // The switches are set and the kit is laid out on the bench, before the car is open.
    visit(log(signedFor(documents)), "configure", /switch bank/);
    visit(
      log({ kind: "configure.switches", data: { settings: { ...plan.settings, "module.sw2": "off" } } }),
      "configure",
      /switch 2 to on/,
    );
    visit(log({ kind: "configure.switches", data: { settings: plan.settings } }), "connect", /Lay the kit out/);
    visit(log({ kind: "connect.laidOut", data: {} }), "strip", /parking brake/);
    visit(stripped(), "connect", /T-harness/);
    visit(plugged(), "strip", /battery/);
    // Changed before the module had power for the first time they need no power cycle; these entries say they were not.
    visit(log({ kind: "strip.step", data: { step: "battery-on", direction: "in" } }), "configure", /power/);
    visit(log({ kind: "configure.powerCycle", data: { step: "in" } }), "prove", /Try hazard/);
    visit(
      log({ kind: "prove.result", data: { test: "hazard/key-off", answer: "nothing", note: "" } }),
      "prove",
      /cause/,
    );
    visit(
      log(
        ...plan.tests.map((t): Command => ({ kind: "prove.result", data: { test: t.id, answer: "pass", note: "" } })),
      ),
      "strip",
      /Radio in/,
    );
    const back = jobStripView(plan, foldJob(soFar), NOW).back.map(
      (t): Command => ({
        kind: "strip.step",
        data: { step: t.id, direction: t.prepStep ? "in" : "back" },
      }),
    );
    // What the closing can have pulled out is shown by few tests, tried once more; then comes the yard.
    visit(log(...back), "prove", /again/);
    const again = repeatedTests(plan);
    expect(again.length).toBeGreaterThan(0);
    expect(again.length).toBeLessThan(plan.tests.length);
    visit(
      log(...again.map((t): Command => ({ kind: "prove.result", data: { test: t.id, answer: "pass", note: "" } }))),
      "prove",
      /fault codes/,
    );
    visit(log({ kind: "prove.codes", data: { text: "" } }), "handover", /customer/);
    expect(jobCarState(jobOf(documents, soFar), NOW)).toMatchObject({
      battery: "connected",
      key: "off",
      selector: "P",
      panelsOff: 0,
      plugsOpen: 0,
      screwsOut: 0,
      hazards: [],
    });
  });

  it("computes open plugs and fasteners from the steps, and closes them with the leads", () => {
    const entries = [...intake(), ...log(fit), ...stripped()];
    const open = jobOf(documents, entries);
    const before = jobCarState(open, NOW);
    expect(before).toMatchObject({ battery: "isolated", plugsOpen: 5, screwsOut: 12 });
    expect(open.strip(NOW).car.panelsOff).toContain("vent panel");
    expect(before.panelsOff).toBe(open.strip(NOW).car.panelsOff.length);
    const after = jobCarState(jobOf(documents, [...entries, ...plugged()]), NOW);
    expect(after.plugsOpen).toBe(0);
    expect(Object.keys(openNow(plan, foldJob([...entries, ...plugged()])).openLinks ?? {})).toEqual([]);
  });

  it("says everywhere that as many screws are out as were counted", () => {
    const stripped12 = [...intake(), ...log(fit), ...stripped()];
    const [out] = jobOf(documents, stripped12).strip(NOW).car.fastenersOut;
    if (!out) throw new Error("nothing is out");
    const { step, group, count } = out;
    const one = log({ kind: "strip.count", data: { step, group, direction: "out", count: count - 1 } });
    const job = jobOf(documents, [...stripped12, ...one]);
    expect(jobCarState(job, NOW).screwsOut).toBe(11);
    expect(trays(job.strip(NOW).car, job.state.strip).reduce((n, t) => n + t.count, 0)).toBe(11);
    const points = handoverReport(job, NOW).openPoints.map((p) => p.text);
    expect(points).toContain("11 fasteners are still out.");
  });

  it("warns when the selector leaves park without the brake, and before an airbag zone with the battery on", () => {
    const only = (ids: string[]) =>
      jobOf(documents, [
        ...intake(),
        ...log(fit, ...ids.map((step): Command => ({ kind: "strip.step", data: { step, direction: "in" } }))),
      ]);
    expect(jobCarState(only(["cover", "key-on", "selector-out"]), NOW).hazards[0]).toMatchObject({
      id: "roll",
      level: "stop",
    });
    const jumped = only(["brake", "cover", "key-on", "selector-out", "console", "selector-in", "key-off"]);
    expect(jumped.next(NOW).action).toMatch(/Battery negative off/);
  });
});
