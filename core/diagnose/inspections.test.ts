import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { checkProfile } from "../../profiles/read";
import { jobOf, press } from "../../tests/support/jobs";
import { planJob } from "../job/plan";
import { kitCoverage } from "../library/coverage";
import type { KitProfile } from "../model/profile";
import type { Inspection } from "../model/types";
import { handoverView } from "../views/handover";
import { answerOfValue } from "./checks";
import { judge } from "./judge";
import { judgeTable } from "./table";

const documents = demoDocuments();
const withInspection = (inspection: Partial<Inspection>): KitProfile => ({
  ...documents.kit,
  inspections: [
    { id: "own", kind: "measure", at: "module.main.1", title: "Own", how: "So.", ...inspection } as Inspection,
  ],
});
function tableOf(kit = documents.kit) {
  const plan = planJob({ ...documents, kit }, { choices: null });
  const table = judgeTable(plan.fitted, plan.tests, plan.touched);
  if (!table) throw new Error("it was not stopped");
  return table;
}

describe("what a document has measured, looked at and exchanged", () => {
  const table = tableOf();
  const look = (id: string) => table.looks.find((l) => l.id === id);
  const shows = (hypothesis: string, id: string) =>
    table.signs[table.hypotheses.findIndex((h) => h.id === hypothesis)]?.has(id);

  it("is simulated at its contact: what takes the feed away is seen there, what lies behind it is not", () => {
    expect(shows("loose:k-car", "at:supply")).toBe(true);
    expect(shows("dead:module", "at:supply")).toBe(false);
    expect(shows("open:videoOutLead", "at:supply")).toBe(false);
  });

  it("tells a module that gets no feed from one that does nothing with it", () => {
    const dark = new Map([["lamp:module", "dark"]]);
    const tests = new Map([["phonePicture/wireless", "black"]]);
    const chance = (answer: string, id: string) =>
      judge(table, { tests, looks: new Map([...dark, ["at:supply", answer]]) })
        .groups.flatMap((g) => g.members)
        .find((m) => m.id === id)?.probability ?? 0;
    expect(chance("within", "dead:module")).toBeGreaterThan(20 * chance("outside", "dead:module"));
    expect(chance("outside", "loose:k-car")).toBeGreaterThan(20 * chance("within", "loose:k-car"));
  });

  it("takes the place of the plain words, in another state of the car too", () => {
    expect(look("measure:videoOutLead")?.title).toBe("Is the video lead OUT whole?");
    expect(look("measure:videoOutLead")?.window).toEqual({ unit: "Ω", min: 0, max: 1 });
    expect(look("measure:audioLead")?.window).toBeUndefined();
    // One value for a lead of several conductors: which of them is said.
    expect(look("measure:videoOutLead")?.how).toMatch(/It has 2 conductors: note the worst value\.$/);
    expect(look("at:supply")?.how).not.toMatch(/conductors/);
    const swapped = tableOf(
      withInspection({ kind: "exchange", at: "module", title: "Put in the module of the bench" }),
    );
    expect(swapped.looks.find((l) => l.id === "swap:module")?.title).toBe("Put in the module of the bench");
    // With the key off no accessory feed stands anywhere, whatever is open.
    const off = tableOf(withInspection({ at: "module.main.3", situation: { key: "off" } }));
    expect(off.signs.some((s) => s.has("at:own"))).toBe(false);
  });

  it("reads a value as the answer that it is, both ends of the window within", () => {
    const supply = look("at:supply");
    if (!supply) throw new Error("the kit has it");
    expect([10.9, 11, 15, 15.1].map((v) => answerOfValue(supply, v))).toEqual([
      "outside",
      "within",
      "within",
      "outside",
    ]);
    const lead = look("measure:videoOutLead");
    expect([0.3, 10_000_000].map((v) => lead && answerOfValue(lead, v))).toEqual(["good", "open"]);
  });

  it("stands in the log with its value, which decides the answer", () => {
    const job = jobOf(documents);
    const measured = press(job, { kind: "prove.check", data: { check: "at:supply", value: 0.4 } });
    expect(measured.state.checks.get("at:supply")?.value).toBe("outside");
    expect(handoverView(measured, "2026-01-05T13:00:00Z").history[0]?.words).toBe(
      "Does the battery feed stand at the plug of the module?: 0.4 V",
    );
    expect(() => press(job, { kind: "prove.check", data: { check: "lamp:module", value: 3 } })).toThrow(/in words/);
    expect(() => press(job, { kind: "prove.check", data: { check: "at:supply", answer: "maybe" } })).toThrow(
      /no answer/,
    );
  });
});

describe("an inspection that makes no sense", () => {
  const refused = (inspection: Partial<Inspection>) => () => checkProfile(withInspection(inspection));

  it("is refused with its title and what to do", () => {
    expect(refused({ kind: "look", window: { unit: "V", min: 1, max: 2 } })).toThrow(/Own.*only be measured/);
    expect(refused({})).toThrow(/Own.*Enter a window/s);
    expect(refused({ kind: "exchange", at: "module", window: { unit: "V", min: 1, max: 2 } })).toThrow(/Own.*belongs/s);
    expect(refused({ window: { unit: "V", min: 3, max: 2 } })).toThrow(/min must not be over max/);
  });

  it("is named by the coverage: a place that is not there, a contact at which nothing stands", () => {
    const window = { unit: "V", min: 11, max: 15 } as const;
    const gaps = (inspection: Partial<Inspection>) =>
      kitCoverage({ ...documents, kit: withInspection({ window, ...inspection }) })
        .filter((g) => g.kind === "inspection")
        .map((g) => g.say);
    expect(gaps({})).toEqual([]);
    expect(gaps({ at: "module.main.99" })[0]).toContain("does not have");
    expect(gaps({ kind: "look", at: "k-nowhere" })[0]).toContain("does not have");
    expect(gaps({ at: "module.main.3", situation: { key: "off" } })[0]).toContain("tells nothing");
  });

  it("is in no shipped kit", () => {
    const kits = shippedLibrary().filter((p) => p.document === "kit" && p.inspections?.length);
    expect(kits.length).toBeGreaterThan(5);
  });
});
