import { carState, stepHazards } from "../strip/state";
import type { EntryBody, JobEntry } from "./entry";
import { isFailure } from "./next";
import type { JobPlan } from "./plan";
import type { JobState } from "./state";

/**
 * Whether an entry makes sense on a job as it stands: names that the plan knows, hazards confirmed, nothing undone
 * twice. Returns what is wrong and what to do, or null.
 */
export function checkEntry(
  plan: JobPlan,
  state: JobState,
  entries: readonly JobEntry[],
  body: EntryBody,
): string | null {
  switch (body.kind) {
    case "intake.baseline":
      return plan.baseline.some((t) => t.id === body.data.test) ? null : unknown("baseline try", body.data.test);
    case "intake.wishes":
      // Wishes are functions of any kit of the library, not of the kit at hand alone.
      return null;
    case "fit.confirm":
      return checkChoices(plan, body.data.choices);
    case "strip.step":
      return checkStep(plan, state, body.data);
    case "connect.plug":
      return plan.connections.some((c) => c.link === body.data.link) ? null : unknown("connection", body.data.link);
    case "configure.set":
      return plan.sets.some((s) => s.setting === body.data.setting) ? null : unknown("setting", body.data.setting);
    case "configure.switches":
      return checkSwitches(plan, body.data.settings);
    case "prove.result":
      return plan.tests.some((t) => t.id === body.data.test) ? null : unknown("test", body.data.test);
    case "handover.close":
      return closable(plan, state);
    case "undo":
      return checkUndo(entries, body.data.entry);
    default:
      return null;
  }
}

function unknown(what: string, id: string): string {
  return `The plan of this job has no ${what} “${id}”. Load the page again; the plan may have changed.`;
}

function checkChoices(plan: JobPlan, choices: Record<string, string>): string | null {
  for (const [id, option] of Object.entries(choices)) {
    const choice = plan.documents.kit.choices.find((c) => c.id === id);
    if (!choice) return unknown("choice", id);
    if (!choice.options.some((o) => o.id === option))
      return `${choice.label}: the kit does not offer “${option}”. Choose one of ${choice.options.map((o) => o.label).join(", ")}.`;
  }
  return null;
}

function checkStep(
  plan: JobPlan,
  state: JobState,
  data: { step: string; direction: "in" | "back"; confirmed: string[] },
): string | null {
  const step = plan.steps.find((s) => s.id === data.step);
  if (!step) return unknown("step", data.step);
  if (data.direction === "back") return null;
  const open = stepHazards(carState(plan.documents.car.stripPlan, state.deeds), step).filter(
    (h) => h.level === "stop" && !data.confirmed.includes(h.id),
  );
  return open[0]
    ? `${open[0].text} ${open[0].remedy} If you have made sure yourself, confirm the hazard; it is logged with your name.`
    : null;
}

function checkSwitches(plan: JobPlan, settings: Record<string, string>): string | null {
  const bank = plan.documents.kit.switchBank;
  if (!bank) return "This kit has no switch bank.";
  const keys = bank.switches.map((id) => `${bank.part}.${id}`);
  const strange = Object.keys(settings).find((k) => !keys.includes(k));
  if (strange) return unknown("switch", strange);
  const missing = keys.findIndex((k) => settings[k] !== bank.on && settings[k] !== bank.off);
  return missing >= 0 ? `Switch ${missing + 1} is not entered: on or off.` : null;
}

function closable(plan: JobPlan, state: JobState): string | null {
  const failing = plan.tests.filter((t) => t.fn.who === "law" && isFailure(state.results.get(t.id)?.value));
  if (failing[0]) return `${failing[0].fn.name} fails and the law asks for it. Repair it before the car leaves.`;
  return null;
}

function checkUndo(entries: readonly JobEntry[], id: string): string | null {
  const target = entries.find((e) => e.id === id);
  if (!target) return "There is no such entry on this job.";
  if (entries.some((e) => e.kind === "undo" && e.data.entry === id)) return "This was undone already.";
  return null;
}
