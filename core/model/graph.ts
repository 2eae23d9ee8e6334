/** The graph of a system: contact sides, the steps between them, the sources. Made once a system and never changed. */
import { type Guard, guardAt } from "./condition";
import { ModelError } from "./errors";
import { matedContacts } from "./mating";
import { type CompiledContact, type PartGraph, partGraph } from "./part-graph";
import { SignalTable } from "./signal";
import type { Attributes, ContactRef, Link, Part, Port, System } from "./types";

/** A directed step a signal can take. Nodes are contact sides: 2·contact is *in*, 2·contact + 1 is *out*. */
export interface Edge {
  /** Place among all steps: by start, end and owner, whatever the order of the data. */
  order: number;
  from: number;
  to: number;
  kind: "link" | "join" | "route" | "inside";
  /** Part or link that makes the step. */
  owner: string;
  /** Number of the join in its part. */
  join?: number;
  guard: Guard | null;
  set?: Attributes;
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
  settleMs: number;
}

/** Numbers of edges, sources or guards by node, one list behind the other. */
export interface Rows {
  /** Where the list of each node begins; one more than there are nodes. */
  start: Int32Array;
  items: Int32Array;
}

export interface Graph {
  system: System;
  contacts: readonly CompiledContact[];
  indexOf: ReadonlyMap<ContactRef, number>;
  partOf: ReadonlyMap<string, Part>;
  /** The node at which the contacts of each part begin. */
  firstOf: ReadonlyMap<string, number>;
  ports: ReadonlyMap<string, Port>;
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
  edgeLayer: Uint8Array;
  edgeGuard: Int32Array;
  edgeChanges: Uint8Array;
  sourceGuard: Int32Array;
  /** Conditions that stand in front of steps and sources; equal ones of a part are one. Number 0 is none. */
  guards: readonly (Guard | null)[];
  leaving: Rows;
  entering: Rows;
  sourcesAt: Rows;
  /** Per node: edges and sources of its own layer whose guard may open when something arrives there. */
  edgeWatchers: Rows;
  sourceWatchers: Rows;
  /** Per node: edges and sources of any layer whose guard looks at it. */
  edgesGuardedBy: Rows;
  sourcesGuardedBy: Rows;
  /** By layer: edges that start on an earlier layer and so may have signals waiting when the layer begins. */
  edgesFromEarlier: readonly (readonly number[])[];
  sourcesByLayer: readonly (readonly number[])[];
  edgesOfLink: ReadonlyMap<string, readonly number[]>;
  /** Edges and sources by the part that makes them. */
  edgesOfPart: ReadonlyMap<string, readonly number[]>;
  sourcesOfPart: ReadonlyMap<string, readonly number[]>;
}

const graphs = new WeakMap<System, Graph>();

/**
 * The graph of a system. Systems are never changed once they are composed, so each is compiled once. The result does
 * not depend on the order of parts, ports, links or routes in the data.
 *
 * @throws {ModelError} for references to nothing, ends of a link without common contacts, conditions on a later layer
 * or negated conditions on their own layer.
 */
export function graphOf(system: System): Graph {
  const known = graphs.get(system);
  if (known) return known;
  const graph = build(system);
  graphs.set(system, graph);
  return graph;
}

type EdgeDraft = Omit<Edge, "order">;

function build(system: System): Graph {
  const parts = inPlace(system.parts);
  const contacts = parts.flatMap(({ part }) => part.contacts);
  const indexOf = new Map(contacts.map((c, i) => [c.ref, i]));
  const ports = new Map<string, Port>();
  for (const part of system.parts) for (const port of part.ports) ports.set(`${part.id}.${port.id}`, port);
  const drafts: EdgeDraft[] = [];
  for (const link of system.links) drafts.push(...linkEdges(link, link.b, link.reversed ?? false, ports, indexOf));
  const guards: (Guard | null)[] = [null];
  const signals = new SignalTable();
  const sources: CompiledSource[] = [];
  for (const { part, first } of parts) {
    const own = part.guards.map((g) => guardAt(g, first));
    const guard = (n: number) => (n < 0 ? null : (own[n] as Guard));
    guards.push(...own);
    for (const e of part.edges) drafts.push({ ...e, from: e.from + first, to: e.to + first, guard: guard(e.guard) });
    for (const s of part.sources)
      sources.push({ ...s, to: s.to + first, signal: signals.number(s.id, s.attributes), guard: guard(s.guard) });
  }
  sources.sort((x, y) => x.to - y.to || (x.id < y.id ? -1 : 1));
  const edges = inOrder(drafts, 2 * contacts.length);
  const initials = new Map<string, string>();
  for (const part of system.parts) for (const s of part.settings ?? []) initials.set(`${part.id}.${s.id}`, s.initial);
  return {
    system,
    contacts,
    indexOf,
    partOf: new Map(system.parts.map((p) => [p.id, p])),
    firstOf: new Map(parts.map(({ part, first }) => [part.id, first])),
    ports,
    edges,
    sources,
    signals,
    initials,
    ...connectivity(contacts, edges, sources),
    ...guardNumbers(guards, edges, sources),
    edgesOfLink: numbersBy(edges, (e) => (e.kind === "link" ? e.owner : null)),
    edgesOfPart: numbersBy(edges, (e) => (e.kind === "link" ? null : e.owner)),
    sourcesOfPart: numbersBy(sources, (s) => s.part),
  };
}

/** The parts with the node at which the contacts of each begin, in an order that does not depend on the data. */
function inPlace(parts: readonly Part[]): { part: PartGraph; first: number }[] {
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

/** Edges by start, end and owner: numbers are sorted natively, owners only where start and end are equal. */
function inOrder(drafts: readonly EdgeDraft[], nodes: number): Edge[] {
  const keys = new Float64Array(drafts.length);
  drafts.forEach((e, i) => {
    keys[i] = (e.from * nodes + e.to) * drafts.length + i;
  });
  const sorted = Array.from(keys.sort(), (key) => drafts[key % drafts.length] as EdgeDraft);
  for (let i = 1; i < sorted.length; i++) {
    for (let j = i; j > 0; j--) {
      const [x, y] = [sorted[j - 1] as EdgeDraft, sorted[j] as EdgeDraft];
      if (compareEdges(x, y) <= 0) break;
      sorted[j - 1] = y;
      sorted[j] = x;
    }
  }
  return sorted.map((e, order) => ({ ...e, order }));
}

/** The order of edges: by start, end and owner. */
export function compareEdges(x: EdgeDraft, y: EdgeDraft): number {
  return x.from - y.from || x.to - y.to || (x.owner < y.owner ? -1 : x.owner > y.owner ? 1 : 0);
}

/**
 * The steps through a link, both ways.
 *
 * @param b the port at its far end, which may be another than the planned one
 */
export function linkEdges(
  link: Link,
  b: string,
  reversed: boolean,
  ports: ReadonlyMap<string, Port>,
  indexOf: ReadonlyMap<string, number>,
): EdgeDraft[] {
  const portA = ports.get(link.a);
  const portB = ports.get(b);
  if (!portA || !portB) {
    throw new ModelError(
      `link ${link.id}`,
      `there is no port ${portA ? b : link.a}.`,
      "Name ports that exist in the system.",
    );
  }
  const edges: EdgeDraft[] = [];
  for (const [contactA, contactB] of matedContacts(portA, portB, reversed)) {
    const to = contactB && indexOf.get(`${b}.${contactB.id}`);
    const from = indexOf.get(`${link.a}.${contactA.id}`);
    if (to === undefined || from === undefined) continue;
    const common = { kind: "link" as const, owner: link.id, guard: null, settleMs: 0 };
    edges.push({ ...common, from: 2 * from + 1, to: 2 * to }, { ...common, from: 2 * to + 1, to: 2 * from });
  }
  if (edges.length === 0) {
    throw new ModelError(
      `link ${link.id}`,
      `${link.a} and ${b} have no contact in common.`,
      "Use the same contact identifiers on both halves.",
    );
  }
  return edges;
}

function connectivity(
  contacts: readonly CompiledContact[],
  edges: readonly Edge[],
  sources: readonly CompiledSource[],
) {
  const nodes = 2 * contacts.length;
  const layerAt = (node: number) => contacts[node >> 1]?.layer ?? 0;
  const edgeLayer = Uint8Array.from(edges, (e) => layerAt(e.to));
  const edgesFromEarlier: number[][] = [[], [], []];
  edges.forEach((e, i) => {
    const layer = edgeLayer[i] as number;
    if (layerAt(e.from) < layer) edgesFromEarlier[layer]?.push(i);
  });
  const sourcesByLayer: number[][] = [[], [], []];
  for (const [i, s] of sources.entries()) sourcesByLayer[layerAt(s.to)]?.push(i);
  const watched = (guard: Guard | null, layer: number) => (guard?.watches ?? []).filter((n) => layerAt(n) === layer);
  return {
    nodes,
    layerAt,
    edgeFrom: Int32Array.from(edges, (e) => e.from),
    edgeTo: Int32Array.from(edges, (e) => e.to),
    edgeLayer,
    edgeChanges: Uint8Array.from(edges, (e) => (e.set ? 1 : 0)),
    leaving: rows(nodes, edges, (e) => [e.from]),
    entering: rows(nodes, edges, (e) => [e.to]),
    sourcesAt: rows(nodes, sources, (s) => [s.to]),
    edgeWatchers: rows(nodes, edges, (e, i) => watched(e.guard, edgeLayer[i] as number)),
    sourceWatchers: rows(nodes, sources, (s) => watched(s.guard, layerAt(s.to))),
    edgesGuardedBy: rows(nodes, edges, (e) => e.guard?.watches ?? []),
    sourcesGuardedBy: rows(nodes, sources, (s) => s.guard?.watches ?? []),
    edgesFromEarlier,
    sourcesByLayer,
  };
}

function guardNumbers(guards: readonly (Guard | null)[], edges: readonly Edge[], sources: readonly CompiledSource[]) {
  const numbers = new Map(guards.map((g, i) => [g, i]));
  const number = ({ guard }: { guard: Guard | null }) => numbers.get(guard) ?? 0;
  const edgeGuard = Int32Array.from(edges, number);
  return { guards, edgeGuard, sourceGuard: Int32Array.from(sources, number) };
}

/** Lists of item numbers by node, in the order of the items. */
function rows<T>(nodes: number, items: readonly T[], at: (item: T, index: number) => readonly number[]): Rows {
  const lists = items.map(at);
  const start = new Int32Array(nodes + 1);
  for (const list of lists) for (const node of list) start[node + 1] = (start[node + 1] as number) + 1;
  for (let n = 0; n < nodes; n++) start[n + 1] = (start[n + 1] as number) + (start[n] as number);
  const next = start.slice();
  const sorted = new Int32Array(start[nodes] as number);
  lists.forEach((list, i) => {
    for (const node of list) {
      sorted[next[node] as number] = i;
      next[node] = (next[node] as number) + 1;
    }
  });
  return { start, items: sorted };
}

function numbersBy<T>(items: readonly T[], name: (item: T) => string | null): Map<string, number[]> {
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
