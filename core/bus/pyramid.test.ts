import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drawnPoints, extremes, pyramidOf } from "./pyramid";

const series = (n: number, value: (i: number) => number) =>
  pyramidOf({
    timeS: Float64Array.from({ length: n }, (_, i) => i / 10),
    value: Float64Array.from({ length: n }, (_, i) => value(i)),
  });

describe("a pyramid of values", () => {
  it("gives the least and greatest of any stretch as a plain search does", () => {
    const n = 5000;
    const p = series(n, (i) => Math.sin(i * i) * 100);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: n - 1 }), fc.integer({ min: 1, max: n }), (from, length) => {
        const to = Math.min(n, from + length);
        const plain = p.value.subarray(from, to);
        expect(extremes(p, from, to)).toEqual([Math.min(...plain), Math.max(...plain)]);
      }),
    );
  });

  it("draws every point when they fit, else no spike is lost and the points stay few", () => {
    const p = series(100_000, (i) => (i === 77_777 ? 9 : i % 2));
    expect(drawnPoints(p, 10, 12, 100)).toHaveLength(22);
    const all = drawnPoints(p, 0, 10_000, 600);
    expect(all.length).toBeLessThan(1300);
    expect(Math.max(...all.map(([, v]) => v))).toBe(9);
    expect(all[0]).toEqual([0, 0]);
    expect(all.at(-1)).toEqual([9999.9, 1]);
    expect(all.every(([t], i) => i === 0 || t >= (all[i - 1]?.[0] ?? 0))).toBe(true);
  });

  it("draws nothing of nothing, and one value as one", () => {
    expect(
      drawnPoints(
        series(0, () => 0),
        0,
        1,
        100,
      ),
    ).toEqual([]);
    expect(
      drawnPoints(
        series(1, () => 3),
        0,
        1,
        100,
      ),
    ).toEqual([[0, 3]]);
  });
});
