/** What is done with a car before somebody looks: a key is pressed, a menu is set. Whether it has an effect, and why not. */
import type { CompiledSystem } from "./compile";
import { compileCondition, type Guard, holds, type SettingQuestion } from "./condition";
import { type Evaluation, settingReader } from "./evaluate";
import { type Break, explainAbsence, explainFailing } from "./explain";
import type { Graph } from "./graph";
import { oncePer } from "./once";
import { partGraph } from "./part-graph";
import type { Action, FunctionSpec, Need, Part, Settings, Situation } from "./types";

/** Actions are looked at when everything else is known: their conditions may see, and deny, every layer. */
const AFTER_ALL_LAYERS = 3;

/** The actions of a system under a disturbance. */
export class Actions {
  constructor(private readonly compiled: CompiledSystem) {}

  /** The situation after the actions of a test; one without effect leaves what it would have set as usual. */
  perform(fn: FunctionSpec, situationId: string, takes: (action: Action, before: Situation) => boolean): Situation {
    const spec = fn.situations.find((s) => s.id === situationId) ?? fn.situations[0];
    const { defaultSituation: usual } = this.compiled.system;
    let situation = spec ? startOf(spec, usual) : usual;
    for (const id of spec?.actions ?? []) {
      const action = this.compiled.system.actions.find((a) => a.id === id);
      if (!action) continue;
      const before = withdrawn(situation, action, usual);
      if (!takes(action, before)) situation = before;
    }
    return situation;
  }

  /** True when an action takes effect while it is performed. */
  takes(action: Action, evaluation: Evaluation, settings: Settings): boolean {
    const part = this.compiled.partOf.get(action.part);
    const { situation, context } = evaluation;
    if (situation.heldS < action.holdS.min || !part) return false;
    // What was evaluated may have had other settings, of those that no condition asked about.
    const read = settingReader(this.compiled, settings);
    const decides = (question: SettingQuestion) => question(read);
    const asked = { situation, decides, arrives: (node: number, pattern: number) => context.arrives(node, pattern) };
    return holds(this.conditionOf(action, part), asked) && this.lacks(part, evaluation) === null;
  }

  /** Why an action has no effect; null when it has. */
  miss(action: Action, evaluation: Evaluation, settings: Settings): Break | null {
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

  conditionOf(action: Action, part: Part): Guard {
    return conditionsIn(this.compiled.graph)(action, part);
  }

  /** The first thing that a part needs and does not get. */
  lacks(part: Part | undefined, evaluation: Evaluation): Need | "dead" | null {
    if (!part) return null;
    if (this.compiled.disturbance.deadParts?.[part.id]) return "dead";
    for (const need of part.needs ?? []) {
      const index = this.compiled.indexOf.get(`${part.id}.${need.at}`);
      if (index === undefined || !evaluation.has(2 * index, need.where ?? {})) return need;
    }
    return null;
  }
}

/** The condition of an action in a system. */
export function actionGuard(graph: Graph, action: Action, part: Part): Guard {
  return { check: actionCondition(part)(action), first: graph.firstOf.get(part.id) ?? 0 };
}

const actionCondition = oncePer((part: Part) =>
  oncePer(({ id, when }: Action) =>
    compileCondition(when, part, AFTER_ALL_LAYERS, `action ${id}`, partGraph(part).indexOf),
  ),
);

/** The conditions of the actions of a graph, compiled once. */
const conditionsIn = oncePer((graph: Graph) => {
  const known = new Map<string, Guard>();
  return (action: Action, part: Part) => {
    const guard = known.get(action.id) ?? actionGuard(graph, action, part);
    known.set(action.id, guard);
    return guard;
  };
});

type Spec = FunctionSpec["situations"][number];

// The same situation is one object: what is known of it is kept by it.

const startsOf = oncePer((usual: Situation) => oncePer((spec: Spec): Situation => ({ ...usual, ...spec.set })));
const startOf = (spec: Spec, usual: Situation) => startsOf(usual)(spec);

const pressingFrom = oncePer((before: Situation) =>
  oncePer(
    (action: Action): Situation => ({
      ...before,
      pressed: action.press,
      heldS: before.heldS > 0 ? before.heldS : action.holdS.min,
    }),
  ),
);

/** The situation while an action is performed. */
export const pressing = (action: Action, before: Situation): Situation => pressingFrom(before)(action);

const withdrawnFrom = oncePer((situation: Situation) =>
  oncePer((usual: Situation) =>
    oncePer((action: Action): Situation => {
      const back = Object.fromEntries(Object.keys(action.set).map((f) => [f, usual[f as keyof Situation]]));
      return { ...situation, ...back };
    }),
  ),
);

/** The situation as it stays when an action had no effect: the fields it would set keep their usual values. */
const withdrawn = (situation: Situation, action: Action, usual: Situation): Situation =>
  withdrawnFrom(situation)(usual)(action);
