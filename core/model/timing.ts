import type { CompiledSystem } from "./compile";
import type { CompiledSource } from "./graph";
import type { Step } from "./part-graph";

/** How a signal came to a node on its quickest way. */
interface Label {
  node: number;
  signal: number;
  ms: number;
  hops: number;
  /** Step taken, null at the source, and its place among all steps, -1 at the source. */
  step: Step | null;
  order: number;
  before: Label | null;
}

/**
 * The quickest ways of the signals of one evaluation: least settling time, then fewest steps, then the first in the
 * order of steps. Dijkstra's algorithm over the open steps, one origin at a time, only for origins that are asked for and
 * only as far as somebody asks.
 */
export class Timing {
  private readonly spreads = new Map<string, Spread>();

  constructor(
    private readonly compiled: CompiledSystem,
    /** Numbers of the sources that send. */
    private readonly started: readonly number[],
    private readonly isOpen: (edge: number) => boolean,
  ) {}

  /** Milliseconds until a signal stands at a node. */
  at(node: number, signal: number): number {
    return this.label(node, signal)?.ms ?? 0;
  }

  /** The nodes of the quickest way of some signals to a node, from the source on, each with the step that led there. */
  way(node: number, signals: readonly number[]): { node: number; step: Step | null }[] {
    const { keys } = this.compiled.graph.signals;
    let best: Label | null = null;
    for (const signal of signals) {
      const label = this.label(node, signal);
      if (!label) continue;
      const other = best as Label | null;
      const later = other && (label.ms - other.ms || label.hops - other.hops || compareKeys(keys, label, other));
      if (later === null || later < 0) best = label;
    }
    const way: { node: number; step: Step | null }[] = [];
    for (let label: Label | null = best; label; label = label.before) way.push({ node: label.node, step: label.step });
    return way.reverse();
  }

  private label(node: number, signal: number): Label | undefined {
    const { signals } = this.compiled.graph;
    const origin = signals.signals[signal]?.origin ?? "";
    let spread = this.spreads.get(origin);
    if (!spread) {
      spread = this.begin(origin);
      this.spreads.set(origin, spread);
    }
    return this.goOn(spread, this.key(node, signal));
  }

  private key(node: number, signal: number): number {
    return signal * this.compiled.graph.nodes + node;
  }

  private begin(origin: string): Spread {
    const { graph } = this.compiled;
    const waiting = new Heap(graph.signals.keys);
    for (const s of this.started) {
      const source = graph.sources[s] as CompiledSource;
      if (source.id !== origin) continue;
      const { to: node, signal, settleMs: ms } = source;
      waiting.push({ node, signal, ms, hops: 0, step: null, order: -1, before: null });
    }
    return { done: new Map(), waiting };
  }

  /** Goes on until the wanted label is known, or nothing waits any more. */
  private goOn({ done, waiting }: Spread, wanted: number): Label | undefined {
    const { graph } = this.compiled;
    while (!done.has(wanted)) {
      const label = waiting.pop();
      if (!label) return undefined;
      const key = this.key(label.node, label.signal);
      if (done.has(key)) continue;
      done.set(key, label);
      this.eachFrom(label.node, (node, step, order) => {
        const signal = step.set ? graph.signals.changed(label.signal, step.set) : label.signal;
        if (done.has(this.key(node, signal))) return;
        const [ms, hops] = [label.ms + step.settleMs, label.hops + 1];
        waiting.push({ node, signal, ms, hops, step, order, before: label });
      });
    }
    return done.get(wanted);
  }

  /** The open steps from a node. */
  private eachFrom(node: number, visit: (to: number, step: Step, order: number) => void): void {
    const { graph } = this.compiled;
    const { start, items } = graph.leaving;
    for (let i = start[node] as number; i < (start[node + 1] as number); i++) {
      const e = items[i] as number;
      if (this.isOpen(e)) visit(graph.edgeTo[e] as number, graph.steps[e] as Step, e);
    }
    for (const edge of this.compiled.extraLeaving(node) ?? []) visit(edge.to, edge, edge.order);
  }
}

/** How far the quickest ways of one origin are worked out. */
interface Spread {
  done: Map<number, Label>;
  waiting: Heap;
}

/** By time, then by steps, then by the order of the last step and the signal before it. */
function compare(keys: readonly string[], a: Label, b: Label): number {
  return (
    a.ms - b.ms ||
    a.hops - b.hops ||
    a.order - b.order ||
    (a.before && b.before ? compareKeys(keys, a.before, b.before) : 0)
  );
}

function compareKeys(keys: readonly string[], a: Label, b: Label): number {
  const [x, y] = [keys[a.signal] as string, keys[b.signal] as string];
  return x < y ? -1 : x > y ? 1 : 0;
}

/** A binary heap of labels. */
class Heap {
  private readonly items: Label[] = [];

  constructor(private readonly keys: readonly string[]) {}

  push(label: Label): void {
    const { items } = this;
    let i = items.push(label) - 1;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (compare(this.keys, items[up] as Label, label) <= 0) break;
      items[i] = items[up] as Label;
      i = up;
    }
    items[i] = label;
  }

  pop(): Label | undefined {
    const { items } = this;
    const top = items[0];
    const last = items.pop();
    if (!last || items.length === 0) return top;
    let i = 0;
    for (;;) {
      let down = 2 * i + 1;
      if (down >= items.length) break;
      if (down + 1 < items.length && compare(this.keys, items[down + 1] as Label, items[down] as Label) < 0) down++;
      if (compare(this.keys, last, items[down] as Label) <= 0) break;
      items[i] = items[down] as Label;
      i = down;
    }
    items[i] = last;
    return top;
  }
}
