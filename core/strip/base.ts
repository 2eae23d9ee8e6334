import { type Choices, conditionTest, sameEnds } from "../model/compose";
import { describePort } from "../model/labels";
import type { CarProfile, KitProfile, StripPlan, StripStep } from "../model/profile";
import type { System } from "../model/types";
import { goalsOf } from "./goals";
import type { StripBase } from "./route";

/** What the strip plan of a kit on a car follows from, with the choices taken. */
export function stripBase(
  { car, kit }: { car: CarProfile; kit: KitProfile },
  stock: System,
  chosen: Choices,
  moved?: ReadonlyMap<string, string>,
): Omit<StripBase, "measured"> {
  return {
    plan: forThisCar(car.stripPlan, conditionTest(car, stock, chosen), stock),
    goals: goalsOf(car, stock, kit, chosen, moved),
    closing: chosen.closing === "upperEarly" ? "upperEarly" : "proveFirst",
  };
}

/** The plan of the car at hand: steps and plugs that only other cars have are out, and nothing waits for them. */
function forThisCar(plan: StripPlan, applies: (item: StripStep) => boolean, stock: System): StripPlan {
  const out = new Map(plan.steps.filter((s) => !applies(s)).map((s) => [s.id, s]));
  const beyond = (id: string): string[] => out.get(id)?.after.flatMap(beyond) ?? [id];
  return {
    ...plan,
    steps: plan.steps.filter(applies).map((s) => ({
      ...s,
      after: [...new Set(s.after.flatMap(beyond))],
      ...(s.opens
        ? {
            opens: s.opens
              .filter((o) => stock.links.some((l) => sameEnds(o, l)))
              .map((o) => ({ ...o, name: describePort(stock, o.b) })),
          }
        : {}),
    })),
  };
}
