/** What closed jobs teach the strip plan: real minutes, differences, steps added and left out. */
import type { JobEntry } from "../log/entry";
import { foldJob } from "../log/fold";
import type { StripJournal } from "../log/strip-journal";
import type { StripPlan, StripStep } from "../model/profile";
import { learnMinutes } from "./estimate";
import { measuredMinutes } from "./measured-minutes";

/** The journal of a job from its entries. */
function journalOf(entries: readonly JobEntry[]): StripJournal {
  return foldJob(entries).strip;
}

/** One change of the plan that the jobs speak for. */
export interface Suggestion {
  id: string;
  kind: "minutes" | "tool" | "fasteners" | "added" | "leftOut";
  step: string;
  say: string;
  /** Jobs that speak for it, of those in which the step occurred. */
  jobs: number;
  of: number;
  /** Most of these jobs say so. */
  common: boolean;
  change: (plan: StripPlan) => StripPlan;
}

/**
 * Suggestions for a next version of a strip plan.
 *
 * @param jobs entries of jobs on this car, each in its order
 */
export function suggestChanges(plan: StripPlan, jobs: readonly (readonly JobEntry[])[]): Suggestion[] {
  const journals = jobs.map(journalOf);
  const measured = measuredMinutes(plan, jobs);
  return [
    ...plan.steps.flatMap((s) => [
      ...minutesChange(s, measured[s.id] ?? []),
      ...differences(s, journals),
      ...leftOut(s, journals),
    ]),
    ...added(plan, journals),
  ];
}

function minutesChange(step: StripStep, measured: readonly number[]): Suggestion[] {
  const { low, likely: usual, high, jobs } = learnMinutes(step.minutes, measured);
  const next = { low: round(low), likely: round(usual), high: round(high) };
  const same = (["low", "likely", "high"] as const).every((k) => Math.abs(next[k] - step.minutes[k]) < 0.5);
  if (jobs === 0 || same) return [];
  const { minutes: m } = step;
  return [
    {
      id: `minutes/${step.id}`,
      kind: "minutes",
      step: step.id,
      say: `${step.title}: ${next.low} to ${next.high} min, usually ${next.likely}, instead of ${m.low} to ${m.high}, usually ${m.likely}`,
      jobs,
      of: jobs,
      common: true,
      change: (plan) => changeStep(plan, step.id, (s) => ({ ...s, minutes: next })),
    },
  ];
}

/** To half a minute, never under it. */
function round(minutes: number): number {
  return Math.max(0.5, Math.round(minutes * 2) / 2);
}

function differences(step: StripStep, journals: readonly StripJournal[]): Suggestion[] {
  const on = journals.filter((j) => j.stepEvents.some((d) => d.step === step.id));
  const suggestions: Suggestion[] = [];
  const tell = (id: string, kind: Suggestion["kind"], say: string, jobs: number, edit: (s: StripStep) => StripStep) =>
    suggestions.push({
      id: `${id}/${step.id}`,
      kind,
      step: step.id,
      say: `${step.title}: ${say}`,
      jobs,
      of: on.length,
      common: jobs * 2 > on.length,
      change: (plan) => changeStep(plan, step.id, edit),
    });
  for (const [tool, jobs] of votes(on.map((j) => lastDiffers(j, step.id)?.tool)))
    if (tool !== step.tool)
      tell(`tool-${tool}`, "tool", `${tool} instead of ${step.tool ?? "no tool"}`, jobs, (s) => ({ ...s, tool }));
  for (const [group, f] of (step.fasteners ?? []).entries()) {
    const own = (j: StripJournal) => lastDiffers(j, step.id)?.fasteners?.find((d) => d.group === group);
    const edit = (with_: Partial<typeof f>) => (s: StripStep) => ({
      ...s,
      fasteners: (s.fasteners ?? []).map((x, i) => (i === group ? { ...x, ...with_ } : x)),
    });
    const counted = on.map((j) => own(j)?.count ?? j.counts.get(`${step.id}/${group}`)?.out);
    for (const [count, jobs] of votes(counted))
      if (count !== f.count && count > 0)
        tell(
          `count-${group}-${count}`,
          "fasteners",
          `${count} × ${f.kind} instead of ${f.count}`,
          jobs,
          edit({ count }),
        );
    for (const [lengthMm, jobs] of votes(on.map((j) => own(j)?.lengthMm)))
      if (lengthMm !== f.lengthMm)
        tell(
          `length-${group}-${lengthMm}`,
          "fasteners",
          `${f.kind} is ${lengthMm} mm long instead of ${f.lengthMm ?? "not written"}`,
          jobs,
          edit({ lengthMm }),
        );
  }
  return suggestions;
}

function lastDiffers(journal: StripJournal, step: string) {
  return journal.notes.findLast((n) => n.step === step && n.differs)?.differs;
}

function leftOut(step: StripStep, journals: readonly StripJournal[]): Suggestion[] {
  const skipped = journals.filter((j) => j.skipped.has(step.id));
  if (skipped.length === 0) return [];
  const of = journals.filter((j) => j.skipped.has(step.id) || j.stepEvents.some((d) => d.step === step.id)).length;
  return [
    {
      id: `leftOut/${step.id}`,
      kind: "leftOut",
      step: step.id,
      say: `${step.title}: left out (${[...new Set(skipped.map((j) => j.skipped.get(step.id)))].join("; ")})`,
      jobs: skipped.length,
      of,
      common: skipped.length * 2 > of && skipped.length > 1,
      change: (plan) => removeStep(plan, step.id),
    },
  ];
}

function added(plan: StripPlan, journals: readonly StripJournal[]): Suggestion[] {
  return journals.flatMap((j) =>
    j.added.map((a): Suggestion => {
      const alike = journals.filter((o) => o.added.some((x) => sameTitle(x.title, a.title)));
      return {
        id: `added/${a.id}`,
        kind: "added",
        step: a.id,
        say: `New step${a.before ? ` before “${plan.steps.find((s) => s.id === a.before)?.title ?? a.before}”` : ""}: ${a.title}`,
        jobs: alike.length,
        of: journals.length,
        common: alike.length * 2 > journals.length,
        change: (p) => {
          if (p.steps.some((s) => sameTitle(s.title, a.title))) return p;
          const { before, ...rest } = a;
          const next = p.steps.find((s) => s.id === before);
          const step: StripStep = { ...rest, after: next?.after ?? [], minutes: { low: 1, likely: 3, high: 10 } };
          return next
            ? { ...p, steps: p.steps.flatMap((s) => (s === next ? [step, { ...s, after: [step.id] }] : [s])) }
            : { ...p, steps: [...p.steps, step] };
        },
      };
    }),
  );
}

function sameTitle(a: string, b: string): boolean {
  return a.trim().toLowerCase() === b.trim().toLowerCase();
}

/** Each value with the number of jobs that give it, most first. */
function votes<T>(values: readonly (T | undefined)[]): [T, number][] {
  const counts = new Map<T, number>();
  for (const v of values) if (v !== undefined) counts.set(v, (counts.get(v) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1]);
}

function changeStep(plan: StripPlan, id: string, edit: (step: StripStep) => StripStep): StripPlan {
  return { ...plan, steps: plan.steps.map((s) => (s.id === id ? edit(s) : s)) };
}

/** Takes a step out; what came after it comes after what it came after. */
function removeStep(plan: StripPlan, id: string): StripPlan {
  const step = plan.steps.find((s) => s.id === id);
  return {
    ...plan,
    steps: plan.steps
      .filter((s) => s.id !== id)
      .map((s) => ({ ...s, after: [...new Set(s.after.flatMap((a) => (a === id ? (step?.after ?? []) : [a])))] })),
  };
}

/** The plan with the chosen suggestions. */
export function applySuggestions(
  plan: StripPlan,
  suggestions: readonly Suggestion[],
  chosen: readonly string[],
): StripPlan {
  return suggestions.filter((s) => chosen.includes(s.id)).reduce((p, s) => s.change(p), plan);
}
