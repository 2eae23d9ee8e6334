/** What the meter showed in Connect says about what is the matter. */
import type { Hypothesis } from "../diagnose/hypothesis";
import type { Hint } from "../diagnose/judge";
import type { JobState } from "../log/entry";
import { READING_KINDS, type ReadingKind } from "../log/kinds/connect/reading";
import { oncePer } from "../model/once";
import { Model } from "../model/outcome";
import { type Interpreted, interpret } from "../power/readings";
import type { JobPlan } from "./plan";
import { hypothesesOfPlan } from "./suspects";

/** What a reading bears on: a module without supply, a supply that sags, a bus that is open, shorted or exchanged. */
type Bearing = "dark" | "sag" | "bus";

/** How much likelier a cause is by a reading of each tone. Our assumption; 1 says nothing. */
const BEARS: Readonly<Partial<Record<ReadingKind, { on: Bearing } & Readonly<Record<Interpreted["tone"], number>>>>> = {
  // At the feed itself: what comes behind it may still be open.
  supplyOn: { on: "dark", good: 1, watch: 2, stop: 10 },
  supplyCrank: { on: "sag", good: 0.15, watch: 6, stop: 10 },
  drop: { on: "sag", good: 0.3, watch: 3, stop: 6 },
  // The car's own pair can be whole while the kit's is not.
  pairOhm: { on: "bus", good: 1, watch: 3, stop: 8 },
  busHigh: { on: "bus", good: 0.7, watch: 1, stop: 8 },
  busLow: { on: "bus", good: 0.7, watch: 1, stop: 8 },
};

/** Hints by hypothesis from the newest reading of each kind since the last repair. */
export function meterHints(plan: JobPlan, { readings, repairs }: JobState): Map<string, Hint> {
  const since = repairs.at(-1)?.at ?? "";
  const newest = new Map(readings.filter((r) => r.at > since).map((r) => [r.reading, r.value]));
  const hints = new Map<string, Hint>();
  for (const [kind, value] of newest) {
    const bears = BEARS[kind];
    if (!bears) continue;
    const { tone, says } = interpret(kind, value);
    const factor = bears[tone];
    if (factor === 1) continue;
    const { label, unit } = READING_KINDS[kind];
    const why = `${label}: ${value} ${unit}. ${says}`;
    for (const id of bearingOf(plan)[bears.on]) {
      const before = hints.get(id);
      hints.set(id, { factor: factor * (before?.factor ?? 1), why: before ? `${before.why} ${why}` : why });
    }
  }
  return hints;
}

const bearingOf = oncePer((plan: JobPlan): Readonly<Record<Bearing, readonly string[]>> => {
  const hypotheses = hypothesesOfPlan(plan);
  const sound = new Model(plan.fitted, {}, plan.settings);
  const devices = plan.fitted.parts.filter((p) => p.type === "device" && plan.touched.parts.has(p.id));
  const lit = devices.filter((p) => sound.alive(p.id)).map((p) => p.id);
  const darkens = ({ fault }: Hypothesis) => {
    // A module that is dead itself takes nothing from its feed.
    if (!fault || fault.kind === "dead") return false;
    const car = sound.under(fault.disturbance);
    return lit.some((id) => !car.alive(id));
  };
  const ids = (of: (h: Hypothesis) => boolean) => hypotheses.filter(of).map((h) => h.id);
  return {
    dark: ids(darkens),
    sag: ids((h) => h.id.startsWith("sag:")),
    bus: ids((h) => h.fault !== null && h.links.some((link) => carriesBus(plan, link))),
  };
});

function carriesBus({ fitted }: JobPlan, id: string): boolean {
  const link = fitted.links.find((l) => l.id === id);
  return [link?.a, link?.b].some((ref) => {
    const [part, port] = ref?.split(".") ?? [];
    const contacts = fitted.parts.find((p) => p.id === part)?.ports.find((p) => p.id === port)?.contacts ?? [];
    return contacts.some((c) => c.kind === "can" || c.kind === "bus");
  });
}
