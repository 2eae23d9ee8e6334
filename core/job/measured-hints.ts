/** What was measured in Prove beside the tests says about what is the matter: loudspeaker walk, touch panel, hum. */
import { NONE } from "../diagnose/hypothesis";
import type { Hint } from "../diagnose/judge";
import type { JobState } from "../log/entry";
import { Model } from "../model/outcome";
import { playsAt, walkedFunction } from "../prove/corner-sound";
import { CORNER_NAMES, CORNERS, type Corner, type Heard } from "../prove/speaker-walk";
import { HEARD_DB, humGain } from "../sound/polarity";
import type { JobPlan } from "./plan";
import { hypothesesOfPlan } from "./suspects";
import { settingsThatTurn, touchOf, touchTests } from "./touch";

/** Chance that a corner is heard as it plays; the rest is shared by the five other answers. Our assumption. */
const HEARD_RIGHT = 0.95;
const MISHEARD = (1 - HEARD_RIGHT) / 5;
/** Chance that a cause on no list has to do with the loudspeakers. Our assumption. */
const STRANGE_SOUND = 0.3;
/** How much likelier a setting is that turns the touch just as it was measured. Our assumption. */
const TURNS = 30;
/** How much likelier, and how much less, a missing ground is by what an added one does. Our assumption. */
const GROUND = { helps: 8, helpsNot: 0.2 };

type Measured = Pick<JobState, "walk" | "touch" | "hum" | "repairs">;

/** Hints by hypothesis, a list for each kind of measurement; what was measured before the last repair says nothing. */
export function measuredHints(plan: JobPlan, state: Measured): ReadonlyMap<string, Hint>[] {
  return [walkHints(plan, state), touchHints(plan, state), humHints(plan, state)];
}

function walkHints(plan: JobPlan, { walk, repairs }: Measured): Map<string, Hint> {
  const since = repairs.at(-1)?.at ?? "";
  const heard = [...walk].filter(([, { at }]) => at > since).map(([corner, { value }]) => ({ corner, plays: value }));
  if (heard.length === 0) return new Map();
  const { sound, others } = walkOf(plan);
  const likelihood = (plays: ReadonlyMap<Corner, Heard>) =>
    heard.reduce((p, h) => p * (plays.get(h.corner) === h.plays ? HEARD_RIGHT : MISHEARD), 1);
  const usual = likelihood(sound);
  const why = walkWords(heard);
  const hints = new Map<string, Hint>();
  for (const [id, plays] of others) {
    const factor = likelihood(plays) / usual;
    if (factor !== 1) hints.set(id, { factor, why });
  }
  const strange = (1 - STRANGE_SOUND) * usual + STRANGE_SOUND * (1 / 6) ** heard.length;
  return hints.set(NONE, { factor: strange / usual, why });
}

function walkWords(heard: readonly { corner: Corner; plays: Heard }[]): string {
  const wrong = heard.filter((h) => h.plays !== h.corner);
  if (wrong.length === 0) return "In the walk with balance and fader each corner plays its own loudspeaker.";
  const words = (plays: Heard) =>
    plays === "none" ? "nothing plays" : plays === "several" ? "several play" : `the ${CORNER_NAMES[plays]} one plays`;
  return `In the walk: ${wrong.map((h) => `${CORNER_NAMES[h.corner]} set, ${words(h.plays)}`).join("; ")}.`;
}

/** What plays at each corner: on the car as planned, and under each hypothesis that changes it. */
interface PlannedWalk {
  sound: ReadonlyMap<Corner, Heard>;
  others: ReadonlyMap<string, ReadonlyMap<Corner, Heard>>;
}

/** A plan is never changed, so what follows from it is kept as long as it is. */
const walks = new WeakMap<JobPlan, PlannedWalk>();

function walkOf(plan: JobPlan): PlannedWalk {
  const known = walks.get(plan);
  if (known) return known;
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
  const found = { sound: walk(car), others };
  walks.set(plan, found);
  return found;
}

/** A picture that is turned under the finger tells the setting that turns it just so. */
function touchHints(plan: JobPlan, state: Measured): Map<string, Hint> {
  return new Map(
    touchTests(plan).flatMap((test) => {
      if (!state.touch.has(test.id)) return [];
      const outcome = touchOf(state, test);
      if (outcome.kind !== "mapped" || outcome.stand === "straight") return [];
      const why = `${test.fn.name}, touched in the corners and the centre: ${outcome.stand}.`;
      return settingsThatTurn(plan, test, outcome.stand).map((f): [string, Hint] => [f.id, { factor: TURNS, why }]);
    }),
  );
}

function humHints(plan: JobPlan, { hum, repairs }: Measured): Map<string, Hint> {
  const since = repairs.at(-1)?.at ?? "";
  const gain = humGain(new Map([...hum].flatMap(([ground, n]) => (n.at > since ? [[ground, n.value]] : []))));
  if (gain === null) return new Map();
  const helps = gain >= HEARD_DB;
  const why = helps
    ? `A ground lead takes ${gain.toFixed(0)} dB of hum away.`
    : "A ground lead takes none of the hum away.";
  const missing = hypothesesOfPlan(plan).filter((h) => h.id.startsWith("hum:"));
  return new Map(missing.map((h) => [h.id, { factor: helps ? GROUND.helps : GROUND.helpsNot, why }]));
}
