/** The graph of a system: contact sides, the steps between them, the sources. Made once a system and never changed. */
import type { Guard } from "./condition";
import { ModelError } from "./errors";
import { linkEdges } from "./link-edges";
import { once, oncePer } from "./once";
import { type CompiledContact, type PartGraph, type PlacedPort, partGraph, type Step } from "./part-graph";
import { numbers, numbersBy, type Rows, rows, rowsOf } from "./rows";
import { SignalTable } from "./signal";
import type { Attributes, ContactRef, Part, System } from "./types";

/** A directed step a signal can take. Nodes are contact sides: 2·contact is *in*, 2·contact + 1 is *out*. */
export interface Edge extends Step {
  /** Place among all steps: by start, end and owner, whatever the order of the data. */
  order: number;
  from: number;
  to: number;
  guard: Guard | null;
}

/** Field by field: spreading a step takes many times as long. */
export function edgeOf(step: Step, order: number, from: number, to: number, guard: Guard | null): Edge {
  const { kind, owner, join, set, settleMs } = step;
  return { kind, owner, join, set, settleMs, order, from, to, guard };
}

/** The order of edges: by start, end and owner. */
export function compareEdges(x: Edge, y: Edge): number {
  return x.from - y.from || x.to - y.to || compareOwners(x, y);
}

function compareOwners(x: Step, y: Step): number {
  return x.owner < y.owner ? -1 : x.owner > y.owner ? 1 : 0;
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
  sources: readonly CompiledSource[];
  signals: SignalTable;
  /** Values of the settings as parts come out of their box, by `part.setting`. */
  initials: ReadonlyMap<string, string>;
  nodes: number;
  layerAt(node: number): number;
  /**
   * By edge: what it is, the nodes at its ends, the layer in which it is evaluated, the number of its guard, and 1 where
   * it changes signals.
   */
  steps: readonly Step[];
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
  /** These are made when first asked for: a ranking evaluates and never looks back. */
  edges(): readonly Edge[];
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
  const drafts: Drafts = { from: [], to: [], guard: [], steps: [] };
  const guards: (Guard | null)[] = [null];
  const signals = new SignalTable();
  const sources: CompiledSource[] = [];
  for (const { part, first } of parts) {
    const before = guards.length;
    for (const check of part.guards) guards.push({ check, first });
    const numberOf = (own: number) => (own < 0 ? 0 : before + own);
    for (const { from, to, guard, step } of part.edges) draft(drafts, from + first, to + first, step, numberOf(guard));
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
  const put = (from: number, to: number, step: Step) => draft(drafts, from, to, step, 0);
  for (const link of system.links)
    linkEdges(put, link, { b: link.b, reversed: link.reversed ?? false }, ports, firstOf);
  sources.sort((x, y) => x.to - y.to || (x.id < y.id ? -1 : 1));
  return {
    system,
    contacts,
    indexOf,
    partOf,
    firstOf,
    ports,
    sources,
    signals,
    initials,
    guards,
    ...connectivity(contacts, drafts, sources, guards),
  };
}

/** Steps as they are found, each under its number. */
interface Drafts {
  from: number[];
  to: number[];
  guard: number[];
  steps: Step[];
}

function draft(into: Drafts, from: number, to: number, step: Step, guard: number): void {
  into.from.push(from);
  into.to.push(to);
  into.guard.push(guard);
  into.steps.push(step);
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

/** Numbers of the drafts by start, end and owner; those that leave a node stand together. Few leave any one. */
function inOrder({ from, to, steps }: Drafts, nodes: number): Rows {
  const { start, items } = rows(nodes, from, (node) => node);
  const isAfter = (x: number, y: number) =>
    from[x] === from[y] &&
    ((to[x] as number) - (to[y] as number) || compareOwners(steps[x] as Step, steps[y] as Step)) > 0;
  for (let i = 1; i < items.length; i++) {
    const edge = items[i] as number;
    let at = i;
    for (; at > 0 && isAfter(items[at - 1] as number, edge); at--) items[at] = items[at - 1] as number;
    items[at] = edge;
  }
  return { start, items };
}

function connectivity(
  contacts: readonly CompiledContact[],
  drafts: Drafts,
  sources: readonly CompiledSource[],
  guards: readonly (Guard | null)[],
) {
  const nodes = 2 * contacts.length;
  const layers = numbers(contacts, (c) => c.layer);
  const layerAt = (node: number) => layers[node >> 1] ?? 0;
  const { start, items: order } = inOrder(drafts, nodes);
  const steps: Step[] = [];
  for (const i of order) steps.push(drafts.steps[i] as Step);
  const edgeFrom = numbers(order, (i) => drafts.from[i] as number);
  const edgeTo = numbers(order, (i) => drafts.to[i] as number);
  const edgeGuard = numbers(order, (i) => drafts.guard[i] as number);
  const edgeLayer = numbers(edgeTo, layerAt);
  const sourceTo = numbers(sources, (s) => s.to);
  const sourceGuard = numbers(sources, (s) => s.guardNumber);
  const edgesFromEarlier: number[][] = [[], [], []];
  for (let e = 0; e < steps.length; e++)
    if (layerAt(edgeFrom[e] as number) < (edgeLayer[e] as number)) edgesFromEarlier[edgeLayer[e] as number]?.push(e);
  const sourcesByLayer: number[][] = [[], [], []];
  for (const [i, s] of sources.entries()) sourcesByLayer[layerAt(s.to)]?.push(i);
  const onLayerOf = (node: number, to: number) => layerAt(node) === layerAt(to);
  const anywhere = () => true;
  const edgeWatchers = (counts: Counts) => watching(nodes, guards, edgeGuard, edgeTo, counts);
  const sourceWatchers = (counts: Counts) => watching(nodes, guards, sourceGuard, sourceTo, counts);
  return {
    nodes,
    layerAt,
    steps,
    edgeFrom,
    edgeTo,
    edgeLayer,
    edgeChanges: numbers(steps, ({ set }) => (set ? 1 : 0)),
    edgeGuard,
    sourceGuard,
    leaving: { start, items: numbers(steps, (_, i) => i) },
    edgeWatchers: edgeWatchers(onLayerOf),
    sourceWatchers: sourceWatchers(onLayerOf),
    edgesFromEarlier,
    sourcesByLayer,
    edges: once(() =>
      steps.map((step, i) => {
        const guard = guards[edgeGuard[i] as number] ?? null;
        return edgeOf(step, i, edgeFrom[i] as number, edgeTo[i] as number, guard);
      }),
    ),
    guarded: once((): Guarded => ({ edges: edgeWatchers(anywhere), sources: sourceWatchers(anywhere) })),
    backward: once(
      (): Backward => ({
        entering: rows(nodes, edgeTo, (node) => node),
        sourcesAt: rows(nodes, sourceTo, (node) => node),
        edgesOfLink: numbersBy(steps, ({ kind, owner }) => (kind === "link" ? owner : null)),
        edgesOfPart: numbersBy(steps, ({ kind, owner }) => (kind === "link" ? null : owner)),
        sourcesOfPart: numbersBy(sources, (s) => s.part),
      }),
    ),
  };
}

type Counts = (node: number, to: number) => boolean;

/** The items whose guards look at a node, by node; each item with its guard and the node at which it ends. */
function watching(
  nodes: number,
  guards: readonly (Guard | null)[],
  guardOf: Int32Array,
  to: Int32Array,
  counts: Counts,
): Rows {
  return rowsOf(nodes, (put) => {
    for (let i = 0; i < guardOf.length; i++) {
      const guard = guards[guardOf[i] as number];
      if (!guard) continue;
      for (const own of guard.check.watches) if (counts(own + guard.first, to[i] as number)) put(own + guard.first, i);
    }
  });
}
