import { placesFor } from "../connect/as-plugged";
import { connectionPlan } from "../connect/connection-plan";
import { isReversible } from "../connect/rules/plugs";
import { movable, placement } from "../lengths/placement";
import { forbidden, rankFeeds } from "../power/feed";
import { PlanError } from "../strip/graph";
import { note, offNow, type StripBody, type StripJournal } from "../strip/journal";
import { planRoute } from "../strip/route";
import { ritualOf } from "../strip/stand";
import { stripView, taskHazards, taskOf } from "../strip/view";
import type { EntryBody, JobEntry } from "./entry";
import { awaitsFeed, isFailure, type JobPlan, stripInput } from "./plan";
import type { JobState } from "./state";

/**
 * Whether an entry makes sense on a job as it stands: names that the plan knows, hazards confirmed, nothing undone
 * twice. Returns what is wrong and what to do, or null.
 *
 * @param now ISO 8601, UTC: when the thing was done
 */
export function checkEntry(
  plan: JobPlan,
  state: JobState,
  entries: readonly JobEntry[],
  body: EntryBody,
  now: string,
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
      return checkStep(plan, state, body.data, now);
    case "strip.skip":
    case "strip.want":
    case "strip.split":
    case "strip.count":
    case "strip.note":
    case "strip.add":
      return checkStripEdit(plan, state, body, now);
    case "connect.plug":
      return checkPlug(plan, state, body.data);
    case "connect.place":
      return checkPlace(plan, state, body.data);
    case "connect.task":
      return connectionPlan(plan.base, plan.connections).some((t) => t.id === body.data.task)
        ? null
        : unknown("task", body.data.task);
    case "connect.feedTest":
      return positionOf(plan, body.data.position) ? null : unknown("fuse position", body.data.position);
    case "connect.tap":
      return positionOf(plan, state.feed ?? "")?.used
        ? null
        : "There is no tap on this job: take a used fuse position first.";
    case "connect.feed":
      return checkFeed(plan, state, body.data.position);
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
  now: string,
): string | null {
  const input = stripInput(plan, state);
  const view = stripView(input, state.strip, now);
  const task = taskOf(view, data.step, data.direction);
  if (!task) return unknown("step", data.step);
  // A step that stands so already is a second tap, perhaps of somebody else: it changes nothing.
  const off = offNow(state.strip).has(data.step);
  if (off === (data.direction === "in")) return null;
  const behindGate = view.left.length === 0 && view.back.some((t) => t.id === data.step && t.behindGate);
  if (data.direction === "back" && behindGate && view.gate === "open")
    return `${task.title}: the bench test comes first. To close without it, pass it over on purpose with a reason; it stands in the record.`;
  const open = taskHazards(input, view, task, now).filter((h) => h.level === "stop" && !data.confirmed.includes(h.id));
  return open[0]
    ? `${open[0].text} ${open[0].remedy} If you have made sure yourself, confirm the hazard; it is logged with your name.`
    : null;
}

/** Changes of the plan on the car: they must name steps of it and leave a plan that can be followed. */
function checkStripEdit(plan: JobPlan, state: JobState, body: StripBody, now: string): string | null {
  const { route, done } = stripView(stripInput(plan, state), state.strip, now);
  const known = new Map([...plan.strip.plan.steps, ...route.plan.steps].map((s) => [s.id, s]));
  const isDone = (id: string) => done.some((d) => d.id === id);
  switch (body.kind) {
    case "strip.skip":
      if (!known.has(body.data.step)) return unknown("step", body.data.step);
      return isDone(body.data.step) ? "The step is done already; undo it in the log if it was not." : null;
    case "strip.split":
      if (!route.plan.steps.some((s) => s.id === body.data.step)) return unknown("step", body.data.step);
      return isDone(body.data.step) ? "A step that is done cannot be split any more. Write a note instead." : null;
    case "strip.count": {
      const fasteners = known.get(body.data.step)?.fasteners ?? [];
      return fasteners[body.data.group] ? null : unknown("group of fasteners", `${body.data.step}/${body.data.group}`);
    }
    case "strip.note":
      return known.has(body.data.step) || ritualOf(route.plan, body.data.step) ? null : unknown("step", body.data.step);
    case "strip.want":
      if (!known.has(body.data.step)) return unknown("step", body.data.step);
      break;
    case "strip.add":
      if (body.data.before !== null && !known.has(body.data.before)) return unknown("step", body.data.before);
      if (known.has(body.data.id) && !state.strip.added.some((a) => a.id === body.data.id))
        return "A step with this identifier is in the plan already. Load the page again.";
      break;
  }
  return cannotBePlanned(plan, state.strip, body);
}

function cannotBePlanned(plan: JobPlan, journal: StripJournal, body: StripBody): string | null {
  const next: StripJournal = { ...journal, added: [...journal.added], wanted: new Set(journal.wanted) };
  note(next, body, { at: "", by: "", entry: "" });
  try {
    planRoute({ ...plan.strip, measured: {} }, next);
    return null;
  } catch (error) {
    if (error instanceof PlanError) return `${error.problem} ${error.remedy}`;
    throw error;
  }
}

function checkPlug(
  plan: JobPlan,
  state: JobState,
  { link, at, plugged, turned }: { link: string; at?: string; plugged: boolean; turned?: boolean },
): string | null {
  const connection = plan.connections.find((c) => c.link === link);
  if (!connection) return unknown("connection", link);
  if (plugged && awaitsFeed(plan, state, connection))
    return `${connection.say}: take a fuse position first, in Connect under Feed. The tester says which one may be used.`;
  if (turned && !isReversible(plan.fitted, connection))
    return `${connection.say}: this plug goes in one way only. Look at its keying again.`;
  if (at !== undefined && !placesFor(plan.fitted, connection).includes(at)) return unknown("place", at);
  return null;
}

function checkPlace(plan: JobPlan, state: JobState, { part, place }: { part: string; place: string }): string | null {
  const { car, kit } = plan.documents;
  if (!movable(plan.fitted, placement(kit, plan.applies, state.placed)).some((p) => p.id === part))
    return unknown("part that can lie elsewhere", part);
  const known = [...(car.places ?? []).map((p) => p.name), ...(car.runs ?? []).flatMap((r) => [r.from, r.to])];
  return known.includes(place)
    ? null
    : `This car has no place “${place}”. Choose one of ${[...new Set(known)].join(", ")}.`;
}

function positionOf(plan: JobPlan, id: string) {
  return plan.documents.car.fusePanel?.find((p) => p.id === id);
}

/** A circuit on which somebody's life depends is never taken, and neither is one that the tester has ruled out. */
function checkFeed(plan: JobPlan, state: JobState, id: string | null): string | null {
  if (id === null) return null;
  const position = positionOf(plan, id);
  if (!position) return unknown("fuse position", id);
  const never = forbidden(position);
  if (never) return `${position.id} ${position.circuit} is never used: ${never}. Take another position.`;
  const [judged] = rankFeeds([position], { steadyA: 0.1, peakA: 0.1 }, state.feedTests);
  return judged?.verdict === "good"
    ? null
    : `${position.id} ${position.circuit}: ${judged?.reasons.at(-1)} Test it with the key on, off and the door open first.`;
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
