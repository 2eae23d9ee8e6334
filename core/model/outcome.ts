import { type CompiledSystem, compile } from "./compile";
import { compileCondition, type Guard, guardAt, holds } from "./condition";
import { mergeDisturbances } from "./disturbance";
import { type Evaluation, evaluate, type Hop, settingReader } from "./evaluate";
import { type Break, explainAbsence, explainFailing } from "./explain";
import type { Graph } from "./graph";
import { oneDriverOnly } from "./kinds";
import { describeContact } from "./labels";
import { partGraph } from "./part-graph";
import { type Looked, type Sense, type Sight, senseOf, sightKey, sightOf } from "./sight";
import { matches, patternOf } from "./signal";
import type {
  Action,
  Attributes,
  Disturbance,
  Expectation,
  FunctionSpec,
  Need,
  Part,
  Settings,
  Situation,
  System,
} from "./types";

/** Actions are looked at when everything else is known: their conditions may see, and deny, every layer. */
const AFTER_ALL_LAYERS = 3;

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

/**
 * A model under a disturbance, asked many times. Evaluations are kept by situation and settings.
 *
 * `try` says what is seen and why; `sight` says only what a person sees, as one word of `sightKey`, and a model made by
 * `under` takes over from the one it was made of whatever the further disturbance cannot have changed.
 */
export class Model {
  readonly compiled: CompiledSystem;
  private readonly evaluations = new Map<string, Evaluation>();
  /** By situation. */
  private readonly glances = new Map<string, Evaluation[]>();
  private readonly conditions = new Map<string, Guard>();
  private readonly sights = new Map<string, string>();
  private readonly nodesOf = new Map<string, readonly number[]>();

  /** @throws {ModelError} when the system cannot be evaluated. */
  constructor(
    readonly system: System,
    disturbance: Disturbance = {},
    private readonly settings: Settings = {},
    private readonly base: Model | null = null,
    /** What the base does not have. */
    private readonly further: CompiledSystem | null = null,
  ) {
    this.compiled = compile(system, disturbance);
  }

  /** The same system with something more wrong. */
  under(disturbance: Disturbance): Model {
    const all = mergeDisturbances([this.compiled.disturbance, disturbance]);
    return new Model(this.system, all, this.settings, this, compile(this.system, disturbance));
  }

  evaluate(situation: Situation, settings: Settings = this.settings): Evaluation {
    const key = `${situationKey(situation)} ${JSON.stringify(settings)}`;
    let evaluation = this.evaluations.get(key);
    if (!evaluation) {
      evaluation = evaluate(this.compiled, situation, settings);
      this.evaluations.set(key, evaluation);
    }
    return evaluation;
  }

  /**
   * The signals of a situation; perhaps those of other settings or of the base, whose explanations would be others.
   *
   * @param key of the situation
   */
  private glance(situation: Situation, settings: Settings = this.settings, key = situationKey(situation)): Evaluation {
    const seen = this.glances.get(key) ?? [];
    const read = settingReader(this.compiled, settings);
    const known = seen.find((e) => e.isSameWith(read));
    if (known) return known;
    if (seen.length === 0) this.glances.set(key, seen);
    const before = this.base?.glance(situation, settings, key);
    const evaluation = before?.isSameUnder(this.compiled) ? before : evaluate(this.compiled, situation, settings);
    seen.push(evaluation);
    return evaluation;
  }

  /**
   * Performs the actions of a test and then looks at what the function expects.
   *
   * @param settings as they stand, or as they are in a situation
   */
  try(
    fn: FunctionSpec,
    situationId: string,
    settings: Settings | ((situation: Situation) => Settings) = this.settings,
  ): Tried {
    const at = typeof settings === "function" ? settings : () => settings;
    const missed: MissedAction[] = [];
    const situation = this.perform(fn, situationId, (action, before) => {
      const pressed = pressing(action, before);
      const miss = this.miss(action, this.evaluate(pressed, at(pressed)), at(pressed));
      if (miss) missed.push({ action, break: miss });
      return miss === null;
    });
    return { outcome: this.outcome(fn, situation, at(situation), missed), situation, missed };
  }

  /** What a person sees of a function, as one word and the detail that diagnosis compares. */
  sight(fn: FunctionSpec, situationId: string): string {
    const name = `${fn.id}/${situationId}`;
    const known = this.sights.get(name);
    if (known !== undefined) return known;
    const sight =
      this.base && !this.concerns(fn, situationId)
        ? this.base.sight(fn, situationId)
        : sightKey(this.sightOf(fn, situationId));
    this.sights.set(name, sight);
    return sight;
  }

  /** What a person sees of a function. */
  sightOf(
    fn: FunctionSpec,
    situationId: string,
    settings: Settings | ((situation: Situation) => Settings) = this.settings,
  ): Sight {
    const { evaluation, verdicts } = this.look(fn, situationId, settings);
    const looked = verdicts.map((verdict, i): Looked => ({ at: fn.observe[i]?.at ?? "", verdict }));
    return sightOf(this.senseOf(fn), looked, () => this.playsItself(fn, evaluation));
  }

  /** By which sense a function is noticed: that of the first place at which somebody looks. */
  senseOf({ observe: [first] }: FunctionSpec): Sense {
    return senseOf(this.compiled.contacts[this.compiled.indexOf.get(first?.at ?? "") ?? -1]?.contact.kind);
  }

  /** A phone whose sound no part of the car gives on plays by itself. */
  private playsItself(fn: FunctionSpec, evaluation: Evaluation): boolean {
    return isOfPhone(fn) && evaluation.situation.phone !== "none" && this.givenOn(fn, evaluation).length === 0;
  }

  /** Nodes at which a part gives on what a function wants to hear from the phone. */
  private givenOn(fn: FunctionSpec, evaluation: Evaluation): number[] {
    if (!isOfPhone(fn)) return [];
    const pattern = patternOf(PHONE_SOUND);
    return this.compiled.contacts.flatMap(({ part }, i) => {
      const node = 2 * i + 1;
      return part.type === "device" && part.id !== "phone" && evaluation.context.arrives(node, pattern) ? [node] : [];
    });
  }

  /** False when nothing that a test looks at can be different from the base. */
  private concerns(fn: FunctionSpec, situationId: string): boolean {
    // Where plugs sit elsewhere already, what is new spreads on other ways than in the system as planned.
    const change = this.further && this.base?.compiled.extra.length === 0 ? this.further : this.compiled;
    const { assumed, deadParts } = change.disturbance;
    if (assumed?.length) return true;
    const spec = fn.situations.find((s) => s.id === situationId);
    if (deadParts && this.system.actions.some((a) => spec?.actions?.includes(a.id) && deadParts[a.part])) return true;
    const given = this.base ? this.base.givenOn(fn, this.base.look(fn, situationId).evaluation) : [];
    return [...this.looksAt(fn, situationId), ...given].some((node) => change.touched[node]);
  }

  /** Nodes that a test looks at: where the function is noticed, and what its actions need. */
  private looksAt(fn: FunctionSpec, situationId: string): readonly number[] {
    if (this.base) return this.base.looksAt(fn, situationId);
    const name = `${fn.id}/${situationId}`;
    const known = this.nodesOf.get(name);
    if (known) return known;
    const at = (ref: string) => 2 * (this.compiled.indexOf.get(ref) ?? 0);
    const spec = fn.situations.find((s) => s.id === situationId);
    const actions = this.system.actions.filter((a) => spec?.actions?.includes(a.id));
    const nodes = [
      ...fn.observe.map((o) => at(o.at)),
      ...actions.flatMap((a) => {
        const part = this.compiled.partOf.get(a.part);
        if (!part) return [];
        return [...this.conditionOf(a, part).watches, ...(part.needs ?? []).map((n) => at(`${part.id}.${n.at}`))];
      }),
    ];
    this.nodesOf.set(name, nodes);
    return nodes;
  }

  /** What stands at each place where a function is noticed, after its actions. */
  private look(
    fn: FunctionSpec,
    situationId: string,
    settings: Settings | ((situation: Situation) => Settings) = this.settings,
  ): { evaluation: Evaluation; verdicts: Verdict[] } {
    const at = typeof settings === "function" ? settings : () => settings;
    const situation = this.perform(fn, situationId, (action, before) => {
      const pressed = pressing(action, before);
      return this.takes(action, this.glance(pressed, at(pressed)), at(pressed));
    });
    const evaluation = this.glance(situation, at(situation));
    return { evaluation, verdicts: fn.observe.map((o) => verdict(evaluation, o, fn.withinMs)) };
  }

  /** What is seen, without the reasons and the way; the time is worked out when it is asked for. */
  see(fn: FunctionSpec, situationId: string, settings: Settings = this.settings): Verdict {
    const { verdicts } = this.look(fn, situationId, settings);
    const failing = verdicts.find((v) => v.kind !== "ok");
    if (failing) return failing;
    return {
      kind: "ok",
      get afterMs() {
        return Math.max(0, ...verdicts.map((v) => (v.kind === "ok" ? v.afterMs : 0)));
      },
    };
  }

  /** The situation after the actions of a test; one without effect leaves what it would have set as usual. */
  private perform(
    fn: FunctionSpec,
    situationId: string,
    takes: (action: Action, before: Situation) => boolean,
  ): Situation {
    const spec = fn.situations.find((s) => s.id === situationId) ?? fn.situations[0];
    const { defaultSituation: usual } = this.system;
    let situation: Situation = { ...usual, ...spec?.set };
    for (const id of spec?.actions ?? []) {
      const action = this.system.actions.find((a) => a.id === id);
      if (!action) continue;
      const before = withdrawn(situation, action, usual);
      if (!takes(action, before)) situation = before;
    }
    return situation;
  }

  /** True when an action takes effect while it is performed. */
  private takes(action: Action, evaluation: Evaluation, settings: Settings): boolean {
    const part = this.compiled.partOf.get(action.part);
    const { situation, context } = evaluation;
    if (situation.heldS < action.holdS.min || !part) return false;
    // What was evaluated may have had other settings, of those that no condition asked about.
    const setting = settingReader(this.compiled, settings);
    const asked = { situation, setting, arrives: (node: number, pattern: number) => context.arrives(node, pattern) };
    return holds(this.conditionOf(action, part), asked) && this.lacks(part, evaluation) === null;
  }

  /** Why an action has no effect; null when it has. */
  private miss(action: Action, evaluation: Evaluation, settings: Settings): Break | null {
    if (this.takes(action, evaluation, settings)) return null;
    const held = evaluation.situation.heldS;
    const because = (...reasons: string[]): Break => ({ ref: "", owner: action.part, reasons });
    if (held < action.holdS.min)
      return because(`Held for ${held} s; it takes ${action.holdS.min} to ${action.holdS.max} s.`);
    const part = this.compiled.partOf.get(action.part);
    if (!part) return because(`There is no ${action.part} to receive it.`);
    const when = this.conditionOf(action, part);
    if (!holds(when, evaluation.context))
      return because(...explainFailing(evaluation, part, when, `${part.name} does not take it.`));
    const lack = this.lacks(part, evaluation);
    if (lack === null || lack === "dead") return because(this.compiled.disturbance.deadParts?.[part.id] ?? "");
    return explainAbsence(evaluation, `${part.id}.${lack.at}`, lack.where);
  }

  private conditionOf(action: Action, part: Part): Guard {
    let guard = this.conditions.get(action.id);
    if (!guard) {
      guard = actionGuard(this.compiled.graph, action, part);
      this.conditions.set(action.id, guard);
    }
    return guard;
  }

  /** The first thing that a part needs and does not get. */
  private lacks(part: Part | undefined, evaluation: Evaluation): Need | "dead" | null {
    if (!part) return null;
    if (this.compiled.disturbance.deadParts?.[part.id]) return "dead";
    for (const need of part.needs ?? []) {
      const index = this.compiled.indexOf.get(`${part.id}.${need.at}`);
      if (index === undefined || !evaluation.has(2 * index, need.where ?? {})) return need;
    }
    return null;
  }

  /** True when everything the part needs arrives and it is not dead: its lamp would be lit. */
  alive(partId: string, situation: Situation = this.system.defaultSituation): boolean {
    return this.lacks(this.compiled.partOf.get(partId), this.glance(situation)) === null;
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

const PHONE_SOUND: Attributes = { sound: "phone" };

/** True for a function at which the phone is to be heard. */
function isOfPhone({ observe: [first] }: FunctionSpec): boolean {
  return first?.where.sound === PHONE_SOUND.sound;
}

/** The condition of an action in a system. */
export function actionGuard(graph: Graph, { id, when }: Action, part: Part): Guard {
  const compiled = compileCondition(when, part, AFTER_ALL_LAYERS, `action ${id}`, partGraph(part).indexOf);
  return guardAt(compiled, graph.firstOf.get(part.id) ?? 0);
}

/** All situations have their fields in the order of the usual one. */
function situationKey(situation: Situation): string {
  return Object.values(situation).join("|");
}

/** The situation while an action is performed. */
function pressing(action: Action, before: Situation): Situation {
  return { ...before, pressed: action.press, heldS: before.heldS > 0 ? before.heldS : action.holdS.min };
}

/** The situation as it stays when an action had no effect: the fields it would set keep their usual values. */
function withdrawn(situation: Situation, action: Action, usual: Situation): Situation {
  const back = Object.fromEntries(Object.keys(action.set).map((f) => [f, usual[f as keyof Situation]]));
  return { ...situation, ...back };
}

/** What is seen, without the reasons. */
export type Verdict =
  | { kind: "ok"; readonly afterMs: number }
  | { kind: "late"; readonly afterMs: number }
  | { kind: "absent" }
  | { kind: "wrong"; attribute: string; got: string }
  | { kind: "doubled"; drivers: string[] };

function verdict(evaluation: Evaluation, expectation: Expectation, withinMs: number | undefined): Verdict {
  const { compiled } = evaluation;
  const where = factsOf(compiled.system, expectation);
  const index = compiled.indexOf.get(expectation.at);
  if (index === undefined) return { kind: "absent" };
  const arrivals = evaluation.arrivalsAt(2 * index);
  const wanted = arrivals.filter((a) => matches(a.signal.attributes, where));
  const contact = compiled.contacts[index]?.contact;
  if (contact && oneDriverOnly(contact.kind)) {
    const drivers = [...new Set(arrivals.map((a) => a.signal.origin))];
    if (drivers.length > 1) return { kind: "doubled", drivers };
    const other = arrivals[0];
    if (wanted.length === 0 && other) {
      const attribute = Object.keys(where).find((n) => other.signal.attributes[n] !== where[n]) ?? "";
      return { kind: "wrong", attribute, got: other.signal.attributes[attribute] ?? "none" };
    }
  }
  if (wanted.length === 0) return { kind: "absent" };
  const afterMs = () => Math.min(...wanted.map((a) => a.afterMs));
  return {
    kind: withinMs !== undefined && afterMs() > withinMs ? "late" : "ok",
    // Worked out when it is asked for.
    get afterMs() {
      return afterMs();
    },
  };
}

/** What is seen at one contact, with the reasons. */
function observe(
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

const resolvedFacts = new WeakMap<System, Map<Expectation, Attributes>>();

/** What is expected, with the facts of the system; worked out once. */
function factsOf(system: System, expectation: Expectation): Attributes {
  const known = resolvedFacts.get(system) ?? new Map<Expectation, Attributes>();
  resolvedFacts.set(system, known);
  const where = known.get(expectation) ?? resolveFacts(system, expectation.where);
  known.set(expectation, where);
  return where;
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
