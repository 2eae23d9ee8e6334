import type { Disturbance } from "./types";

/** One disturbance that does everything the given ones do. */
export function mergeDisturbances(all: readonly Disturbance[]): Disturbance {
  return {
    openLinks: Object.assign({}, ...all.map((d) => d.openLinks ?? {})),
    openJoins: Object.assign({}, ...all.map((d) => d.openJoins ?? {})),
    deadParts: Object.assign({}, ...all.map((d) => d.deadParts ?? {})),
    settings: Object.assign({}, ...all.map((d) => d.settings ?? {})),
    reversedLinks: all.flatMap((d) => d.reversedLinks ?? []),
    exchangedLinks: all.flatMap((d) => d.exchangedLinks ?? []),
    assumed: all.flatMap((d) => d.assumed ?? []),
  };
}
