import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf, refusalOf } from "../../tests/support/jobs";
import type { Command, JobEntry } from "../log/entry";
import { foldJob } from "../log/fold";
import { jobStripView } from "./car-state";
import { entryId } from "./entry-id";
import { planJob } from "./plan";
import { handoverReport } from "./report";

const plan = planJob(demoDocuments(), { choices: null });
const NOW = "2026-01-05T08:20:00Z";
const entries = logOf;
const check = (command: Command, before: JobEntry[] = []) => refusalOf(jobOf(demoDocuments(), before), command, NOW);
const step = (id: string, direction: "in" | "back" = "in"): Command => ({
  kind: "strip.step",
  data: { step: id, direction },
});
const result = (test: string, answer: "pass" | "nothing" | "impossible"): Command => ({
  kind: "prove.result",
  data: { test, answer, note: "" },
});

describe("the checks of the kinds", () => {
  it("lets through what the plan knows", () => {
    const good: Command[] = [
      { kind: "intake.baseline", data: { test: plan.baseline[0]?.id ?? "", result: "pass", note: "" } },
      { kind: "intake.wishes", data: { functions: ["phonePicture"] } },
      { kind: "fit.confirm", data: { choices: { soundPath: "carBluetooth" } } },
      { kind: "connect.plug", data: { link: "k-car", plugged: true } },
      { kind: "configure.switches", data: { settings: { ...plan.settings } } },
      step("cover"),
      { kind: "handover.point", data: { text: "x" } },
    ];
    for (const body of good) expect([body.kind, check(body)]).toEqual([body.kind, null]);
  });

  it.each<[Command, RegExp]>([
    [{ kind: "intake.baseline", data: { test: "ghost", result: "pass", note: "" } }, /no baseline try “ghost”/],
    [{ kind: "fit.confirm", data: { choices: { colour: "red" } } }, /no choice “colour”/],
    [
      { kind: "fit.confirm", data: { choices: { soundPath: "shouting" } } },
      /Choose one of Line input, The car's own Bluetooth/,
    ],
    [{ kind: "connect.plug", data: { link: "k-nothing", plugged: true } }, /no connection “k-nothing”/],
    [{ kind: "configure.switches", data: { settings: { "module.sw1": "on" } } }, /Switch 2 is not entered/],
    [
      { kind: "configure.switches", data: { settings: { ...plan.settings, "radio.volume": "on" } } },
      /no switch “radio.volume”/,
    ],
    [
      { kind: "configure.switches", data: { settings: { ...plan.settings, "module.sw3": "half" } } },
      /Switch 3 is not entered/,
    ],
    [result("ghost/try", "pass"), /no test/],
    [step("moonwalk"), /no step “moonwalk”/],
    [{ kind: "undo", data: { entry: "nobody" } }, /no such entry/],
  ])("refuses %o", (body, message) => {
    expect(check(body)).toMatch(message);
  });

  it("takes an undo once", () => {
    const log = entries({ kind: "handover.point", data: { text: "x" } });
    const undo: Command = { kind: "undo", data: { entry: "e0" } };
    expect(check(undo, log)).toBeNull();
    expect(check(undo, [...log, { ...undo, id: "u", at: "2026-01-05T09:00:00Z", by: "Test" } as JobEntry])).toMatch(
      /undone already/,
    );
  });
});

describe("the hand-over report", () => {
  it("sets baseline against last tests, new functions first, and names what was given up", () => {
    const log = entries(
      { kind: "intake.baseline", data: { test: "rearView/factory", result: "fail", note: "" } },
      result("rearView/factory", "pass"),
      result("phonePicture/wired", "pass"),
    );
    const { lines } = handoverReport(jobOf(demoDocuments(), log), NOW);
    expect(lines.find((l) => l.id === "rearView/factory")).toMatchObject({ before: "fail", after: "pass" });
    expect(lines.find((l) => l.id === "phonePicture/wired")).toMatchObject({ before: "new", after: "pass" });
    expect(lines.find((l) => l.id === "handsFree/call")).toMatchObject({ before: null, after: "given up" });
    expect(lines[0]?.before).toBe("new");
    expect(new Set(lines.map((l) => l.id)).size).toBe(lines.length);
  });

  it("lists everything that is not as it should be when the car leaves", () => {
    const log = entries(
      ...jobStripView(plan, foldJob([]), NOW).left.map((t) => step(t.id)),
      result("phonePicture/wired", "nothing"),
      result(plan.tests.find((t) => t.fn.id === "phoneSound")?.id ?? "", "impossible"),
    );
    const text = handoverReport(jobOf(demoDocuments(), log), NOW)
      .openPoints.map((p) => p.text)
      .join("\n");
    for (const wanted of [
      "Does not work: Phone picture",
      "Not tried: ",
      "The law asks for it and it was not tried: ",
      "Could not be tried: Phone sound",
      "Still off: console panel",
      "12 fasteners",
      "5 factory plugs",
      "battery is still isolated",
    ]) {
      expect(text).toContain(wanted);
    }
  });

  it("has no open point when all is proven and closed", () => {
    const log = entries(
      ...plan.connections.map((c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } })),
      { kind: "configure.switches", data: { settings: { ...plan.settings } } },
      ...plan.tests.map((t) => result(t.id, "pass")),
      { kind: "prove.codes", data: { text: "" } },
    );
    expect(handoverReport(jobOf(demoDocuments(), log), NOW).openPoints.map((p) => p.text)).toEqual([
      "The identification number is not noted.",
      `${plan.baseline.length} tries of the baseline not done.`,
      "The customer has not signed the offer.",
      "Too short for their way: USB lead.",
    ]);
  });
});

describe("entryId", () => {
  const seed = "019a0000-1234-7abc-8def-0123456789ab";

  it("is the same for the same form of the same page and a valid UUIDv7", () => {
    expect(entryId(seed, "plug:k-car")).toBe(entryId(seed, "plug:k-car"));
    expect(entryId(seed, "plug:k-car")).toMatch(
      /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/,
    );
    expect(entryId(seed, "plug:k-car").slice(0, 23)).toBe(seed.slice(0, 23));
  });

  it("differs between the forms of a page", () => {
    const keys = Array.from(
      { length: 2000 },
      (_, i) => `{"kind":"connect.plug","data":{"link":"k-${i}","plugged":${i % 2 === 0}}}`,
    );
    expect(new Set(keys.map((k) => entryId(seed, k))).size).toBe(keys.length);
  });
});
