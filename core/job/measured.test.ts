import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { plugged as allPlugged, jobOf, named, press, signedJob } from "../../tests/support/jobs";
import { judge, reasonsFor } from "../diagnose/judge";
import { judgeTable } from "../diagnose/table";
import type { Command } from "../log/entry";
import { Model } from "../model/outcome";
import { playsAt } from "../prove/corner-sound";
import { CORNERS } from "../prove/corners";
import { TARGET_IDS, TARGETS } from "../prove/touch-targets";
import { evidenceFor, jobEvidence } from "./evidence";
import type { Job } from "./job";
import { hypothesesOfPlan } from "./suspects";
import { touchTests } from "./touch";

const job = jobOf(demoDocuments());
const { plan } = job;
const plugged = press(
  job,
  ...plan.connections.map((c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } })),
);
const table = judgeTable(plan.fitted, plan.tests, plan.touched);
if (!table) throw new Error("it was not stopped");
const hintsOf = (j: Job) => new Map(jobEvidence(j.plan, j.state).hints);
const knownOf = (j: Job) => evidenceFor(j.plan, jobEvidence(j.plan, j.state));
const judged = (j: Job) => judge(table, knownOf(j));
const sound = new Model(plan.fitted, {}, plan.settings);

/** The walk on a car as somebody would hear it. */
const walkOn = (car: Model): Command[] =>
  CORNERS.map((corner) => ({ kind: "prove.walk", data: { corner, plays: playsAt(car, corner) } }));

describe("the walk with balance and fader as evidence", () => {
  const crossed = hypothesesOfPlan(plan).filter((h) => h.kind === "crossed");

  it("leads to each exchange of loudspeakers by itself, before a test was tried", () => {
    expect(crossed.length).toBeGreaterThan(3);
    for (const h of crossed) {
      if (!h.fault) throw new Error("it is a fault");
      const walked = press(plugged, ...walkOn(sound.under(h.fault.disturbance)));
      const [first] = judged(walked).groups;
      expect(first?.members.map((m) => m.id)).toContain(h.id);
      expect(first?.probability).toBeGreaterThan(0.5);
      const reasons = reasonsFor(table, knownOf(walked), h.id);
      expect(reasons.filter((r) => r.ratio > 2).map((r) => r.id)).toEqual(
        CORNERS.filter((c) => playsAt(sound.under(h.fault?.disturbance ?? {}), c) !== c).map((c) => `walk:${c}`),
      );
    }
  });

  it("clears them when each corner plays its own, and says little of what is on no list", () => {
    const chance = (j: Job, of: (h: { id: string; kind: string }) => boolean) =>
      judged(j)
        .groups.flatMap((g) => g.members)
        .reduce((p, m) => p + (of(m) ? m.probability : 0), 0);
    const right = press(plugged, ...walkOn(sound));
    const isCrossed = (h: { kind: string }) => h.kind === "crossed";
    expect(chance(right, isCrossed)).toBeLessThan(chance(plugged, isCrossed) / 100);
    const isNone = (h: { id: string }) => h.id === "none";
    expect(chance(right, isNone)).toBeGreaterThan(chance(plugged, isNone) / 2);
  });

  it("says nothing any more after a repair", () => {
    const [h] = crossed;
    if (!h?.fault) throw new Error("it is a fault");
    const walked = press(plugged, ...walkOn(sound.under(h.fault.disturbance)));
    const repaired = press(walked, { kind: "prove.repair", data: { fault: h.id } });
    expect(jobEvidence(plan, walked.state).measured).toHaveLength(4);
    expect(jobEvidence(plan, repaired.state).measured).toEqual([]);
    expect(hintsOf(repaired).get(h.id)?.why).toBe("Repaired before.");
  });

  it("is searched for two things at once where a test shows another one", () => {
    const [h] = crossed;
    const camera = plan.tests.find((t) => t.fn.id === "rearView");
    const speakers = plan.tests.find((t) => t.fn.id === "tunerSound");
    if (!h?.fault || !camera || !speakers) throw new Error("the demonstration has them");
    const wrong = (test: string): Command => ({
      kind: "prove.result",
      data: { test, answer: "wrong", note: "" },
    });
    const nothing: Command = { kind: "prove.result", data: { test: camera.id, answer: "nothing", note: "" } };
    const both = press(plugged, ...walkOn(sound.under(h.fault.disturbance)), wrong(speakers.id), nothing);
    for (const known of [both, press(plugged, ...walkOn(sound.under(h.fault.disturbance)), nothing)]) {
      const { groups } = judged(known);
      const taking = groups.filter((g) => g.members.some((m) => m.id === h.id || m.pair?.some((p) => p.id === h.id)));
      const two = taking.filter((g) => g.members[0]?.pair);
      const sum = (list: typeof groups) => list.reduce((p, g) => p + g.probability, 0);
      expect(sum(taking)).toBeGreaterThan(0.45);
      expect(sum(two)).toBeGreaterThan(sum(taking) / 2);
    }
  });
});

describe("other measurements as evidence", () => {
  it("name the setting that turns the picture under the finger", () => {
    const heron = allPlugged(signedJob(named("sundrey-heron-20", "sundrey-heron-20-h2", "brackwater-bare-2")));
    const [test] = touchTests(heron.plan).filter((t) => t.fn.id === "phoneTouch");
    const touched = (turn: (x: number) => number) =>
      press(
        heron,
        ...TARGET_IDS.map((target): Command => {
          const { x, y } = TARGETS[target].at;
          return { kind: "prove.touch", data: { test: test?.id ?? "", target, at: { x: turn(x), y } } };
        }),
      );
    const turned = [...hintsOf(touched((x) => 1 - x))].filter(([, h]) => h.factor === 30);
    expect(turned).toHaveLength(1);
    expect(turned[0]?.[1].why).toMatch(/mirrored left to right\.$/);
    expect([...hintsOf(touched((x) => x))].filter(([, h]) => h.factor === 30)).toEqual([]);
  });

  it("weigh a missing ground by what an added one does", () => {
    const heard = (ground: "with" | "without", totalDb: number): Command => ({
      kind: "prove.hum",
      data: { ground, hz: 50, levels: [totalDb, -90, -90, -90, -90, -90], totalDb },
    });
    const hums = (j: Job) => [...hintsOf(j)].filter(([id]) => id.startsWith("hum:"));
    const without = press(plugged, heard("without", -40));
    expect(hums(without)).toEqual([]);
    const helps = hums(press(without, heard("with", -55)));
    expect(helps.length).toBeGreaterThan(0);
    expect(helps.map(([, h]) => h)).toEqual(
      helps.map(() => ({ factor: 8, why: "A ground lead takes 15 dB of hum away." })),
    );
    expect(hums(press(without, heard("with", -39))).every(([, h]) => h.factor < 1)).toBe(true);
  });
});
