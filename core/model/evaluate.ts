import type { CompiledSystem } from "./compile";
import { type Guard, type GuardContext, holds, type SettingQuestion, type SettingReader } from "./condition";
import type { CompiledSource, Edge, Graph } from "./graph";
import type { Step } from "./part-graph";
import { ANY, matches, type Signal } from "./signal";
import { Timing } from "./timing";
import type { Attributes, ContactRef, Settings, Situation } from "./types";

export type { Signal } from "./signal";

/** A signal as it arrived at a contact side. */
export interface Arrival {
  signal: Signal;
  /** Sum of the settling times on its quickest way. */
  readonly afterMs: number;
}

export interface Hop {
  ref: ContactRef;
  side: "in" | "out";
  /** Part or link that made the step to this contact; empty at the start. */
  by: string;
  via: Edge["kind"] | "source";
}

/** All signals everywhere in one situation, with the quickest ways they took. */
export interface Evaluation {
  compiled: CompiledSystem;
  situation: Situation;
  context: GuardContext;
  /** In the order of their identity, whatever the order of the data. */
  arrivals(ref: ContactRef, side?: "in" | "out"): Arrival[];
  arrivalsAt(node: number): Arrival[];
  /** True when a signal with these attributes stands at a node. */
  has(node: number, where: Attributes): boolean;
  /** True when a further disturbance can have changed nothing here: neither signals nor their times and ways. */
  isSameUnder(compiled: CompiledSystem): boolean;
  /** True when other settings give the same signals here: they answer alike whatever was asked of them. */
  isSameWith(setting: SettingReader): boolean;
  /** The quickest way of the matching signals. */
  hops(ref: ContactRef, matching: (signal: Signal) => boolean): Hop[];
}

/**
 * Evaluates a compiled system in a situation.
 *
 * The three layers are evaluated in order; inside a layer signals spread to a fixpoint. Because guards look at their
 * own layer positively only, each layer is monotone: the result is the same for any order of the data. What stands at
 * a contact side is a set of bits, so that a step passes all of its signals on at once. Times and ways are worked out
 * only when somebody asks.
 */
export function evaluate(compiled: CompiledSystem, situation: Situation, settings: Settings = {}): Evaluation {
  const run = new Run(compiled, assumedSituation(compiled, situation), settingReader(compiled, settings));
  clearScratch(compiled.graph);
  for (let layer = 0; layer < 3; layer++) run.layer(layer);
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
export function settingReader(compiled: CompiledSystem, settings: Settings): SettingReader {
  const forced = compiled.disturbance.settings;
  const planned = compiled.system.settings;
  const { initials } = compiled.graph;
  return (key) => forced?.[key] ?? settings[key] ?? planned?.[key] ?? initials.get(key);
}

/** What is known of a guard: once it holds it holds for good, and one that the situation denies never will. */
const HOLDS = 1;
const NEVER = 2;
const WAITS = 3;

/** What only a run in progress needs: one is enough for all, as they run one after the other. */
const scratch = { queued: new Uint8Array(0), guards: new Uint8Array(0), queue: [] as number[] };

function clearScratch({ nodes, guards }: Graph): void {
  if (scratch.queued.length < nodes) scratch.queued = new Uint8Array(2 * nodes);
  if (scratch.guards.length < guards.length) scratch.guards = new Uint8Array(2 * guards.length);
  scratch.queued.fill(0, 0, nodes);
  scratch.guards.fill(0, 0, guards.length);
  scratch.guards[0] = HOLDS;
  scratch.queue.length = 0;
}

class Arrived implements Arrival {
  constructor(
    readonly signal: Signal,
    private readonly timeAt: (node: number, signal: number) => number,
    private readonly node: number,
    private readonly number: number,
  ) {}

  get afterMs(): number {
    return this.timeAt(this.node, this.number);
  }
}

class Run implements Evaluation, GuardContext {
  private readonly graph: Graph;
  private words: number;
  private bits: Int32Array;
  private readonly open: Uint8Array;
  private readonly started: number[] = [];
  private readonly isStarted: Uint8Array;
  private now = 0;
  private timing: Timing | null = null;
  /** What was asked of the settings. */
  private readonly decided = new Map<SettingQuestion, boolean>();
  readonly context: GuardContext = this;

  constructor(
    readonly compiled: CompiledSystem,
    readonly situation: Situation,
    private readonly read: SettingReader,
  ) {
    const { graph } = compiled;
    this.graph = graph;
    this.words = graph.signals.words;
    // One piece of memory: three would cost more than they hold.
    const [signals, edges, sources] = [graph.nodes * this.words, graph.steps.length, graph.sources.length];
    const memory = new ArrayBuffer(4 * signals + edges + sources);
    this.bits = new Int32Array(memory, 0, signals);
    this.open = new Uint8Array(memory, 4 * signals, edges);
    this.isStarted = new Uint8Array(memory, 4 * signals + edges, sources);
  }

  decides(question: SettingQuestion): boolean {
    let answer = this.decided.get(question);
    if (answer === undefined) {
      answer = question(this.read);
      this.decided.set(question, answer);
    }
    return answer;
  }

  arrives(node: number, pattern: number): boolean {
    if (pattern === ANY) return this.hasAny(node);
    const { bits, words } = this;
    const at = node * words;
    const mask = this.graph.signals.mask(pattern);
    for (let w = 0; w < words; w++) if ((bits[at + w] as number) & (mask[w] ?? 0)) return true;
    return false;
  }

  private hasAny(node: number): boolean {
    const { bits, words } = this;
    const end = (node + 1) * words;
    for (let i = node * words; i < end; i++) if (bits[i]) return true;
    return false;
  }

  private guardHolds(guard: number): boolean {
    const { guards: known } = scratch;
    const stands = known[guard];
    if (stands === HOLDS) return true;
    if (stands === NEVER) return false;
    const asked = this.graph.guards[guard] as Guard;
    if (stands !== WAITS && asked.check.ofSituation?.(this, asked.first) === false) {
      known[guard] = NEVER;
      return false;
    }
    const holding = holds(asked, this);
    known[guard] = holding ? HOLDS : WAITS;
    return holding;
  }

  layer(layer: number): void {
    const { graph, compiled, open } = this;
    const { queued, queue } = scratch;
    const { leaving, edgeLayer, edgeWatchers, sourceWatchers } = graph;
    this.now = layer;
    for (const s of graph.sourcesByLayer[layer] as number[]) this.tryStart(s);
    for (const e of graph.edgesFromEarlier[layer] as number[])
      if (this.hasAny(graph.edgeFrom[e] as number)) this.tryOpen(e);
    for (const edge of compiled.extra) this.passExtra(edge);
    for (let head = 0; head < queue.length; head++) {
      const node = queue[head] as number;
      queued[node] = 0;
      for (let i = leaving.start[node] as number, end = leaving.start[node + 1] as number; i < end; i++) {
        const e = leaving.items[i] as number;
        if (edgeLayer[e] !== layer) continue;
        if (open[e]) this.pass(e, node);
        else this.tryOpen(e);
      }
      if (compiled.extra.length > 0) for (const edge of compiled.extraLeaving(node) ?? []) this.passExtra(edge);
      for (let i = edgeWatchers.start[node] as number, end = edgeWatchers.start[node + 1] as number; i < end; i++) {
        const e = edgeWatchers.items[i] as number;
        if (!open[e] && this.hasAny(graph.edgeFrom[e] as number)) this.tryOpen(e);
      }
      for (let i = sourceWatchers.start[node] as number, end = sourceWatchers.start[node + 1] as number; i < end; i++)
        this.tryStart(sourceWatchers.items[i] as number);
    }
    queue.length = 0;
  }

  private tryStart(index: number): void {
    if (this.isStarted[index] || this.compiled.deadSources.has(index)) return;
    if (!this.guardHolds(this.graph.sourceGuard[index] as number)) return;
    const { to, signal } = this.graph.sources[index] as CompiledSource;
    this.isStarted[index] = 1;
    this.started.push(index);
    this.add(to, signal);
  }

  /**
   * Opens a step before which signals wait. Its guard is looked at only then: most routes of a car are idle in any one
   * situation.
   */
  private tryOpen(index: number): void {
    const { state } = this.compiled;
    if (state !== null && !this.compiled.isPassable(index)) return;
    if (!this.guardHolds(this.graph.edgeGuard[index] as number)) return;
    this.open[index] = 1;
    this.pass(index, this.graph.edgeFrom[index] as number);
  }

  private pass(index: number, from: number): void {
    const { graph } = this;
    const to = graph.edgeTo[index] as number;
    if (!graph.edgeChanges[index]) {
      this.union(from, to);
      return;
    }
    const set = (graph.steps[index] as Step).set as Attributes;
    for (const signal of this.signalsAt(from)) this.add(to, graph.signals.changed(signal, set));
  }

  private passExtra(edge: Edge): void {
    if (this.graph.layerAt(edge.to) === this.now) this.union(edge.from, edge.to);
  }

  private union(from: number, to: number): void {
    const { bits, words } = this;
    const [a, b] = [from * words, to * words];
    let grew = 0;
    for (let w = 0; w < words; w++) {
      const before = bits[b + w] as number;
      const after = before | (bits[a + w] as number);
      bits[b + w] = after;
      grew |= before ^ after;
    }
    if (grew) this.enqueue(to);
  }

  private add(node: number, signal: number): void {
    const word = signal >> 5;
    if (word >= this.words) this.widen();
    const at = node * this.words + word;
    const before = this.bits[at] as number;
    const after = before | (1 << (signal & 31));
    if (after === before) return;
    this.bits[at] = after;
    this.enqueue(node);
  }

  private enqueue(node: number): void {
    if (scratch.queued[node]) return;
    scratch.queued[node] = 1;
    scratch.queue.push(node);
  }

  /** A route has made signals that were not known when this run began. */
  private widen(): void {
    const { bits, words } = this;
    const wider = this.graph.signals.words;
    const more = new Int32Array(this.graph.nodes * wider);
    for (let n = 0; n < this.graph.nodes; n++)
      for (let w = 0; w < words; w++) more[n * wider + w] = bits[n * words + w] as number;
    this.bits = more;
    this.words = wider;
  }

  /** Numbers of the signals at a node. */
  private signalsAt(node: number): number[] {
    const found: number[] = [];
    for (let w = 0; w < this.words; w++)
      for (let rest = this.bits[node * this.words + w] as number; rest; rest &= rest - 1)
        found.push(32 * w + 31 - Math.clz32(rest & -rest));
    return found;
  }

  arrivals(ref: ContactRef, side: "in" | "out" = "in"): Arrival[] {
    const index = this.graph.indexOf.get(ref);
    return index === undefined ? [] : this.arrivalsAt(2 * index + (side === "out" ? 1 : 0));
  }

  arrivalsAt(node: number): Arrival[] {
    const { signals, keys } = this.graph.signals;
    const found = this.signalsAt(node);
    if (found.length > 1) found.sort((a, b) => ((keys[a] as string) < (keys[b] as string) ? -1 : 1));
    return found.map((number) => new Arrived(signals[number] as Signal, this.afterMs, node, number));
  }

  private readonly afterMs = (node: number, signal: number) => this.times().at(node, signal);

  has(node: number, where: Attributes): boolean {
    const { signals } = this.graph.signals;
    return this.signalsAt(node).some((s) => matches((signals[s] as Signal).attributes, where));
  }

  /**
   * A step that carries nothing can be taken away, a plug can be put where nothing waits, and a part that sends and
   * passes nothing can die: what stands is still the least that follows from everything else.
   */
  isSameUnder(compiled: CompiledSystem): boolean {
    const { settings, assumed } = compiled.disturbance;
    if (settings && !this.isSameWith((key) => settings[key] ?? this.read(key))) return false;
    if (assumed?.length && assumedSituation(compiled, this.situation) !== this.situation) return false;
    for (const e of compiled.broken) if (this.open[e]) return false;
    for (const s of compiled.deadSources) if (this.isStarted[s]) return false;
    // Plugs of its own that sit elsewhere make another graph of it.
    if (this.compiled.extra.length > 0 && compiled.extra.length > 0) return false;
    return !compiled.extra.some((edge) => this.hasAny(edge.from));
  }

  isSameWith(setting: SettingReader): boolean {
    for (const [question, answer] of this.decided) if (question(setting) !== answer) return false;
    return true;
  }

  hops(ref: ContactRef, matching: (signal: Signal) => boolean): Hop[] {
    const index = this.graph.indexOf.get(ref);
    if (index === undefined) return [];
    const { signals } = this.graph.signals;
    const wanted = this.signalsAt(2 * index).filter((s) => matching(signals[s] as Signal));
    return this.times()
      .way(2 * index, wanted)
      .map(({ node, step }) => ({
        ref: this.graph.contacts[node >> 1]?.ref ?? "",
        side: node & 1 ? "out" : "in",
        by: step?.owner ?? "",
        via: step?.kind ?? "source",
      }));
  }

  private times(): Timing {
    this.timing ??= new Timing(this.compiled, this.started, (e) => this.open[e] === 1);
    return this.timing;
  }
}
