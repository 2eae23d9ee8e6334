/** The graph of a system: contact sides, the steps between them, the sources. Made once a system and never changed. */
import { busPair, compileCondition, type Guard, type Names } from "./condition";
import { ModelError } from "./errors";
import { layerOf } from "./kinds";
import { matedContacts } from "./mating";
import { SignalTable } from "./signal";
import type { Attributes, Condition, Contact, ContactRef, Link, Part, Port, System } from "./types";

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

export interface CompiledContact {
  ref: ContactRef;
  part: Part;
  port: Port;
  contact: Contact;
  layer: number;
}

/** Numbers of edges, sources or guards by node, one list behind the other. */
export interface Rows {
  /** Where the list of each node begins; one more than there are nodes. */
  start: Int32Array;
  items: Int32Array;
}

export interface Graph extends Names {
  system: System;
  contacts: readonly CompiledContact[];
  indexOf: ReadonlyMap<ContactRef, number>;
  partOf: ReadonlyMap<string, Part>;
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
/** What parts are resolved against, and the guards made so far. */
type PartNames = Names & { equal: Map<string, Guard> };

function build(system: System): Graph {
  const contacts = listContacts(system.parts);
  const indexOf = new Map(contacts.map((c, i) => [c.ref, i]));
  const signals = new SignalTable();
  const names = { indexOf, signals, equal: new Map<string, Guard>() };
  const ports = new Map<string, Port>();
  for (const part of system.parts) for (const port of part.ports) ports.set(`${part.id}.${port.id}`, port);
  const edges = inOrder(
    [
      ...system.links.flatMap((link) => linkEdges(link, link.b, link.reversed ?? false, ports, indexOf)),
      ...system.parts.flatMap((part) => partEdges(part, names, contacts)),
    ],
    2 * contacts.length,
  );
  const sources = system.parts.flatMap((part) => partSources(part, names));
  sources.sort((x, y) => x.to - y.to || (x.id < y.id ? -1 : 1));
  return {
    system,
    contacts,
    indexOf,
    partOf: new Map(system.parts.map((p) => [p.id, p])),
    ports,
    edges,
    sources,
    signals,
    initials: new Map(
      system.parts.flatMap((p) => (p.settings ?? []).map((s) => [`${p.id}.${s.id}`, s.initial] as const)),
    ),
    ...connectivity(contacts, edges, sources),
    ...guardNumbers(edges, sources),
    edgesOfLink: numbersBy(edges, (e) => (e.kind === "link" ? e.owner : null)),
    edgesOfPart: numbersBy(edges, (e) => (e.kind === "link" ? null : e.owner)),
    sourcesOfPart: numbersBy(sources, (s) => s.part),
  };
}

/** Contacts in an order that does not depend on the data: by part, then by reference. */
function listContacts(parts: readonly Part[]): CompiledContact[] {
  const sorted = [...parts].sort((x, y) => (x.id < y.id ? -1 : x.id > y.id ? 1 : 0));
  const duplicate = sorted.find((p, i) => p.id === sorted[i + 1]?.id);
  // Two parts of one name are taken as one, so that what they have in common is found.
  const all = duplicate ? contactsOf(sorted).sort(byRef) : sorted.flatMap(partContacts);
  for (let i = 1; i < all.length; i++) {
    if (all[i]?.ref === all[i - 1]?.ref) {
      throw new ModelError(all[i]?.ref ?? "", "the contact is listed twice.", "Give each contact its own identifier.");
    }
  }
  return all;
}

/** Parts are documents and never change: their contacts are listed once. */
const listed = new WeakMap<Part, CompiledContact[]>();

function partContacts(part: Part): CompiledContact[] {
  let contacts = listed.get(part);
  if (!contacts) {
    contacts = contactsOf([part]).sort(byRef);
    listed.set(part, contacts);
  }
  return contacts;
}

function contactsOf(parts: readonly Part[]): CompiledContact[] {
  return parts.flatMap((part) =>
    part.ports.flatMap((port) =>
      port.contacts.map((contact) => ({
        ref: `${part.id}.${port.id}.${contact.id}`,
        part,
        port,
        contact,
        layer: layerOf(contact.kind),
      })),
    ),
  );
}

function byRef(x: CompiledContact, y: CompiledContact): number {
  return x.ref < y.ref ? -1 : x.ref > y.ref ? 1 : 0;
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

function partEdges(part: Part, names: PartNames, contacts: readonly CompiledContact[]): EdgeDraft[] {
  const at = (place: string, where: string) => contactIndex(part, place, where, names.indexOf);
  const edges: EdgeDraft[] = [];
  const free = { owner: part.id, guard: null, settleMs: 0 };
  for (const [join, { contacts: joined }] of (part.joins ?? []).entries()) {
    const ends = joined.map((c) => at(c, `join ${join + 1}`));
    for (const x of ends)
      for (const y of ends) if (x !== y) edges.push({ ...free, from: 2 * x, to: 2 * y + 1, kind: "join", join });
  }
  for (const route of part.routes ?? []) {
    const from = at(route.from, `route ${route.id}`);
    const to = at(route.to, `route ${route.id}`);
    const fromLayer = contacts[from]?.layer ?? 0;
    const toLayer = contacts[to]?.layer ?? 0;
    if (fromLayer > toLayer) {
      throw new ModelError(
        `${part.id}, route ${route.id}`,
        `it leads from ${route.from} back to the earlier layer of ${route.to}.`,
        "A later layer may not feed an earlier one.",
      );
    }
    edges.push({
      from: 2 * from,
      to: 2 * to + 1,
      kind: "route",
      owner: part.id,
      guard: guardOf(part, route.when, toLayer, `route ${route.id}`, names),
      ...(route.set ? { set: route.set } : {}),
      settleMs: route.settleMs ?? 0,
    });
  }
  for (const port of part.ports) {
    if (!port.inside) continue;
    for (const contact of port.contacts) {
      const i = at(`${port.id}.${contact.id}`, "inside port");
      edges.push({ ...free, from: 2 * i + 1, to: 2 * i, kind: "inside" });
    }
  }
  return edges;
}

function partSources(part: Part, names: PartNames): CompiledSource[] {
  const layers = new Map(partContacts(part).map((c) => [c.ref, c]));
  const make = (id: string, place: string, attributes: Attributes, when: Condition | undefined, settleMs: number) => {
    const to = contactIndex(part, place, `source ${id}`, names.indexOf);
    const layer = layers.get(`${part.id}.${place}`)?.layer ?? 0;
    const name = `${part.id}/${id}`;
    return {
      id: name,
      signal: names.signals.number(name, attributes),
      part: part.id,
      to: 2 * to + 1,
      attributes,
      guard: guardOf(part, when, layer, `source ${id}`, names),
      settleMs,
    };
  };
  const plain = (part.sources ?? []).flatMap((s) =>
    s.at.map((place) => make(s.id, place, s.attributes ?? {}, s.when, s.settleMs ?? 0)),
  );
  const messages = (part.messages ?? []).flatMap((m) => {
    const pair = busPair(part, m.bus);
    return [
      make(m.name, pair.high, { message: m.name, line: "high" }, m.when, 0),
      make(m.name, pair.low, { message: m.name, line: "low" }, m.when, 0),
    ];
  });
  return [...plain, ...messages];
}

/** A device does nothing without what it needs: its needs stand in front of every route and source. */
function guardOf(
  part: Part,
  when: Condition | undefined,
  layer: number,
  place: string,
  names: PartNames,
): Guard | null {
  const needs: Condition[] = (part.needs ?? []).map((n) => ({ present: n.at, where: n.where }));
  if (when) needs.push(when);
  const [only] = needs;
  if (!only) return null;
  const condition = needs.length === 1 ? only : { all: needs };
  const key = `${part.id} ${layer} ${JSON.stringify(condition)}`;
  const known = names.equal.get(key);
  if (known) return known;
  const guard = compileCondition(condition, part, layer, `${part.id}, ${place}`, names);
  names.equal.set(key, guard);
  return guard;
}

function contactIndex(part: Part, place: string, where: string, indexOf: ReadonlyMap<string, number>): number {
  const index = indexOf.get(`${part.id}.${place}`);
  if (index === undefined) {
    throw new ModelError(
      `${part.id}, ${where}`,
      `there is no contact ${place}.`,
      "Name a contact of this part as port.contact.",
    );
  }
  return index;
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

function guardNumbers(edges: readonly Edge[], sources: readonly CompiledSource[]) {
  const guards: (Guard | null)[] = [null];
  const numbers = new Map<Guard, number>();
  const number = ({ guard }: { guard: Guard | null }) => {
    if (!guard) return 0;
    let n = numbers.get(guard);
    if (n === undefined) {
      n = guards.push(guard) - 1;
      numbers.set(guard, n);
    }
    return n;
  };
  const edgeGuard = Int32Array.from(edges, number);
  return { edgeGuard, sourceGuard: Int32Array.from(sources, number), guards };
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
