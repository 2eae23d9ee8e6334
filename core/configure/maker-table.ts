/** The switch table of a kit's maker, as it is pasted, against what the model finds. */
import type { SwitchBank } from "../model/profile";
import type { SwitchSolution } from "./switches";

export interface TableRow {
  /** 1-based place in the bank. */
  number: number;
  /** What the table says; null where it says nothing. */
  table: "on" | "off" | null;
  /** What the model finds; null while that is not known. */
  model: "on" | "off" | null;
  verdict: "agrees" | "contradicts" | "gap" | "free" | "unknown";
  /** Functions that fail when the table is followed here. */
  breaks: string[];
}

export interface ReadTable {
  rows: TableRow[];
  /** Words that could not be read, as they stand; and numbers that the bank does not have. */
  unread: string[];
}

const ON = /^(?:on|1|up|↑)$/i;
const OFF = /^(?:off|0|down|↓)$/i;

/**
 * Reads a row of a table in the ways in which leaflets print it, and holds it against the solution: `1 on, 2 off`,
 * `SW1=ON SW2=OFF`, or the bare row `ON OFF ON ON`. Switches that are named twice differently count as not read.
 *
 * @example readMakerTable("1: ON  2: OFF", bank, solution).rows[0].table // "on"
 */
export function readMakerTable(text: string, bank: SwitchBank, solution: SwitchSolution): ReadTable {
  const { said, unread } = valuesOf(text, bank.switches.length);
  const asWord = (value: string | null) =>
    value === null ? null : value === bank.on ? ("on" as const) : ("off" as const);
  const rows = solution.switches.map((s): TableRow => {
    const table = said.get(s.number) ?? null;
    const model = asWord(s.value);
    const differs = table !== null && model !== null && table !== model;
    const verdict =
      model === null ? "unknown" : table === null ? "gap" : !differs ? "agrees" : s.free ? "free" : "contradicts";
    return { number: s.number, table, model, verdict, breaks: differs ? s.breaks : [] };
  });
  return { rows, unread };
}

function valuesOf(text: string, switches: number): { said: Map<number, "on" | "off">; unread: string[] } {
  const words = text.match(/[\p{L}\p{N}↑↓]+/gu) ?? [];
  const bare = words.every((w) => ON.test(w) || OFF.test(w)) && words.length === switches;
  if (bare) return { said: new Map(words.map((w, i) => [i + 1, ON.test(w) ? "on" : "off"])), unread: [] };
  const said = new Map<number, "on" | "off">();
  const unread: string[] = [];
  const doubtful = new Set<number>();
  let open: number | null = null;
  for (const word of words) {
    const number = /^(?:sw|s|switch|dip)?(\d{1,2})$/i.exec(word)?.[1];
    const value = open !== null && (ON.test(word) || OFF.test(word)) ? (ON.test(word) ? "on" : "off") : null;
    if (open !== null && value) {
      if (open < 1 || open > switches) unread.push(`${open} ${word}`);
      else if (said.has(open) && said.get(open) !== value) doubtful.add(open);
      else said.set(open, value);
      open = null;
    } else if (number !== undefined) {
      if (open !== null) unread.push(String(open));
      open = Number(number);
    } else if (!/^(?:sw|switch|dip|switches)$/i.test(word)) unread.push(word);
  }
  if (open !== null) unread.push(String(open));
  for (const n of doubtful) {
    said.delete(n);
    unread.push(`${n} (on and off)`);
  }
  return { said, unread };
}
