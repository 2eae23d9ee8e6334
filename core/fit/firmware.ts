import Graph from "graphology";
import { singleSource } from "graphology-shortest-path/dijkstra.js";
import { CoreError } from "../model/errors";
import type { FirmwareEffect, FirmwareUpdate, KitSetting, VariantProfile } from "../model/profile";
import type { Settings, System } from "../model/types";
import { compareVersions, readVersion } from "./version";

/** Updates that lead back to where they began; nothing can be planned with them. */
export class FirmwareLoop extends CoreError {}

/** The way from one version to another. */
export interface UpdatePath {
  steps: FirmwareUpdate[];
  minutes: number;
}

/** Series of a version: everything before its last number, so that `R3-210` and `R3-410` are of one series. */
function seriesOf(version: string): string {
  return version.toUpperCase().replace(/\d+(?:[.\d]*)$/, "");
}

/** True when a version is of the series of a floor and not older; false while it is not known (empty). */
export function meetsFloor(version: string, floor: string): boolean {
  return version !== "" && seriesOf(version) === seriesOf(floor) && compareVersions(version, floor) >= 0;
}

/**
 * The shortest path in minutes over allowed updates to a version not older than the floor; among equally long ones
 * the one with fewer steps.
 *
 * @returns an empty path when the floor is met already, null when no path leads there
 */
export function updatePath(updates: readonly FirmwareUpdate[], from: string, floor: string): UpdatePath | null {
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
  const ways = singleSource(graph, from, (_, { update }) => update.minutes * perMinute + 1);
  const paths = Object.entries(ways)
    .filter(([version]) => meetsFloor(version, floor))
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
  };
}

/** Version of the radio's firmware as the car sheet's text gives it; the text itself when it cannot be read. */
export function firmwareOf(text: string, variant: VariantProfile): string {
  if (text.trim() === "") return "";
  const known = (variant.firmware?.updates ?? []).flatMap((u) => [u.from, u.to]);
  return readVersion(text, variant.firmware?.written ?? [], known) ?? text.trim();
}

/** The medium of an update: “From a USB stick, with 512 MB of room”. */
export function mediumWords({ how, storageMb }: Pick<FirmwareUpdate, "how" | "storageMb">): string {
  return storageMb ? `${how}, with ${storageMb} MB of room` : how;
}

/** What an update changes beside what it is made for: as the update says, and as the versions between say. */
export function sideEffectsOf({ firmware }: VariantProfile, update: FirmwareUpdate): string[] {
  const before = effectsAt(firmware?.effects ?? [], update.from);
  const fresh = effectsAt(firmware?.effects ?? [], update.to).filter((e) => !before.includes(e));
  return [...update.sideEffects, ...fresh.map((e) => e.say)];
}

/** What the firmware of the radio means for a fit. */
export interface FirmwareFit {
  /** Version in the radio now; empty while it is not known. */
  present: string;
  /** Updates to make, in their order; empty when none is needed, or none is known to lead there. */
  steps: FirmwareUpdate[];
  /** Settings as the version in the radio has them, and as the one after the updates will. */
  settingsNow: Settings;
  settingsAfter: Settings;
  /** What has to be made good for what the updates change. */
  cures: KitSetting[];
}

/**
 * The way of the firmware to the floors of a kit, and what it changes on the radio.
 *
 * While the version is not known, it is planned as if the radio had the highest floor: what the floor changes is then
 * named before anybody orders.
 *
 * @param present version in the radio; empty while it is not known
 * @param came version with which the radio came, where it was updated here
 */
export function firmwareFit(
  { firmware }: VariantProfile,
  floors: readonly string[],
  present: string,
  came = present,
): FirmwareFit {
  const floor = [...floors].sort(compareVersions).at(-1);
  const path = floor && present ? updatePath(firmware?.updates ?? [], present, floor) : null;
  const planned = path?.steps.at(-1)?.to ?? (present || floor || "");
  const before = effectsAt(firmware?.effects ?? [], present);
  const after = effectsAt(firmware?.effects ?? [], planned);
  const found = effectsAt(firmware?.effects ?? [], came);
  const fresh = after.filter((e) => !found.includes(e));
  return {
    present,
    steps: path?.steps ?? [],
    settingsNow: settingsOf(before),
    settingsAfter: settingsOf(after),
    cures: fresh.flatMap(({ cure }) => (cure ? [{ ...cure, means: "contacts" as const }] : [])),
  };
}

/** The system with what the planned version changes and what makes good for it. */
export function withFirmware(fitted: System, { settingsAfter, cures }: FirmwareFit): System {
  const known = new Set(fitted.parts.flatMap((p) => (p.settings ?? []).map((s) => `${p.id}.${s.id}`)));
  const cured = cures.map((c) => [c.setting, c.value] as const);
  const own = [...Object.entries(settingsAfter), ...cured].filter(([setting]) => known.has(setting));
  return own.length === 0 ? fitted : { ...fitted, settings: { ...Object.fromEntries(own), ...fitted.settings } };
}

/** Effects that hold at a version; of several on one setting the newest. */
function effectsAt(effects: readonly FirmwareEffect[], version: string): FirmwareEffect[] {
  const held = effects
    .filter((e) => version !== "" && seriesOf(e.from) === seriesOf(version) && compareVersions(version, e.from) >= 0)
    .sort((a, b) => compareVersions(a.from, b.from));
  return held.filter((e, i) => !held.slice(i + 1).some((later) => later.setting === e.setting));
}

function settingsOf(effects: readonly FirmwareEffect[]): Settings {
  return Object.fromEntries(effects.map((e) => [e.setting, e.value]));
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
