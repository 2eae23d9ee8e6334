/**
 * Small things that are tried by a tap each: every key short and long in both pictures, the knob, and the signs that the
 * bus is alive.
 */
import type { JobState } from "../log/entry";
import { oncePer } from "../model/once";
import { HOLDS, keyTable, keyWords, MODES, type Mode } from "../prove/key-table";
import type { JobPlan } from "./plan";

export interface Use {
  id: string;
  group: "keys" | "signs";
  title: string;
  say: string;
  /** What must happen, each for itself; more than one is a double meaning. */
  must: string[];
  mode: Mode;
}

/** Clicks by which a knob is turned when its steps are counted. */
export const CLICKS = 10;
export const KNOB = "knob";

const SIGNS: readonly { id: string; title: string; say: string; must: string }[] = [
  {
    id: "clock",
    title: "Clock and outside temperature",
    say: "Look at the screen and at the cluster",
    must: "both show the same time and temperature",
  },
  {
    id: "lighting",
    title: "Lighting of screen and keys",
    say: "Turn the light switch on and off",
    must: "screen and keys dim and come back with the switch",
  },
  {
    id: "chimes",
    title: "Chimes and parking tones",
    say: "Key on, open the door; then select reverse with the brake on",
    must: "the chime is heard, and the parking tones where the car has them",
  },
];

export const usesOf = oncePer((plan: JobPlan): Use[] => [...keys(plan), ...signs(plan)]);

function shownIn({ tests }: JobPlan) {
  return tests.find((t) => t.fn.observe.some((o) => o.where.picture === "phone"))?.situation ?? null;
}

function keys(plan: JobPlan): Use[] {
  const table = keyTable(plan.fitted, plan.settings, shownIn(plan)).filter((u) => u.key !== KNOB || u.hold === "short");
  return table.map(({ key, part, hold, mode, does }): Use => {
    const held = key === KNOB ? "" : hold === "long" ? `, ${HOLDS.long} s long` : ", short";
    return {
      id: `${key}/${hold}/${mode}`,
      group: "keys",
      title: `${part}: ${keyWords(key)}${held}`,
      say: `In the ${mode} picture ${key === KNOB ? "turn the knob" : `press ${keyWords(key)}${held}`}`,
      must: does,
      mode,
    };
  });
}

/** Signs that the bus is alive, where there is one. */
function signs(plan: JobPlan): Use[] {
  if (!plan.fitted.parts.some((p) => (p.messages ?? []).length > 0)) return [];
  const modes = shownIn(plan) ? MODES : (["factory"] as const);
  return SIGNS.flatMap(({ id, title, say, must }) =>
    modes.map(
      (mode): Use => ({
        id: `${id}/${mode}`,
        group: "signs",
        title,
        say: `In the ${mode} picture: ${say}`,
        must: [must],
        mode,
      }),
    ),
  );
}

/** What does not do what it must, for the hand-over. */
export function failedUses(plan: JobPlan, { uses }: Pick<JobState, "uses">): string[] {
  if (uses.size === 0) return [];
  return usesOf(plan).flatMap((u) => {
    const used = uses.get(u.id);
    if (!used || used.works) return [];
    const steps = used.steps === undefined ? "" : ` (${used.steps} steps for ${CLICKS} clicks)`;
    return [`${u.title}, in the ${u.mode} picture: not as it must be${steps}.`];
  });
}

/** How many were tried and work, for the certificate. */
export function usesTried(plan: JobPlan, { uses }: Pick<JobState, "uses">): string[] {
  if (uses.size === 0) return [];
  const names = { keys: "Keys and knob", signs: "Clock, lighting, chimes" } as const;
  return (["keys", "signs"] as const).flatMap((group) => {
    const tried = usesOf(plan).filter((u) => u.group === group && uses.has(u.id));
    const good = tried.filter((u) => uses.get(u.id)?.works);
    return tried.length > 0 ? [`${names[group]}: ${good.length} of ${tried.length} tried do what they must.`] : [];
  });
}
