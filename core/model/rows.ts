/** Lists of numbers by node, one behind the other in typed arrays. */

/** Numbers of edges, sources or guards by node, one list behind the other. */
export interface Rows {
  /** Where the list of each node begins; one more than there are nodes. */
  start: Int32Array;
  items: Int32Array;
}

/** One number for each item. A plain loop: typed arrays made by iteration take many times as long. */
export function numbers<T>(items: ArrayLike<T>, of: (item: T, index: number) => number): Int32Array {
  const result = new Int32Array(items.length);
  for (let i = 0; i < items.length; i++) result[i] = of(items[i] as T, i);
  return result;
}

/** Item numbers by node, in the order of the items. */
export function rows<T>(nodes: number, items: ArrayLike<T>, at: (item: T) => number): Rows {
  return rowsOf(nodes, (put) => {
    for (let i = 0; i < items.length; i++) put(at(items[i] as T), i);
  });
}

/**
 * Rows of whatever `each` puts at nodes, in its order.
 *
 * @param each called twice and must put the same: once to count, once to fill
 */
export function rowsOf(nodes: number, each: (put: (node: number, item: number) => void) => void): Rows {
  const start = new Int32Array(nodes + 1);
  each((node) => {
    start[node + 1] = (start[node + 1] as number) + 1;
  });
  for (let n = 0; n < nodes; n++) start[n + 1] = (start[n + 1] as number) + (start[n] as number);
  const next = start.slice();
  const items = new Int32Array(start[nodes] as number);
  each((node, item) => {
    const slot = next[node] as number;
    next[node] = slot + 1;
    items[slot] = item;
  });
  return { start, items };
}

export function numbersBy<T>(items: readonly T[], name: (item: T) => string | null): Map<string, number[]> {
  const numbers = new Map<string, number[]>();
  items.forEach((item, i) => {
    const of = name(item);
    if (of === null) return;
    const list = numbers.get(of);
    if (list) list.push(i);
    else numbers.set(of, [i]);
  });
  return numbers;
}
