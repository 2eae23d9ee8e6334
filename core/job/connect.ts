/** The connections of a job, checked as they are planned and as they are plugged. */
import { asPlugged, misplaced } from "../connect/as-plugged";
import { type CheckInput, checkConnections, type Finding } from "../connect/rules";
import { byChoices, bySettings, withRemedies } from "../connect/rules/remedy";
import type { JobState } from "../log/entry";
import type { KitProfile } from "../model/profile";
import type { Settings, System } from "../model/types";
import { tapOrientation } from "../power/fuse";
import { type JobPlan, openNow, type Plugging } from "./plan";
import { deliveredValue, type SetState, settingsOfPlaces } from "./set-state";

type Plugged = Plugging & SetState & Pick<JobState, "plugAt" | "turned" | "placed" | "tapLit">;

/** What the rules look at when the plan itself is checked: everything plugged and set as planned. */
export function planInput(
  plan: JobPlan,
  state: Pick<JobState, "placed">,
  otherKits: readonly KitProfile[] = [],
): CheckInput {
  return {
    car: plan.documents.car,
    kit: plan.documents.kit,
    stock: plan.stock,
    system: plan.fitted,
    open: { settings: settingsOfPlaces(plan, state) },
    settings: plan.settings,
    choices: plan.chosen,
    applies: plan.applies,
    placed: state.placed,
    otherKits,
  };
}

/** Findings of the plan, each with its remedy where there is only one. */
export function checkPlan(plan: JobPlan, state: Pick<JobState, "placed">, otherKits: readonly KitProfile[]): Finding[] {
  const input = planInput(plan, state, otherKits);
  return withRemedies(checkConnections(input), input, (i) => byChoices(i, plan.documents.variant));
}

/**
 * Findings of the car as it is plugged now: leads in the wrong place, and what the rules find with them where they sit.
 * What only waits for a plug or a setting that comes later is not a fault: such a finding goes away with everything
 * plugged.
 */
export function checkNow(plan: JobPlan, state: Plugged): Finding[] {
  if (state.plugged.size === 0 && state.placed.size === 0 && state.tapLit === null) return [];
  const open = { ...openNow(plan, state), settings: settingsDue(plan, state) };
  const input: CheckInput = { ...planInput(plan, state), system: asPlugged(plan.fitted, state), open };
  const closed = checkConnections({ ...input, open: { settings: open.settings } });
  const stays = new Set(closed.map(key));
  const planned = plannedFindings(plan, state);
  const danger = [...new Set(closed.flatMap((f) => (f.damages && !planned.has(key(f)) ? [f.damages] : [])))].join(", ");
  const wrong = misplaced(plan.fitted, state.plugAt).map((f) => (danger ? { ...f, damages: danger } : f));
  // What goes away once the plugs sit in their places is not told a second time.
  const right =
    wrong.length > 0 ? new Set(checkConnections({ ...input, system: atPlanned(plan, state) }).map(key)) : null;
  const moved = new Set(
    wrong.flatMap((f) => f.fix?.press.map((e) => (e.kind === "connect.plug" ? e.data.link : "")) ?? []),
  );
  const found = checkConnections(input).filter(
    (f) =>
      f.level !== "note" &&
      stays.has(key(f)) &&
      !planned.has(key(f)) &&
      !moved.has(f.link ?? "") &&
      (right?.has(key(f)) ?? true),
  );
  return withRemedies([...wrong, ...tapFindings(plan, state), ...found], input, (i) => bySettings(i, plan.sets));
}

/** The system with every plug in its planned place; one that is turned over stays so. */
function atPlanned(plan: JobPlan, { turned }: Pick<JobState, "turned">): System {
  return asPlugged(plan.fitted, { plugAt: new Map(), turned });
}

const key = (f: Finding) => `${f.rule} ${f.where}`;

/** What the plan itself has against it, by place; asked on every mark, so it is kept with the plan. */
const planFindings = new WeakMap<JobPlan, Map<string, ReadonlySet<string>>>();

function plannedFindings(plan: JobPlan, state: Pick<JobState, "placed">): ReadonlySet<string> {
  const byPlaces = planFindings.get(plan) ?? new Map<string, ReadonlySet<string>>();
  planFindings.set(plan, byPlaces);
  const places = JSON.stringify([...state.placed]);
  let found = byPlaces.get(places);
  if (!found) {
    found = new Set(checkConnections(planInput(plan, state)).map(key));
    byPlaces.set(places, found);
  }
  return found;
}

/** A tap that sits the wrong way round carries both loads through the old fuse. */
function tapFindings(plan: JobPlan, { feed, tapLit }: Plugged): Finding[] {
  if (feed === null || tapLit !== false) return [];
  const { say } = tapOrientation(tapLit);
  return [
    {
      rule: "tap-turned",
      level: "stop",
      where: `Fuse tap in ${feed}`,
      text: say,
      remedy: `Original fuse of ${plan.documents.car.fusePanel?.find((p) => p.id === feed)?.circuit ?? feed} out again for the second test.`,
      fix: { say: "It is turned and lit", press: [{ kind: "connect.tap", data: { lit: true } }] },
    },
  ];
}

/**
 * Settings as they stand where it is too late for the plan: contacts that were to be moved before their plug went in.
 * Coding and menus come later and count as planned here.
 */
function settingsDue(plan: JobPlan, state: Pick<JobState, "plugged" | "made" | "placed">): Settings {
  const settings: Record<string, string> = { ...settingsOfPlaces(plan, state) };
  for (const { setting, means, moves } of plan.sets) {
    if (means !== "contacts" || state.made.has(setting)) continue;
    const ports = new Set(
      (moves ?? []).flatMap((m) => [m.from, m.to]).map((ref) => ref.split(".").slice(0, 2).join(".")),
    );
    const late = plan.connections.some((c) => state.plugged.has(c.link) && (ports.has(c.a) || ports.has(c.b)));
    const delivered = deliveredValue(plan.fitted, setting);
    if (late && delivered !== undefined) settings[setting] = delivered;
  }
  return settings;
}
