/** What another answer in a leaflet changes in the kit that is built from it. */
import { describePort } from "../model/labels";
import type { KitProfile } from "../model/profile";
import type { System } from "../model/types";

/** What a person counts of a kit, by name. */
export interface KitFacts {
  parts: readonly string[];
  plugs: readonly string[];
  settings: readonly string[];
  choices: readonly string[];
  functions: readonly string[];
}

const WORDS: Readonly<Record<keyof KitFacts, readonly [one: string, more: string]>> = {
  parts: ["part", "parts"],
  plugs: ["plug", "plugs"],
  settings: ["setting", "settings"],
  choices: ["choice", "choices"],
  functions: ["function", "functions"],
};
const KINDS = Object.keys(WORDS) as (keyof KitFacts)[];

export function factsOf(kit: KitProfile): KitFacts {
  const own: Pick<System, "parts"> = { parts: kit.parts };
  const port = (ref: string) =>
    kit.parts.some((p) => ref.startsWith(`${p.id}.`)) ? describePort(own as System, ref) : ref;
  return {
    parts: kit.parts.map((p) => p.name),
    plugs: kit.plug.filter((l) => !l.air).map((l) => port(l.a)),
    settings: kit.parts.flatMap((p) => (p.settings ?? []).map((s) => `${p.name}, ${s.label}`)),
    choices: kit.choices.map((c) => c.label),
    functions: kit.functions.map((f) => f.name),
  };
}

/** Few are named, more are counted. */
const NAMED = 2;

/** “One more part: Front camera. 2 plugs fewer.” Empty when nothing that is counted has changed. */
export function whatFollows(before: KitFacts, after: KitFacts): string {
  return KINDS.flatMap((kind) => [
    told(kind, without(after[kind], before[kind]), "more"),
    told(kind, without(before[kind], after[kind]), "fewer"),
  ])
    .filter((s) => s !== "")
    .join(" ");
}

function told(kind: keyof KitFacts, names: readonly string[], word: "more" | "fewer"): string {
  if (names.length === 0) return "";
  const [one, more] = WORDS[kind];
  const count =
    names.length === 1
      ? word === "more"
        ? `One more ${one}`
        : `One ${one} fewer`
      : word === "more"
        ? `${names.length} more ${more}`
        : `${names.length} ${more} fewer`;
  return names.length <= NAMED ? `${count}: ${names.join("; ")}.` : `${count}.`;
}

/** Members of one list that the other does not have, as often as they stand there more. */
function without(list: readonly string[], other: readonly string[]): string[] {
  const left = [...other];
  return list.filter((name) => {
    const at = left.indexOf(name);
    if (at < 0) return true;
    left.splice(at, 1);
    return false;
  });
}

/** Where two documents differ, as a path with dots, a list of plain values as one; null when they do not. */
export function changedPath(before: unknown, after: unknown): string | null {
  if (!hasFields(before) || !hasFields(after)) return JSON.stringify(before) === JSON.stringify(after) ? null : "";
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const deeper = changedPath(before[key], after[key]);
    if (deeper !== null) return deeper === "" ? key : `${key}.${deeper}`;
  }
  return null;
}

function hasFields(value: unknown): value is Record<string, unknown> {
  if (Array.isArray(value)) return value.some(hasFields);
  return typeof value === "object" && value !== null;
}
