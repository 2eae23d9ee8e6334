/**
 * Least squares that are not linear, by the method of Levenberg and Marquardt, with the covariance of what was found
 * (Press et al., Numerical Recipes, ch. 15.5; from memory). The residuals are already divided by what a reading is
 * uncertain by, so that their sum of squares is χ².
 */
import { CholeskyDecomposition, Matrix, SingularValueDecomposition } from "ml-matrix";

export interface Fitted {
  parameters: number[];
  /** Sum of squares of the residuals. */
  chi2: number;
  /** Readings less parameters. */
  freedom: number;
  /** Of the parameters, by their order; null when the readings do not tell them apart. */
  covariance: number[][] | null;
  /** No step lowered the cost any more; false: the steps ran out. */
  settled: boolean;
}

export type Residuals = (parameters: readonly number[]) => readonly number[] | null;

/**
 * @param residuals of the parameters; null where they make no sense, such a step is not taken
 * @returns null when the start itself makes no sense
 */
export function leastSquares(residuals: Residuals, start: readonly number[], { steps = 40 } = {}): Fitted | null {
  let parameters = [...start];
  let here: readonly number[] | null = residuals(parameters);
  if (!here || !Number.isFinite(squares(here))) return null;
  let cost = squares(here);
  let damping = 1e-3;
  let settled = false;
  for (let step = 0; step < steps && !settled; step++) {
    const slopes = jacobian(residuals, parameters, here);
    if (!slopes) break;
    const turned = slopes.transpose();
    const normal = turned.mmul(slopes);
    const downhill = turned.mmul(Matrix.columnVector([...here])).mul(-1);
    let better = false;
    while (!better && damping < 1e12) {
      const damped = normal.clone();
      for (let i = 0; i < parameters.length; i++) damped.set(i, i, normal.get(i, i) * (1 + damping) + 1e-300);
      const cholesky = new CholeskyDecomposition(damped);
      if (cholesky.isPositiveDefinite()) {
        const move: number[] = cholesky.solve(downhill).to1DArray();
        const tried = parameters.map((p, i) => p + (move[i] ?? 0));
        const there = residuals(tried);
        const costs = there ? squares(there) : Number.POSITIVE_INFINITY;
        if (there && costs < cost) {
          settled = cost - costs <= 1e-10 * cost;
          [parameters, here, cost, better] = [tried, there, costs, true];
          damping = Math.max(1e-12, damping / 10);
          continue;
        }
      }
      damping *= 10;
    }
    if (!better) settled = true;
  }
  return {
    parameters,
    chi2: cost,
    freedom: here.length - parameters.length,
    covariance: covarianceOf(jacobian(residuals, parameters, here)),
    settled,
  };
}

/** Central differences. */
function jacobian(residuals: Residuals, parameters: readonly number[], here: readonly number[]): Matrix | null {
  const slopes = new Matrix(here.length, parameters.length);
  for (let i = 0; i < parameters.length; i++) {
    const step = 1e-6 * Math.max(1, Math.abs(parameters[i] ?? 0));
    const moved = (by: number) => residuals(parameters.map((p, j) => (j === i ? p + by : p)));
    const [up, down] = [moved(step), moved(-step)];
    if (!up || !down || !Number.isFinite(squares(up) + squares(down))) return null;
    for (let r = 0; r < here.length; r++) slopes.set(r, i, ((up[r] ?? 0) - (down[r] ?? 0)) / (2 * step));
  }
  return slopes;
}

function covarianceOf(slopes: Matrix | null): number[][] | null {
  if (!slopes) return null;
  // Each column by its own length first: parameters of different units would look dependent otherwise.
  const lengths = Array.from({ length: slopes.columns }, (_, i) => Math.hypot(...slopes.getColumn(i)));
  if (lengths.some((l) => !(l > 0))) return null;
  const scaled = slopes.clone();
  lengths.forEach((l, i) => {
    scaled.setColumn(
      i,
      scaled.getColumn(i).map((v) => v / l),
    );
  });
  const { diagonal, rightSingularVectors: v } = new SingularValueDecomposition(scaled);
  const largest = Math.max(...diagonal);
  if (diagonal.some((s) => s < 1e-9 * largest)) return null;
  return lengths.map((li, i) =>
    lengths.map((lj, j) => diagonal.reduce((sum, s, k) => sum + (v.get(i, k) * v.get(j, k)) / (s * s), 0) / (li * lj)),
  );
}

function squares(values: readonly number[]): number {
  return values.reduce((sum, v) => sum + v * v, 0);
}
