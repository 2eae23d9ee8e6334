import type { Cavities } from "./mating";
import type { Disturbance } from "./types";

/** One disturbance that does everything the given ones do. */
export function mergeDisturbances(all: readonly Disturbance[]): Disturbance {
  return {
    openLinks: Object.assign({}, ...all.map((d) => d.openLinks ?? {})),
    openJoins: Object.assign({}, ...all.map((d) => d.openJoins ?? {})),
    deadParts: Object.assign({}, ...all.map((d) => d.deadParts ?? {})),
    settings: Object.assign({}, ...all.map((d) => d.settings ?? {})),
    reversedLinks: all.flatMap((d) => d.reversedLinks ?? []),
    movedLinks: Object.assign({}, ...all.map((d) => d.movedLinks ?? {})),
    cavities: mergeCavities(all),
    assumed: all.flatMap((d) => d.assumed ?? []),
  };
}

function mergeCavities(all: readonly Disturbance[]): Record<string, Cavities> {
  const merged: Record<string, Cavities> = {};
  for (const d of all)
    for (const [link, cavities] of Object.entries(d.cavities ?? {})) merged[link] = { ...merged[link], ...cavities };
  return merged;
}
