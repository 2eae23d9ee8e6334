import { execFileSync } from "node:child_process";
import { describe, expect, it } from "vitest";
import {
  LEVEL_DBFS,
  levelDbfs,
  pinkNoise,
  SAMPLE_RATE,
  type StereoSignal,
  TEST_SIGNALS,
  type TestSignalId,
  wavFile,
} from "./test-signals";

const made = Object.fromEntries(
  (Object.keys(TEST_SIGNALS) as TestSignalId[]).map((id) => [id, TEST_SIGNALS[id].make()]),
) as Record<TestSignalId, StereoSignal>;

/** Power of a signal at a frequency (Goertzel). */
function power(samples: Float32Array, hz: number): number {
  const k = 2 * Math.cos((2 * Math.PI * hz) / SAMPLE_RATE);
  let [a, b] = [0, 0];
  for (const s of samples) [a, b] = [s + k * a - b, a];
  return a * a + b * b - k * a * b;
}

/** Mean power in a band, by 40 frequencies in each of 40 pieces. */
function band(samples: Float32Array, hz: number): number {
  const piece = 16_384;
  let sum = 0;
  for (let p = 0; p < 40; p++)
    for (let i = 0; i < 40; i++) sum += power(samples.subarray(p * piece, (p + 1) * piece), hz * 2 ** (i / 40 - 0.5));
  return 10 * Math.log10(sum);
}

describe("test signals", () => {
  it("stand at -20 dBFS by AES17 and never near full scale", () => {
    expect(levelDbfs(Float32Array.from({ length: 4800 }, (_, i) => Math.sin((2 * Math.PI * i) / 48)))).toBeCloseTo(
      0,
      3,
    );
    expect(levelDbfs(made.pink.left)).toBeCloseTo(LEVEL_DBFS, 1);
    expect(levelDbfs(made.sweep.left)).toBeCloseTo(LEVEL_DBFS, 1);
    for (const { left, right } of Object.values(made))
      for (const side of [left, right]) expect(side.reduce((m, s) => Math.max(m, Math.abs(s)), 0)).toBeLessThan(0.6);
  });

  it("are pink: 3 dB less an octave from 40 Hz to 10 kHz", () => {
    const noise = pinkNoise(20, 3);
    const levels = [40, 80, 160, 320, 640, 1280, 2560, 5120, 10_240].map((hz) => band(noise, hz));
    // Density falls with the frequency: 10 lg 2 an octave.
    const slope = ((levels.at(-1) as number) - (levels[0] as number)) / (levels.length - 1);
    expect(slope).toBeGreaterThan(-3.3);
    expect(slope).toBeLessThan(-2.7);
  }, 30_000);

  it("tell the sides apart: A4 once on the left while the right is silent, twice on the right", () => {
    const { left, right } = made.sides;
    const at = (s: number) => Math.round(s * SAMPLE_RATE);
    const part = (side: Float32Array, from: number, to: number) => side.subarray(at(from), at(to));
    const rms = (x: Float32Array) => Math.sqrt(x.reduce((n, s) => n + s * s, 0) / x.length);
    expect(rms(part(left, 0.25, 0.4))).toBeGreaterThan(0.06);
    expect(rms(part(right, 0, 1.4))).toBe(0);
    expect(rms(part(left, 1.4, 3))).toBe(0);
    for (const s of [1.55, 1.95]) expect(rms(part(right, s, s + 0.15))).toBeGreaterThan(0.06);
    const tone = part(left, 0.22, 0.43);
    expect(power(tone, 440)).toBeGreaterThan(50 * power(tone, 460));
  });

  it("push forward first and hold no cone out", () => {
    const { left } = made.polarity;
    const second = left.subarray(0, SAMPLE_RATE);
    const high = second.indexOf(Math.max(...second));
    expect(high).toBeLessThan(0.002 * SAMPLE_RATE);
    expect(Math.max(...second)).toBeGreaterThan(5 * Math.abs(Math.min(...second)));
    expect(Math.abs(second.reduce((a, b) => a + b, 0))).toBeLessThan(0.01);
  });
});

describe("the sound file", () => {
  // Source: Python's standard library, module wave.
  it("is read by another program with the same samples", () => {
    const signal = { left: made.sides.left.subarray(0, 20_000), right: made.sweep.right.subarray(0, 20_000) };
    const python = `
import io, json, struct, sys, wave
w = wave.open(io.BytesIO(sys.stdin.buffer.read()))
n = w.getnframes()
data = struct.unpack("<%dh" % (2 * n), w.readframes(n))
print(json.dumps([w.getnchannels(), w.getsampwidth(), w.getframerate(), n, data[0::2][9600:9620], data[1::2][9600:9620]]))`;
    const read = JSON.parse(
      execFileSync("/usr/bin/python3", ["-c", python], { input: wavFile(signal), encoding: "utf8" }),
    );
    const words = (side: Float32Array) => [...side.subarray(9600, 9620)].map((s) => Math.round(s * 32_767));
    expect(read).toEqual([2, 2, SAMPLE_RATE, 20_000, words(signal.left), words(signal.right)]);
  });

  it("cuts what would go beyond full scale", () => {
    const file = wavFile({ left: Float32Array.of(2, -2), right: Float32Array.of(0, 0) });
    const view = new DataView(file.buffer);
    expect([view.getInt16(44, true), view.getInt16(48, true)]).toEqual([32_767, -32_767]);
  });
});
