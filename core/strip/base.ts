import { type Choices, conditionTest, sameEnds } from "../model/compose";
import { describePort } from "../model/labels";
import type { CarProfile, KitProfile, KitStep, StripPlan, StripStep } from "../model/profile";
import type { System } from "../model/types";
import { goalsOf, reaches } from "./goals";
import type { StripBase } from "./route";

/** What the strip plan of a kit on a car follows from, with the choices taken. */
export function stripBase(
  { car, kit }: { car: CarProfile; kit: KitProfile },
  stock: System,
  chosen: Choices,
  moved?: ReadonlyMap<string, string>,
): Omit<StripBase, "measured"> {
  const applies = conditionTest(car, stock, chosen);
  const own = (kit.steps ?? []).filter(applies);
  const whole = forThisCar(withKitSteps(car.stripPlan, own), applies, stock);
  const plan = chosen.battery === "off" ? batteryOffFirst(whole) : whole;
  return {
    plan,
    goals: [
      ...goalsOf(car, stock, kit, chosen, moved),
      // A step of the kit is wanted for its own sake.
      ...own.map((s) => ({ id: `step ${s.id}`, say: kit.title, step: s.id })),
    ],
    closing: chosen.closing === "upperEarly" ? "upperEarly" : "proveFirst",
  };
}

/**
 * The way into the car with the steps of the kit behind it. Where both open a plug the kit knows better: the ribbon of a
 * radio with its glass comes off inside the radio, not with it.
 */
function withKitSteps(plan: StripPlan, own: readonly KitStep[]): StripPlan {
  if (own.length === 0) return plan;
  const opened = own.flatMap((s) => s.opens ?? []);
  const ways = plan.steps.map((s) =>
    s.opens ? { ...s, opens: s.opens.filter((o) => !opened.some((x) => sameEnds(x, o))) } : s,
  );
  const before = (port: string) =>
    plan.steps.find((s) => s.opens?.some((o) => o.a === port || o.b === port)) ??
    plan.steps.find((s) => reaches(s, { id: port, say: port, ports: [port] }));
  return {
    ...plan,
    steps: [
      ...ways,
      ...own.map(({ behind, ...step }) => {
        const way = behind === undefined ? undefined : before(behind);
        return way ? { ...step, after: [...step.after, way.id] } : step;
      }),
    ],
  };
}

/** The plan of somebody who opens no plug with the battery on; what needs the key stays as it is. */
function batteryOffFirst(plan: StripPlan): StripPlan {
  const alone = (s: StripStep) => !s.requires?.key && !s.requires?.selector;
  return {
    ...plan,
    steps: plan.steps.map((s) =>
      s.opens?.length && alone(s) ? { ...s, requires: { ...s.requires, battery: "isolated" } } : s,
    ),
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
