import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf } from "../../tests/support/jobs";
import { isMade, openNow } from "../job/plan";
import type { Command } from "./entry";
import { foldJob } from "./fold";
import { KINDS } from "./kinds";
import { upgradeEntry, versionOf } from "./upgrade";

const step = (id: string, direction: "in" | "back" = "in"): Command => ({
  kind: "strip.step",
  data: { step: id, direction },
});
const count = (direction: "in" | "out", n: number): Command => ({
  kind: "strip.count",
  data: { step: "radio-screws", group: 0, direction, count: n },
});
const counts = (...commands: Command[]) => foldJob(logOf(...commands)).strip.counts.get("radio-screws/0");

describe("kinds of entries", () => {
  it("stand under their own name", () => {
    for (const [name, kind] of Object.entries(KINDS)) expect(kind.kind).toBe(name);
  });

  it("bring the whole state, each slice once or as parts of one object", () => {
    const { strip, ...rest } = foldJob([]);
    expect(Object.keys(strip).sort()).toEqual(
      [
        "added",
        "behind",
        "counts",
        "gate",
        "stood",
        "notes",
        "skipped",
        "small",
        "splits",
        "stepEvents",
        "wanted",
      ].sort(),
    );
    expect(rest.plugged.size + rest.results.size + rest.workMinutes).toBe(0);
  });

  it("never share a slice between two jobs", () => {
    const one = foldJob(logOf(step("cover"), { kind: "connect.plug", data: { link: "k-car", plugged: true } }));
    expect([one.strip.stepEvents.length, one.plugged.size]).toEqual([1, 1]);
    expect([foldJob([]).strip.stepEvents.length, foldJob([]).plugged.size]).toEqual([0, 0]);
  });
});

describe("stored data of earlier versions", () => {
  it("come up to the present version of their kind", () => {
    const sheet = { identification: "A", plate: "", odometerKm: 88210, firmware: "", faultCodes: "", note: "" };
    expect(upgradeEntry("intake.car", 1, sheet).data).toEqual({
      changed: { identification: "A", plate: "", odometer: "88210 km", firmware: "", faultCodes: "", note: "" },
      before: {},
    });
    expect(
      upgradeEntry("intake.car", 2, { changed: { odometerKm: 5 }, before: { odometerKm: null, plate: "B" } }).data,
    ).toEqual({ changed: { odometer: "5 km" }, before: { odometer: "", plate: "B" } });
    expect(upgradeEntry("prove.repair", 1, { fault: "x", title: "t", remedy: "r" }).data).toMatchObject({ tests: [] });
    expect(versionOf("intake.car")).toBe(3);
  });

  it("of a version that is yet to come are refused", () => {
    expect(() => upgradeEntry("intake.car", 4, {})).toThrow(/newer Iteron/);
    expect(() => upgradeEntry("intake.smell", 1, {})).toThrow(/newer Iteron/);
  });
});

describe("fasteners that were counted", () => {
  it("keep what came out until they are back, also when the step is ticked after the counting", () => {
    expect(counts(count("out", 4), step("radio-screws"))).toEqual({ out: 4 });
    expect(counts(count("out", 4), step("radio-screws"), count("in", 3), step("radio-screws", "back"))).toEqual({
      out: 4,
      in: 3,
    });
  });

  it("begin anew when the part comes off once more, and the new count is kept", () => {
    const once = [count("out", 4), step("radio-screws"), count("in", 3), step("radio-screws", "back")];
    expect(counts(...once, step("radio-screws"))).toBeUndefined();
    expect(counts(...once, count("out", 5), step("radio-screws"))).toEqual({ out: 5 });
  });

  it("are not counted any more when the counting was taken back", () => {
    const log = logOf(count("out", 4), step("radio-screws"));
    const undone = [...log, ...logOf({ kind: "undo", data: { entry: "e0" } }).map((e) => ({ ...e, id: "u" }))];
    expect(foldJob(undone).strip.counts.size).toBe(0);
  });
});

describe("another kit", () => {
  it("takes feed and tap of the old one away, and keeps what the tester said", () => {
    const state = foldJob(
      logOf(
        { kind: "connect.feedTest", data: { position: "F3", state: "on", lit: true } },
        { kind: "connect.feed", data: { position: "F3" } },
        { kind: "connect.tap", data: { lit: true } },
        { kind: "fit.kit", data: { kit: { slug: "other", version: 1 }, choices: {} } },
      ),
    );
    expect([state.feed, state.tapLit]).toEqual([null, null]);
    expect(state.feedTests.get("F3")).toEqual({ on: true });
  });
});

describe("a connection is made or not", () => {
  const { plan } = jobOf(demoDocuments());
  const factory = plan.connections.find((c) => c.kind === "factory");
  const opener = plan.steps.find((s) => s.opens?.some((o) => o.a === factory?.a && o.b === factory?.b));
  if (!factory || !opener) throw new Error("the demonstration opens a factory plug");
  const plug: Command = { kind: "connect.plug", data: { link: factory.link, plugged: true } };
  const told = (...commands: Command[]) => {
    const job = jobOf(demoDocuments(), logOf(...commands));
    const open = openNow(job.plan, job.state).openLinks ?? {};
    const car = job.strip("2026-01-05T12:00:00Z").car.plugsOpen.some((p) => p.b === factory.b);
    return { made: isMade(job.plan, job.state, factory), inModel: !(factory.link in open), inCar: !car };
  };
  const all = (made: boolean) => ({ made, inModel: made, inCar: made });

  it("by one answer for the model, the car state and Connect", () => {
    expect(told()).toEqual(all(true));
    expect(told(step(opener.id))).toEqual(all(false));
    expect(told(step(opener.id), plug)).toEqual(all(true));
    expect(told(step(opener.id), step(opener.id, "back"))).toEqual(all(true));
  });

  it("and a step that opens it once more opens it, marked before or not", () => {
    expect(told(step(opener.id), plug, step(opener.id, "back"), step(opener.id))).toEqual(all(false));
  });
});
