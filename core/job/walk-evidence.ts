/** What the walk with balance and fader says about what is the matter. */
import { NONE } from "../diagnose/hypothesis";
import type { Measured } from "../diagnose/judge";
import type { JobState } from "../log/entry";
import { oncePer } from "../model/once";
import { Model } from "../model/outcome";
import { playsAt, walkedFunction } from "../prove/corner-sound";
import { CORNER_NAMES, CORNERS, type Corner, type Heard } from "../prove/corners";
import type { JobPlan } from "./plan";
import { hypothesesOfPlan } from "./suspects";

/** Chance that a corner is heard as it plays; the rest is shared by the five other answers. Our assumption. */
const HEARD_RIGHT = 0.98;
const MISHEARD = (1 - HEARD_RIGHT) / 5;
/** Chance that a cause on no list has to do with the loudspeakers. Our assumption. */
const STRANGE_SOUND = 0.05;

/** Each corner that was heard since the last repair. */
export function walkEvidence(plan: JobPlan, { walk, repairs }: Pick<JobState, "walk" | "repairs">): Measured[] {
  const since = repairs.at(-1)?.at ?? "";
  const heard = [...walk].filter(([, { at }]) => at > since);
  if (heard.length === 0 || !walkedFunction(plan.fitted)) return [];
  const { sound, others } = walkOf(plan);
  return heard.map(([corner, { value: plays }]): Measured => {
    const chance = (under: ReadonlyMap<Corner, Heard>) => (under.get(corner) === plays ? HEARD_RIGHT : MISHEARD);
    const usual = chance(sound);
    return {
      id: `walk:${corner}`,
      title: `Balance and fader at ${CORNER_NAMES[corner]}`,
      report: saidOf(plays),
      passes: plays === corner,
      usual,
      under: new Map([
        ...[...others].map(([id, under]): [string, number] => [id, chance(under)]),
        [NONE, (1 - STRANGE_SOUND) * usual + STRANGE_SOUND / 6],
      ]),
    };
  });
}

function saidOf(plays: Heard): string {
  return plays === "none" ? "nothing plays" : plays === "several" ? "several play" : `${CORNER_NAMES[plays]} plays`;
}

/** What plays at each corner: on the car as planned, and under each hypothesis that changes it. */
interface PlannedWalk {
  sound: ReadonlyMap<Corner, Heard>;
  others: ReadonlyMap<string, ReadonlyMap<Corner, Heard>>;
}

const walkOf = oncePer((plan: JobPlan): PlannedWalk => {
  const car = new Model(plan.fitted, {}, plan.settings);
  const fn = walkedFunction(plan.fitted);
  const situation = fn?.situations[0]?.id;
  const walk = (model: Model) => new Map(CORNERS.map((c) => [c, playsAt(model, c)]));
  const others = new Map<string, ReadonlyMap<Corner, Heard>>();
  for (const { id, fault } of hypothesesOfPlan(plan)) {
    if (!fault || !fn || situation === undefined) continue;
    const faulty = car.under(fault.disturbance);
    // What nobody would notice at all four together changes nothing at one.
    if (faulty.sight(fn, situation) !== car.sight(fn, situation)) others.set(id, walk(faulty));
  }
  return { sound: walk(car), others };
});
