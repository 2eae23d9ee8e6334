/** A candidate of the hunt as a signal that can be named and kept. */

import type { Candidate } from "./candidates";
import type { FoundSignal } from "./found";

/** A name that a bus description can hold: letters, digits and underscores, not beginning with a digit. */
export function signalName(words: string): string {
  const parts = words
    .normalize("NFKD")
    .replace(/[^\w\s-]/g, "")
    .split(/[\s_-]+/)
    .filter((p) => p !== "");
  const name = parts.map((p) => p[0]?.toUpperCase() + p.slice(1)).join("");
  return /^[A-Za-z_]/.test(name) ? name : `S${name}`;
}

/** Everything of a found signal but its names and where it was found. */
export type Finding = Omit<FoundSignal, "signal" | "message" | "file" | "thing">;

export function findingOf(c: Candidate, unit = ""): Finding {
  const { id, extended, bytes, page } = c.stream;
  const place = { id, extended, bytes, startBit: c.startBit, length: c.length };
  const plain = { littleEndian: true, signed: false, factor: 1, offset: 0, unit: "", values: [] as [number, string][] };
  const on = { page: page && { ...page.selector, value: page.value } };
  if (c.kind === "state") return { ...place, ...plain, ...on, values: namesOf(c.codes) };
  if (c.kind === "press") return { ...place, ...plain, ...on };
  const { littleEndian, signed, factor, offset } = c;
  return { ...place, ...plain, ...on, littleEndian, signed, factor, offset, unit };
}

/** The first thing that stands for a code names it. */
function namesOf(codes: ReadonlyMap<string, number>): [number, string][] {
  const names = new Map<number, string>();
  for (const [label, code] of codes) if (!names.has(code)) names.set(code, label);
  return [...names].sort(([a], [b]) => a - b);
}
