/** Where a lead runs in the car, how long it must be, and what that takes of ties and tape. */
import { CoreError } from "../model/errors";
import type { KitLead, RunSegment } from "../model/profile";

/** A run that cannot be planned: a place that is not in the car's map, or no allowed way. */
export class RunError extends CoreError {}

/** The ends of a lead and what it is made of. */
type Ends = Omit<KitLead, "part" | "service" | "when">;

export interface Run {
  /** Segments in the order from the lead's first end. */
  segments: RunSegment[];
  lengthM: number;
}

/** Zones through which a kind of lead must not go. In front of an airbag goes nothing. */
function allowed(segment: RunSegment, kind: KitLead["kind"]): boolean {
  if (segment.zone === "airbag") return false;
  return !(kind === "optical" && (segment.zone === "sharp" || (segment.bendRadiusMm ?? 100) < OPTICAL_RADIUS_MM));
}

/** Optical fibre is not bent tighter than this; from memory. */
const OPTICAL_RADIUS_MM = 25;

/**
 * The shortest allowed way of a lead. Dijkstra's algorithm over the places of the car; Numerische Mathematik 1 (1959).
 *
 * @throws {RunError} naming the place that is missing, or that no allowed way leads there
 */
export function shortestRun(segments: readonly RunSegment[], lead: Ends): Run {
  for (const place of [lead.from, lead.to])
    if (!segments.some((s) => s.from === place || s.to === place))
      throw new RunError(
        "lengths of the car",
        `no segment begins or ends at “${place}”.`,
        "Add a segment to the car, or name the place as the car does.",
      );
  const best = new Map<string, { lengthM: number; by: RunSegment | null; before: string | null }>([
    [lead.from, { lengthM: 0, by: null, before: null }],
  ]);
  const open = new Set([lead.from]);
  while (open.size > 0) {
    const place = [...open].reduce((a, b) => ((best.get(b)?.lengthM ?? 0) < (best.get(a)?.lengthM ?? 0) ? b : a));
    open.delete(place);
    if (place === lead.to) break;
    const here = best.get(place)?.lengthM ?? 0;
    for (const s of segments) {
      if (!allowed(s, lead.kind) || (s.from !== place && s.to !== place)) continue;
      const next = s.from === place ? s.to : s.from;
      const lengthM = here + s.lengthM;
      if (lengthM >= (best.get(next)?.lengthM ?? Number.POSITIVE_INFINITY)) continue;
      best.set(next, { lengthM, by: s, before: place });
      open.add(next);
    }
  }
  const end = best.get(lead.to);
  if (!end)
    throw new RunError(
      "lengths of the car",
      `no allowed way leads from “${lead.from}” to “${lead.to}”.`,
      lead.kind === "optical"
        ? "An optical lead keeps away from sharp edges and tight bends: add another way."
        : "A lead never goes across an airbag: add the way behind it.",
    );
  const path: RunSegment[] = [];
  for (let at = end; at.by; at = best.get(at.before ?? "") ?? { lengthM: 0, by: null, before: null })
    path.unshift(at.by);
  return { segments: path, lengthM: end.lengthM };
}

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

/** Length needed by a lead on its way, against what it has. */
export function checkLength(segments: readonly RunSegment[], lead: KitLead, hasM: number | null): LengthCheck {
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
