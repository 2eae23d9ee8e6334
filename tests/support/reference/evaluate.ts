import { matches, signalKey } from "../../../core/model/signal";
import type { Attributes, ContactRef, Settings, Situation } from "../../../core/model/types";
import type { CompiledSource, CompiledSystem, Edge } from "./compile";
import type { GuardContext } from "./condition";

/** One signal: where it started and what it carries. */
export interface Signal {
  origin: string;
  attributes: Attributes;
}

/** A signal as it arrived at a contact side. */
export interface Arrival {
  signal: Signal;
  /** Sum of the settling times on its way. */
  afterMs: number;
}

export interface Hop {
  ref: ContactRef;
  side: "in" | "out";
  /** Part or link that made the step to this contact; empty at the start. */
  by: string;
  via: Edge["kind"] | "source";
}

interface Entry {
  signal: number;
  /** Edge taken on the quickest way, or -1 at the source. */
  edge: number;
  /** Signal number before the edge. */
  before: number;
  afterMs: number;
  hops: number;
}

/** All signals everywhere in one situation, with the hops they took. */
export interface Evaluation {
  compiled: CompiledSystem;
  situation: Situation;
  context: GuardContext;
  arrivals(ref: ContactRef, side?: "in" | "out"): Arrival[];
  arrivalsAt(node: number): Arrival[];
  hops(ref: ContactRef, matching: (signal: Signal) => boolean): Hop[];
}

/**
 * Evaluates a compiled system in a situation.
 *
 * The three layers are evaluated in order; inside a layer signals spread to a fixpoint. Because guards look at
 * their own layer positively only, each layer is monotone: the result is the same for any order of the data.
 * Time grows with the number of (signal, contact) pairs reached.
 */
export function evaluate(compiled: CompiledSystem, situation: Situation, settings: Settings = {}): Evaluation {
  const seen = assumedSituation(compiled, situation);
  const run = new Run(compiled, seen, settingReader(compiled, settings));
  for (let layer = 0; layer < 3; layer++) run.layer(layer);
  run.settle();
  return run;
}

function assumedSituation(compiled: CompiledSystem, situation: Situation): Situation {
  let result = situation;
  for (const assumed of compiled.disturbance.assumed ?? []) {
    const applies = Object.entries(assumed.where).every(([field, value]) => result[field as keyof Situation] === value);
    if (applies) result = { ...result, ...assumed.set };
  }
  return result;
}

/** Reads a setting: the disturbance first, then the given values, then the plan, then the part's initial value. */
function settingReader(compiled: CompiledSystem, settings: Settings): (key: string) => string | undefined {
  const forced = compiled.disturbance.settings ?? {};
  const planned = compiled.system.settings ?? {};
  return (key) => {
    const value = forced[key] ?? settings[key] ?? planned[key];
    if (value !== undefined) return value;
    const dot = key.indexOf(".");
    return compiled.partOf.get(key.slice(0, dot))?.settings?.find((s) => s.id === key.slice(dot + 1))?.initial;
  };
}

/** What stands at a node that nothing reached; never written to. */
const NOTHING: Entry[] = [];

class Run implements Evaluation, GuardContext {
  private readonly signals: Signal[] = [];
  private readonly numberOf = new Map<string, number>();
  private readonly at: (Entry[] | undefined)[];
  private readonly open: Uint8Array;
  private readonly started: Uint8Array;
  private queueNodes: number[] = [];
  private queueEntries: Entry[] = [];
  private now = 0;
  readonly context: GuardContext = this;

  constructor(
    readonly compiled: CompiledSystem,
    readonly situation: Situation,
    readonly setting: (key: string) => string | undefined,
  ) {
    this.at = new Array(2 * compiled.contacts.length);
    this.open = new Uint8Array(compiled.edges.length);
    this.started = new Uint8Array(compiled.sources.length);
  }

  arrives(node: number, where: Attributes | undefined): boolean {
    const entries = this.at[node];
    if (!entries) return false;
    if (!where) return true;
    return entries.some((e) => matches((this.signals[e.signal] as Signal).attributes, where));
  }

  layer(layer: number): void {
    const { compiled } = this;
    this.now = layer;
    for (const s of compiled.sourcesByLayer[layer] as number[]) this.tryStart(s);
    for (const e of compiled.edgesFromEarlier[layer] as number[]) this.tryOpen(e);
    for (let head = 0; head < this.queueNodes.length; head++) {
      const node = this.queueNodes[head] as number;
      const entry = this.queueEntries[head] as Entry;
      for (const e of compiled.leaving[node] as number[]) {
        if (this.open[e]) this.pass(e, entry);
        else if (compiled.edgeLayer[e] === layer) this.tryOpen(e);
      }
      for (const e of compiled.edgeWatchers[node] as number[]) this.tryOpen(e);
      for (const s of compiled.sourceWatchers[node] as number[]) this.tryStart(s);
    }
    this.queueNodes = [];
    this.queueEntries = [];
  }

  private tryStart(index: number): void {
    const source = this.compiled.sources[index] as CompiledSource;
    if (this.started[index] || (source.guard && !source.guard.test(this))) return;
    this.started[index] = 1;
    this.add(source.to, {
      signal: this.numbered(source.key, source.id, source.attributes),
      edge: -1,
      before: -1,
      afterMs: source.settleMs,
      hops: 0,
    });
  }

  /** A guard is looked at only once a signal waits before it: most routes of a car are idle in any one situation. */
  private tryOpen(index: number): void {
    const edge = this.compiled.edges[index] as Edge;
    const waiting = this.at[edge.from];
    if (!waiting || this.open[index] || edge.blocked || (edge.guard && !edge.guard.test(this))) return;
    this.open[index] = 1;
    // The list grows while signals spread; those that arrive later pass on their own.
    for (const entry of [...waiting]) this.pass(index, entry);
  }

  private pass(index: number, entry: Entry): void {
    const edge = this.compiled.edges[index] as Edge;
    if (this.compiled.edgeLayer[index] !== this.now) return;
    const signal = edge.set ? this.changed(entry.signal, edge.set) : entry.signal;
    this.add(edge.to, {
      signal,
      edge: index,
      before: entry.signal,
      afterMs: entry.afterMs + edge.settleMs,
      hops: entry.hops + 1,
    });
  }

  private add(node: number, entry: Entry): void {
    const here = this.at[node];
    if (!here) this.at[node] = [entry];
    else if (here.some((e) => e.signal === entry.signal)) return;
    else here.push(entry);
    this.queueNodes.push(node);
    this.queueEntries.push(entry);
  }

  /** Corrects every entry to its quickest way, by looking at every open edge until nothing changes. */
  settle(): void {
    for (let again = true; again; ) {
      again = false;
      for (const [index, edge] of this.compiled.edges.entries()) {
        if (!this.open[index]) continue;
        for (const entry of this.at[edge.from] ?? []) {
          const signal = edge.set ? this.changed(entry.signal, edge.set) : entry.signal;
          const there = this.at[edge.to]?.find((e) => e.signal === signal);
          const better = {
            signal,
            edge: index,
            before: entry.signal,
            afterMs: entry.afterMs + edge.settleMs,
            hops: entry.hops + 1,
          };
          if (!there || this.compare(better, there) >= 0) continue;
          Object.assign(there, better);
          again = true;
        }
      }
    }
  }

  private compare(a: Entry, b: Entry): number {
    const key = (n: number) => {
      const s = this.signals[n];
      return s ? signalKey(s.origin, s.attributes) : "";
    };
    const [x, y] = [key(a.before), key(b.before)];
    return a.afterMs - b.afterMs || a.hops - b.hops || a.edge - b.edge || (x < y ? -1 : x > y ? 1 : 0);
  }

  private changed(signal: number, set: Attributes): number {
    const before = this.signals[signal] as Signal;
    return this.intern(before.origin, { ...before.attributes, ...set });
  }

  private intern(origin: string, attributes: Attributes): number {
    return this.numbered(signalKey(origin, attributes), origin, attributes);
  }

  private numbered(key: string, origin: string, attributes: Attributes): number {
    let number = this.numberOf.get(key);
    if (number === undefined) {
      number = this.signals.length;
      this.signals.push({ origin, attributes });
      this.numberOf.set(key, number);
    }
    return number;
  }

  arrivals(ref: ContactRef, side: "in" | "out" = "in"): Arrival[] {
    const index = this.compiled.indexOf.get(ref);
    return index === undefined ? [] : this.arrivalsAt(2 * index + (side === "out" ? 1 : 0));
  }

  arrivalsAt(node: number): Arrival[] {
    const keyed = (this.at[node] ?? NOTHING).map((e) => {
      const signal = this.signals[e.signal] as Signal;
      return { key: signalKey(signal.origin, signal.attributes), signal, afterMs: e.afterMs };
    });
    return keyed.sort((a, b) => (a.key < b.key ? -1 : 1)).map(({ signal, afterMs }) => ({ signal, afterMs }));
  }

  hops(ref: ContactRef, matching: (signal: Signal) => boolean): Hop[] {
    const index = this.compiled.indexOf.get(ref);
    if (index === undefined) return [];
    const path: Hop[] = [];
    let node = 2 * index;
    const found = (this.at[node] ?? NOTHING).filter((e) => matching(this.signals[e.signal] as Signal));
    const key = (e: Entry) => {
      const signal = this.signals[e.signal] as Signal;
      return signalKey(signal.origin, signal.attributes);
    };
    found.sort((a, b) => a.afterMs - b.afterMs || a.hops - b.hops || (key(a) < key(b) ? -1 : 1));
    let entry: Entry | undefined = found[0];
    while (entry) {
      const edge = entry.edge < 0 ? undefined : this.compiled.edges[entry.edge];
      path.push({
        ref: this.compiled.contacts[node >> 1]?.ref ?? "",
        side: node & 1 ? "out" : "in",
        by: edge?.owner ?? "",
        via: edge?.kind ?? "source",
      });
      if (!edge) break;
      const before: number = entry.before;
      node = edge.from;
      entry = this.at[node]?.find((e) => e.signal === before);
    }
    return path.reverse();
  }
}
