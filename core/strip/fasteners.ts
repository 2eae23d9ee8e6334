/** Screws and clips: where they lie, whether they are counted, which are missing. */

import { everDone, offNow, type SmallPart, type StripJournal } from "../log/strip-journal";
import type { StripPlan, StripStep } from "../model/profile";
import type { CarState } from "./car-state";
import { withPrerequisites } from "./graph";
import type { OutGroup } from "./left-over";

export interface TrayLine {
  tray: string;
  kind: string;
  count: number;
  lengthMm?: number;
  /** One drive is out in two lengths. */
  mixed: boolean;
  step: string;
  group: number;
  /** Counted when it came out, if it was. */
  countedOut?: number;
}

/** Fasteners by tray, with a warning where one drive is out in two lengths. */
export function trays(car: CarState, journal: StripJournal): TrayLine[] {
  return car.fastenersOut
    .map(({ tray, kind, count, lengthMm, step, group }) => {
      const counted = journal.counts.get(`${step}/${group}`)?.out;
      return {
        tray,
        kind,
        count: counted ?? count,
        ...(lengthMm === undefined ? {} : { lengthMm }),
        mixed: car.fastenersOut.some((o) => o.kind === kind && o.lengthMm !== lengthMm),
        step,
        group,
        ...(counted === undefined ? {} : { countedOut: counted }),
      };
    })
    .sort((a, b) => (a.tray < b.tray ? -1 : a.tray > b.tray ? 1 : 0));
}

export interface SmallLine extends SmallPart {
  /** Told by a person, or found by counting. */
  found: "told" | "counted";
  /** Entry that tells it, for undo. */
  entry?: string;
}

/** Small parts to get: what was told broken or lost, and what went in less often than it came out. */
export function smallParts(plan: StripPlan, journal: StripJournal): SmallLine[] {
  const told: SmallLine[] = journal.small.map((s) => ({
    step: s.step,
    what: s.what,
    state: s.state,
    count: s.count,
    found: "told",
    entry: s.entry,
  }));
  const off = offNow(journal);
  for (const step of plan.steps) {
    if (off.has(step.id)) continue;
    for (const [group, f] of (step.fasteners ?? []).entries()) {
      const counts = journal.counts.get(`${step.id}/${group}`);
      const missing = (counts?.out ?? f.count) - (counts?.in ?? Number.POSITIVE_INFINITY);
      if (missing > 0)
        told.push({
          step: step.id,
          what: `${f.kind}${f.lengthMm ? ` ${f.lengthMm} mm` : ""}, ${step.panel ?? step.title}`,
          state: "lost",
          count: missing,
          found: "counted",
        });
    }
  }
  return told;
}

/** Every group of fasteners that was out on this job, with what counting says of it. */
export function outGroups(plan: StripPlan, journal: Pick<StripJournal, "stepEvents" | "counts">): OutGroup[] {
  const ever = everDone(journal);
  const off = offNow(journal);
  return plan.steps
    .filter((s) => ever.has(s.id))
    .flatMap((step) => {
      const minutes = minutesToOpen(plan, off, step);
      return (step.fasteners ?? []).map(({ kind, lengthMm, place, tray, count }, group): OutGroup => {
        const counts = journal.counts.get(`${step.id}/${group}`);
        return {
          step: step.id,
          title: step.title,
          group,
          kind,
          ...(lengthMm === undefined ? {} : { lengthMm }),
          ...(place === undefined ? {} : { place }),
          tray,
          counted: off.has(step.id) ? { state: "stillOut" } : countedState(counts?.out ?? count, counts?.in),
          minutes,
        };
      });
    });
}

function countedState(out: number, back: number | undefined): OutGroup["counted"] {
  if (back === undefined) return { state: "notCounted" };
  return back < out ? { state: "short", out, in: back } : { state: "right" };
}

/** Minutes to get at a step's fasteners again: everything on top that is back. */
function minutesToOpen(plan: StripPlan, off: ReadonlySet<string>, step: StripStep): number {
  return [...withPrerequisites(plan, [step.id])]
    .filter((id) => !off.has(id))
    .reduce((n, id) => n + (plan.steps.find((s) => s.id === id)?.minutes.likely ?? 0), 0);
}
