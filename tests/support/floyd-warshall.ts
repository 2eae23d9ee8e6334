/**
 * Shortest lengths between all pairs of nodes by the algorithm of Floyd (Communications of the ACM 5, 1962, algorithm
 * 97), written down plainly: the peer of what `core/` finds with a library.
 *
 * @param edges one direction each
 * @returns a function that gives Infinity where no way leads
 */
export function allShortest(
  nodes: number,
  edges: readonly { from: number; to: number; length: number }[],
): (from: number, to: number) => number {
  const shortest = Array.from({ length: nodes }, (_, i) =>
    Array.from({ length: nodes }, (_, j) => (i === j ? 0 : Number.POSITIVE_INFINITY)),
  );
  const at = (i: number, j: number) => shortest[i]?.[j] ?? Number.POSITIVE_INFINITY;
  const set = (i: number, j: number, length: number) => {
    const row = shortest[i];
    if (row && length < at(i, j)) row[j] = length;
  };
  for (const e of edges) set(e.from, e.to, e.length);
  for (let k = 0; k < nodes; k++)
    for (let i = 0; i < nodes; i++) for (let j = 0; j < nodes; j++) set(i, j, at(i, k) + at(k, j));
  return at;
}
