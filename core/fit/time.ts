/** How long the work takes with a kit, and with what: one computation for ranking, card, offer, comparison and paper. */
import type { Choices } from "../model/compose";
import type { CarProfile, KitProfile, Minutes, StripPlan } from "../model/profile";
import type { System } from "../model/types";
import { stripBase } from "../strip/base";
import type { StripBase } from "../strip/route";
import { wholeWay } from "../strip/view";

export interface FitTime {
  /** Work on the kit itself, in minutes. */
  fitting: Minutes;
  /** To open the car and to close it again. */
  way: Minutes;
  whole: Minutes;
  /** What the hands take up on the way in and back, in the order of the plan. */
  tools: string[];
}

export const NO_TIME: FitTime = {
  fitting: { low: 0, likely: 0, high: 0 },
  way: { low: 0, likely: 0, high: 0 },
  whole: { low: 0, likely: 0, high: 0 },
  tools: [],
};

/**
 * The time of a kit on a car with its choices.
 *
 * @param fitting minutes of the kit with all it needs, see `needsOf`
 */
export function fitTime(
  documents: { car: CarProfile; kit: KitProfile },
  stock: System,
  choices: Choices,
  fitting: Minutes,
): FitTime {
  const { way, tools } = wayOf({ ...stripBase(documents, stock, choices), measured: {} }, documents.car.stripPlan);
  return { fitting, way, whole: plus(fitting, way), tools };
}

type Way = Pick<FitTime, "way" | "tools">;
const ways = new WeakMap<StripPlan, Map<string, Way>>();

/** Kits that reach for the same plugs and places of a car have one way in and back. */
function wayOf(base: StripBase, plan: StripPlan): Way {
  const known = ways.get(plan) ?? new Map<string, Way>();
  ways.set(plan, known);
  const steps = base.plan.steps.map((s) => [s.id, s.opens?.length ?? 0]);
  const key = JSON.stringify([base.closing, base.laidLoosely, steps, base.goals.map(({ say: _, ...goal }) => goal)]);
  let way = known.get(key);
  if (!way) {
    const { in: open, back, tools } = wholeWay(base);
    way = { way: plus(open, back), tools };
    known.set(key, way);
  }
  return way;
}

function plus(a: Minutes, b: Minutes): Minutes {
  return { low: a.low + b.low, likely: a.likely + b.likely, high: a.high + b.high };
}
