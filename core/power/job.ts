/** The figures of a job: what its kit adds, and the run from the feed to it. */
import type { System } from "../model/types";
import { type Draw, type Load, loadOf } from "./budget";

/** A module restarts under this supply when its profile does not say; common practice. */
const USUAL_MINIMUM_V = 9;

/** What the parts of a kit draw, as their profiles say. Parts without figures are not among them. */
export function addedDraws(fitted: System, ours: ReadonlySet<string>): Draw[] {
  return fitted.parts.flatMap((p): Draw[] =>
    ours.has(p.id) && p.draws
      ? [
          {
            id: p.id,
            name: p.name,
            onA: p.draws.onA,
            peakA: p.draws.peakA ?? p.draws.onA,
            sleepMa: p.draws.sleepMa ?? 0,
            duty: p.draws.duty ?? 1,
            minimumV: p.draws.minimumV ?? USUAL_MINIMUM_V,
          },
        ]
      : [],
  );
}

/** The load with every part on at once: what fuse and wire have to carry. */
export function wholeLoad(draws: readonly Draw[]): Load {
  return loadOf(draws.map((d) => ({ ...d, duty: 1 })));
}
