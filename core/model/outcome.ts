import { Actions, pressing } from "./actions";
import { type CompiledSystem, compile } from "./compile";
import { watchedBy } from "./condition";
import { mergeDisturbances } from "./disturbance";
import { type Evaluation, evaluate, settingReader } from "./evaluate";
import { type MissedAction, type Outcome, observe, type Verdict, verdict } from "./observe";
import { oncePer } from "./once";
import { type Looked, type Sense, type Sight, senseOf, sightKey, sightOf } from "./sight";
import { patternOf } from "./signal";
import type { Attributes, ContactRef, Disturbance, FunctionSpec, Settings, Situation, System } from "./types";

export interface Tried {
  outcome: Outcome;
  situation: Situation;
  missed: MissedAction[];
}

/** A model that another one takes over from, and what the other one has beside it. */
interface Base {
  model: Model;
  further: CompiledSystem;
}

/**
 * A model under a disturbance, asked many times. Evaluations are kept by situation and settings.
 *
 * `try` says what is seen and why; `sight` says only what a person sees, as one word of `sightKey`, and a model made by
 * `under` or `and` takes over from those it was made of whatever the further disturbance cannot have changed.
 */
export class Model {
  private made: CompiledSystem | null;
  private readonly evaluations = new Map<string, Evaluation>();
  /** By situation. */
  private readonly glances = new Map<string, Evaluation[]>();
  private acting: Actions | null = null;
  private readonly sights = new Map<string, string>();
  private readonly asItStands = oncePer((_: FunctionSpec) => new Map<string, Verdict>());
  private readonly nodesOf = new Map<string, readonly number[]>();
  private readonly givenAt = new Map<string, readonly number[]>();

  /** @throws {ModelError} when the system cannot be evaluated. */
  constructor(
    readonly system: System,
    private readonly disturbance: Disturbance = {},
    private readonly settings: Settings = {},
    private readonly bases: readonly Base[] = [],
  ) {
    // What was made of others often needs no evaluation of its own.
    this.made = bases.length === 0 ? compile(system, disturbance) : null;
  }

  /** The same system with something more wrong. @throws {ModelError} when there is nothing that could be so */
  under(disturbance: Disturbance): Model {
    return this.of(disturbance, [{ model: this, further: compile(this.system, disturbance) }]);
  }

  /** The same system with what is wrong here and there; where both say something, the other one counts. */
  and(other: Model): Model {
    return this.of(other.disturbance, [
      { model: this, further: other.compiled },
      { model: other, further: this.compiled },
    ]);
  }

  private of(further: Disturbance, bases: readonly Base[]): Model {
    return new Model(this.system, mergeDisturbances([this.disturbance, further]), this.settings, bases);
  }

  get compiled(): CompiledSystem {
    this.made ??= compile(this.system, this.disturbance);
    return this.made;
  }

  private get actions(): Actions {
    this.acting ??= new Actions(this.compiled);
    return this.acting;
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
    const evaluation = this.takenOver(situation, settings, key) ?? evaluate(this.compiled, situation, settings);
    seen.push(evaluation);
    return evaluation;
  }

  private takenOver(situation: Situation, settings: Settings, key: string): Evaluation | undefined {
    for (const { model } of this.bases) {
      const before = model.glance(situation, settings, key);
      if (before.isSameUnder(this.compiled)) return before;
    }
    return undefined;
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
    const situation = this.actions.perform(fn, situationId, (action, before) => {
      const pressed = pressing(action, before);
      const miss = this.actions.miss(action, this.evaluate(pressed, at(pressed)), at(pressed));
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
    const same = this.bases.find((base) => !this.concerns(base, fn, situationId));
    const sight = same ? same.model.sight(fn, situationId) : sightKey(this.sightOf(fn, situationId));
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
  private concerns({ model: base, further }: Base, fn: FunctionSpec, situationId: string): boolean {
    // Where plugs sit elsewhere already, what is new spreads on other ways than in the system as planned.
    const change = base.compiled.extra.length === 0 ? further : this.compiled;
    const { assumed, deadParts } = change.disturbance;
    if (assumed?.length) return true;
    const spec = fn.situations.find((s) => s.id === situationId);
    if (deadParts && this.system.actions.some((a) => spec?.actions?.includes(a.id) && deadParts[a.part])) return true;
    const isTouched = (node: number) => change.touched[node] === 1;
    return base.looksAt(fn, situationId).some(isTouched) || base.heardAt(fn, situationId).some(isTouched);
  }

  /** Nodes at which the sound of the phone is given on in a test. */
  private heardAt(fn: FunctionSpec, situationId: string): readonly number[] {
    const name = `${fn.id}/${situationId}`;
    const known = this.givenAt.get(name);
    if (known) return known;
    const nodes = isOfPhone(fn) ? this.givenOn(fn, this.look(fn, situationId).evaluation) : [];
    this.givenAt.set(name, nodes);
    return nodes;
  }

  /** Nodes that a test looks at: where the function is noticed, and what its actions need. */
  private looksAt(fn: FunctionSpec, situationId: string): readonly number[] {
    const [base] = this.bases;
    if (base) return base.model.looksAt(fn, situationId);
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
        return [
          ...watchedBy(this.actions.conditionOf(a, part)),
          ...(part.needs ?? []).map((n) => at(`${part.id}.${n.at}`)),
        ];
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
    const situation = this.actions.perform(fn, situationId, (action, before) => {
      const pressed = pressing(action, before);
      return this.actions.takes(action, this.glance(pressed, at(pressed)), at(pressed));
    });
    const evaluation = this.glance(situation, at(situation));
    return { evaluation, verdicts: fn.observe.map((o) => verdict(evaluation, o, fn.withinMs)) };
  }

  /** What is seen, without the reasons and the way; the time is worked out when it is asked for. */
  see(fn: FunctionSpec, situationId: string, settings: Settings = this.settings): Verdict {
    if (settings !== this.settings) return this.seen(fn, situationId, settings);
    // A car is compared with many kits: as it stands each function is tried once.
    const known = this.asItStands(fn);
    const verdict = known.get(situationId) ?? this.seen(fn, situationId, settings);
    known.set(situationId, verdict);
    return verdict;
  }

  private seen(fn: FunctionSpec, situationId: string, settings: Settings): Verdict {
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

  /** True when anything stands at a contact, at either side of it: a meter shows something there. */
  carries(ref: ContactRef, situation: Partial<Situation> = {}, settings: Settings = this.settings): boolean {
    const evaluation = this.glance({ ...this.system.defaultSituation, ...situation }, settings);
    return evaluation.arrivals(ref, "in").length > 0 || evaluation.arrivals(ref, "out").length > 0;
  }

  /** True when everything the part needs arrives and it is not dead: its lamp would be lit. */
  alive(partId: string, situation: Situation = this.system.defaultSituation): boolean {
    return this.actions.lacks(this.compiled.partOf.get(partId), this.glance(situation)) === null;
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

/** All situations have their fields in the order of the usual one. */
const situationKey = oncePer((situation: Situation) => Object.values(situation).join("|"));
