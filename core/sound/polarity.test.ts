import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { seededRandom } from "../../sim/random";
import { jobOf, plugged, press } from "../../tests/support/jobs";
import { normals } from "../../tests/support/sighting";
import { jobWalk } from "../job/speaker-walk";
import type { Command } from "../log/entry";
import { CORNERS, type Corner } from "../prove/corners";
import { findPulse, humOf, PAIRS, polarityOutcome, toneLevel } from "./polarity";
import { onePulse, SAMPLE_RATE } from "./test-signals";

const ear = (front: "same" | "opposite" | "alike", rear: "same" | "opposite" | "alike") =>
  new Map([
    ["front", front],
    ["rear", rear],
  ] as const);
const microphone = (signs: readonly (1 | -1 | 0)[]) =>
  new Map(CORNERS.map((c, i): [Corner, 1 | -1 | 0] => [c, signs[i] ?? 0]));

/** The pulse as a small loudspeaker and a cheap microphone give it: without its lows, with noise, some time later. */
function recorded(sign: 1 | -1, rate: number, noise: number, seed: number): Float32Array {
  const normal = normals(seededRandom(seed));
  const pulse = onePulse(rate);
  const samples = new Float32Array(2 * rate);
  let [low, before] = [0, 0];
  const keep = Math.exp((-2 * Math.PI * 40) / rate);
  for (let i = 0; i < samples.length; i++) {
    const x = sign * 0.08 * (pulse[(i - Math.round(0.37 * rate)) % rate] ?? 0);
    low = keep * (low + x - before);
    before = x;
    samples[i] = low + noise * normal();
  }
  return samples;
}

describe("the pulse in a recording", () => {
  it("tells which way it came, at any rate, through noise and without its lows", () => {
    for (const rate of [44_100, 48_000])
      for (const sign of [1, -1] as const)
        for (const seed of [1, 2, 3])
          expect(findPulse(recorded(sign, rate, 0.004, seed), rate)).toMatchObject({ sign });
  });

  it("is not told from noise, silence or another sound", () => {
    const normal = normals(seededRandom(7));
    const noise = Float32Array.from({ length: SAMPLE_RATE }, () => 0.1 * normal());
    const tone = Float32Array.from(
      { length: SAMPLE_RATE },
      (_, i) => 0.2 * Math.sin((2 * Math.PI * 440 * i) / SAMPLE_RATE),
    );
    for (const other of [noise, tone, new Float32Array(SAMPLE_RATE), new Float32Array(10)])
      expect(findPulse(other, SAMPLE_RATE).sign).toBe(0);
  });

  it("has the likeness that the textbook's formula gives", () => {
    // The pulse itself, somewhere in silence: 1; turned round: -1.
    const pulse = onePulse();
    const one = new Float32Array(SAMPLE_RATE);
    one.set(pulse, 1234);
    expect(findPulse(one, SAMPLE_RATE).likeness).toBeCloseTo(1, 6);
    expect(
      findPulse(
        one.map((s) => -s),
        SAMPLE_RATE,
      ).likeness,
    ).toBeCloseTo(-1, 6);
  });
});

describe("polarity", () => {
  it("by ear is told for each pair, and not which of the two", () => {
    expect(polarityOutcome(new Map(), new Map())).toEqual({ kind: "open", left: ["front", "rear"] });
    expect(polarityOutcome(ear("same", "same"), new Map())).toEqual({ kind: "right" });
    expect(polarityOutcome(ear("opposite", "same"), new Map())).toEqual({
      kind: "reversed",
      corners: ["RF"],
      either: true,
    });
    expect(polarityOutcome(ear("same", "alike"), new Map())).toEqual({ kind: "unclear", where: "rear" });
  });

  it("by microphone is told against the others, whichever way the microphone itself is connected", () => {
    for (const wrong of CORNERS)
      for (const own of [1, -1] as const) {
        const signs = CORNERS.map((c) => (c === wrong ? -own : own) as 1 | -1);
        expect(polarityOutcome(new Map(), microphone(signs))).toEqual({
          kind: "reversed",
          corners: [wrong],
          either: false,
        });
        expect(polarityOutcome(new Map(), microphone([own, own, own, own]))).toEqual({ kind: "right" });
      }
    expect(polarityOutcome(new Map(), microphone([1, 1, -1, -1]))).toMatchObject({ corners: ["LR", "RR"] });
    expect(polarityOutcome(new Map(), microphone([1, 1, 0, 1]))).toEqual({ kind: "unclear", where: "LR" });
  });

  it("exchanges the two wires of a loudspeaker in the fewest moves, after the walk", () => {
    const job = press(
      plugged(jobOf(demoDocuments())),
      ...CORNERS.map((corner): Command => ({ kind: "prove.walk", data: { corner, plays: corner } })),
    );
    expect(jobWalk(job.plan, job.state)).toEqual({ kind: "right" });
    const heard = press(
      job,
      { kind: "prove.polarity", data: { by: "ear", pair: "front", fuller: "same" } },
      { kind: "prove.polarity", data: { by: "ear", pair: "rear", fuller: "opposite" } },
    );
    const walk = jobWalk(heard.plan, heard.state);
    expect(walk).toMatchObject({ kind: "exchanged", cycles: [], silent: [] });
    expect(walk?.kind === "exchanged" && walk.moves.map((m) => m.corner)).toEqual([PAIRS.rear[1], PAIRS.rear[1]]);
    // Contacts moved: nothing of what was heard counts any more.
    const moved = press(heard, { kind: "prove.moved", data: {} });
    expect([moved.state.walk.size, moved.state.ear.size]).toEqual([0, 0]);
  });
});

describe("hum", () => {
  const tone = (hz: number, amplitude: number) =>
    Float32Array.from(
      { length: 2 * SAMPLE_RATE },
      (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / SAMPLE_RATE),
    );

  it("has its level in dBFS: a tenth of full scale is -20", () => {
    expect(toneLevel(tone(440, 0.1), SAMPLE_RATE, 440)).toBeCloseTo(-20, 2);
    expect(toneLevel(tone(50, 1), SAMPLE_RATE, 50)).toBeCloseTo(0, 2);
    expect(toneLevel(tone(440, 0.1), SAMPLE_RATE, 50)).toBeLessThan(-80);
  });

  it("is told from its first and its multiples, 50 or 60 Hz", () => {
    const at = (hz: number) => {
      const [a, b, c] = [tone(hz, 0.02), tone(2 * hz, 0.01), tone(3 * hz, 0.005)];
      return a.map((s, i) => s + (b[i] as number) + (c[i] as number));
    };
    for (const hz of [50, 60] as const) {
      const hum = humOf(at(hz), SAMPLE_RATE);
      expect(hum.hz).toBe(hz);
      // Powers add: 0.02² + 0.01² + 0.005² is -32.8 dB.
      expect(hum.totalDb).toBeCloseTo(10 * Math.log10(0.02 ** 2 + 0.01 ** 2 + 0.005 ** 2), 1);
    }
  });
});
