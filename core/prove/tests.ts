import { Model } from "../model/outcome";
import type { Sense } from "../model/sight";
import type { ContactRef, FunctionSpec, Settings, Situation, System } from "../model/types";

/** One function to try in one situation. */
export interface Test {
  /** `function/situation`. */
  id: string;
  fn: FunctionSpec;
  situationId: string;
  label: string;
  situation: Situation;
  minutes: number;
  /** By which sense it is noticed, and where. */
  sense: Sense;
  at: readonly ContactRef[];
}

/** What a person reads of a test before trying it, whether in the baseline or after the work. */
export function testHead({ id, fn, label }: Test) {
  return { id, name: fn.name, label, say: fn.say, caution: fn.caution, law: fn.who === "law" };
}

/** Loudspeakers at which a person listens in a test, by contact and name. */
export function heardAt({ fn }: Test, system: System): { contact: ContactRef; name: string }[] {
  return [...new Set(fn.observe.map((o) => o.at))].flatMap((contact) => {
    const [part = "", port = "", id = ""] = contact.split(".");
    const found = system.parts
      .find((p) => p.id === part)
      ?.ports.find((p) => p.id === port)
      ?.contacts.find((c) => c.id === id);
    return found?.kind === "speaker" ? [{ contact, name: found.label ?? id }] : [];
  });
}

/** Parts at which a person looks or listens in a test. */
export function observedAt({ fn }: Test): string[] {
  return fn.observe.flatMap((o) => o.at.split(".")[0] ?? []);
}

/**
 * Effort of changing one thing of the situation between two tests, in minutes. Assumed from the trade's habit of
 * avoiding key cycles first; no published source.
 */
const CHANGE_MINUTES: Partial<Record<keyof Situation, number>> = {
  key: 1,
  selector: 0.4,
  phone: 0.8,
  pictureMode: 0.2,
  source: 0.2,
  speedKmh: 5,
  paired: 2,
};

/**
 * The test list: every function in every situation that works in the sound as-fitted system, ordered so that key
 * cycles, gear changes and phone changes are few. What the kit takes away on purpose is not a test.
 */
export function testList(system: System, settings: Settings): Test[] {
  const model = new Model(system, {}, settings);
  const tests = system.functions.flatMap((fn) =>
    fn.situations.flatMap((s): Test[] => {
      const tried = model.try(fn, s.id);
      if (tried.outcome.kind !== "ok") return [];
      return [
        {
          id: `${fn.id}/${s.id}`,
          fn,
          situationId: s.id,
          label: s.label,
          situation: tried.situation,
          minutes: fn.minutes,
          sense: model.senseOf(fn),
          at: [...new Set(fn.observe.map((o) => o.at))],
        },
      ];
    }),
  );
  return orderTests(tests, { ...system.defaultSituation, key: "off" });
}

/** Minutes to go from one situation to the next. */
export function changeMinutes(from: Situation, to: Situation): number {
  let minutes = 0;
  for (const [field, cost] of Object.entries(CHANGE_MINUTES)) {
    if (from[field as keyof Situation] !== to[field as keyof Situation]) minutes += cost;
  }
  return minutes;
}

/** Total minutes of changes over an order of tests, from a starting situation. */
export function orderCost(tests: readonly Test[], start: Situation): number {
  let cost = 0;
  let at = start;
  for (const t of tests) {
    cost += changeMinutes(at, t.situation);
    at = t.situation;
  }
  return cost;
}

/** Nearest neighbour, then 2-opt and single moves until nothing improves. Deterministic. */
export function orderTests(tests: readonly Test[], start: Situation): Test[] {
  const minutes = costMatrix(tests, start);
  const cost = (order: readonly number[]) => {
    let sum = 0;
    let at = 0;
    for (const i of order) {
      sum += minutes[at]?.[i] ?? 0;
      at = i;
    }
    return sum;
  };
  let order = nearestNeighbour(minutes);
  let best = cost(order);
  for (let improved = true; improved; ) {
    improved = false;
    for (const candidate of neighbours(order)) {
      const candidateCost = cost(candidate);
      if (candidateCost < best - 1e-9) {
        order = candidate;
        best = candidateCost;
        improved = true;
        break;
      }
    }
  }
  return order.map((i) => tests[i - 1] as Test);
}

/** Minutes of change between all situations; row and column 0 are the start, test i stands at i + 1. */
function costMatrix(tests: readonly Test[], start: Situation): number[][] {
  const situations = [start, ...tests.map((t) => t.situation)];
  return situations.map((from) => situations.map((to) => changeMinutes(from, to)));
}

function nearestNeighbour(minutes: readonly (readonly number[])[]): number[] {
  const left = minutes.slice(1).map((_, i) => i + 1);
  const order: number[] = [];
  let at = 0;
  while (left.length > 0) {
    let pick = 0;
    for (let i = 1; i < left.length; i++) {
      if ((minutes[at]?.[left[i] as number] ?? 0) < (minutes[at]?.[left[pick] as number] ?? 0)) pick = i;
    }
    const [next] = left.splice(pick, 1) as [number];
    order.push(next);
    at = next;
  }
  return order;
}

function* neighbours(order: readonly number[]): Generator<number[]> {
  for (let i = 0; i < order.length; i++) {
    for (let j = i + 1; j < order.length; j++) {
      yield [...order.slice(0, i), ...order.slice(i, j + 1).reverse(), ...order.slice(j + 1)];
    }
    for (let j = 0; j < order.length; j++) {
      if (i === j) continue;
      const without = [...order.slice(0, i), ...order.slice(i + 1)];
      without.splice(j, 0, order[i] as number);
      yield without;
    }
  }
}
