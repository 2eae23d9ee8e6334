/** What a closed car costs before anything behind its panels can be looked at. */
import { placement } from "../lengths/placement";
import type { JobState } from "../log/entry";
import { offNow } from "../log/strip-journal";
import type { StripStep } from "../model/profile";
import { type Goal, isFree, reaches } from "../strip/goals";
import { needsOf, withPrerequisites } from "../strip/graph";
import type { JobPlan } from "./plan";

/** To close takes about as long as to open. Our assumption; the steps tell one time. */
const BOTH_WAYS = 2;
/** Battery off and on again, with the wait beside an airbag. Our assumption. */
const ISOLATED_MIN = 10;

/**
 * Minutes to open the way to each part and to close it again, as the car stands; parts whose way is open, and parts that
 * nothing covers, are left out.
 */
export function reopenMinutes(plan: JobPlan, { strip, placed }: Pick<JobState, "strip" | "placed">) {
  const { plan: car } = plan.strip;
  const off = offNow(strip);
  const minutesTo = new Map<string, number>();
  const wayTo = ({ id }: StripStep): number => {
    const known = minutesTo.get(id);
    if (known !== undefined) return known;
    const needed = withPrerequisites(car, [id]);
    const closed = car.steps.filter((s) => needed.has(s.id) && !off.has(s.id));
    const isolated = closed.some((s) => needsOf(s).battery === "isolated") ? ISOLATED_MIN : 0;
    const minutes = closed.reduce((sum, s) => sum + BOTH_WAYS * s.minutes.likely, 0) + isolated;
    minutesTo.set(id, minutes);
    return minutes;
  };
  /** The shortest of the ways that there are; nothing where it lies free, or no step tells of it. */
  const reachedIn = (goal: Goal): number => {
    const reaching = isFree(car, goal) ? [] : car.steps.filter((s) => reaches(s, goal));
    return reaching.length > 0 ? Math.min(...reaching.map(wayTo)) : 0;
  };
  const goalsOf = whereOf(plan, placed);
  const ways = plan.fitted.parts.map(({ id }): [string, number] => [id, Math.max(0, ...goalsOf(id).map(reachedIn))]);
  return new Map(ways.filter(([, minutes]) => minutes > 0));
}

/** Where a part is got at: at the place where it lies, else at each plug by which it is connected. */
function whereOf({ documents, applies, fitted }: JobPlan, placed: JobState["placed"]): (part: string) => Goal[] {
  const { places } = placement(documents.kit, applies, placed);
  return (part) => {
    const place = places.get(part);
    if (place !== undefined) return [{ id: part, say: part, place }];
    const links = fitted.links.filter((l) => !l.air && [l.a, l.b].some((port) => port.startsWith(`${part}.`)));
    return links.map((l) => ({ id: l.id, say: part, ports: [l.a, l.b] }));
  };
}
