import { describe, expect, it } from "vitest";
import { insteadOf, type Sense } from "../model/sight";
import { type Asked, likelihood, type Prediction } from "./predict";

const CONES = ["LF", "RF", "LR", "RR"].map((c) => `speakers.cones.${c}`);
const asked = (sense: Sense): Asked => ({ sense, at: sense === "sound" ? CONES : ["screen.glass.picture"] });
const SENSES: readonly Sense[] = ["picture", "sound", "voice", "touch", "control"];

describe("how likely a report is", () => {
  it("adds up to one over everything that can be reported", () => {
    for (const sense of SENSES)
      for (const predicted of ["works", ...insteadOf(sense)]) {
        const words = ["pass", ...insteadOf(sense)];
        const sum = words.reduce((s, w) => s + likelihood(asked(sense), [[predicted, 1]], w), 0);
        expect([sense, predicted, sum]).toEqual([sense, predicted, expect.closeTo(1, 9)]);
      }
  });

  it("adds up to one over the coarse answers, too", () => {
    for (const sense of SENSES) {
      const sum = ["pass", "nothing", "wrong", "late"].reduce(
        (s, w) => s + likelihood(asked(sense), [[insteadOf(sense)[0] as string, 1]], w),
        0,
      );
      expect(sum).toBeCloseTo(1, 9);
    }
  });

  it("adds up to one over which loudspeakers are right", () => {
    const test = asked("sound");
    const sets = Array.from({ length: 16 }, (_, mask) => CONES.filter((_, i) => mask & (1 << i)));
    const predicted: Prediction = [[`someSpeakers:${CONES.slice(0, 2).join("+")}`, 1]];
    const all = sets.reduce((s, set) => s + likelihood(test, predicted, `someSpeakers:${set.join("+")}`), 0);
    expect(all).toBeCloseTo(likelihood(test, predicted, "someSpeakers"), 9);
  });

  it("is higher for what is predicted than for what is taken for it, and that higher than for anything else", () => {
    const of = (report: string) => likelihood(asked("picture"), [["otherPicture", 1]], report);
    expect(of("otherPicture")).toBeGreaterThan(of("frozen"));
    expect(of("frozen")).toBeGreaterThan(of("mirrored"));
    expect(of("mirrored")).toBeGreaterThan(0);
    expect(of("impossible")).toBe(1);
  });

  it("tells what breaks off at a bump from what breaks off at the engine start", () => {
    const of = (report: string) => likelihood(asked("picture"), [["breaksOff:bump", 1]], report);
    expect(of("breaksOff:bump")).toBeGreaterThan(5 * of("breaksOff:engineStart"));
  });
});
