import { type SwitchSolution, solveSwitches } from "../configure/switches";
import { composeFitted, composeStock, kitPartIds, sameEnds } from "../model/compose";
import type { Touched } from "../model/faults";
import { Model } from "../model/outcome";
import type { CarProfile, KitProfile, StripStep, VariantProfile } from "../model/profile";
import type { Disturbance, FunctionSpec, Link, Settings, Situation, System } from "../model/types";
import { describePort } from "../model/words";
import { type Test, testList } from "../prove/tests";
import { orderSteps } from "../strip/state";
import type { JobState } from "./state";

/** The documents a job is planned with; a job pins their versions. */
export interface Documents {
  car: CarProfile;
  variant: VariantProfile;
  kit: KitProfile;
}

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
  const { car, variant, kit } = documents;
  const stock = composeStock(car, variant);
  const fitted = composeFitted(car, variant, kit, state.choices ?? {});
  const steps = orderSteps(car.stripPlan);
  const connections = listConnections(stock, fitted, kit, steps);
  const wanted = wantedFunctions(stock, fitted, state.wishes);
  const switches = kit.switchBank ? solveSwitches(fitted, kit.switchBank, wanted) : null;
  const settings = switches?.settings ?? {};
  return {
    documents,
    stock,
    fitted,
    switches,
    settings,
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

/** What the customer wished for plus everything that worked before and everything the law asks for. */
function wantedFunctions(stock: System, fitted: System, wishes: readonly string[] | null): string[] {
  const kitFunctions = fitted.functions.filter((f) => !stock.functions.some((s) => s.id === f.id));
  const wished = wishes ?? kitFunctions.map((f) => f.id);
  const law = fitted.functions.filter((f) => f.who === "law").map((f) => f.id);
  const factory = stock.functions.filter((f) => keptPossible(stock, fitted, f)).map((f) => f.id);
  return [...new Set([...wished, ...law, ...factory])];
}

/** A factory function that the kit gives up by a changed usual situation (a deleted pairing) is no goal for the switches. */
function keptPossible(stock: System, fitted: System, fn: FunctionSpec): boolean {
  const changed = Object.keys(stock.usual).some(
    (k) => stock.usual[k as keyof Situation] !== fitted.usual[k as keyof Situation],
  );
  if (!changed) return true;
  const model = new Model({ ...stock, usual: fitted.usual });
  return fn.situations.every((s) => model.try(fn, s.id).outcome.kind === "ok");
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

/** What is not plugged now: kit connections not marked, factory plugs opened by the steps done and not back. */
export function openNow(plan: JobPlan, state: Pick<JobState, "plugged" | "deeds">): Disturbance {
  const openLinks: Record<string, string> = {};
  for (const c of plan.connections) {
    if (state.plugged.has(c.link)) continue;
    if (c.kind === "kit" || openedByDeeds(plan, state, c))
      openLinks[c.link] = `${describePort(plan.fitted, c.a)} – ${describePort(plan.fitted, c.b)} is not plugged.`;
  }
  return { openLinks };
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
