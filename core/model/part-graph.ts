/** What a part brings to the graph of every system it stands in. Parts are documents and never change: made once. */
import { busPair, compileCondition, type PartGuard } from "./condition";
import { ModelError } from "./errors";
import { layerOf } from "./kinds";
import { oncePer } from "./once";
import { signalKey } from "./signal";
import type { Attributes, Condition, Contact, ContactRef, Part, Port } from "./types";

export interface CompiledContact {
  ref: ContactRef;
  part: Part;
  port: Port;
  contact: Contact;
  layer: number;
}

/** What a step is, in whichever system it stands. */
export interface Step {
  kind: "link" | "join" | "route" | "inside";
  /** Part or link that makes the step. */
  owner: string;
  /** Number of the join in its part; -1 for other steps. */
  join: number;
  /** What it changes of the signals it passes on. */
  set: Attributes | null;
  settleMs: number;
}

/** A step inside a part; nodes are counted from the first of the part, -1 is no guard. */
interface PartEdge {
  from: number;
  to: number;
  guard: number;
  step: Step;
}

interface PartSource {
  id: string;
  part: string;
  to: number;
  attributes: Attributes;
  /** Identity of its signal. */
  key: string;
  guard: number;
  settleMs: number;
}

/** A port of a part with the nodes of its contacts, counted from the first of the part. */
export interface PlacedPort {
  part: string;
  port: Port;
  nodes: ReadonlyMap<string, number>;
}

export interface PartGraph {
  id: string;
  part: Part;
  /** By `part.port`. */
  ports: readonly (readonly [string, PlacedPort])[];
  /** Values of the settings as the part comes out of its box, by `part.setting`. */
  initials: readonly (readonly [string, string])[];
  contacts: readonly CompiledContact[];
  /** Numbers of the contacts, by `port.contact`. */
  indexOf: ReadonlyMap<string, number>;
  edges: readonly PartEdge[];
  sources: readonly PartSource[];
  /** Conditions in front of steps and sources; equal ones are one. */
  guards: readonly PartGuard[];
}

/**
 * The steps, sources and conditions of a part.
 *
 * @throws {ModelError} for references to nothing, a route back to an earlier layer, conditions on a later layer or
 * negated conditions on their own layer
 */
export const partGraph = oncePer((part: Part): PartGraph => new Builder(part).build());

class Builder {
  private readonly contacts: readonly CompiledContact[];
  private readonly indexOf: ReadonlyMap<string, number>;
  private readonly guards: PartGuard[] = [];
  private readonly equal = new Map<string, number>();

  constructor(private readonly part: Part) {
    this.contacts = contactsOf(part);
    this.indexOf = new Map(this.contacts.map((c, i) => [`${c.port.id}.${c.contact.id}`, i]));
  }

  build(): PartGraph {
    const edges = [...this.joins(), ...this.routes(), ...this.insides()];
    const sources = this.sources();
    const { contacts, indexOf, guards, part } = this;
    const initials = (part.settings ?? []).map((s) => [`${part.id}.${s.id}`, s.initial] as const);
    return { id: part.id, part, ports: this.ports(), initials, contacts, indexOf, edges, sources, guards };
  }

  private ports(): PartGraph["ports"] {
    const { id, ports } = this.part;
    const nodes = new Map<string, Map<string, number>>(ports.map((p) => [p.id, new Map()]));
    for (const [i, { port, contact }] of this.contacts.entries()) nodes.get(port.id)?.set(contact.id, 2 * i);
    return ports.map((port) => [`${id}.${port.id}`, { part: id, port, nodes: nodes.get(port.id) ?? new Map() }]);
  }

  private joins(): PartEdge[] {
    return (this.part.joins ?? []).flatMap(({ contacts }, join) => {
      const ends = contacts.map((c) => this.at(c, `join ${join + 1}`));
      return ends.flatMap((x) =>
        ends.flatMap((y) =>
          x === y ? [] : [{ from: 2 * x, to: 2 * y + 1, guard: -1, step: this.free("join", join) }],
        ),
      );
    });
  }

  private routes(): PartEdge[] {
    return (this.part.routes ?? []).map((route) => {
      const where = `route ${route.id}`;
      const from = this.at(route.from, where);
      const to = this.at(route.to, where);
      const layer = this.layer(to);
      if (this.layer(from) > layer) {
        throw new ModelError(
          `${this.part.id}, ${where}`,
          `it leads from ${route.from} back to the earlier layer of ${route.to}.`,
          "A later layer may not feed an earlier one.",
        );
      }
      return {
        from: 2 * from,
        to: 2 * to + 1,
        guard: this.guard(route.when, layer, where),
        step: { ...this.free("route", -1), set: route.set ?? null, settleMs: route.settleMs ?? 0 },
      };
    });
  }

  private insides(): PartEdge[] {
    return this.contacts.flatMap((c, i) =>
      c.port.inside ? [{ from: 2 * i + 1, to: 2 * i, guard: -1, step: this.free("inside", -1) }] : [],
    );
  }

  private sources(): PartSource[] {
    const { part } = this;
    const make = (id: string, at: string, attributes: Attributes, when: Condition | undefined, settleMs: number) => {
      const to = this.at(at, `source ${id}`);
      const guard = this.guard(when, this.layer(to), `source ${id}`);
      const name = `${part.id}/${id}`;
      const key = signalKey(name, attributes);
      return { id: name, part: part.id, to: 2 * to + 1, attributes, key, guard, settleMs };
    };
    const plain = (part.sources ?? []).flatMap((s) =>
      s.at.map((contact) => make(s.id, contact, s.attributes ?? {}, s.when, s.settleMs ?? 0)),
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
  private guard(when: Condition | undefined, layer: number, where: string): number {
    const needs: Condition[] = (this.part.needs ?? []).map((n) => ({ present: n.at, where: n.where }));
    if (when) needs.push(when);
    const [only] = needs;
    if (!only) return -1;
    const condition = needs.length === 1 ? only : { all: needs };
    const key = `${layer} ${JSON.stringify(condition)}`;
    const known = this.equal.get(key);
    if (known !== undefined) return known;
    const guard = compileCondition(condition, this.part, layer, `${this.part.id}, ${where}`, this.indexOf);
    const number = this.guards.push(guard) - 1;
    this.equal.set(key, number);
    return number;
  }

  private free(kind: Step["kind"], join: number): Step {
    return { kind, owner: this.part.id, join, set: null, settleMs: 0 };
  }

  private layer(contact: number): number {
    return this.contacts[contact]?.layer ?? 0;
  }

  private at(contact: string, where: string): number {
    const index = this.indexOf.get(contact);
    if (index === undefined) {
      throw new ModelError(
        `${this.part.id}, ${where}`,
        `there is no contact ${contact}.`,
        "Name a contact of this part as port.contact.",
      );
    }
    return index;
  }
}

/** Contacts in an order that does not depend on the data. */
function contactsOf(part: Part): CompiledContact[] {
  const contacts = part.ports.flatMap((port) =>
    port.contacts.map((contact) => ({
      ref: `${part.id}.${port.id}.${contact.id}`,
      part,
      port,
      contact,
      layer: layerOf(contact.kind),
    })),
  );
  contacts.sort((x, y) => (x.ref < y.ref ? -1 : x.ref > y.ref ? 1 : 0));
  for (let i = 1; i < contacts.length; i++) {
    if (contacts[i]?.ref === contacts[i - 1]?.ref)
      throw new ModelError(
        contacts[i]?.ref ?? "",
        "the contact is listed twice.",
        "Give each contact its own identifier.",
      );
  }
  return contacts;
}
