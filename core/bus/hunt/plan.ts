/** What is to be done on cue, and when. */
import type { Cue, Thing } from "./cues";

export interface PlannedThing {
  thing: Thing;
  /** What can be done with it, in the words that are said. */
  acts: { label: string; say: string; value?: number }[];
  /** What it is wanted for. */
  why: string;
  /** The car rolls for it, on a closed yard: recorded by itself, with so many seconds to get up to speed and to stand. */
  rollsS?: number;
}

/** A cue with what is said for it. */
export interface CueStep extends Cue {
  say: string;
}

/** Time before the first cue, and after the last. */
const LEAD_S = 5;
const TAIL_S = 4;

/**
 * Every act of every thing, several times, one round after the other. How long each is held and the pauses between them
 * differ a little, so that nothing that merely repeats itself on the bus can fit.
 */
export function cuePlan(things: readonly PlannedThing[], times = 3): { steps: CueStep[]; endS: number } {
  const steps: CueStep[] = [];
  let atS = LEAD_S;
  for (let round = 0; round < times; round++) {
    for (const { thing, acts, rollsS } of things) {
      for (const { label, say, value } of acts) {
        // Steps of the golden ratio fill a range evenly and never repeat.
        const vary = ((steps.length + 1) * 0.618_034) % 1;
        if (rollsS && steps.length === 0) atS += rollsS;
        const holdS = thing.kind === "keys" ? 1 + 0.8 * vary : thing.kind === "positions" ? 2.5 + vary : 3.5;
        const toS = atS + holdS;
        steps.push({
          thing: thing.id,
          label,
          say,
          fromS: round2(atS),
          toS: round2(toS),
          ...(value === undefined ? {} : { value }),
        });
        atS = toS + (rollsS ? 2 * rollsS : thing.kind === "level" ? 3.5 : 1.4 + 1.2 * ((vary * 7.3) % 1));
      }
    }
  }
  return { steps, endS: round2(atS + TAIL_S) };
}

function round2(s: number): number {
  return Math.round(100 * s) / 100;
}
