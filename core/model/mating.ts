import type { Contact, Port } from "./types";

export interface MatingProblem {
  rule: "no-connector" | "family" | "ways" | "gender" | "keying";
  text: string;
}

/** Contacts of a plug that do not sit in their own cavity: in which one instead, or pushed back. */
export type Cavities = Readonly<Record<string, string | null>>;

/**
 * Contacts that touch when two halves are mated: those of one identifier; with the plug turned over, first and last in
 * the order of the profile. Undefined where the far half has none.
 */
export function matedContacts(
  a: Port,
  b: Port,
  reversed: boolean,
  cavities: Cavities = {},
): [Contact, Contact | undefined][] {
  return a.contacts.map((contact, position) => {
    const cavity = cavities[contact.id];
    if (cavity === null) return [contact, undefined];
    if (cavity !== undefined) return [contact, b.contacts.find((c) => c.id === cavity)];
    return [
      contact,
      reversed ? b.contacts[b.contacts.length - 1 - position] : b.contacts.find((c) => c.id === contact.id),
    ];
  });
}

/**
 * Whether two connector halves go together: null when they do, else the first rule that forbids it. Bare ends are joined to
 * whatever wires are there.
 */
export function mates(x: Port, y: Port): MatingProblem | null {
  if (x.joint || y.joint) return null;
  const [a, b] = [x.connector, y.connector];
  if (!a || !b) return { rule: "no-connector", text: "One of the ends has no connector." };
  if (a.family !== b.family) return { rule: "family", text: `${a.family} does not go into ${b.family}.` };
  if (a.ways !== b.ways) return { rule: "ways", text: `${a.ways} ways do not go into ${b.ways} ways.` };
  if (a.gender === b.gender) return { rule: "gender", text: `Both halves are ${a.gender}.` };
  if ((a.keying ?? "") !== (b.keying ?? "")) {
    return { rule: "keying", text: `Keying ${a.keying || "none"} does not go into keying ${b.keying || "none"}.` };
  }
  return null;
}
