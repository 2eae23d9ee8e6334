/** What the kinds of entries ask of the strip plan of a job. */
import type { JobState } from "../log/entry";
import type { JobFacts } from "../log/facts";
import { foldEdit } from "../log/fold";
import { type Refusal, refuse, unknown } from "../log/kind";
import { offNow, type StripEdit, type StripJournal } from "../log/strip-journal";
import { PlanError } from "../strip/graph";
import { planRoute } from "../strip/route";
import { prepStepOf } from "../strip/vehicle-state";
import { type StripView, stripView, taskOf } from "../strip/view";
import { type JobPlan, stripInput } from "./plan";

type StripFacts = Pick<JobFacts, "step" | "stepRefusal" | "editRefusal" | "gate" | "addedStep">;

export function stripFacts(plan: JobPlan, state: JobState, now: string): StripFacts {
  const input = stripInput(plan, state);
  let seen: StripView | null = null;
  const view = () => {
    seen ??= stripView(input, state.strip, now);
    return seen;
  };
  return {
    step(id, direction = "in") {
      const v = view();
      return taskOf(v, id, direction)?.title ?? plan.strip.plan.steps.find((s) => s.id === id)?.title ?? null;
    },
    gate: () => view().gate,
    addedStep: (id) => state.strip.added.find((a) => a.id === id) ?? null,
    stepRefusal(step, direction) {
      const v = view();
      const task = taskOf(v, step, direction);
      if (!task) return unknown("step", step);
      // A step that stands so already is a second tap, perhaps of somebody else: it changes nothing.
      const off = offNow(state.strip).has(step);
      if (off === (direction === "in")) return null;
      const behindGate = v.left.length === 0 && v.back.some((t) => t.id === step && t.behindGate);
      if (direction === "back" && behindGate && v.gate === "open")
        return refuse(
          task.title,
          `${task.title}: the bench test comes first.`,
          "To close without it, pass it over on purpose with a reason; it stands in the record.",
        );
      return null;
    },
    editRefusal: (edit) => editRefusal(plan, state, edit, now),
  };
}

/** Changes of the plan on the car: they must name steps of it and leave a plan that can be followed. */
function editRefusal(plan: JobPlan, state: JobState, edit: StripEdit, now: string): Refusal | null {
  const { route, done } = stripView(stripInput(plan, state), state.strip, now);
  const known = new Map([...plan.strip.plan.steps, ...route.plan.steps].map((s) => [s.id, s]));
  const isDone = (id: string) => done.some((d) => d.id === id);
  switch (edit.kind) {
    case "strip.skip":
      if (!known.has(edit.data.step)) return unknown("step", edit.data.step);
      return isDone(edit.data.step)
        ? refuse("step", "The step is done already;", "undo it in the log if it was not.")
        : null;
    case "strip.split":
      if (!route.plan.steps.some((s) => s.id === edit.data.step)) return unknown("step", edit.data.step);
      return isDone(edit.data.step)
        ? refuse("step", "A step that is done cannot be split any more.", "Write a note instead.")
        : null;
    case "strip.count": {
      const fasteners = known.get(edit.data.step)?.fasteners ?? [];
      return fasteners[edit.data.group] ? null : unknown("group of fasteners", `${edit.data.step}/${edit.data.group}`);
    }
    case "strip.note":
      return known.has(edit.data.step) || prepStepOf(route.plan, edit.data.step)
        ? null
        : unknown("step", edit.data.step);
    case "strip.want":
      if (!known.has(edit.data.step)) return unknown("step", edit.data.step);
      break;
    case "strip.add":
      if (edit.data.before !== null && !known.has(edit.data.before)) return unknown("step", edit.data.before);
      if (known.has(edit.data.id) && !state.strip.added.some((a) => a.id === edit.data.id))
        return refuse("step", "A step with this identifier is in the plan already.", "Load the page again.");
      break;
  }
  return cannotBePlanned(plan, state.strip, edit);
}

function cannotBePlanned(plan: JobPlan, journal: StripJournal, edit: StripEdit): Refusal | null {
  try {
    planRoute({ ...plan.strip, measured: {} }, foldEdit(journal, edit));
    return null;
  } catch (error) {
    if (error instanceof PlanError) return refuse(error.where, error.problem, error.remedy);
    throw error;
  }
}
