export interface Case {
  case: string;
  value: number;
  unit: string;
  peer?: string;
  peerValue?: number;
  ratio?: number;
  note?: string;
}

/** Prints one case as a JSON line, numbers rounded to four digits. */
export function report(result: Case): void {
  const rounded = Object.fromEntries(
    Object.entries(result).map(([k, v]) => [k, typeof v === "number" ? Number(v.toPrecision(4)) : v]),
  );
  console.log(JSON.stringify(rounded));
}

/** The best of several runs in milliseconds: what others do on the machine makes runs longer, never shorter. */
export function bestMs(runs: number, work: () => void): number {
  let best = Number.POSITIVE_INFINITY;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    work();
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

/** Median of several runs in milliseconds, after one run to warm up. */
export function medianMs(runs: number, work: () => void): number {
  work();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[runs >> 1] ?? 0;
}
