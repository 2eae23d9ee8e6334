/** The graph of a system: contact sides, the steps between them, the sources. Made once a system and never changed. */
import type { Guard } from "./condition";
import { ModelError } from "./errors";
import { compareEdges, linkEdges } from "./link-edges";
import { once, oncePer } from "./once";
import { type CompiledContact, type PartGraph, type PlacedPort, partGraph } from "./part-graph";
import { numbers, numbersBy, type Rows, rows, rowsOf } from "./rows";
import { SignalTable } from "./signal";
import type { Attributes, ContactRef, Part, System } from "./types";

/** A directed step a signal can take. Nodes are contact sides: 2·contact is *in*, 2·contact + 1 is *out*. */
export interface Edge {
  /** Place among all steps: by start, end and owner, whatever the order of the data. */
  order: number;
  from: number;
  to: number;
  kind: "link" | "join" | "route" | "inside";
  /** Part or link that makes the step. */
  owner: string;
  /** Number of the join in its part; -1 for other steps. */
  join: number;
  guard: Guard | null;
  /** Number of the guard in the graph; 0 is none. */
  guardNumber: number;
  set: Attributes | null;
  settleMs: number;
}

export interface CompiledSource {
  id: string;
  part: string;
  to: number;
  /** The signal it sends. */
  signal: number;
  attributes: Attributes;
  guard: Guard | null;
  guardNumber: number;
  settleMs: number;
}

export interface Graph {
  system: System;
  contacts: readonly CompiledContact[];
  indexOf: ReadonlyMap<ContactRef, number>;
  partOf: ReadonlyMap<string, Part>;
  /** The node at which the contacts of each part begin. */
  firstOf: ReadonlyMap<string, number>;
  ports: ReadonlyMap<string, PlacedPort>;
  edges: readonly Edge[];
  sources: readonly CompiledSource[];
  signals: SignalTable;
  /** Values of the settings as parts come out of their box, by `part.setting`. */
  initials: ReadonlyMap<string, string>;
  nodes: number;
  layerAt(node: number): number;
  /** By edge: the nodes at its ends, the layer in which it is evaluated, its guard, and 1 where it changes signals. */
  edgeFrom: Int32Array;
  edgeTo: Int32Array;
  edgeLayer: Int32Array;
  edgeGuard: Int32Array;
  edgeChanges: Int32Array;
  sourceGuard: Int32Array;
  /** Conditions that stand in front of steps and sources; equal ones of a part are one. Number 0 is none. */
  guards: readonly (Guard | null)[];
  leaving: Rows;
  /** Per node: edges and sources of its own layer whose guard may open when something arrives there. */
  edgeWatchers: Rows;
  sourceWatchers: Rows;
  /** By layer: edges that start on an earlier layer and so may have signals waiting when the layer begins. */
  edgesFromEarlier: readonly (readonly number[])[];
  sourcesByLayer: readonly (readonly number[])[];
  /** Both made when first asked for: a ranking evaluates and never looks back. */
  guarded(): Guarded;
  backward(): Backward;
}

/** Per node: edges and sources of any layer whose guard looks at it. */
export interface Guarded {
  edges: Rows;
  sources: Rows;
}

/** What explanations and disturbances look up. */
export interface Backward {
  entering: Rows;
  sourcesAt: Rows;
  edgesOfLink: ReadonlyMap<string, readonly number[]>;
  /** Edges and sources by the part that makes them. */
  edgesOfPart: ReadonlyMap<string, readonly number[]>;
  sourcesOfPart: ReadonlyMap<string, readonly number[]>;
}

/**
 * The graph of a system. Systems are never changed once they are composed, so each is compiled once. The result does
 * not depend on the order of parts, ports, links or routes in the data.
 *
 * @throws {ModelError} for references to nothing, ends of a link without common contacts, conditions on a later layer
 * or negated conditions on their own layer.
 */
export const graphOf = oncePer(build);

function build(system: System): Graph {
  const parts = numbered(system.parts);
  const contacts: CompiledContact[] = [];
  const indexOf = new Map<ContactRef, number>();
  const partOf = new Map<string, Part>();
  const firstOf = new Map<string, number>();
  const ports = new Map<string, PlacedPort>();
  const initials = new Map<string, string>();
  const drafts: Edge[] = [];
  const guards: (Guard | null)[] = [null];
  const signals = new SignalTable();
  const sources: CompiledSource[] = [];
  for (const { part, first } of parts) {
    const before = guards.length;
    for (const check of part.guards) guards.push({ check, first });
    const numberOf = (own: number) => (own < 0 ? 0 : before + own);
    for (const e of part.edges) {
      const guardNumber = numberOf(e.guard);
      const { kind, owner, join, set, settleMs } = e;
      const guard = guards[guardNumber] ?? null;
      const [from, to] = [e.from + first, e.to + first];
      drafts.push({ order: 0, from, to, kind, owner, join, guard, guardNumber, set, settleMs });
    }
    for (const s of part.sources) {
      const guardNumber = numberOf(s.guard);
      const { id, part: owner, attributes, settleMs } = s;
      const [to, guard] = [s.to + first, guards[guardNumber] ?? null];
      const signal = signals.number(id, attributes, s.key);
      sources.push({ id, part: owner, to, signal, attributes, guard, guardNumber, settleMs });
    }
    firstOf.set(part.id, first);
    partOf.set(part.id, part.part);
    for (const contact of part.contacts) indexOf.set(contact.ref, contacts.push(contact) - 1);
    for (const [ref, port] of part.ports) ports.set(ref, port);
    for (const [key, value] of part.initials) initials.set(key, value);
  }
  for (const link of system.links)
    linkEdges(drafts, link, { b: link.b, reversed: link.reversed ?? false }, ports, firstOf);
  sources.sort((x, y) => x.to - y.to || (x.id < y.id ? -1 : 1));
  const { edges, leaving } = inOrder(drafts, 2 * contacts.length);
  return {
    system,
    contacts,
    indexOf,
    partOf,
    firstOf,
    ports,
    edges,
    sources,
    signals,
    initials,
    guards,
    leaving,
    ...connectivity(contacts, edges, sources),
    guarded: once(() => guarded(2 * contacts.length, edges, sources)),
    backward: once(() => backward(2 * contacts.length, edges, sources)),
  };
}

/** The parts with the node at which the contacts of each begin, in an order that does not depend on the data. */
function numbered(parts: readonly Part[]): { part: PartGraph; first: number }[] {
  const sorted = [...parts].sort((x, y) => (x.id < y.id ? -1 : x.id > y.id ? 1 : 0));
  let first = 0;
  return sorted.map((p, i) => {
    if (p.id === sorted[i + 1]?.id)
      throw new ModelError(p.id, "two parts have this identifier.", "Give each part its own identifier.");
    const part = partGraph(p);
    const placed = { part, first };
    first += 2 * part.contacts.length;
    return placed;
  });
}

/** Edges by start, end and owner; those that leave a node stand together. Few leave any one. */
function inOrder(drafts: readonly Edge[], nodes: number): { edges: Edge[]; leaving: Rows } {
  const { start, items } = rows(nodes, drafts, (e) => e.from);
  const edges: Edge[] = [];
  for (const i of items) {
    const edge = drafts[i] as Edge;
    let at = edges.length;
    for (; at > 0 && compareEdges(edges[at - 1] as Edge, edge) > 0; at--) edges[at] = edges[at - 1] as Edge;
    edges[at] = edge;
  }
  edges.forEach((edge, i) => {
    edge.order = i;
  });
  return { edges, leaving: { start, items: numbers(edges, (_, i) => i) } };
}

function connectivity(
  contacts: readonly CompiledContact[],
  edges: readonly Edge[],
  sources: readonly CompiledSource[],
) {
  const nodes = 2 * contacts.length;
  const layers = numbers(contacts, (c) => c.layer);
  const layerAt = (node: number) => layers[node >> 1] ?? 0;
  const edgeFrom = numbers(edges, (e) => e.from);
  const edgeTo = numbers(edges, (e) => e.to);
  const edgeLayer = numbers(edges, (e) => layerAt(e.to));
  const edgesFromEarlier: number[][] = [[], [], []];
  for (let e = 0; e < edges.length; e++)
    if (layerAt(edgeFrom[e] as number) < (edgeLayer[e] as number)) edgesFromEarlier[edgeLayer[e] as number]?.push(e);
  const sourcesByLayer: number[][] = [[], [], []];
  for (const [i, s] of sources.entries()) sourcesByLayer[layerAt(s.to)]?.push(i);
  const onLayerOf = (node: number, to: number) => layerAt(node) === layerAt(to);
  return {
    nodes,
    layerAt,
    edgeFrom,
    edgeTo,
    edgeLayer,
    edgeChanges: numbers(edges, (e) => (e.set ? 1 : 0)),
    edgeGuard: numbers(edges, (e) => e.guardNumber),
    sourceGuard: numbers(sources, (s) => s.guardNumber),
    edgeWatchers: watching(nodes, edges, onLayerOf),
    sourceWatchers: watching(nodes, sources, onLayerOf),
    edgesFromEarlier,
    sourcesByLayer,
  };
}

function guarded(nodes: number, edges: readonly Edge[], sources: readonly CompiledSource[]): Guarded {
  return { edges: watching(nodes, edges, () => true), sources: watching(nodes, sources, () => true) };
}

function backward(nodes: number, edges: readonly Edge[], sources: readonly CompiledSource[]): Backward {
  return {
    entering: rows(nodes, edges, (e) => e.to),
    sourcesAt: rows(nodes, sources, (s) => s.to),
    edgesOfLink: numbersBy(edges, (e) => (e.kind === "link" ? e.owner : null)),
    edgesOfPart: numbersBy(edges, (e) => (e.kind === "link" ? null : e.owner)),
    sourcesOfPart: numbersBy(sources, (s) => s.part),
  };
}

/** The items whose guards look at a node, by node. */
function watching(
  nodes: number,
  items: readonly { guard: Guard | null; to: number }[],
  counts: (node: number, to: number) => boolean,
): Rows {
  return rowsOf(nodes, (put) => {
    for (let i = 0; i < items.length; i++) {
      const { guard, to } = items[i] as (typeof items)[number];
      if (!guard) continue;
      for (const own of guard.check.watches) if (counts(own + guard.first, to)) put(own + guard.first, i);
    }
  });
}
