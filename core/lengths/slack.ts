/** How long a lead must be on its way through the car, against what it has. */
import { oncePer } from "../model/once";
import type { KitLead, RunSegment } from "../model/profile";
import { OPTICAL_RADIUS_MM, type Run, shortestRun } from "./run";

/** Slack in metres at each plug, for a loop where a panel comes off again, and for a drip loop. Common practice. */
const SLACK_M = { end: 0.1, service: 0.15, drip: 0.1 };

export interface LengthLine {
  what: string;
  lengthM: number;
}

export interface LengthCheck {
  run: Run;
  /** What the needed length is made of. */
  lines: LengthLine[];
  neededM: number;
  /** Length of the lead in the kit; null when its profile does not say. */
  hasM: number | null;
  verdict: "fits" | "short" | "unknown";
  /** Metres too short, or left to coil. */
  differenceM: number;
  say: string;
  /** Cautions of the way: hot, sharp, moving, wet. */
  minds: string[];
}

const ZONES: Record<NonNullable<RunSegment["zone"]>, string> = {
  airbag: "across an airbag",
  hot: "hot: keep a hand's breadth off, heat-proof sleeve",
  sharp: "sharp edge: fabric tape or sleeve",
  moving: "moves: a loop that does not pull at either end",
  wet: "wet: drip loop below the grommet",
};

const checksOn = oncePer((_: readonly RunSegment[]) => new Map<string, LengthCheck>());

/**
 * Length needed by a lead on its way, against what it has. Many kits take the same way through a car: worked out once
 * for each.
 *
 * @throws {RunError} when there is no way
 */
export function checkLength(segments: readonly RunSegment[], lead: KitLead, hasM: number | null): LengthCheck {
  const { from, to, kind, service } = lead;
  const known = checksOn(segments);
  const key = JSON.stringify([from, to, kind, service, hasM]);
  const check = known.get(key) ?? checked(segments, lead, hasM);
  known.set(key, check);
  return check;
}

function checked(segments: readonly RunSegment[], lead: KitLead, hasM: number | null): LengthCheck {
  const run = shortestRun(segments, lead);
  const drips = run.segments.filter((s) => s.grommet || s.zone === "wet").length;
  const lines: LengthLine[] = [
    ...run.segments.map((s) => ({ what: `${s.from} – ${s.to}`, lengthM: s.lengthM })),
    { what: "Slack at both plugs", lengthM: 2 * SLACK_M.end },
    ...(lead.service ?? []).map((at) => ({ what: `Service loop at ${at}`, lengthM: SLACK_M.service })),
    ...(drips > 0 ? [{ what: "Drip loop", lengthM: drips * SLACK_M.drip }] : []),
  ];
  const neededM = lines.reduce((n, l) => n + l.lengthM, 0);
  const minds = [...new Set(run.segments.flatMap((s) => (s.zone ? [`${s.from} – ${s.to}: ${ZONES[s.zone]}`] : [])))];
  if (lead.kind === "twisted") minds.push("Twisted pair to the ends: untwist no more than a thumb's width.");
  if (lead.kind === "optical")
    minds.push(`Optical: no bend under ${OPTICAL_RADIUS_MM} mm radius, never kinked or pulled.`);
  const common = { run, lines, neededM, hasM, minds };
  if (hasM === null)
    return {
      ...common,
      verdict: "unknown",
      differenceM: 0,
      say: `Needs ${metres(neededM)}; the kit does not say how long it is.`,
    };
  const differenceM = Math.abs(hasM - neededM);
  if (hasM < neededM - 0.005)
    return {
      ...common,
      verdict: "short",
      differenceM,
      say: `Too short by ${metres(differenceM)}: order an extension, or place an end nearer.`,
    };
  return {
    ...common,
    verdict: "fits",
    differenceM,
    say: differenceM < 0.1 ? "Fits." : `Fits; coil ${metres(differenceM)} at ${lead.from}, tied and not rattling.`,
  };
}

function metres(m: number): string {
  return m < 1 ? `${Math.round(m * 100)} cm` : `${m.toFixed(2)} m`;
}
