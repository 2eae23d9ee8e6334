import { describe, expect, it } from "vitest";
import { seededRandom } from "../../sim/random";
import { leastSquares } from "./least-squares";

describe("least squares", () => {
  it("of a straight line are those of the textbook, with its uncertainties", () => {
    // Closed form: slope = Sxy / Sxx, variance of the slope = s² / Sxx, of the height at the mean s² / n.
    const x = [-3, -1, 0, 1, 3];
    const y = [-5.1, -1.9, 0.2, 2.1, 6.2];
    const sigma = 0.2;
    const fit = leastSquares(([a = 0, b = 0]) => x.map((v, i) => (a + b * v - (y[i] ?? 0)) / sigma), [0, 0]);
    const mean = y.reduce((s, v) => s + v, 0) / 5;
    const slope = x.reduce((s, v, i) => s + v * (y[i] ?? 0), 0) / 20;
    expect(fit?.parameters).toEqual([expect.closeTo(mean, 9), expect.closeTo(slope, 9)]);
    expect(fit?.covariance?.[0]?.[0]).toBeCloseTo(sigma ** 2 / 5, 9);
    expect(fit?.covariance?.[1]?.[1]).toBeCloseTo(sigma ** 2 / 20, 9);
    expect(fit?.covariance?.[0]?.[1]).toBeCloseTo(0, 9);
    expect(fit).toMatchObject({ freedom: 3, settled: true });
  });

  it("find the bottom of a bent valley", () => {
    // Rosenbrock's function as residuals: 0 at (1, 1).
    const fit = leastSquares(([x = 0, y = 0]) => [10 * (y - x * x), 1 - x], [-1.2, 1]);
    expect(fit?.parameters).toEqual([expect.closeTo(1, 8), expect.closeTo(1, 8)]);
  });

  it("say so when two parameters cannot be told apart, and when the start makes no sense", () => {
    const fit = leastSquares(([a = 0, b = 0]) => [a + b - 1, 2 * (a + b) - 2], [0, 0]);
    expect(fit?.covariance).toBeNull();
    expect(leastSquares(([a = 0]) => (a < 0 ? null : [Math.sqrt(a) - 2]), [-1])).toBeNull();
    // A step into what makes no sense is not taken.
    expect(leastSquares(([a = 0]) => (a < 0 ? null : [Math.sqrt(a) - 0.1]), [4])?.parameters[0]).toBeCloseTo(0.01, 6);
  });

  it("have residuals that follow χ²", () => {
    const random = seededRandom(3);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const values = Array.from({ length: 300 }, () => {
      const y = Array.from({ length: 12 }, (_, i) => 3 * Math.exp(-i / 4) + 0.1 * normal());
      return leastSquares(([a = 0, b = 1]) => y.map((v, i) => (a * Math.exp(-i / b) - v) / 0.1), [2, 3])?.chi2 ?? 0;
    });
    // Mean 10, variance 20: of 300, the mean is within ± 3 of its own deviations.
    const mean = values.reduce((s, v) => s + v, 0) / 300;
    expect(Math.abs(mean - 10)).toBeLessThan(3 * Math.sqrt(20 / 300));
  });
});
