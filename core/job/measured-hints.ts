/** What touch panel and hum, measured in Prove beside the tests, say about what is the matter. */
import type { Hint } from "../diagnose/judge";
import type { JobState } from "../log/entry";
import { HEARD_DB, humGain } from "../sound/polarity";
import type { JobPlan } from "./plan";
import { hypothesesOfPlan } from "./suspects";
import { settingsThatTurn, touchOf, touchTests } from "./touch";

/** How much likelier a setting is that turns the touch just as it was measured. Our assumption. */
const TURNS = 30;
/** How much likelier, and how much less, a missing ground is by what an added one does. Our assumption. */
const GROUND = { helps: 8, helpsNot: 0.2 };

type Measured = Pick<JobState, "touch" | "hum" | "repairs">;

/** Hints by hypothesis, a list for each kind of measurement. */
export function measuredHints(plan: JobPlan, state: Measured): ReadonlyMap<string, Hint>[] {
  return [touchHints(plan, state), humHints(plan, state)];
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
