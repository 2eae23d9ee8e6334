/** What is seen where a function is noticed, with and without the reasons. */
import type { Arrival, Evaluation, Hop } from "./evaluate";
import { type Break, explainAbsence } from "./explain";
import { oneDriverOnly } from "./kinds";
import { describeContact } from "./labels";
import { oncePer } from "./once";
import { matches } from "./signal";
import type { Action, Attributes, Expectation, System } from "./types";

/** What a person would find when trying a function once. */
export type Outcome =
  | { kind: "ok"; afterMs: number; hops: Hop[] }
  | { kind: "absent"; break: Break }
  | { kind: "wrong"; attribute: string; expected: string; got: string; reasons: string[] }
  | { kind: "doubled"; drivers: string[]; reasons: string[] }
  | { kind: "late"; afterMs: number; withinMs: number; hops: Hop[] };

export type OutcomeKind = Outcome["kind"];

/** An action that had no effect, and why. */
export interface MissedAction {
  action: Action;
  break: Break;
}

/** What is seen, without the reasons. */
export type Verdict =
  | { kind: "ok"; readonly afterMs: number }
  | { kind: "late"; readonly afterMs: number }
  | { kind: "absent" }
  | { kind: "wrong"; attribute: string; got: string }
  | { kind: "doubled"; drivers: string[] };

export function verdict(evaluation: Evaluation, expectation: Expectation, withinMs: number | undefined): Verdict {
  const { compiled } = evaluation;
  const where = attributesOf(compiled.system, expectation);
  const index = compiled.indexOf.get(expectation.at);
  if (index === undefined) return { kind: "absent" };
  const arrivals = evaluation.arrivalsAt(2 * index);
  const wanted = arrivals.filter((a) => matches(a.signal.attributes, where));
  const contact = compiled.contacts[index]?.contact;
  if (contact && oneDriverOnly(contact.kind)) {
    const drivers = arrivals.length > 1 ? [...new Set(arrivals.map((a) => a.signal.origin))] : [];
    if (drivers.length > 1) return { kind: "doubled", drivers };
    const other = arrivals[0];
    if (wanted.length === 0 && other) {
      const attribute = Object.keys(where).find((n) => other.signal.attributes[n] !== where[n]) ?? "";
      return { kind: "wrong", attribute, got: other.signal.attributes[attribute] ?? "none" };
    }
  }
  if (wanted.length === 0) return { kind: "absent" };
  return new Arriving(wanted, withinMs);
}

/** What arrives, in time or late. The time is worked out when it is asked for. */
class Arriving {
  readonly kind: "ok" | "late";

  constructor(
    private readonly wanted: readonly Arrival[],
    withinMs: number | undefined,
  ) {
    this.kind = withinMs !== undefined && this.afterMs > withinMs ? "late" : "ok";
  }

  get afterMs(): number {
    return Math.min(...this.wanted.map((a) => a.afterMs));
  }
}

/** What is seen at one contact, with the reasons. */
export function observe(
  evaluation: Evaluation,
  expectation: Expectation,
  withinMs: number | undefined,
  missed: MissedAction[],
): Outcome {
  const { system } = evaluation.compiled;
  const seen = verdict(evaluation, expectation, withinMs);
  const where = resolveFacts(system, expectation.where);
  const blame = missed.flatMap((m) => [`“${m.action.say}” had no effect.`, ...m.break.reasons]);
  switch (seen.kind) {
    case "doubled": {
      const said = `${seen.drivers.length} senders reach ${describeContact(system, expectation.at)}.`;
      return { kind: "doubled", drivers: seen.drivers, reasons: [said, ...blame] };
    }
    case "wrong": {
      const reasons = blame.length > 0 ? blame : explainAbsence(evaluation, expectation.at, where).reasons;
      const { attribute, got } = seen;
      return { kind: "wrong", attribute, expected: where[attribute] ?? "", got, reasons };
    }
    case "absent": {
      const found = explainAbsence(evaluation, expectation.at, where);
      return { kind: "absent", break: { ...found, reasons: [...blame, ...found.reasons] } };
    }
    default: {
      const hops = evaluation.hops(expectation.at, (s) => matches(s.attributes, where));
      const { afterMs } = seen;
      if (seen.kind === "late" && withinMs !== undefined) return { kind: "late", afterMs, withinMs, hops };
      return { kind: "ok", afterMs, hops };
    }
  }
}

const asksFacts = oncePer(({ where }: Expectation) => Object.values(where).some((v) => typeof v !== "string"));
const factsIn = oncePer((system: System) => oncePer(({ where }: Expectation) => resolveFacts(system, where)));

/** What is expected, with the facts of the system. */
function attributesOf(system: System, expectation: Expectation): Attributes {
  return asksFacts(expectation) ? factsIn(system)(expectation) : (expectation.where as Attributes);
}

/** Replaces `{ fact: "part.name" }` by the part's fact. */
export function resolveFacts(system: System, where: Expectation["where"]): Attributes {
  const resolved: Record<string, string> = {};
  for (const [name, value] of Object.entries(where)) {
    if (typeof value === "string") {
      resolved[name] = value;
      continue;
    }
    const [partId, fact] = value.fact.split(".");
    resolved[name] = system.parts.find((p) => p.id === partId)?.facts?.[fact ?? ""] ?? `unknown ${value.fact}`;
  }
  return resolved;
}

/** What is seen, as one word and the detail that diagnosis compares. */
export function outcomeKey(outcome: Outcome | Verdict): string {
  return outcome.kind === "wrong" ? `wrong:${outcome.attribute}` : outcome.kind;
}
