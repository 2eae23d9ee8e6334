import { describe, expect, it } from "vitest";
import { seededRandom } from "../../sim/random";
import { readScope, type ScopeProblem } from "./scope";

/** Frames of random bits with stuffing and rest between, as a scope saves them. */
function recording(options: {
  kbit: number;
  rest: number;
  driven: number;
  noise?: number;
  seed?: number;
  head?: string;
  tick?: number;
  perBit?: number;
}): string {
  const { kbit, rest, driven, noise = 0.03, seed = 1, head = "Time (s),Channel 1\n", tick = 1, perBit = 12 } = options;
  const random = seededRandom(seed);
  const bits: boolean[] = Array.from({ length: 15 }, () => false);
  for (let f = 0; f < 4; f++) {
    let run = 0;
    let last: boolean | null = null;
    bits.push(true);
    for (let i = 0; i < 90; i++) {
      const bit: boolean = run === 5 ? !last : random() < 0.5;
      run = bit === last ? run + 1 : 1;
      last = bit;
      bits.push(bit);
    }
    bits.push(...Array.from({ length: 20 }, () => false));
  }
  const step = 1 / (1000 * kbit * perBit);
  let v = rest;
  const lines = bits.flatMap((dominant, b) =>
    Array.from({ length: perBit }, (_, i) => {
      // Edges take a little time.
      v += ((dominant ? driven : rest) - v) * 0.7;
      return `${(((b * perBit + i) * step) / tick).toPrecision(9)},${(v + (random() - 0.5) * 2 * noise).toFixed(3)}`;
    }),
  );
  return head + lines.join("\n");
}

describe("a recording of one line", () => {
  it.each([
    [500, 2.5, 3.5, "high"],
    [125, 2.5, 1.5, "low"],
    [250, 0, 2, "difference"],
    [33.333, 2.5, 3.5, "high"],
    [1000, 2.5, 3.5, "high"],
  ] as const)("gives %f kbit/s, and the line by its levels", (kbit, rest, driven, line) => {
    for (const seed of [1, 2, 3]) {
      const read = readScope(recording({ kbit, rest, driven, seed }));
      expect([read.usualKbit, read.line]).toEqual([kbit, line]);
      expect((read.bitsPerS ?? 0) / (1000 * kbit)).toBeCloseTo(1, 2);
      expect(read.restV).toBeCloseTo(rest, 0);
    }
  });

  it("follows the unit of its heading, bears noise, and names no usual rate where none is near", () => {
    expect(
      readScope(recording({ kbit: 500, rest: 2.5, driven: 3.5, head: "scope\nTime [us],V\n", tick: 1e-6 })).usualKbit,
    ).toBe(500);
    expect(readScope(recording({ kbit: 500, rest: 2.5, driven: 3.5, noise: 0.15, perBit: 25 })).usualKbit).toBe(500);
    const odd = readScope(recording({ kbit: 400, rest: 2.5, driven: 3.5 }));
    expect([odd.usualKbit, Math.round((odd.bitsPerS ?? 0) / 1000)]).toEqual([null, 400]);
    expect(readScope(recording({ kbit: 500, rest: 0, driven: 12 })).line).toBeNull();
  });

  it("says what is missing", () => {
    const of = (text: string) => {
      try {
        readScope(text);
      } catch (error) {
        return (error as ScopeProblem).message;
      }
      return "";
    };
    expect(of("hello")).toMatch(/no two columns of numbers/);
    expect(of("1,2\n2,3\n")).toMatch(/Only 2 samples/);
    expect(of(Array.from({ length: 500 }, (_, i) => `${i},2.5`).join("\n"))).toMatch(/hardly moves/);
    expect(of(Array.from({ length: 500 }, (_, i) => `${i},${i < 250 ? 2.5 : 3.5}`).join("\n"))).toMatch(/Only 1 edges/);
  });
});
