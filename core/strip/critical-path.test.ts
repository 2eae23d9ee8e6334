import { describe, expect, it } from "vitest";
import type { Minutes } from "../model/profile";
import { type Activity, criticalPath, schedule } from "./critical-path";
import { expectedMinutes, varianceOf } from "./estimate";

/**
 * The Reliable Construction Co. project of Hillier and Lieberman, Introduction to Operations Research, chapter on
 * project management with PERT/CPM: activities A to N in weeks with their three-point estimates. From memory; the
 * published results are checked below: 44 weeks, critical path A B C E F J L N, variance 9.
 */
const PROJECT: [id: string, after: string, a: number, m: number, b: number][] = [
  ["A", "", 1, 2, 3],
  ["B", "A", 2, 3.5, 8],
  ["C", "B", 6, 9, 18],
  ["D", "C", 4, 5.5, 10],
  ["E", "C", 1, 4.5, 5],
  ["F", "E", 4, 4, 10],
  ["G", "D", 5, 6.5, 11],
  ["H", "EG", 5, 8, 17],
  ["I", "C", 3, 7.5, 9],
  ["J", "FI", 3, 9, 9],
  ["K", "J", 4, 4, 4],
  ["L", "J", 1, 5.5, 7],
  ["M", "H", 1, 2, 3],
  ["N", "KL", 5, 5.5, 9],
];
const estimate = (id: string): Minutes => {
  const [, , low, usual, high] = PROJECT.find((p) => p[0] === id) as (typeof PROJECT)[number];
  return { low, likely: usual, high };
};
const activities = PROJECT.map(
  ([id, after]): Activity => ({
    id,
    minutes: expectedMinutes(estimate(id)),
    after: [...after],
  }),
);

describe("the critical path method on the textbook project", () => {
  const { times, minutes, critical } = criticalPath(activities);
  const of = (id: string) => times.find((t) => t.id === id);

  it("finds the published length and critical path", () => {
    expect(minutes).toBeCloseTo(44, 9);
    expect(critical.join("")).toBe("ABCEFJLN");
  });

  it("finds the published means, and the variance of the critical path", () => {
    expect(activities.map((a) => Math.round(a.minutes * 1000) / 1000)).toEqual([
      2, 4, 10, 6, 4, 5, 7, 9, 7, 8, 4, 5, 2, 6,
    ]);
    expect(critical.reduce((n, id) => n + varianceOf(estimate(id)), 0)).toBeCloseTo(9, 9);
  });

  it("finds the published earliest starts and slacks", () => {
    expect(times.map((t) => Math.round(t.earliestStart))).toEqual([
      0, 2, 6, 16, 16, 20, 22, 29, 16, 25, 33, 33, 38, 38,
    ]);
    expect(["D", "G", "H", "M"].map((id) => of(id)?.slack)).toEqual([4, 4, 4, 4].map((n) => expect.closeTo(n, 9)));
    expect(of("I")?.slack).toBeCloseTo(2, 9);
    expect(of("K")?.slack).toBeCloseTo(1, 9);
    expect(of("H")?.latestStart).toBeCloseTo(33, 9);
  });

  it("is as long as the critical path with enough people in places of their own", () => {
    const apart = activities.map((a) => ({ ...a, side: a.id }));
    expect(schedule(apart, 14).minutes).toBeCloseTo(44, 9);
  });

  it("takes the sum of all for one person", () => {
    expect(schedule(activities, 1).minutes).toBeCloseTo(79, 9);
  });
});

describe("a schedule for two", () => {
  const task = (id: string, minutes: number, side: string, after: string[] = [], alone = false) => ({
    id,
    minutes,
    side,
    after,
    alone,
  });

  it("lets two work side by side, never in one place and never across a preparation", () => {
    const list = [
      task("brake", 1, "driver", [], true),
      task("a", 5, "driver"),
      task("b", 4, "passenger"),
      task("c", 3, "driver"),
      task("shift", 1, "driver", [], true),
      task("d", 2, "passenger"),
    ];
    const { shifts, minutes } = schedule(list, 2);
    expect(minutes).toBe(1 + 8 + 1 + 2);
    const at = (id: string) => shifts.find((s) => s.id === id);
    expect(at("b")?.start).toBe(at("a")?.start);
    expect(at("c")?.start).toBeGreaterThanOrEqual(at("a")?.end ?? 0);
    expect(at("d")?.start).toBeGreaterThanOrEqual(at("shift")?.end ?? 0);
  });

  it("keeps prerequisites and never runs more than two", () => {
    const list = [
      task("a", 2, "driver"),
      task("b", 2, "passenger"),
      task("c", 2, "rear"),
      task("d", 1, "tailgate", ["a", "b", "c"]),
    ];
    const { shifts, minutes } = schedule(list, 2);
    for (const s of shifts)
      expect(shifts.filter((o) => o.start < s.end && s.start < o.end).length).toBeLessThanOrEqual(2);
    expect(minutes).toBe(5);
  });
});
