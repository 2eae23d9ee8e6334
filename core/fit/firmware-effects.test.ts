import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { jobOf, logOf, refusalOf } from "../../tests/support/jobs";
import { openNow, planJob } from "../job/plan";
import type { Command } from "../log/entry";
import { mergeDisturbances } from "../model/disturbance";
import { outcomeKey } from "../model/observe";
import { Model } from "../model/outcome";
import { firmwareFit } from "./firmware";

const library = shippedLibrary();
const variant = library.find((p) => p.id === "velmora-osk-18-o1");
const kit = library.find((p) => p.id === "velmora-socket-b");
const car = library.find((p) => p.document === "car" && p.id === "velmora-osk-18");
if (variant?.document !== "variant" || kit?.document !== "kit" || car?.document !== "car") throw new Error("library");
const opened = { car, variant, kit };
const AT = "2026-01-05T09:00:00Z";
const firmware = (version: string): Command => ({
  kind: "intake.car",
  data: { changed: { firmware: version }, before: {} },
});
const update = (state: "started" | "done" | "interrupted", volts?: number): Command => ({
  kind: "configure.firmware",
  data: { state, ...(volts === undefined ? {} : { volts }) },
});
const stored = (from: string, to: string, state: string) =>
  ({ kind: "configure.firmware", data: { from, to, state, volts: state === "started" ? 13 : null } }) as never;

/** How loudspeakers sound with everything plugged, as the job stands. */
function sound(...commands: Command[]): string[] {
  const job = jobOf(opened, logOf(...commands));
  const { plan } = job;
  const state = { ...job.state, plugged: new Set(plan.connections.map((c) => c.link)) };
  const model = new Model(plan.fitted, mergeDisturbances([openNow(plan, state)]), plan.settings);
  const fn = plan.fitted.functions.find((f) => f.id === "tunerSound");
  return (fn?.situations ?? []).map((s) => outcomeKey(model.try(fn as never, s.id).outcome).split(" ")[0] ?? "");
}

describe("a firmware that exchanges the loudspeakers", () => {
  it("is known beforehand, with the contacts that make good for it", () => {
    const plan = planJob(opened, { choices: null, car: { firmware: "O1-2.4" } as never });
    expect(plan.firmware.steps.map((s) => s.to)).toEqual(["O1-3.1"]);
    expect(plan.sets.map((s) => [s.setting, s.value])).toContainEqual([
      "radio.speakerPins",
      "left and right exchanged",
    ]);
    expect(plan.sets.find((s) => s.setting === "radio.speakerPins")?.moves).toHaveLength(8);
    // With update and contacts everything that worked before works.
    const model = new Model(plan.fitted, {}, plan.settings);
    const heard = plan.fitted.functions.filter((f) => ["tunerSound", "phoneSound", "phonePicture"].includes(f.id));
    expect(heard).toHaveLength(3);
    for (const fn of heard)
      for (const s of fn.situations) expect([fn.id, model.try(fn, s.id).outcome.kind]).toEqual([fn.id, "ok"]);
  });

  it("is right before, wrong after the update, right again with the contacts moved", () => {
    const moved: Command = { kind: "configure.set", data: { setting: "radio.speakerPins", done: true } };
    const done = [stored("O1-2.4", "O1-3.1", "started"), stored("O1-2.4", "O1-3.1", "done")];
    expect(new Set(sound(firmware("O1-2.4")))).toEqual(new Set(["ok"]));
    expect(new Set(sound(firmware("O1-2.4"), ...done))).toEqual(new Set(["wrong:channel"]));
    expect(new Set(sound(firmware("O1-2.4"), ...done, moved))).toEqual(new Set(["ok"]));
    expect(new Set(sound(firmware("O1-2.4"), moved))).toEqual(new Set(["wrong:channel"]));
  });

  it("asks for no contacts where the radio has that version already", () => {
    const plan = planJob(opened, { choices: null, car: { firmware: "FW:O1-3.3" } as never });
    expect(plan.firmware.steps).toEqual([]);
    expect(plan.sets.map((s) => s.setting)).not.toContain("radio.speakerPins");
  });

  it("of another series says nothing", () => {
    const fit = firmwareFit(variant, [], "O2-9.0");
    expect(fit).toMatchObject({ steps: [], settingsNow: {}, settingsAfter: {}, cures: [] });
  });
});

describe("an update, step by step", () => {
  const old = firmware("O1-2.4");

  it.each<[string, Command[], Command, string | null]>([
    ["without a measured supply", [old], update("started"), "was not measured"],
    ["with a supply that is too low", [old], update("started", 11.9), "11.9 V is too little"],
    ["with the maintainer on", [old], update("started", 13.4), null],
    ["that nothing asks for", [firmware("O1-3.3")], update("started", 13.4), "No update is to be made"],
    ["that was not started", [old], update("done"), "No update is running"],
    ["that runs already", [old, stored("O1-2.4", "O1-3.1", "started")], update("started", 13), "running already"],
    ["that runs, ended", [old, stored("O1-2.4", "O1-3.1", "started")], update("done"), null],
    [
      "that broke off, again",
      [old, stored("O1-2.4", "O1-3.1", "started"), stored("O1-2.4", "O1-3.1", "interrupted")],
      update("started", 13),
      null,
    ],
  ])("%s", (_, log, asked, words) => {
    const on: Command = { kind: "strip.stands", data: { sets: { key: "on" } } };
    const said = refusalOf(jobOf(opened, logOf(...log, on)), asked, AT);
    if (words === null) expect(said).toBeNull();
    else expect(said).toContain(words);
  });

  it("that broke off leaves a version that nobody knows, until it is read", () => {
    const broken = [old, stored("O1-2.4", "O1-3.1", "started"), stored("O1-2.4", "O1-3.1", "interrupted")];
    expect(jobOf(opened, logOf(...broken)).plan.firmware.present).toBe("");
    expect(jobOf(opened, logOf(...broken, firmware("O1 3.1"))).plan.firmware.present).toBe("O1-3.1");
  });

  it("settles what follows from the version: it cannot be ticked", () => {
    const tick: Command = { kind: "configure.set", data: { setting: "radio.mirroring", done: true } };
    expect(refusalOf(jobOf(opened, logOf(old)), tick, AT)).toContain("cannot be ticked");
  });
});
