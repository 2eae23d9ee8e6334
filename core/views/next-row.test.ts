/** The next action names a row of its surface, at every moment of a whole job; else the bench would open elsewhere. */
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { jobOf, logOf, signedFor } from "../../tests/support/jobs";
import type { Job } from "../job/job";
import type { Command } from "../log/entry";
import { backKey } from "../strip/back-key";
import { configureView } from "./configure";
import { connectView } from "./connect";
import { handoverView } from "./handover";
import { intakeView } from "./intake";
import { lengthsView } from "./lengths";
import { proveView } from "./prove";
import { whereOnDash } from "./where";

const NOW = "2026-01-05T12:00:00Z";
const documents = demoDocuments();
const kits = shippedLibrary().flatMap((p) => (p.document === "kit" ? [p] : []));
const job = (...commands: Command[]): Job => jobOf(documents, logOf(...commands));

/** Rows of each surface, as the page lists them. */
function rows(of: Job): Record<string, readonly string[]> {
  const strip = of.strip(NOW);
  const connect = connectView(of, kits, NOW, null, {});
  const { sets } = configureView(of, NOW);
  return {
    intake: ["car", "variant", "wishes", ...intakeView(of, kits, NOW).baseline.map((t) => t.id)],
    fit: ["kits", "ledger", "sign"],
    strip: [...strip.left.map((t) => t.id), ...strip.back.map((t) => backKey(t.id))],
    lengths: ["laid-out"],
    connect: ["wrong", ...connect.before.map((t) => t.setting ?? t.id), ...connect.connections.map((c) => c.link)],
    configure: ["bank", "conflict", "power-cycle", ...sets.map((s) => s.setting)],
    prove: ["cause", "codes", ...proveView(of, NOW).tests.map((t) => t.key)],
    handover: handoverView(of, NOW).closed ? ["papers"] : ["close"],
  };
}

/** What a person does for the next action; null at the end. */
function answer(of: Job): Command | null {
  const { stage, at = "" } = of.next(NOW);
  const { plan } = of;
  if (stage === "intake")
    return at === "car"
      ? { kind: "intake.car", data: { changed: { identification: "0VMCRA18XK1000318" }, before: {} } }
      : { kind: "intake.baseline", data: { test: at, result: "pass", note: "" } };
  if (stage === "fit")
    return at === "sign" ? signedFor(plan.documents) : { kind: "fit.confirm", data: { choices: {} } };
  if (stage === "strip") {
    const { task, direction } = of.strip(NOW).next ?? {};
    if (!task || !direction) throw new Error(at);
    return {
      kind: "strip.step",
      data: { step: task.id, direction: task.prepStep ? "in" : direction },
    };
  }
  if (at === "laid-out") return { kind: "connect.laidOut", data: {} };
  if (stage === "connect") return { kind: "connect.plug", data: { link: at, plugged: true } };
  if (stage === "configure")
    return at === "bank"
      ? { kind: "configure.switches", data: { settings: { ...plan.settings } } }
      : { kind: "configure.powerCycle", data: { step: "in" } };
  if (stage === "prove")
    return at === "codes"
      ? { kind: "prove.codes", data: { text: "" } }
      : { kind: "prove.result", data: { test: at.replace(/^again /, ""), answer: "pass", note: "" } };
  return null;
}

describe("the next action", () => {
  it("names a row of its surface from the first field to the last, and comes to an end", () => {
    const done: Command[] = [];
    const stages = new Set<string>();
    for (let i = 0; i < 120; i++) {
      const now = job(...done);
      const { stage, at = "", page = stage } = now.next(NOW);
      expect([done.length, stage, at, rows(now)[page]?.includes(at)]).toEqual([done.length, stage, at, true]);
      stages.add(stage);
      const command = answer(now);
      if (!command) break;
      done.push(command);
    }
    expect(stages).toEqual(new Set(["intake", "fit", "strip", "connect", "configure", "prove", "handover"]));
    expect(handoverView(job(...done), NOW).report.openPoints.map((p) => p.text)).toEqual([
      "Too short for their way: USB lead.",
    ]);
  });
});

describe("Prove", () => {
  const say = (value: "pass" | "nothing", by: string, minute: number) => ({
    ...logOf({ kind: "prove.result", data: { test: "hazard/key-off", answer: value, note: "" } })[0],
    id: `${by}${minute}`,
    at: `2026-01-05T09:${String(minute).padStart(2, "0")}:00Z`,
    by,
  });
  const shown = (...entries: ReturnType<typeof say>[]) =>
    proveView(jobOf(documents, entries as never), NOW).tests.find((t) => t.id === "hazard/key-off");

  it("shows two people's opposite answers, and nobody's own second thought", () => {
    expect(shown(say("pass", "A", 1), say("nothing", "B", 2))?.otherwise).toMatchObject({ by: "A", answer: "pass" });
    expect(shown(say("pass", "A", 1), say("nothing", "A", 2))?.otherwise).toBeNull();
    expect(shown(say("pass", "A", 1), say("pass", "B", 2))?.otherwise).toBeNull();
  });
});

describe("what the drawings point at", () => {
  it("are the panels behind which a part is reached, at its place of now", () => {
    const { plan } = job();
    expect(whereOnDash(plan, new Map()).module).toEqual(expect.arrayContaining(["module", "glovebox"]));
    expect(whereOnDash(plan, new Map([["module", "vent space"]])).module).toContain("vent panel");
    expect(whereOnDash(plan, new Map([["module", "vent space"]])).module).not.toContain("glovebox");
  });

  it("are ways that begin and end where the lead does, and sockets that fill as plugs go in", () => {
    const { ways, leads } = lengthsView(job());
    expect(ways.length).toBe(leads.length);
    for (const [i, way] of ways.entries()) {
      const { from, to } = leads[i]?.lead ?? {};
      expect([way.id, way.way[0], way.way.at(-1)]).toEqual([way.id, from, to]);
    }
    const [first] = job().plan.connections;
    const plug: Command = { kind: "connect.plug", data: { link: first?.link ?? "", plugged: true } };
    const filled = (of: Job) => connectView(of, kits, NOW, null, {}).filled;
    expect(filled(job())).not.toContain(first?.a);
    expect(filled(job(plug))).toEqual(expect.arrayContaining([first?.a, first?.b]));
  });
});
