import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { fittingJobs } from "../../tests/bench/jobs";
import { jobOf, plugged, press } from "../../tests/support/jobs";
import { codeLook } from "../diagnose/checks";
import { judge } from "../diagnose/judge";
import { judgeTable } from "../diagnose/table";
import type { Command } from "../log/entry";
import { foldJob } from "../log/fold";
import { handoverView } from "../views/handover";
import { evidenceFor, jobEvidence } from "./evidence";
import { hypothesesOfPlan, looksOfPlan } from "./suspects";

describe("what the log says about what is the matter", () => {
  const job = plugged(jobOf(demoDocuments()));
  const hints = (state: typeof job.state) => new Map(jobEvidence(job.plan, state).hints);

  it("names plugs that are not ticked, and no more once they are", () => {
    const pulled = press(job, { kind: "connect.plug", data: { link: "k-audio-module", plugged: false } });
    expect(hints(pulled.state).get("loose:k-audio-module")?.why).toBe("Not ticked in Connect.");
    const back = press(pulled, { kind: "connect.plug", data: { link: "k-audio-module", plugged: true } });
    expect(hints(back.state).has("loose:k-audio-module")).toBe(false);
  });

  it("holds what was seen in its own words, and only the answer where nobody said more", () => {
    const told = press(
      job,
      { kind: "prove.result", data: { test: "phonePicture/wireless", answer: "pass", note: "", seen: "otherPicture" } },
      { kind: "prove.result", data: { test: "hazard/key-off", answer: "nothing", note: "" } },
    );
    expect(told.state.results.get("phonePicture/wireless")?.value).toBe("wrong");
    expect(new Map(jobEvidence(job.plan, told.state).tests)).toEqual(
      new Map([
        ["phonePicture/wireless", "otherPicture"],
        ["hazard/key-off", "nothing"],
      ]),
    );
  });

  it("takes what the meter showed in Connect: a dead feed, one that sags, a bus pair", () => {
    const measured = (reading: "supplyOn" | "supplyCrank" | "drop" | "pairOhm", value: number) =>
      hints(press(job, { kind: "connect.reading", data: { reading, value } }).state);
    const before = hints(job.state);
    const own = (h: ReturnType<typeof hints>) =>
      [...h].filter(([id, { factor }]) => factor !== before.get(id)?.factor).map(([id]) => id);
    expect(own(measured("supplyOn", 12.4))).toEqual([]);
    const dark = own(measured("supplyOn", 0.1));
    expect(dark).toContain("loose:k-car");
    expect(dark.some((id) => id.startsWith("dead:"))).toBe(false);
    const sags = measured("supplyCrank", 5.2);
    expect(own(sags).every((id) => id.startsWith("sag:"))).toBe(true);
    expect(sags.get(own(sags)[0] ?? "")).toEqual({
      factor: 10,
      why: "Switched feed while cranking, lowest: 5.2 V. Gone while cranking.",
    });
    expect(measured("drop", 0.1).get(own(sags)[0] ?? "")?.factor).toBeLessThan(1);
    expect(own(measured("pairOhm", 120)).length).toBeGreaterThan(0);
    expect(own(measured("pairOhm", 60))).toEqual([]);
  });

  it("knows a result that was the same when it was tried again, until another one comes", () => {
    const tried = (...seen: ("black" | "frozen" | undefined)[]) =>
      jobEvidence(
        job.plan,
        press(
          job,
          ...seen.map(
            (s): Command => ({
              kind: "prove.result",
              data: { test: "factoryPicture/on", answer: "pass", note: "", ...(s ? { seen: s } : {}) },
            }),
          ),
        ).state,
      ).twice;
    expect(tried("black")).toEqual([]);
    expect(tried("black", "black")).toEqual(["factoryPicture/on"]);
    expect(tried("black", "black", "frozen")).toEqual([]);
    expect(tried(undefined, undefined)).toEqual(["factoryPicture/on"]);
  });

  it("counts a reading no more after a repair", () => {
    const one = press(job, { kind: "connect.reading", data: { reading: "supplyCrank", value: 5.2 } });
    const sag = [...hints(one.state).keys()].find((id) => id.startsWith("sag:")) ?? "";
    const repaired = press(one, { kind: "prove.repair", data: { fault: sag } });
    expect(hints(repaired.state).get(sag)?.why).toBe("Repaired before.");
  });

  it("says of a normal state that it was no fault", () => {
    const normal = hypothesesOfPlan(job.plan).find((h) => h.kind === "normal");
    const noted = press(job, { kind: "prove.repair", data: { fault: normal?.id ?? "" } });
    expect(noted.state.repairs.map((r) => r.normal)).toEqual([true]);
    const [line] = handoverView(noted, "2026-01-05T12:00:00Z").history;
    expect(line?.words).toMatch(/^No fault: /);
  });

  it("refuses what cannot be seen at a test, naming what can", () => {
    const tried = () =>
      press(job, { kind: "prove.result", data: { test: "hazard/key-off", answer: "wrong", note: "", seen: "black" } });
    expect(tried).toThrow(/cannot be seen/);
  });
});

describe("what can be the matter", () => {
  it("is told in words, nowhere by the identifiers of documents", () => {
    const told = fittingJobs().flatMap((plan) => [
      ...hypothesesOfPlan(plan).flatMap((h) => [h.title, h.cause, h.remedy]),
      ...looksOfPlan(plan).flatMap((l) => [l.title, l.how, ...l.answers.map((a) => a.label)]),
    ]);
    expect(told.length).toBeGreaterThan(10_000);
    expect(told.filter((words) => /[a-zA-Z]\.[a-zA-Z]/.test(words))).toEqual([]);
  });
});

describe("a code that a control unit stores by what it watches", () => {
  it("leads to what would store it", () => {
    const plan = fittingJobs().find((p) => (p.fitted.monitors ?? []).length > 0);
    if (!plan) throw new Error("a shipped job has a monitor");
    const table = judgeTable(plan.fitted, plan.tests, plan.touched);
    if (!table) throw new Error("it was not stopped");
    const stored = table.signs.flatMap((s, h) =>
      [...s].some((id) => id.startsWith("code:")) ? [{ id: table.hypotheses[h]?.id, signs: s }] : [],
    );
    const [monitor] = plan.fitted.monitors ?? [];
    if (!monitor) throw new Error("it has one");
    const causes = stored.filter((s) => s.signs.has(codeLook(monitor.id))).map((s) => s.id);
    expect(causes.length).toBeGreaterThan(0);
    const state = foldJob([
      { kind: "prove.codes", data: { text: monitor.code }, id: "c", at: "2026-01-05T12:00:00Z", by: "Test" },
    ]);
    const evidence = jobEvidence(plan, state);
    expect(new Map(evidence.looks).get(codeLook(monitor.id))).toBe("stored");
    const { groups } = judge(table, { ...evidenceFor(plan, evidence), hints: new Map() });
    expect(causes).toContain(groups.filter((g) => g.members[0]?.kind !== "none")[0]?.members[0]?.id);
  });
});
