import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf } from "../../tests/support/jobs";
import { judge } from "../diagnose/judge";
import { asItStands, judgeTable } from "../diagnose/table";
import { evidenceFor, jobEvidence } from "./evidence";
import { reopenMinutes } from "./reopen";

const closed = jobOf(demoDocuments());

/** Every step of the way in is done. */
const opened = () =>
  jobOf(
    demoDocuments(),
    logOf(
      ...closed.plan.strip.plan.steps.map((s) => ({
        kind: "strip.step" as const,
        data: { step: s.id, direction: "in" as const },
      })),
    ),
  );

describe("what a closed car costs before one can look", () => {
  const table = judgeTable(closed.plan.fitted, closed.plan.tests, closed.plan.touched);
  if (!table) throw new Error("it was not stopped");

  it("is the way to a part and back, and nothing for what no panel covers", () => {
    const minutes = reopenMinutes(closed.plan, closed.state);
    expect(minutes.get("radio")).toBeGreaterThan(5);
    expect(minutes.get("module")).toBeGreaterThan(0);
    expect(minutes.has("phone")).toBe(false);
    for (const m of minutes.values()) expect(m).toBeGreaterThan(0);
  });

  it("is less with every panel that is off, and nothing once all are", () => {
    const before = reopenMinutes(closed.plan, closed.state);
    const after = reopenMinutes(closed.plan, opened().state);
    expect(after.size).toBeLessThan(before.size);
    for (const [part, m] of after) expect(m).toBeLessThanOrEqual(before.get(part) ?? 0);
    expect(after.has("radio")).toBe(false);
  });

  it("lets one try more before the dash is opened: looks behind panels cost more, tests the same", () => {
    const evidence = { tests: new Map([["phonePicture/wireless", "black"]]), looks: new Map<string, string>() };
    const stands = asItStands(table, reopenMinutes(closed.plan, closed.state));
    const look = (t: typeof table, id: string) => t.looks.find((l) => l.id === id)?.minutes ?? 0;
    expect(look(stands, "look:k-radio")).toBeGreaterThan(look(table, "look:k-radio") + 5);
    /** How many others are proposed before anything behind a panel. */
    const ahead = (t: typeof table) => {
      const { next } = judge(t, evidence);
      const first = next.findIndex((p) => p.kind === "look" && p.look.at.length > 0);
      return first < 0 ? next.length : first;
    };
    expect(ahead(stands)).toBeGreaterThan(ahead(table));
    // What is believed does not change by what it costs to look.
    expect(judge(stands, evidence).groups[0]?.probability).toBe(judge(table, evidence).groups[0]?.probability);
  });

  it("goes along with the evidence", () => {
    const known = jobEvidence(closed.plan, closed.state);
    expect(new Map(known.reopen)).toEqual(reopenMinutes(closed.plan, closed.state));
    expect(evidenceFor(closed.plan, known)).not.toHaveProperty("reopen");
  });
});
