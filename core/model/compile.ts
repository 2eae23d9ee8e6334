import type { Guard } from "./condition";
import { ModelError } from "./errors";
import { compareEdges, type Edge, edgeOf, type Graph, graphOf } from "./graph";
import { linkEdges, type Seat } from "./link-edges";
import type { Step } from "./part-graph";
import type { Rows } from "./rows";
import type { Disturbance, System } from "./types";

export type { CompiledSource, Edge } from "./graph";

/** State of a step under a disturbance: whole, broken with a reason, or not there at all. */
const WHOLE = 0;
const BROKEN = 1;
const GONE = 2;
/** Its part does nothing. */
const DEAD = 3;

/**
 * A system under a disturbance: its graph, compiled once, with what is open, exchanged, turned, dead, set or assumed
 * laid over it. Broken steps stay, so that an explanation can name them.
 */
export class CompiledSystem {
  /** By edge; null when every step is whole. */
  readonly state: Uint8Array | null = null;
  /** Numbers of the edges that are not whole. */
  readonly broken: readonly number[] = [];
  /** Whole steps that the graph does not have: plugs in another place or turned over. */
  readonly extra: readonly Edge[] = [];
  /** Numbers of dead sources. */
  readonly deadSources: ReadonlySet<number> = new Set();
  private readonly reasons = new Map<number, string>();
  private marks: Uint8Array | null = null;
  private readonly extraFrom = new Map<number, Edge[]>();
  private readonly extraTo = new Map<number, Edge[]>();

  /** @throws {ModelError} when an exchange names a link that is not there, or a plug that fits nowhere */
  constructor(
    readonly graph: Graph,
    readonly disturbance: Disturbance,
  ) {
    const { openLinks, openJoins, deadParts, reversedLinks, movedLinks, cavities } = disturbance;
    const touched = openLinks || openJoins || deadParts || reversedLinks?.length || movedLinks || cavities;
    if (!touched) return;
    const state = new Uint8Array(graph.steps.length);
    this.state = state;
    const moved = movedSeats(graph.system, disturbance);
    this.layExtra(moved, state);
    this.extra = [...this.extraFrom.values()].flat();
    for (const [link, reason] of Object.entries(openLinks ?? {}))
      if (reason) for (const e of graph.backward().edgesOfLink.get(link) ?? []) this.break(state, e, reason);
    for (const [name, reason] of Object.entries(openJoins ?? {})) if (reason) this.breakJoins(state, name, reason);
    this.deadSources = this.kill(Object.keys(deadParts ?? {}), state);
    const broken: number[] = [];
    state.forEach((s, e) => {
      if (s !== WHOLE) broken.push(e);
    });
    this.broken = broken;
  }

  get system(): System {
    return this.graph.system;
  }

  get contacts() {
    return this.graph.contacts;
  }

  get indexOf() {
    return this.graph.indexOf;
  }

  get partOf() {
    return this.graph.partOf;
  }

  get sources() {
    return this.graph.sources;
  }

  /** Numbers of the sources that start at a node. */
  sourcesAt(node: number): readonly number[] {
    const { start, items } = this.graph.backward().sourcesAt;
    return [...items.subarray(start[node], start[node + 1])];
  }

  /** Steps that end at a node, broken ones too, in their order. */
  edgesInto(node: number): Edge[] {
    const { start, items } = this.graph.backward().entering;
    const edges: Edge[] = [];
    for (let i = start[node] as number; i < (start[node + 1] as number); i++) {
      const e = items[i] as number;
      if (this.state?.[e] !== GONE) edges.push(this.graph.edges()[e] as Edge);
    }
    const more = this.extraTo.get(node);
    return more ? [...edges, ...more].sort((x, y) => x.order - y.order) : edges;
  }

  /** Whole steps that only this disturbance has, by where they start. */
  extraLeaving(node: number): readonly Edge[] | undefined {
    return this.extraFrom.get(node);
  }

  /** Why a step is broken; empty when it is not. */
  blocked(edge: Edge): string {
    return this.reasons.get(edge.order) ?? "";
  }

  isPassable(edge: number): boolean {
    return this.state === null || this.state[edge] === WHOLE;
  }

  /** Marks of the nodes at which anything can be different under this disturbance, conditions ignored. */
  get touched(): Uint8Array {
    this.marks ??= this.spread();
    return this.marks;
  }

  private spread(): Uint8Array {
    const { graph } = this;
    const marks = new Uint8Array(graph.nodes);
    const queue: number[] = [];
    const mark = (node: number) => {
      if (marks[node]) return;
      marks[node] = 1;
      queue.push(node);
    };
    const each = ({ start, items }: Rows, node: number, visit: (item: number) => void) => {
      for (let i = start[node] as number; i < (start[node + 1] as number); i++) visit(items[i] as number);
    };
    const end = (e: number) => mark(graph.edgeTo[e] as number);
    const start = (s: number) => mark(graph.sources[s]?.to ?? 0);
    for (const e of this.broken) end(e);
    for (const edge of this.extra) mark(edge.to);
    for (const s of this.deadSources) start(s);
    const settings = Object.keys(this.disturbance.settings ?? {});
    if (settings.length > 0) {
      const decided = (guard: Guard | null) => guard?.check.settings.some((s) => settings.includes(s)) ?? false;
      for (const [i, e] of graph.edges().entries()) if (decided(e.guard)) end(i);
      for (const [i, s] of graph.sources.entries()) if (decided(s.guard)) start(i);
    }
    for (const node of queue) {
      each(graph.leaving, node, end);
      each(graph.guarded().edges, node, end);
      each(graph.guarded().sources, node, start);
      for (const edge of this.extraFrom.get(node) ?? []) mark(edge.to);
    }
    return marks;
  }

  private break(state: Uint8Array, edge: number, reason: string): void {
    if (state[edge] !== GONE) state[edge] = BROKEN;
    this.reasons.set(edge, reason);
  }

  /** `part/number` is one join, `part` all of them; the narrower name decides the reason. */
  private breakJoins(state: Uint8Array, name: string, reason: string): void {
    const [part = "", number] = name.split("/");
    for (const e of this.graph.backward().edgesOfPart.get(part) ?? []) {
      const { kind, join } = this.graph.steps[e] as Step;
      if (kind !== "join" || (number !== undefined && join !== Number(number))) continue;
      if (number === undefined && state[e] === BROKEN) continue;
      this.break(state, e, reason);
    }
  }

  private kill(parts: readonly string[], state: Uint8Array): Set<number> {
    const silent = new Set<number>();
    for (const part of parts) {
      for (const e of this.graph.backward().edgesOfPart.get(part) ?? [])
        if (this.graph.steps[e]?.kind === "route" && state[e] === WHOLE) state[e] = DEAD;
      for (const s of this.graph.backward().sourcesOfPart.get(part) ?? []) silent.add(s);
    }
    return silent;
  }

  /** Steps of links that sit elsewhere; those of their planned places are gone. */
  private layExtra(moved: ReadonlyMap<string, Seat>, state: Uint8Array): void {
    const { system, ports, firstOf } = this.graph;
    const { edgesOfLink } = this.graph.backward();
    const drafts: Edge[] = [];
    const put = (from: number, to: number, step: Step) => drafts.push(edgeOf(step, 0, from, to, null));
    for (const link of system.links) {
      const seat = moved.get(link.id);
      if (!seat) continue;
      for (const e of edgesOfLink.get(link.id) ?? []) state[e] = GONE;
      linkEdges(put, link, seat, ports, firstOf);
    }
    drafts.sort(compareEdges);
    for (const [i, edge] of drafts.entries()) {
      // Between the steps of the graph, so that the order is that of a system built so from the start.
      edge.order = orderAmong(this.graph.edges(), edge) - 0.5 + i / (2 * drafts.length);
      const reason = this.disturbance.openLinks?.[edge.owner];
      if (reason) this.reasons.set(edge.order, reason);
      // Nothing goes back to an earlier layer.
      const forward = this.graph.layerAt(edge.from) <= this.graph.layerAt(edge.to);
      if (!reason && forward) pushTo(this.extraFrom, edge.from, edge);
      pushTo(this.extraTo, edge.to, edge);
    }
  }
}

/** A system under a disturbance, ready to be evaluated. @throws {ModelError} when it cannot be */
export function compile(system: System, disturbance: Disturbance = {}): CompiledSystem {
  return new CompiledSystem(graphOf(system), disturbance);
}

/** Where the links sit that do not sit as planned, by link. */
function movedSeats(system: System, d: Disturbance): Map<string, Seat> {
  const moved = new Map<string, Seat>();
  for (const id of Object.keys(d.movedLinks ?? {}))
    if (!system.links.some((l) => l.id === id))
      throw new ModelError(id, "no such link to move.", "Name a link of the system.");
  for (const link of system.links) {
    const b = d.movedLinks?.[link.id] ?? link.b;
    const reversed = (link.reversed ?? false) !== (d.reversedLinks?.includes(link.id) ?? false);
    const cavities = d.cavities?.[link.id];
    if (b !== link.b || reversed !== (link.reversed ?? false) || cavities)
      moved.set(link.id, { b, reversed, ...(cavities ? { cavities } : {}) });
  }
  return moved;
}

/** How many edges come before one that is not among them. */
function orderAmong(edges: readonly Edge[], draft: Edge): number {
  let low = 0;
  let high = edges.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (compareEdges(edges[middle] as Edge, draft) <= 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

function pushTo(map: Map<number, Edge[]>, key: number, edge: Edge): void {
  const list = map.get(key);
  if (list) list.push(edge);
  else map.set(key, [edge]);
}
