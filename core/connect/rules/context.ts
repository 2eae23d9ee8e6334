import { kitPartIds } from "../../model/compose";
import type { Evaluation } from "../../model/evaluate";
import type { SignalKind } from "../../model/kinds";
import { matedContacts } from "../../model/mating";
import { Model } from "../../model/outcome";
import { findPort } from "../../model/ports";
import type { Link, System } from "../../model/types";
import type { CheckInput } from "./finding";

/** A contact on a conductor. */
export interface NetContact {
  ref: string;
  part: string;
  kind: SignalKind;
  direction: "in" | "out" | "wire";
}

/** The input of a check with what several rules need, computed once. */
export interface CheckContext extends CheckInput {
  /** Connections that are plugged now. */
  plugged: Link[];
  kitParts: ReadonlySet<string>;
  /** Contacts that a conductor joins, for every conductor with more than one. */
  nets: NetContact[][];
  model: Model;
  /**
   * With the key on, in reverse, and just after it. Switched feeds are live in one of them: what is missing in all of
   * them is not wired.
   */
  evaluations: Evaluation[];
}

export function prepare(input: CheckInput): CheckContext {
  const { system, open } = input;
  const notPlugged = open.openLinks ?? {};
  const plugged = system.links.filter((l) => !(l.id in notPlugged));
  const model = new Model(system, open, input.settings);
  const situations = [
    system.defaultSituation,
    { ...system.defaultSituation, selector: "R" as const },
    { ...system.defaultSituation, selector: "D" as const, leftReverse: true },
  ];
  return {
    ...input,
    plugged,
    kitParts: kitPartIds(input.kit),
    nets: conductors(system, plugged),
    model,
    evaluations: situations.map((s) => model.evaluate(s)),
  };
}

/** Groups contacts that a conductor joins (links and straight-through joins), by union of sets. */
export function conductors(system: System, links: readonly Link[]): NetContact[][] {
  const parent = new Map<string, string>();
  const find = (x: string): string => {
    let root = x;
    while (parent.get(root) !== undefined && parent.get(root) !== root) root = parent.get(root) as string;
    parent.set(x, root);
    return root;
  };
  const unite = (x: string, y: string) => parent.set(find(x), find(y));
  const contacts = new Map<string, NetContact>();
  for (const part of system.parts) {
    for (const port of part.ports)
      for (const { id, kind, direction } of port.contacts) {
        const ref = `${part.id}.${port.id}.${id}`;
        contacts.set(ref, { ref, part: part.id, kind, direction });
      }
    for (const join of part.joins ?? []) {
      const [first, ...rest] = join.contacts.map((x) => `${part.id}.${x}`);
      for (const other of rest) unite(other, first as string);
    }
  }
  for (const link of links) {
    const [a, b] = [findPort(system, link.a), findPort(system, link.b)];
    if (!a || !b) continue;
    for (const [x, y] of matedContacts(a, b, link.reversed ?? false))
      if (y) unite(`${link.a}.${x.id}`, `${link.b}.${y.id}`);
  }
  const nets = new Map<string, NetContact[]>();
  for (const contact of contacts.values()) {
    const root = find(contact.ref);
    const net = nets.get(root);
    if (net) net.push(contact);
    else nets.set(root, [contact]);
  }
  return [...nets.values()].filter((net) => net.length > 1);
}
