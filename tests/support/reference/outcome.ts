import { oneDriverOnly } from "../../../core/model/kinds";
import { describeContact, locate } from "../../../core/model/labels";
import { matches } from "../../../core/model/signal";
import type {
  Action,
  Attributes,
  Disturbance,
  Expectation,
  FunctionSpec,
  Settings,
  Situation,
  System,
} from "../../../core/model/types";
import { type CompiledSystem, compile } from "./compile";
import { compileCondition } from "./condition";
import { type Evaluation, evaluate, type Hop } from "./evaluate";
import { type Break, explainAbsence, explainFailing } from "./explain";

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

export interface Tried {
  outcome: Outcome;
  situation: Situation;
  missed: MissedAction[];
}

/** A model under a disturbance, asked many times. Evaluations are kept by situation and settings. */
export class Model {
  readonly compiled: CompiledSystem;
  private readonly kept = new Map<string, Evaluation>();

  /** @throws {ModelError} when the system cannot be evaluated. */
  constructor(
    readonly system: System,
    disturbance: Disturbance = {},
    private readonly settings: Settings = {},
  ) {
    this.compiled = compile(system, disturbance);
  }

  evaluate(situation: Situation, settings: Settings = this.settings): Evaluation {
    const key = JSON.stringify([situation, settings]);
    let evaluation = this.kept.get(key);
    if (!evaluation) {
      evaluation = evaluate(this.compiled, situation, settings);
      this.kept.set(key, evaluation);
    }
    return evaluation;
  }

  /** Performs the actions of a test and then looks at what the function expects. */
  try(fn: FunctionSpec, situationId: string, settings: Settings = this.settings): Tried {
    const spec = fn.situations.find((s) => s.id === situationId) ?? fn.situations[0];
    const wanted: Situation = { ...this.system.defaultSituation, ...spec?.set };
    const missed: MissedAction[] = [];
    let situation = wanted;
    for (const id of spec?.actions ?? []) {
      const action = this.system.actions.find((a) => a.id === id);
      if (!action) continue;
      const miss = this.miss(action, withdrawn(situation, action, this.system.defaultSituation), settings);
      if (miss) {
        missed.push({ action, break: miss });
        situation = withdrawn(situation, action, this.system.defaultSituation);
      }
    }
    return { outcome: this.outcome(fn, situation, settings, missed), situation, missed };
  }

  /** Null when the action takes effect. */
  private miss(action: Action, before: Situation, settings: Settings): Break | null {
    const holdS = before.heldS > 0 ? before.heldS : action.holdS.min;
    const pressing = this.evaluate({ ...before, pressed: action.press, heldS: holdS }, settings);
    const held = pressing.situation.heldS;
    if (held < action.holdS.min) {
      return {
        ref: "",
        owner: action.part,
        reasons: [`Held for ${held} s; it takes ${action.holdS.min} to ${action.holdS.max} s.`],
      };
    }
    const part = this.compiled.partOf.get(action.part);
    if (!part) return { ref: "", owner: action.part, reasons: [`There is no ${action.part} to receive it.`] };
    const guard = compileCondition(action.when, part, 3, `action ${action.id}`, this.compiled.indexOf);
    if (!guard.test(pressing.context))
      return {
        ref: "",
        owner: part.id,
        reasons: explainFailing(pressing, part, action.when, `${part.name} does not take it.`),
      };
    return this.missingNeed(part.id, pressing);
  }

  private missingNeed(partId: string, evaluation: Evaluation): Break | null {
    const dead = this.compiled.disturbance.deadParts?.[partId];
    if (dead) return { ref: "", owner: partId, reasons: [dead] };
    for (const need of this.compiled.partOf.get(partId)?.needs ?? []) {
      const ref = `${partId}.${need.at}`;
      if (!evaluation.arrivals(ref).some((a) => matches(a.signal.attributes, need.where ?? {})))
        return explainAbsence(evaluation, ref, need.where);
    }
    return null;
  }

  /** True when everything the part needs arrives and it is not dead: its lamp would be lit. */
  alive(partId: string, situation: Situation = this.system.defaultSituation): boolean {
    return this.missingNeed(partId, this.evaluate(situation)) === null;
  }

  private outcome(fn: FunctionSpec, situation: Situation, settings: Settings, missed: MissedAction[]): Outcome {
    const evaluation = this.evaluate(situation, settings);
    let slowest: Outcome & { kind: "ok" } = { kind: "ok", afterMs: 0, hops: [] };
    for (const expectation of fn.observe) {
      const one = observe(evaluation, expectation, fn.withinMs, missed);
      if (one.kind !== "ok") return one;
      if (one.afterMs >= slowest.afterMs) slowest = one;
    }
    return slowest;
  }
}

/** The situation as it stays when an action had no effect: the fields it would set keep their usual values. */
function withdrawn(situation: Situation, action: Action, usual: Situation): Situation {
  const back = Object.fromEntries(Object.keys(action.set).map((f) => [f, usual[f as keyof Situation]]));
  return { ...situation, ...back };
}

function observe(
  evaluation: Evaluation,
  expectation: Expectation,
  withinMs: number | undefined,
  missed: MissedAction[],
): Outcome {
  const { system } = evaluation.compiled;
  const where = resolveFacts(system, expectation.where);
  const { contact } = locate(system, expectation.at);
  const arrivals = evaluation.arrivals(expectation.at);
  const blame = missed.flatMap((m) => [`“${m.action.say}” had no effect.`, ...m.break.reasons]);
  const wanted = arrivals.filter((a) => matches(a.signal.attributes, where));
  if (contact && oneDriverOnly(contact.kind)) {
    const drivers = [...new Set(arrivals.map((a) => a.signal.origin))];
    if (drivers.length > 1) {
      return {
        kind: "doubled",
        drivers,
        reasons: [`${drivers.length} senders reach ${describeContact(system, expectation.at)}.`, ...blame],
      };
    }
    const other = arrivals[0];
    if (wanted.length === 0 && other) {
      const attribute = Object.keys(where).find((n) => other.signal.attributes[n] !== where[n]) ?? "";
      return {
        kind: "wrong",
        attribute,
        expected: where[attribute] ?? "",
        got: other.signal.attributes[attribute] ?? "none",
        reasons: blame.length > 0 ? blame : explainAbsence(evaluation, expectation.at, where).reasons,
      };
    }
  }
  if (wanted.length === 0) {
    const found = explainAbsence(evaluation, expectation.at, where);
    return { kind: "absent", break: { ...found, reasons: [...blame, ...found.reasons] } };
  }
  const afterMs = Math.min(...wanted.map((a) => a.afterMs));
  const hops = evaluation.hops(expectation.at, (s) => matches(s.attributes, where));
  if (withinMs !== undefined && afterMs > withinMs) return { kind: "late", afterMs, withinMs, hops };
  return { kind: "ok", afterMs, hops };
}

/** Replaces `{ fact: "part.name" }` by the part's fact. */
function resolveFacts(system: System, where: Expectation["where"]): Attributes {
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
