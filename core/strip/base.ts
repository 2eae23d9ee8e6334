import { type Choices, conditionTest, sameEnds } from "../model/compose";
import { describePort } from "../model/labels";
import { oncePer } from "../model/once";
import type { CarProfile, KitProfile, KitStep, StripPlan, StripStep } from "../model/profile";
import type { System } from "../model/types";
import { goalsOf, reaches } from "./goals";
import type { StripBase } from "./route";

type Applies = ReturnType<typeof conditionTest>;

/** What the strip plan of a kit on a car follows from, with the choices taken. */
export function stripBase(
  { car, kit }: { car: CarProfile; kit: KitProfile },
  stock: System,
  chosen: Choices,
  moved?: ReadonlyMap<string, string>,
): Omit<StripBase, "measured"> {
  const applies = conditionTest(car, stock, chosen);
  const { own } = stepsOfKit(kit, stock, applies);
  const whole = behindWhatHides(withKitSteps(car.stripPlan, wayOfCar(car.stripPlan, applies, stock), own));
  const plan = chosen.battery === "off" ? batteryOffFirst(whole) : whole;
  return {
    plan,
    goals: [
      ...goalsOf(car, stock, kit, chosen, moved),
      // A step of the kit is wanted for its own sake.
      ...own.map((s) => ({
        id: `step ${s.id}`,
        say: kit.title,
        step: s.id,
        ...(opensTheWay(s) ? {} : { final: true as const }),
      })),
    ],
    closing: chosen.closing === "upperEarly" ? "upperEarly" : "proveFirst",
    laidLoosely: chosen.trying === "loose",
  };
}

/** Something is plugged behind it: it cannot wait until the kit was tried. */
function opensTheWay({ opens, reaches }: KitStep): boolean {
  return Boolean(opens?.length || reaches?.ports?.length || reaches?.parts?.length);
}

/** The steps of a kit on a car, and those left out because something plugs into the socket that they would take away. */
export function stepsOfKit(kit: KitProfile, stock: System, applies: Applies): { own: KitStep[]; kept: KitStep[] } {
  const steps = (kit.steps ?? []).filter(applies);
  const left = stock.links.filter((l) => !kit.unplug.some((u) => applies(u) && sameEnds(u, l)));
  const used = new Set([...left, ...kit.plug.filter(applies)].flatMap((l) => [l.a, l.b]));
  const isNeeded = ({ frees }: KitStep) => frees !== undefined && used.has(frees);
  return { own: steps.filter((s) => !isNeeded(s)), kept: steps.filter(isNeeded) };
}

/**
 * The way into the car at hand with the steps of the kit behind it. Where both open a plug the kit knows better: the
 * ribbon of a radio with its glass comes off inside the radio, not with it.
 *
 * @param plan as the car states it
 */
function withKitSteps(plan: StripPlan, car: WayOfCar, own: readonly KitStep[]): StripPlan {
  if (own.length === 0) return car.plan;
  const opened = own.flatMap((s) => s.opens ?? []);
  const ways = car.plan.steps.map((s) =>
    s.opens ? { ...s, opens: s.opens.filter((o) => !opened.some((x) => sameEnds(x, o))) } : s,
  );
  const before = (port: string) =>
    plan.steps.find((s) => s.opens?.some((o) => o.a === port || o.b === port)) ??
    plan.steps.find((s) => reaches(s, { id: port, say: port, ports: [port] }));
  return {
    ...car.plan,
    steps: [
      ...ways,
      ...own.map(({ behind, ...step }) => {
        const way = behind === undefined ? undefined : before(behind);
        return car.placed(way ? { ...step, after: [...step.after, way.id] } : step);
      }),
    ],
  };
}

/** A screw that a panel hides is reached only once that panel is off, and is home before the panel covers it again. */
function behindWhatHides(plan: StripPlan): StripPlan {
  const byId = new Map(plan.steps.map((s) => [s.id, s]));
  const comesAfter = (step: StripStep, id: string, seen = new Set<string>()): boolean =>
    step.after.some((before) => {
      if (before === id) return true;
      if (seen.has(before)) return false;
      seen.add(before);
      const next = byId.get(before);
      return next !== undefined && comesAfter(next, id, seen);
    });
  // As a word of its own: what stands behind the windscreen trim is not behind the screen.
  const words = (text: string) => ` ${text.toLowerCase()} `;
  const hides = (panel: string | undefined, by: string) => panel !== undefined && words(by).includes(words(panel));
  for (const step of plan.steps) {
    const hidden = (step.fasteners ?? []).flatMap((f) => f.hiddenBehind ?? []);
    for (const by of hidden) {
      for (const { id, panel } of byId.values()) {
        const now = byId.get(step.id) ?? step;
        const over = byId.get(id);
        if (id === step.id || !over || !hides(panel, by) || comesAfter(now, id) || comesAfter(over, step.id)) continue;
        byId.set(step.id, { ...now, after: [...now.after, id] });
      }
    }
  }
  const steps = plan.steps.map((s) => byId.get(s.id) ?? s);
  return steps.some((s, i) => s !== plan.steps[i]) ? { ...plan, steps } : plan;
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
interface WayOfCar {
  plan: StripPlan;
  /** A step as it is in this car. */
  placed(step: StripStep): StripStep;
}

const waysOfCar = oncePer((_: StripPlan) => oncePer((_: System) => new Map<string, WayOfCar>()));

/** Made once for the steps that this car has: every offer on it starts from there. */
function wayOfCar(plan: StripPlan, applies: (item: StripStep) => boolean, stock: System): WayOfCar {
  const own = plan.steps.filter(applies);
  const known = waysOfCar(plan)(stock);
  const key = own.map((s) => s.id).join(" ");
  const way = known.get(key) ?? forThisCar(plan, own, stock);
  known.set(key, way);
  return way;
}

function forThisCar(plan: StripPlan, own: readonly StripStep[], stock: System): WayOfCar {
  const out = new Map(plan.steps.filter((s) => !own.includes(s)).map((s) => [s.id, s]));
  const beyond = (id: string): string[] => out.get(id)?.after.flatMap(beyond) ?? [id];
  const placed = (step: StripStep): StripStep => ({
    ...step,
    after: [...new Set(step.after.flatMap(beyond))],
    ...(step.opens
      ? {
          opens: step.opens
            .filter((o) => stock.links.some((l) => sameEnds(o, l)))
            .map((o) => ({ ...o, name: describePort(stock, o.b) })),
        }
      : {}),
  });
  return { plan: { ...plan, steps: own.map(placed) }, placed };
}
