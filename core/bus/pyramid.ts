/** A long series drawn at any zoom: least and greatest value of each pixel column, from sums made once. */

export interface Points {
  timeS: Float64Array;
  value: Float64Array;
}

interface Level {
  least: Float64Array;
  greatest: Float64Array;
}

/** Values of one level that become one of the next. */
const FACTOR = 16;

export interface Pyramid extends Points {
  /** Level k sums `FACTOR ** (k + 1)` values. */
  levels: Level[];
}

/** @param points with rising times */
export function pyramidOf({ timeS, value }: Points): Pyramid {
  const levels: Level[] = [];
  let below: Level = { least: value, greatest: value };
  while (below.least.length > FACTOR) {
    const n = Math.ceil(below.least.length / FACTOR);
    const level: Level = { least: new Float64Array(n), greatest: new Float64Array(n) };
    for (let i = 0; i < n; i++) {
      const from = i * FACTOR;
      const to = Math.min(from + FACTOR, below.least.length);
      let least = Number.POSITIVE_INFINITY;
      let greatest = Number.NEGATIVE_INFINITY;
      for (let j = from; j < to; j++) {
        least = Math.min(least, below.least[j] as number);
        greatest = Math.max(greatest, below.greatest[j] as number);
      }
      level.least[i] = least;
      level.greatest[i] = greatest;
    }
    levels.push(level);
    below = level;
  }
  return { timeS, value, levels };
}

/** Least and greatest of the values from index `from` to `to` (exclusive). */
export function extremes(p: Pyramid, from: number, to: number): [number, number] {
  let least = Number.POSITIVE_INFINITY;
  let greatest = Number.NEGATIVE_INFINITY;
  const take = (level: Level, i: number) => {
    least = Math.min(least, level.least[i] as number);
    greatest = Math.max(greatest, level.greatest[i] as number);
  };
  let [a, b] = [from, to];
  let level: Level = { least: p.value, greatest: p.value };
  for (const above of [...p.levels, null]) {
    if (!above || b - a <= 2 * FACTOR) {
      for (let i = a; i < b; i++) take(level, i);
      break;
    }
    while (a % FACTOR !== 0) take(level, a++);
    while (b % FACTOR !== 0) take(level, --b);
    a /= FACTOR;
    b /= FACTOR;
    level = above;
  }
  return [least, greatest];
}

/** First index whose time is not before `timeS`. */
function indexAt(times: Float64Array, timeS: number): number {
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((times[middle] as number) < timeS) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * What is drawn between two times on so many pixel columns: every point when they fit, else the least and the greatest
 * value of each column. One point on either side is added, so that lines run to the edges.
 */
export function drawnPoints(p: Pyramid, fromS: number, toS: number, columns: number): [number, number][] {
  const first = Math.max(0, indexAt(p.timeS, fromS) - 1);
  const end = Math.min(p.timeS.length, indexAt(p.timeS, toS) + 1);
  const point = (i: number): [number, number] => [p.timeS[i] as number, p.value[i] as number];
  if (end - first <= 2 * columns + 2) return Array.from({ length: end - first }, (_, k) => point(first + k));
  const points: [number, number][] = [point(first)];
  const widthS = (toS - fromS) / columns;
  let from = first + 1;
  for (let c = 0; c < columns; c++) {
    const to = Math.min(end - 1, indexAt(p.timeS, fromS + (c + 1) * widthS));
    if (to <= from) continue;
    const [least, greatest] = extremes(p, from, to);
    const atS = p.timeS[from] as number;
    // In the order in which they come as far as a column shows it: it ends nearer to the one that comes last.
    const last = p.value[to - 1] as number;
    const both: [number, number] = last - least > greatest - last ? [least, greatest] : [greatest, least];
    points.push([atS, both[0]]);
    if (least !== greatest) points.push([atS, both[1]]);
    from = to;
  }
  points.push(point(end - 1));
  return points;
}
