/** Screws and clips: where they lie, whether they are counted, where a lost or left one belongs. */

import { everDone, offNow, type SmallPart, type StripJournal } from "../log/strip-journal";
import type { StripPlan, StripStep } from "../model/profile";
import type { CarState } from "./car-state";
import { withPrerequisites } from "./graph";

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

export interface LeftOver {
  /** Drive and kind as the plan writes it; empty when nobody knows. */
  kind: string;
  lengthMm: number | null;
}

export interface Belonging {
  step: string;
  title: string;
  group: number;
  fastener: string;
  /** 0 to 1, of all candidates together. */
  likely: number;
  reasons: string[];
  /** Minutes to look: everything that has to come off again. */
  minutes: number;
}

/** A length taken with a ruler in a bay is good to a millimetre or two. */
const LENGTH_SPREAD_MM = 1.5;
/** How likely a group lacks a screw, by what the counts say; ratios are judgement, not measurement. */
const WEIGHT = { countedShort: 40, notCounted: 4, stillOut: 0.5, countedRight: 0.2 };

/**
 * Where a fastener that was left over could belong. Every group that was out on this job is weighed by its kind, by
 * its length against the one measured (normal, 1.5 mm), and by what counting says about it.
 */
export function whereItBelongs(
  plan: StripPlan,
  journal: Pick<StripJournal, "stepEvents" | "counts">,
  found: LeftOver,
): Belonging[] {
  const ever = everDone(journal);
  const off = offNow(journal);
  const candidates = plan.steps
    .filter((s) => ever.has(s.id))
    .flatMap((step) =>
      (step.fasteners ?? []).map((f, group) => {
        const counts = journal.counts.get(`${step.id}/${group}`) ?? {};
        const state = stateWeight(off.has(step.id), counts.out ?? f.count, counts.in);
        const length = lengthWeight(f.lengthMm, found.lengthMm);
        const kind = found.kind === "" || found.kind === f.kind ? 1 : 0;
        return {
          step: step.id,
          title: step.title,
          group,
          fastener: `${f.kind}${f.lengthMm ? ` ${f.lengthMm} mm` : ""}${f.place ? `, ${f.place}` : ""}`,
          weight: kind * length.weight * state.weight,
          reasons: [length.reason, state.reason(f.tray)].filter((r) => r !== ""),
          minutes: minutesToOpen(plan, off, step),
        };
      }),
    );
  const total = candidates.reduce((n, c) => n + c.weight, 0);
  return candidates
    .filter((c) => total > 0 && c.weight / total > 0.005)
    .map(({ weight, ...c }) => ({ ...c, likely: weight / total }))
    .sort((a, b) => b.likely - a.likely);
}

function stateWeight(isOff: boolean, out: number, back: number | undefined) {
  if (isOff)
    return {
      weight: WEIGHT.stillOut,
      reason: (tray: string) => `still off: it should lie in tray ${tray} with the others`,
    };
  if (back === undefined) return { weight: WEIGHT.notCounted, reason: () => "went back without being counted" };
  if (back < out) return { weight: WEIGHT.countedShort, reason: () => `${out} came out, ${back} went in` };
  return { weight: WEIGHT.countedRight, reason: () => "counted: as many in as out" };
}

function lengthWeight(planned: number | undefined, measured: number | null): { weight: number; reason: string } {
  if (measured === null || planned === undefined) return { weight: 1, reason: "" };
  const off = Math.abs(planned - measured);
  return {
    weight: Math.exp(-0.5 * (off / LENGTH_SPREAD_MM) ** 2),
    reason: off < 1 ? "length agrees" : `${off.toFixed(0)} mm ${planned > measured ? "longer" : "shorter"} in the plan`,
  };
}

/** Minutes to get at a step's fasteners again: everything on top that is back. */
function minutesToOpen(plan: StripPlan, off: ReadonlySet<string>, step: StripStep): number {
  return [...withPrerequisites(plan, [step.id])]
    .filter((id) => !off.has(id))
    .reduce((n, id) => n + (plan.steps.find((s) => s.id === id)?.minutes.likely ?? 0), 0);
}
