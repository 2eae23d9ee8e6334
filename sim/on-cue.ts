/** The stand-in car does what is called out while its bus is recorded. */
import type { Cue as CalledCue } from "../core/bus/hunt/cues";
import { type Cue, type DriverState, recordLog } from "./car";
import { seededRandom } from "./random";

/** Codes of the wheel keys, as they are called out and as the model names them. */
export const WHEEL_KEYS: Readonly<Record<string, number>> = {
  "volume up": 1,
  volumeUp: 1,
  "volume down": 2,
  volumeDown: 2,
  next: 3,
  back: 4,
};
const POSITIONS: Readonly<Record<string, number>> = { P: 0, R: 1, N: 2, D: 3 };

/** Long enough to reach what is called for. */
const REACH_SPEED_S = 10;

/** What an act means for the car; null when it cannot do that. */
function meaning({ thing, label, value }: CalledCue): { on: Partial<DriverState>; off: Partial<DriverState> } | null {
  if (thing === "wheelKeys" && label in WHEEL_KEYS)
    return { on: { wheelKey: WHEEL_KEYS[label] as number }, off: { wheelKey: 0 } };
  if (thing === "selector" && label in POSITIONS)
    return { on: { selector: POSITIONS[label] as number }, off: { selector: 0 } };
  if (thing === "lights") return { on: { lowBeam: 1, dimming: 45 }, off: { lowBeam: 0, dimming: 100 } };
  if (thing === "steering" && value !== undefined) return { on: { steeringDeg: value }, off: { steeringDeg: 0 } };
  if (thing === "speed" && value !== undefined) return { on: { speedKmh: value }, off: { speedKmh: 0 } };
  return null;
}

/**
 * Records what was called out, done a moment later each time as a person does it, on a clock of the log that begins
 * somewhat earlier or later than the cues.
 *
 * @returns the log as lines, and the acts that this car cannot do
 */
export function recordOnCue(
  cues: readonly CalledCue[],
  options: { seed: number; startS: number },
): { log: string; notDone: string[] } {
  const random = seededRandom(options.seed);
  const shiftS = random() * 2.4 - 1.2;
  const notDone = new Set<string>();
  const acts: Cue[] = [{ atS: 0, set: { key: 2, footBrake: 1 } }];
  let endS = 10;
  for (const cue of [...cues].sort((a, b) => a.fromS - b.fromS)) {
    const does = meaning(cue);
    if (!does) notDone.add(cue.label);
    const late = () => shiftS + 0.05 + 0.25 * random();
    // The wheel needs its time and is turned before the level is called held.
    const early = cue.value === undefined ? 0 : cue.thing === "speed" ? REACH_SPEED_S : 2.5;
    if (does) {
      acts.push({ atS: Math.max(0.1, cue.fromS - early + late()), set: does.on });
      // Nobody holds a speed exactly.
      if (cue.thing === "speed" && cue.value !== undefined)
        for (let atS = cue.fromS; atS < cue.toS; atS += 0.5)
          acts.push({ atS, set: { speedKmh: cue.value + 0.6 * (random() - 0.5) } });
      acts.push({ atS: cue.toS + late(), set: does.off });
    }
    endS = Math.max(endS, cue.toS + 5);
  }
  acts.sort((a, b) => a.atS - b.atS);
  return { log: recordLog({ ...options, durationS: endS, cues: acts }), notDone: [...notDone] };
}
