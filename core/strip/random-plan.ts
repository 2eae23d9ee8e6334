/** Random strip plans for property tests and benchmarks. */
import type { Side, StripPlan, StripStep } from "../model/profile";
import type { Goal } from "./goals";
import { needsOf } from "./graph";
import type { Setup, Task } from "./order-problem";
import { PARKED } from "./vehicle-state";

const TOOLS = ["plastic wedge", "T20", "T25", "7 mm socket", "8 mm socket", "10 mm socket"];
const SIDES: (Side | undefined)[] = [undefined, "driver", "passenger", "rear", "tailgate"];

export interface RandomPlanSize {
  steps: number;
  /** Most prerequisites of a step. */
  before: number;
  goals: number;
}

/** Numbers from a seed, in [0, 1): a 32-bit linear congruential generator, enough for shuffling. */
export function randomFrom(seed: number): () => number {
  let state = (seed * 2654435761 + 1) >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** A plan without loops and its goals; some goals can be reached in two ways. */
export function randomPlan(seed: number, size: RandomPlanSize): { plan: StripPlan; goals: Goal[] } {
  const random = randomFrom(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const steps = Array.from({ length: size.steps }, (_, i): StripStep => {
    const usual = 1 + Math.round(random() * 9);
    const before = i === 0 ? 0 : Math.floor(random() * (size.before + 1));
    const zone = random() < 0.2;
    const side = pick(SIDES);
    return {
      id: `s${i}`,
      title: `Step ${i}`,
      detail: "",
      after: [...new Set(Array.from({ length: before }, () => `s${Math.floor(random() * i)}`))],
      minutes: { low: usual * 0.7, likely: usual, high: usual * 2 },
      tool: pick(TOOLS),
      ...(side ? { side } : {}),
      ...(random() < 0.8 ? { panel: `panel ${i}` } : {}),
      ...(random() < 0.5
        ? { fasteners: [{ kind: "T20 screw", count: 1 + Math.floor(random() * 6), lengthMm: 16, tray: "A" }] }
        : {}),
      ...(random() < 0.3 ? { opens: [{ a: `loom.p${i}`, b: `part${i}.main` }] } : {}),
      ...(zone ? { airbagZone: true } : random() < 0.15 ? { requires: { selector: ["N" as const] } } : {}),
      reaches: { places: [`place ${i}`] },
    };
  });
  const goals = Array.from({ length: size.goals }, (_, k): Goal => {
    const place = `goal ${k}`;
    for (let ways = 1 + (random() < 0.3 ? 1 : 0); ways > 0; ways--) pick(steps).reaches?.places?.push(place);
    return { id: place, say: place, place };
  });
  return { plan: { steps, batteryWaitMin: 10 }, goals };
}

/** An ordering problem of a random plan: its steps as tasks, the car parked at the start and anyhow at the end. */
export function randomProblem(seed: number, steps: number): { setup: Setup; tasks: Task[] } {
  const { plan } = randomPlan(seed, { steps, before: 2, goals: 0 });
  const tasks = plan.steps.map(
    (s): Task => ({
      id: s.id,
      needs: needsOf(s),
      minutes: s.minutes.likely,
      ...(s.tool ? { tool: s.tool } : {}),
      ...(s.side ? { side: s.side } : {}),
      before: s.after.map((a) => plan.steps.findIndex((t) => t.id === a)),
    }),
  );
  return { setup: { plan, stand: PARKED, end: {} }, tasks };
}
