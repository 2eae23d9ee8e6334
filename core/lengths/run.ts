/** Where a lead runs in the car. */
import Graph from "graphology";
import { bidirectional } from "graphology-shortest-path/dijkstra.js";
import { CoreError } from "../model/errors";
import type { CarPlace, CarProfile, KitLead, RunSegment } from "../model/profile";

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
export const OPTICAL_RADIUS_MM = 25;

/** The places of a car, joined by the shortest segment that a kind of lead may take. */
function placesGraph(segments: readonly RunSegment[], kind: KitLead["kind"]) {
  const graph = new Graph<Record<string, never>, { segment: RunSegment }>({ type: "undirected", multi: false });
  for (const segment of segments) {
    const { from, to, lengthM } = segment;
    graph.mergeNode(from);
    graph.mergeNode(to);
    if (from === to || !allowed(segment, kind)) continue;
    const other = graph.edge(from, to);
    if (other && graph.getEdgeAttribute(other, "segment").lengthM <= lengthM) continue;
    graph.mergeEdge(from, to, { segment });
  }
  return graph;
}

const found = new WeakMap<readonly RunSegment[], Map<string, Run | null>>();

/** The shortest allowed way of a lead; null when a place is not in the map or no allowed way leads there. */
export function findRun(segments: readonly RunSegment[], ends: Ends): Run | null {
  const known = found.get(segments) ?? new Map<string, Run | null>();
  found.set(segments, known);
  const key = JSON.stringify([ends.from, ends.to, ends.kind]);
  const run = known.get(key);
  if (run !== undefined) return run;
  const way = search(segments, ends);
  known.set(key, way);
  return way;
}

function search(segments: readonly RunSegment[], { from, to, kind }: Ends): Run | null {
  if (from === to) return { segments: [], lengthM: 0 };
  const graph = placesGraph(segments, kind);
  if (!graph.hasNode(from) || !graph.hasNode(to)) return null;
  const places = bidirectional(graph, from, to, (_, { segment }) => segment.lengthM);
  if (!places) return null;
  const way = places.slice(1).map((place, i) => graph.getEdgeAttribute(graph.edge(places[i], place), "segment"));
  return { segments: way, lengthM: way.reduce((sum, s) => sum + s.lengthM, 0) };
}

/**
 * The same, for a lead that must be laid.
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
  const run = findRun(segments, lead);
  if (!run)
    throw new RunError(
      "lengths of the car",
      `no allowed way leads from “${lead.from}” to “${lead.to}”.`,
      lead.kind === "optical"
        ? "An optical lead keeps away from sharp edges and tight bends: add another way."
        : "A lead never goes across an airbag: add the way behind it.",
    );
  return run;
}

/** The nearest of the good places of a car, by the way of a lead; null when there is none, or no way to it. */
export function nearestPlace(
  car: CarProfile,
  from: string,
  good: (place: CarPlace) => boolean,
): { place: string; lengthM: number } | null {
  let best: { place: string; lengthM: number } | null = null;
  for (const { name } of (car.places ?? []).filter(good)) {
    const run = findRun(car.runs ?? [], { from, to: name });
    if (run && (!best || run.lengthM < best.lengthM)) best = { place: name, lengthM: run.lengthM };
  }
  return best;
}
