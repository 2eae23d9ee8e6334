import Graph from "graphology";
import { dijkstra } from "graphology-shortest-path";
import { CoreError } from "../model/errors";
import type { FirmwareUpdate } from "../model/profile";
import { compareVersions } from "./version";

/** Updates that lead back to where they began; nothing can be planned with them. */
export class FirmwareLoop extends CoreError {}

/** The way from one version to another. */
export interface UpdatePath {
  steps: FirmwareUpdate[];
  minutes: number;
  sideEffects: string[];
}

/** Series of a version: everything before its last number, so that `R3-210` and `R3-410` are of one series. */
function seriesOf(version: string): string {
  return version.toUpperCase().replace(/\d+(?:[.\d]*)$/, "");
}

/**
 * The shortest path in minutes over allowed updates to a version not older than the floor; among equally long ones
 * the one with fewer steps.
 *
 * @returns an empty path when the floor is met already, null when no path leads there
 */
export function updatePath(updates: readonly FirmwareUpdate[], from: string, floor: string): UpdatePath | null {
  const meets = (version: string) => seriesOf(version) === seriesOf(floor) && compareVersions(version, floor) >= 0;
  const graph = new Graph<Record<string, never>, { update: FirmwareUpdate }>({ type: "directed", multi: false });
  graph.mergeNode(from);
  for (const update of updates) {
    graph.mergeNode(update.from);
    graph.mergeNode(update.to);
    const other = graph.edge(update.from, update.to);
    if (other && graph.getEdgeAttribute(other, "update").minutes <= update.minutes) continue;
    graph.mergeEdge(update.from, update.to, { update });
  }
  // A step more counts less than a minute, however many there are.
  const perMinute = updates.length + 1;
  const ways = dijkstra.singleSource(graph, from, (_, { update }) => update.minutes * perMinute + 1);
  const paths = Object.entries(ways)
    .filter(([version]) => meets(version))
    .map(([, versions]) => pathOf(versions.slice(1).map((v, i) => updateBetween(versions[i] ?? "", v))));
  return paths.sort((a, b) => a.minutes - b.minutes || a.steps.length - b.steps.length)[0] ?? null;

  function updateBetween(before: string, after: string): FirmwareUpdate {
    return graph.getEdgeAttribute(graph.edge(before, after), "update");
  }
}

function pathOf(steps: FirmwareUpdate[]): UpdatePath {
  return {
    steps,
    minutes: steps.reduce((sum, s) => sum + s.minutes, 0),
    sideEffects: steps.flatMap((s) => s.sideEffects),
  };
}

/**
 * Refuses updates that lead in a circle.
 *
 * @throws {FirmwareLoop} naming the versions of the circle in their order
 */
export function checkUpdates(updates: readonly FirmwareUpdate[], where: string): void {
  const done = new Set<string>();
  const walk = (version: string, trail: readonly string[]): void => {
    const at = trail.indexOf(version);
    if (at >= 0)
      throw new FirmwareLoop(
        where,
        `the updates lead in a circle: ${[...trail.slice(at), version].join(" → ")}.`,
        "Remove the update that leads back.",
      );
    if (done.has(version)) return;
    for (const u of updates) if (u.from === version) walk(u.to, [...trail, version]);
    done.add(version);
  };
  for (const u of updates) walk(u.from, []);
}
