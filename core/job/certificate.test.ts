import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf } from "../../tests/support/jobs";
import { offerOf } from "../fit/offer";
import type { Command } from "../log/entry";
import { proveView } from "../views/prove";
import { certificateOf } from "./certificate";
import { handoverReport } from "./report";

const NOW = "2026-01-05T12:00:00Z";
const documents = demoDocuments();
const job = (...commands: Command[]) => jobOf(documents, logOf(...commands));
const section = (title: string, ...commands: Command[]) =>
  certificateOf(job(...commands), NOW).sections.find((s) => s.title === title)?.lines ?? null;
const sheet = (faultCodes: string): Command => ({
  kind: "intake.car",
  data: { changed: { faultCodes }, before: { faultCodes: "" } },
});
const codes = (text: string): Command => ({ kind: "prove.codes", data: { text } });

describe("the certificate", () => {
  it("compares the fault codes, and says when nobody has read them again", () => {
    expect(section("Fault codes")).toEqual(["After the work: not read."]);
    expect(section("Fault codes", codes(""))).toEqual(["None stored after the work."]);
    expect(section("Fault codes", sheet("Radio: B1234 open\nU0100"), codes("U0100\nGateway: U0140"))).toEqual([
      "New since the work: Gateway U0140.",
      "There before and still there: U0100.",
      "There before and gone: Radio B1234 open.",
    ]);
  });

  it("tells feed, fuse and what the meter showed", () => {
    const [position] = documents.car.fusePanel ?? [];
    expect(section("Feed and measured values")).toBeNull();
    expect(
      section(
        "Feed and measured values",
        { kind: "connect.feed", data: { position: position?.id ?? "" } },
        { kind: "connect.tap", data: { lit: true } } as Command,
        { kind: "connect.reading", data: { reading: "supplyOn", value: 13.9 } },
      ),
    ).toEqual([
      `Switched feed from fuse ${position?.id}, ${position?.circuit}, ${position?.ratingA} A; tap proven the right way round.`,
      "Switched feed, ignition on: 13.9 V.",
    ]);
  });

  it("tells places as they are on this car, and how it was done", () => {
    const planned = section("Where it lies") ?? [];
    expect(planned).toContainEqual("Interface module: glovebox space.");
    const moved = section("Where it lies", { kind: "connect.place", data: { part: "module", place: "knee space" } });
    expect(moved).toContainEqual("Interface module: knee space.");
    expect(section("How it was done")?.length ?? 0).toBe(
      documents.kit.choices.filter((c) => c.kind === "method").length,
    );
  });

  it("draws where the key of the card is, and which panels were off", () => {
    const plain = certificateOf(jobOf(documents), NOW);
    // The toggle is a key of the wheel.
    expect(plain.keys?.heavy).toEqual(["steering wheel"]);
    expect(plain.keys?.shapes.filter((s) => s.heavy)).toHaveLength(1);
    expect(plain.touched?.shapes.filter((s) => s.hatched)).toEqual([]);
    const glovebox = documents.car.stripPlan.steps.find((s) => s.panel === "glovebox");
    const off: Command = { kind: "strip.step", data: { step: glovebox?.id ?? "", direction: "in" } };
    const after = certificateOf(jobOf(documents, logOf(off)), NOW);
    expect(after.touched?.shapes.filter((s) => s.hatched)).toHaveLength(1);
    const undrawn = { ...documents, car: { ...documents.car, version: 99, drawings: undefined } };
    expect(certificateOf(jobOf(undrawn), NOW)).toMatchObject({ keys: null, touched: null });
  });

  it("names wishes that are not given", () => {
    expect(
      section("Wished for and not available", { kind: "intake.wishes", data: { functions: ["phonePicture"] } }),
    ).toBeNull();
    expect(section("Wished for and not available", { kind: "intake.wishes", data: { functions: ["zones"] } })).toEqual([
      "zones.",
    ]);
  });

  it("shows what was found on the car and not what was mixed up on the way", () => {
    const repair = (fault: string, title: string, normal = false): Command =>
      ({ kind: "prove.repair", data: { fault, title, remedy: "Put right.", normal, tests: [] } }) as unknown as Command;
    expect(
      section(
        "Found and repaired",
        repair("loose:k-main", "Not plugged"),
        repair("exchanged:a+b", "Exchanged"),
        repair("setting:module.sw2=off", "Switch 2"),
        repair("dead:radioAmplifier", "Amplifier is dead"),
        repair("normal:boots", "The module starts up", true),
      ),
    ).toEqual(["Amplifier is dead. Put right."]);
  });
});

describe("fault codes after the work", () => {
  const open = (...commands: Command[]) => {
    return handoverReport(job(...commands), NOW).openPoints.map((p) => p.text);
  };

  it("are an open point until they are read, and where new ones came", () => {
    expect(open()).toContain("Fault codes were not read after the work.");
    expect(open(codes("")).join()).not.toMatch(/[Ff]ault codes/);
    expect(open(sheet("U0100"), codes("U0100")).join()).not.toMatch(/[Ff]ault codes/);
    expect(open(sheet("U0100"), codes("U0100\nU0140"))).toContain("New fault codes: U0140.");
  });

  it("are asked for again after a repair: the car is another one", () => {
    const repair = {
      kind: "prove.repair",
      data: { fault: "dead:x", title: "x", remedy: "", tests: [] },
    } as unknown as Command;
    expect(open(codes(""), repair)).toContain("Fault codes were not read after the work.");
  });
});

describe("what failed before the work", () => {
  const failed: Command = { kind: "intake.baseline", data: { test: "hazard/key-off", result: "fail", note: "" } };

  it("is never called kept, and is reminded of at its test", () => {
    const { state } = job(failed);
    const line = (baseline: typeof state.baseline) =>
      offerOf(documents, { ...state, baseline }, {}, []).lines.find((l) => l.functionId === "hazard");
    expect(line(new Map())).toMatchObject({ verdict: "kept", untried: true });
    const works = new Map([["hazard/key-off", { ...state.baseline.get("hazard/key-off"), value: "pass" as const }]]);
    expect(line(works as typeof state.baseline)).not.toHaveProperty("untried");
    expect(line(state.baseline)).toMatchObject({ verdict: "faulty", causes: ["It did not work before the work."] });
    const shown = proveView(job(failed), NOW).tests.filter((t) => t.round === "bench" && t.failedBefore);
    expect(shown.map((t) => t.id)).toEqual(["hazard/key-off"]);
  });
});
