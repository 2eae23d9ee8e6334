/** The face of a plug: where its cavities are, as one looks at it. */
import { KIND_TAGS, layerOf } from "../model/kinds";
import { contactWords, stampOf } from "../model/labels";
import type { Contact, LockKind, Port } from "../model/types";

/** From where one looks: at the side that mates, or at the side where the wires go in. One is the other's mirror. */
export type FaceSide = "mating" | "wires";

export interface Cavity {
  /** Of the contact, or the number of an empty cavity. */
  id: string;
  /** What is stamped at it; empty where the document has only a name of its own for it. */
  stamp: string;
  row: number;
  column: number;
  contact: Contact | null;
  /** Short letters of the kind of signal; empty for an empty cavity. */
  tag: string;
  layer: number;
}

export interface Face {
  rows: number;
  columns: number;
  cavities: Cavity[];
  side: FaceSide;
  /** The cavities are numbered by the profile or, where it says nothing, row by row. */
  gender: "male" | "female";
}

/**
 * The face of a port's connector; null for places without one.
 *
 * Numbered contacts sit in their cavity, row by row from the upper left as seen from the mating side of the female half;
 * a male half is its mirror, and so is the side of the wires. Contacts with letters follow in the cavities left over.
 */
export function faceOf(port: Port, side: FaceSide): Face | null {
  const { connector } = port;
  if (!connector) return null;
  const ways = Math.max(connector.ways, port.contacts.length);
  const rows = connector.rows ?? usualRows(ways);
  const columns = Math.ceil(ways / rows);
  const placed = arrange(port.contacts, ways);
  const mirrored = (connector.gender === "male") !== (side === "wires");
  const cavities = placed.map((contact, i): Cavity => {
    const column = i % columns;
    return {
      id: contact?.id ?? `${i + 1}`,
      stamp: contact ? stampOf(contact) : `${i + 1}`,
      row: Math.floor(i / columns),
      column: mirrored ? columns - 1 - column : column,
      contact,
      tag: contact ? KIND_TAGS[contact.kind] : "",
      layer: contact ? layerOf(contact.kind) : -1,
    };
  });
  return { rows, columns, cavities, side, gender: connector.gender };
}

/** A contact as a list says it. */
export interface ContactRow extends Pick<Cavity, "id" | "stamp" | "tag"> {
  /** What it is for. */
  words: string;
  /** Where it goes or comes from, of a contact that changes its cavity. */
  move?: string;
  wire?: Contact["wire"];
}

/**
 * The contacts of a port in the order of their cavities; none for places without a connector.
 *
 * @param moves contacts that change their cavity, by cavity
 */
export function contactRows(port: Port, moves: Readonly<Record<string, string>> = {}): ContactRow[] {
  const cavities = faceOf(port, "mating")?.cavities ?? [];
  return cavities.flatMap(({ contact, id, stamp, tag }) => {
    if (!contact) return [];
    return [{ id, stamp, tag, words: contactWords(contact), move: moves[id], wire: contact.wire }];
  });
}

/** How each lock opens, common practice. */
export const LOCK_OPENS: Readonly<Record<LockKind, string>> = {
  tongue: "press the tongue, pull at the housing",
  lever: "swing the lever up, the plug lifts itself out",
  slide: "pull the slide out, then press and pull",
  screw: "unscrew by hand",
  none: "no lock, pull straight",
};

/** One row up to four ways, two up to twenty-four, then more; the shape most plugs of a dash have, common practice. */
function usualRows(ways: number): number {
  if (ways <= 4) return 1;
  return ways <= 24 ? 2 : Math.ceil(ways / 18) + 1;
}

function arrange(contacts: readonly Contact[], ways: number): (Contact | null)[] {
  const cavities: (Contact | null)[] = Array.from({ length: ways }, () => null);
  const lettered: Contact[] = [];
  for (const c of contacts) {
    const n = /^\d+$/.test(c.id) ? Number(c.id) : 0;
    if (n >= 1 && n <= ways && cavities[n - 1] === null) cavities[n - 1] = c;
    else lettered.push(c);
  }
  for (const c of lettered) cavities[cavities.indexOf(null)] = c;
  return cavities;
}
