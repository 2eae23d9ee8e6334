import Graph from "graphology";
import { dijkstra } from "graphology-shortest-path";
import { CoreError } from "../model/errors";
import type { FirmwareUpdate } from "../model/profile";

/** Updates that lead back to where they began; nothing can be planned with them. */
export class FirmwareLoop extends CoreError {}

/** The way from one version to another. */
export interface UpdatePath {
  steps: FirmwareUpdate[];
  minutes: number;
  sideEffects: string[];
}

/**
 * Compares two version names piece by piece, numbers as numbers: `R3-90` is before `R3-210`, `2.4` before `2.10`.
 *
 * @returns negative when `a` is older, zero when they are equal, positive when `a` is newer
 */
export function compareVersions(a: string, b: string): number {
  const pieces = (v: string) => v.toUpperCase().match(/\d+|[A-Z]+/g) ?? [];
  const [x, y] = [pieces(a), pieces(b)];
  for (let i = 0; i < Math.max(x.length, y.length); i++) {
    const [p, q] = [x[i] ?? "0", y[i] ?? "0"];
    const numeric = /^\d/.test(p) && /^\d/.test(q);
    const order = numeric ? Number(p) - Number(q) : p < q ? -1 : p > q ? 1 : 0;
    if (order !== 0) return order;
  }
  return 0;
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
export function checkUpdates(updates: readonly FirmwareUpdate[], place: string): void {
  const done = new Set<string>();
  const walk = (version: string, trail: readonly string[]): void => {
    const at = trail.indexOf(version);
    if (at >= 0)
      throw new FirmwareLoop(
        place,
        `the updates lead in a circle: ${[...trail.slice(at), version].join(" → ")}.`,
        "Remove the update that leads back.",
      );
    if (done.has(version)) return;
    for (const u of updates) if (u.from === version) walk(u.to, [...trail, version]);
    done.add(version);
  };
  for (const u of updates) walk(u.from, []);
}

/**
 * Reads a version out of what stands on the part label or the version screen, by the ways this radio writes it.
 *
 * @param written patterns such as `SW R3-*` or `R3 *`; `*` is the part that follows, a lone `*` after the series name
 * means the number alone
 * @param known versions that occur in the update list; a text that contains one of them needs no pattern
 * @example readVersion("Part 0VM-556 SW R3-210 / HW 2", ["SW R3-*"], ["R3-210"]) // "R3-210"
 */
export function readVersion(text: string, written: readonly string[], known: readonly string[]): string | null {
  const flat = text.replace(/\s+/g, " ");
  const literal = known.filter((v) => new RegExp(`(^|[^A-Za-z0-9.])${escaped(v)}($|[^A-Za-z0-9.])`, "i").test(flat));
  if (literal.length > 0) return literal.sort(compareVersions).at(-1) ?? null;
  for (const pattern of written) {
    const star = pattern.indexOf("*");
    if (star < 0) continue;
    const before = pattern.slice(0, star);
    const found = new RegExp(`${escaped(before)}\\s*([A-Za-z0-9][A-Za-z0-9.]*)`, "i").exec(flat);
    if (!found?.[1]) continue;
    const series = before.trim().split(/[ :]/).at(-1) ?? "";
    return series.endsWith("-") ? `${series}${found[1]}` : `${series}-${found[1]}`;
  }
  return null;
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&").replace(/ /g, "\\s*");
}
