/**
 * The plain evaluator: a system is compiled anew under every disturbance, signals are kept as lists, conditions are
 * walked. Slow and simple; the engine of `core/model` is held against it.
 */

import { ModelError } from "../../../core/model/errors";
import { layerOf } from "../../../core/model/kinds";
import { matedContacts } from "../../../core/model/mating";
import { signalKey } from "../../../core/model/signal";
import type {
  Attributes,
  Condition,
  Contact,
  ContactRef,
  Disturbance,
  Part,
  Port,
  System,
} from "../../../core/model/types";
import { busPair, compileCondition, dependsOn, type Guard } from "./condition";

/** A directed step a signal can take. Nodes are contact sides: 2·contact is *in*, 2·contact + 1 is *out*. */
export interface Edge {
  from: number;
  to: number;
  kind: "link" | "join" | "route" | "inside";
  /** Part or link that makes the step. */
  owner: string;
  guard: Guard | null;
  condition?: Condition;
  /** Non-empty when the step is broken: why. */
  blocked: string;
  set?: Attributes;
  settleMs: number;
}

export interface CompiledSource {
  id: string;
  /** Identity of the signal it sends. */
  key: string;
  part: string;
  to: number;
  attributes: Attributes;
  guard: Guard | null;
  condition?: Condition;
  settleMs: number;
}

export interface CompiledContact {
  ref: ContactRef;
  part: Part;
  port: Port;
  contact: Contact;
  layer: number;
}

/** A system made ready for evaluation: integers, adjacency and guards instead of names. */
export interface CompiledSystem {
  system: System;
  disturbance: Disturbance;
  contacts: CompiledContact[];
  indexOf: ReadonlyMap<ContactRef, number>;
  partOf: ReadonlyMap<string, Part>;
  edges: Edge[];
  /** Edge numbers leaving each node. */
  leaving: number[][];
  /** Edge numbers entering each node. */
  entering: number[][];
  sources: CompiledSource[];
  /** Per node: edges whose guard may open when something arrives there. */
  edgeWatchers: number[][];
  sourceWatchers: number[][];
  /** Source numbers that start at each node. */
  sourcesAt: number[][];
  /** Layer of the end of each edge: the layer in which it is evaluated. */
  edgeLayer: Uint8Array;
  /** By layer: edges that start on an earlier layer and so may have signals waiting when the layer begins. */
  edgesFromEarlier: number[][];
  sourcesByLayer: number[][];
}

/**
 * Compiles a system under a disturbance.
 *
 * Broken links and joins stay in the graph as blocked edges, so that an explanation can name them.
 * The result does not depend on the order of parts, ports, links or routes in the data.
 *
 * @throws {ModelError} for references to nothing, ends of a link without common contacts,
 * conditions on a later layer or negated conditions on their own layer.
 */
export function compile(system: System, disturbance: Disturbance = {}): CompiledSystem {
  const contacts = listContacts(system.parts);
  const indexOf = new Map(contacts.map((c, i) => [c.ref, i]));
  const partOf = new Map(system.parts.map((p) => [p.id, p]));
  const edges = sortEdges(
    [
      ...linkEdges(system, disturbance, indexOf),
      ...system.parts.flatMap((part) => partEdges(part, disturbance, indexOf, contacts)),
    ],
    2 * contacts.length,
  );
  const sources = system.parts.flatMap((part) => partSources(part, disturbance, indexOf));
  sources.sort((x, y) => x.to - y.to || (x.id < y.id ? -1 : 1));
  return {
    system,
    disturbance,
    contacts,
    indexOf,
    partOf,
    edges,
    sources,
    ...connectivity(contacts, edges, sources),
  };
}

/** Contacts in an order that does not depend on the data: by part, then by reference. */
function listContacts(parts: readonly Part[]): CompiledContact[] {
  const sorted = [...parts].sort((x, y) => (x.id < y.id ? -1 : x.id > y.id ? 1 : 0));
  const twice = sorted.find((p, i) => p.id === sorted[i + 1]?.id);
  // Two parts of one name are taken as one, so that what they have in common is found.
  const all = twice ? contactsOf(sorted).sort(byRef) : sorted.flatMap(partContacts);
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
function sortEdges(edges: readonly Edge[], nodes: number): Edge[] {
  const keys = new Float64Array(edges.length);
  edges.forEach((e, i) => {
    keys[i] = (e.from * nodes + e.to) * edges.length + i;
  });
  const sorted = Array.from(keys.sort(), (key) => edges[key % edges.length] as Edge);
  for (let i = 1; i < sorted.length; i++) {
    for (let j = i; j > 0; j--) {
      const [x, y] = [sorted[j - 1] as Edge, sorted[j] as Edge];
      if (x.from !== y.from || x.to !== y.to || x.owner <= y.owner) break;
      sorted[j - 1] = y;
      sorted[j] = x;
    }
  }
  return sorted;
}

function linkEdges(system: System, d: Disturbance, indexOf: ReadonlyMap<string, number>): Edge[] {
  const ports = new Map<string, Port>();
  for (const part of system.parts) for (const port of part.ports) ports.set(`${part.id}.${port.id}`, port);
  const edges: Edge[] = [];
  for (const link of system.links) {
    const b = d.movedLinks?.[link.id] ?? link.b;
    const portA = ports.get(link.a);
    const portB = ports.get(b);
    if (!portA || !portB) {
      throw new ModelError(
        `link ${link.id}`,
        `there is no port ${portA ? b : link.a}.`,
        "Name ports that exist in the system.",
      );
    }
    const reversed = (link.reversed ?? false) !== (d.reversedLinks?.includes(link.id) ?? false);
    const blocked = d.openLinks?.[link.id] ?? "";
    let pairs = 0;
    for (const [contactA, contactB] of matedContacts(portA, portB, reversed, d.cavities?.[link.id])) {
      const to = contactB && indexOf.get(`${b}.${contactB.id}`);
      const from = indexOf.get(`${link.a}.${contactA.id}`);
      if (to === undefined || from === undefined) continue;
      pairs++;
      const common = { kind: "link" as const, owner: link.id, guard: null, blocked, settleMs: 0 };
      edges.push({ ...common, from: 2 * from + 1, to: 2 * to }, { ...common, from: 2 * to + 1, to: 2 * from });
    }
    if (pairs === 0 && !d.cavities?.[link.id]) {
      throw new ModelError(
        `link ${link.id}`,
        `${link.a} and ${b} have no contact in common.`,
        "Use the same contact identifiers on both halves.",
      );
    }
  }
  return edges;
}

function partEdges(
  part: Part,
  d: Disturbance,
  indexOf: ReadonlyMap<string, number>,
  contacts: readonly CompiledContact[],
): Edge[] {
  const at = (place: string, where: string) => contactIndex(part, place, where, indexOf);
  const edges: Edge[] = [];
  for (const [number, join] of (part.joins ?? []).entries()) {
    const blocked = d.openJoins?.[`${part.id}/${number}`] ?? d.openJoins?.[part.id] ?? "";
    const ends = join.contacts.map((c) => at(c, `join ${number + 1}`));
    for (const x of ends) {
      for (const y of ends) {
        if (x !== y)
          edges.push({ from: 2 * x, to: 2 * y + 1, kind: "join", owner: part.id, guard: null, blocked, settleMs: 0 });
      }
    }
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
      ...guardOf(part, route.when, toLayer, `route ${route.id}`, indexOf, d),
      blocked: "",
      set: route.set,
      settleMs: route.settleMs ?? 0,
    });
  }
  for (const port of part.ports) {
    if (!port.inside) continue;
    for (const contact of port.contacts) {
      const i = at(`${port.id}.${contact.id}`, "inside port");
      edges.push({ from: 2 * i + 1, to: 2 * i, kind: "inside", owner: part.id, guard: null, blocked: "", settleMs: 0 });
    }
  }
  return edges;
}

function partSources(part: Part, d: Disturbance, indexOf: ReadonlyMap<string, number>): CompiledSource[] {
  const layers = new Map(partContacts(part).map((c) => [c.ref, c]));
  const make = (id: string, place: string, attributes: Attributes, when: Condition | undefined, settleMs: number) => {
    const to = contactIndex(part, place, `source ${id}`, indexOf);
    const layer = layers.get(`${part.id}.${place}`)?.layer ?? 0;
    return {
      id: `${part.id}/${id}`,
      key: signalKey(`${part.id}/${id}`, attributes),
      part: part.id,
      to: 2 * to + 1,
      attributes,
      ...guardOf(part, when, layer, `source ${id}`, indexOf, d),
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

function guardOf(
  part: Part,
  when: Condition | undefined,
  layer: number,
  place: string,
  indexOf: ReadonlyMap<string, number>,
  d: Disturbance,
): { guard: Guard | null; condition?: Condition } {
  const condition = withNeeds(part, when);
  const dead = d.deadParts?.[part.id];
  if (dead) return { guard: { test: () => false, watches: [], settings: [] }, condition };
  if (!condition) return { guard: null };
  return { guard: compileCondition(condition, part, layer, `${part.id}, ${place}`, indexOf), condition };
}

/** A device does nothing without what it needs: its needs stand in front of every route and source. */
function withNeeds(part: Part, when: Condition | undefined): Condition | undefined {
  const needs: Condition[] = (part.needs ?? []).map((n) => ({ present: n.at, where: n.where }));
  if (when) needs.push(when);
  if (needs.length === 0) return undefined;
  return needs.length === 1 ? needs[0] : { all: needs };
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
  const lists = () => Array.from({ length: nodes }, () => [] as number[]);
  const leaving = lists();
  const entering = lists();
  const edgeWatchers = lists();
  const sourceWatchers = lists();
  const sourcesAt = lists();
  const edgeLayer = new Uint8Array(edges.length);
  const edgesFromEarlier: number[][] = [[], [], []];
  const sourcesByLayer: number[][] = [[], [], []];
  const layerAt = (node: number) => contacts[node >> 1]?.layer ?? 0;
  edges.forEach((edge, i) => {
    leaving[edge.from]?.push(i);
    entering[edge.to]?.push(i);
    const layer = layerAt(edge.to);
    edgeLayer[i] = layer;
    if (layerAt(edge.from) < layer) edgesFromEarlier[layer]?.push(i);
    for (const node of dependsOn(edge.guard)) if (layerAt(node) === layer) edgeWatchers[node]?.push(i);
  });
  sources.forEach((source, i) => {
    const layer = layerAt(source.to);
    sourcesByLayer[layer]?.push(i);
    sourcesAt[source.to]?.push(i);
    for (const node of dependsOn(source.guard)) if (layerAt(node) === layer) sourceWatchers[node]?.push(i);
  });
  return { leaving, entering, edgeWatchers, sourceWatchers, sourcesAt, edgeLayer, edgesFromEarlier, sourcesByLayer };
}
