import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { plantedBy, pursue } from "../../tests/support/pursue";
import { planJob } from "../job/plan";
import { NONE } from "./hypothesis";
import { judge, reasonsFor } from "./judge";
import { type JudgeTable, judgeTable } from "./table";

function tableOf(): JudgeTable {
  const plan = planJob(demoDocuments(), { choices: null });
  const table = judgeTable(plan.fitted, plan.tests, plan.touched);
  if (!table) throw new Error("it was not stopped");
  return table;
}

const table = tableOf();
const seen = (tests: Record<string, string>, looks: Record<string, string> = {}) => ({
  tests: new Map(Object.entries(tests)),
  looks: new Map(Object.entries(looks)),
});
const lead = (evidence: Parameters<typeof judge>[1]) =>
  judge(table, evidence).groups.flatMap((g) => g.members.map((m) => m.id));

describe("what can be the matter with the demonstration car", () => {
  it("are faults of every kind, states that are normal, and none of these", () => {
    const kinds = new Set(table.hypotheses.map((h) => h.kind));
    for (const kind of ["leadOpen", "notPlugged", "exchanged", "dead", "setting", "assumed", "normal", "none"] as const)
      expect(kinds).toContain(kind);
    expect(new Set(table.hypotheses.map((h) => h.id)).size).toBe(table.hypotheses.length);
  });

  it("adds up to one before and after anything was seen", () => {
    const results = [seen({}), seen({ "phonePicture/wireless": "black" }, { "lamp:module": "dark" })];
    for (const evidence of results)
      expect(judge(table, evidence).groups.reduce((s, g) => s + g.probability, 0)).toBeCloseTo(1, 9);
  });

  it("tells a picture that stays from one that goes black", () => {
    const works = { "factoryPicture/on": "works", "nextKey/short": "works" };
    const stays = lead(seen({ ...works, "phonePicture/wireless": "otherPicture" }));
    const black = lead(seen({ ...works, "phonePicture/wireless": "black" }));
    expect(stays[0]).toBe("state:shortHold");
    expect(black[0]).not.toBe("state:shortHold");
  });

  it("can be stopped half-way", () => {
    const plan = planJob(demoDocuments(), { choices: null });
    let calls = 0;
    expect(judgeTable(plan.fitted, plan.tests, plan.touched, () => ++calls < 5)).toBeNull();
    expect(calls).toBe(5);
  });
});

describe("the search for a cause", () => {
  const shows = (h: number) => table.tests.findIndex((_, t) => plantedBy(table, h).test(t) !== "works");

  it("ends at the place of every fault of the kit that shows at all, by what it proposes itself", () => {
    let found = 0;
    for (const [h, { id, kind, weight, settledBy }] of table.hypotheses.entries()) {
      if (kind === "none" || kind === "normal" || weight < 1 || shows(h) < 0) continue;
      const { repaired, end } = pursue(table, shows(h), plantedBy(table, h));
      const place = table.hypotheses.find((x) => x.id === repaired)?.settledBy;
      const first = end.groups[0]?.members.map((m) => m.id) ?? [];
      expect([id, place === settledBy || first.includes(id)]).toEqual([id, true]);
      found++;
    }
    expect(found).toBeGreaterThan(30);
  });

  it("does not end in silence: what is known for sure is looked at and repaired", () => {
    let repaired = 0;
    for (const [h, { id, kind, normal, settledBy }] of table.hypotheses.entries()) {
      if (kind === "none" || normal || shows(h) < 0 || h % 4 > 0) continue;
      const end = pursue(table, shows(h), plantedBy(table, h));
      const place = table.hypotheses.find((x) => x.id === end.repaired)?.settledBy;
      expect([id, end.end.next.length > 0, place]).toEqual([id, true, settledBy]);
      repaired++;
    }
    expect(repaired).toBeGreaterThan(10);
  });

  it("waits for no normal state that would explain nothing of what fails", () => {
    const waits = (evidence: Parameters<typeof judge>[1]) =>
      judge(table, evidence).next.filter((p) => p.kind === "look" && p.look.id.startsWith("wait:")).length;
    const code = new Map([["dead:module", { factor: 50, why: "A code is stored." }]]);
    expect(waits({ ...seen({}), hints: code })).toBe(0);
    expect(waits(seen({ "factoryTouch/on": "shifted" }))).toBe(0);
    expect(waits(seen({ "phonePicture/wireless": "black" }))).toBeGreaterThan(0);
  });

  it("proposes a repair only after somebody has looked, or where looking takes longer", () => {
    for (const [h, hypothesis] of table.hypotheses.entries()) {
      if (hypothesis.kind === "none" || hypothesis.kind === "normal" || shows(h) < 0) continue;
      const looked = new Set<string>();
      const planted = plantedBy(table, h);
      const { repaired } = pursue(table, shows(h), {
        ...planted,
        look(id) {
          looked.add(id);
          return planted.look(id);
        },
      });
      const cause = table.hypotheses.find((x) => x.id === repaired);
      const look = table.looks.find((l) => l.id === cause?.settledBy);
      if (cause && look && !looked.has(look.id)) expect(look.minutes).toBeGreaterThan(cause.repairMinutes);
    }
  });

  it("says none of these when nothing that it knows explains what is seen", () => {
    // The tuner from other loudspeakers only when warm, the factory picture frozen, the hazard switch dead.
    const strange = seen({
      "tunerSound/on": "breaksOff:warm",
      "factoryPicture/on": "frozen",
      "hazard/key-off": "otherThing",
      "wheelVolume/short": "otherThing",
    });
    expect(lead(strange)[0]).toBe(NONE);
  });

  it("names a result that speaks against everything else", () => {
    const h = table.hypotheses.findIndex((x) => x.id === "open:videoOutLead");
    const tests: Record<string, string> = {};
    for (const [t, { id }] of table.tests.entries()) tests[id] = plantedBy(table, h).test(t);
    const wrong = table.tests.find((t) => tests[t.id] === "black" && t.fn.id === "rearView")?.id ?? "";
    const evidence = seen({ ...tests, [wrong]: "works" }, { "measure:videoOutLead": "open" });
    const { against, groups } = judge(table, evidence);
    expect(groups[0]?.members[0]?.id).toBe("open:videoOutLead");
    expect(against).toEqual([{ id: wrong, report: "works", twice: false }]);
    // The same once more: it counts twice against what leads.
    const again = judge(table, { ...evidence, twice: new Set([wrong]) });
    const chance = ({ groups: all }: typeof again) =>
      all.flatMap((g) => g.members).find((m) => m.id === "open:videoOutLead")?.probability ?? 0;
    expect(chance(again)).toBeLessThan(chance({ ...again, groups }));
    expect(again.against.every((r) => r.twice === (r.id === wrong))).toBe(true);
  });
});

describe("results that do not fit", () => {
  it("are left aside where a test or look is not of the plan", () => {
    const evidence = seen({ "phonePicture/wireless": "black" });
    const more = seen(
      { "phonePicture/wireless": "black", "notThere/on": "black" },
      { "measure:notThere": "open", "lamp:module": "purple" },
    );
    expect(judge(table, more)).toEqual(judge(table, evidence));
  });

  it("contradict each other without an end of what can be said", () => {
    const all: Record<string, string> = {};
    for (const { id } of table.tests) all[id] = "nothing";
    const looks: Record<string, string> = {};
    for (const { id, answers } of table.looks) looks[id] = answers[0]?.id ?? "";
    const { groups, next } = judge(table, seen(all, looks));
    const sum = groups.reduce((s, g) => s + g.probability, 0);
    expect(sum).toBeCloseTo(1, 9);
    for (const p of next) expect(Number.isFinite(p.total)).toBe(true);
  });

  it("is judged all the same where documents tell no times of reach", () => {
    const plan = planJob(demoDocuments(), { choices: null });
    const parts = plan.fitted.parts.map(({ reachMinutes: _, ...part }) => part);
    const timeless = judgeTable({ ...plan.fitted, parts }, plan.tests, plan.touched);
    if (!timeless) throw new Error("it was not stopped");
    const { next } = judge(timeless, seen({ "phonePicture/wireless": "black" }));
    expect(next.length).toBeGreaterThan(0);
    for (const p of next) expect(p.total).toBeGreaterThan(0);
  });
});

describe("why", () => {
  it("tells which results speak for a cause and which against it", () => {
    const evidence = seen({ "phonePicture/wireless": "otherPicture", "factoryPicture/on": "works" });
    const reasons = new Map(reasonsFor(table, evidence, "state:shortHold").map((r) => [r.id, r.ratio]));
    expect(reasons.get("phonePicture/wireless")).toBeGreaterThan(1);
    const against = new Map(reasonsFor(table, evidence, "dead:screen").map((r) => [r.id, r.ratio]));
    expect(against.get("factoryPicture/on")).toBeLessThan(1);
  });

  it("counts what the log of the job says", () => {
    const evidence = seen({ "phonePicture/wireless": "black" });
    const [loose] = table.hypotheses.filter((h) => h.kind === "notPlugged" && lead(evidence).indexOf(h.id) > 3);
    if (!loose) throw new Error("a plug that is not the first thing to think of");
    const hinted = { ...evidence, hints: new Map([[loose.id, { factor: 1000, why: "not ticked" }]]) };
    expect(lead(hinted).indexOf(loose.id)).toBeLessThan(lead(evidence).indexOf(loose.id));
  });
});
