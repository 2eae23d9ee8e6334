import type { SwitchSolution } from "../configure/switches";
import { type Documents, settle } from "../fit/settle";
import { conditionTest, kitPartIds, resolveChoices, sameEnds } from "../model/compose";
import type { Touched } from "../model/faults";
import type { KitProfile, KitSetting, StripStep } from "../model/profile";
import type { Disturbance, Link, Settings, System } from "../model/types";
import { describePort } from "../model/words";
import { type Test, testList } from "../prove/tests";
import { orderSteps } from "../strip/state";
import type { JobState } from "./state";

export type { Documents };

/** A connection the technician has to make, in the order of plugging. */
export interface Connection {
  link: string;
  say: string;
  kind: "kit" | "factory";
  a: string;
  b: string;
}

/** Everything that follows from the documents and the choices of a job, before anything was done. */
export interface JobPlan {
  documents: Documents;
  stock: System;
  fitted: System;
  switches: SwitchSolution | null;
  /** Settings as they are to stand. */
  settings: Settings;
  /** What has to be coded, moved, loaded or chosen in a menu beside the switch bank. */
  sets: KitSetting[];
  tests: Test[];
  baseline: Test[];
  steps: StripStep[];
  connections: Connection[];
  touched: Touched;
}

/**
 * Plans a job: composes both systems, solves the switch bank, lists tests, steps and connections.
 *
 * @throws {ComposeError} {ModelError} {PlanError} when the documents do not go together
 */
export function planJob(documents: Documents, state: Pick<JobState, "choices" | "wishes">): JobPlan {
  const { car, kit } = documents;
  const { stock, fitted, switches, settings } = settle(documents, state.choices ?? {}, state.wishes);
  const steps = orderSteps(car.stripPlan);
  const connections = listConnections(stock, fitted, kit, steps);
  return {
    documents,
    stock,
    fitted,
    switches,
    settings,
    sets: kit.sets.filter(conditionTest(car, stock, resolveChoices(kit, state.choices ?? {}))),
    tests: testList(fitted, settings),
    baseline: testList(stock, {}),
    steps,
    connections,
    touched: {
      parts: kitPartIds(kit),
      links: new Set(connections.map((c) => c.link)),
      bank: kit.switchBank,
      planned: settings,
    },
  };
}

function listConnections(stock: System, fitted: System, kit: KitProfile, steps: readonly StripStep[]): Connection[] {
  const ours: Connection[] = kit.plug
    .filter((k) => !k.air && fitted.links.some((l) => l.id === k.id))
    .map((k) => ({ link: k.id, say: k.say, kind: "kit", a: k.a, b: k.b }));
  const opened = steps.flatMap((s) => s.opens ?? []);
  const factory: Connection[] = stock.links
    .filter((l) => opened.some((o) => sameEnds(o, l)) && fitted.links.some((f) => f.id === l.id))
    .map((l) => ({
      link: l.id,
      say: `Factory plug back: ${describePort(stock, l.a)} – ${describePort(stock, l.b)}`,
      kind: "factory",
      a: l.a,
      b: l.b,
    }));
  return [...ours, ...factory];
}

/**
 * What is not done yet: kit connections not marked, factory plugs opened by the steps done and not back, settings that
 * were not made and so stand as delivered.
 */
export function openNow(plan: JobPlan, state: Pick<JobState, "plugged" | "deeds" | "made">): Disturbance {
  const openLinks: Record<string, string> = {};
  for (const c of plan.connections) {
    if (state.plugged.has(c.link)) continue;
    if (c.kind === "kit" || openedByDeeds(plan, state, c))
      openLinks[c.link] = `${describePort(plan.fitted, c.a)} – ${describePort(plan.fitted, c.b)} is not plugged.`;
  }
  const settings: Record<string, string> = {};
  for (const { setting } of plan.sets) {
    const [partId, settingId] = setting.split(".");
    const part = plan.fitted.parts.find((p) => p.id === partId);
    const initial = part?.settings?.find((s) => s.id === settingId)?.initial;
    if (!state.made.has(setting) && initial !== undefined) settings[setting] = initial;
  }
  return { openLinks, settings };
}

/** True while the step that opened this factory connection is done and the connection was not plugged again. */
export function openedByDeeds(plan: JobPlan, state: Pick<JobState, "deeds">, ends: Pick<Link, "a" | "b">): boolean {
  let open = false;
  for (const deed of state.deeds) {
    const step = plan.steps.find((s) => s.id === deed.step);
    if (step?.opens?.some((o) => sameEnds(o, ends))) open = deed.direction === "in";
  }
  return open;
}
