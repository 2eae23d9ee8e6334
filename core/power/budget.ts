/** Load, sleep current, and whether the supply holds while the engine is cranked. */
import { type Run, wireOhm } from "./wire";

export interface Draw {
  id: string;
  name: string;
  onA: number;
  peakA: number;
  sleepMa: number;
  /** Part of the time in which it draws. */
  duty: number;
  /** Supply under which it restarts. */
  minimumV: number;
}

export interface Load {
  steadyA: number;
  peakA: number;
  sleepMa: number;
  lines: { name: string; steadyA: number; peakA: number; sleepMa: number }[];
}

/** What the added parts draw together: steady by duty, the peak as if all start at once. */
export function loadOf(draws: readonly Draw[]): Load {
  const lines = draws.map((d) => ({ name: d.name, steadyA: d.onA * d.duty, peakA: d.peakA, sleepMa: d.sleepMa }));
  const sum = (k: "steadyA" | "peakA" | "sleepMa") => lines.reduce((n, l) => n + l[k], 0);
  return { steadyA: sum("steadyA"), peakA: sum("peakA"), sleepMa: sum("sleepMa"), lines };
}

export interface BatteryState {
  capacityAh: number;
  /** State of charge, 0 to 1. */
  charge: number;
  /** Charge under which a start is doubtful, 0 to 1; half of it is common practice, more in frost. */
  startNeeds: number;
}

/** Sleep current of a whole car above which one looks for the cause; common practice. */
export const SUSPICIOUS_SLEEP_MA = 50;

/** Days of standing until a start is doubtful; infinite for no current, 0 when it is doubtful already. */
export function daysToDoubtfulStart(battery: BatteryState, sleepMa: number): number {
  const spareAh = battery.capacityAh * (battery.charge - battery.startNeeds);
  if (spareAh <= 0) return 0;
  return sleepMa <= 0 ? Number.POSITIVE_INFINITY : spareAh / (sleepMa / 1000) / 24;
}

export interface CrankDip {
  /** At the part while cranking. */
  voltageV: number;
  restarts: Draw[];
}

/**
 * Supply at the added parts while the engine is cranked: the battery's own resistance takes its share of the cranking
 * current, the feed wire its share of the load.
 *
 * @param battery open-circuit voltage, inner resistance in ohm and cranking current in ampere; 12.6 V, 6 mΩ and 250 A
 *   are usual figures for a middling battery, common practice
 */
export function crankDip(
  draws: readonly Draw[],
  run: Run & { areaMm2: number },
  battery: { openV: number; innerOhm: number; crankA: number },
): CrankDip {
  const lengthM = run.lengthM * (run.returnWire ? 2 : 1);
  const lost = run.currentA * wireOhm({ lengthM, areaMm2: run.areaMm2, tempC: run.tempC });
  const voltageV = battery.openV - battery.innerOhm * battery.crankA - lost;
  return { voltageV, restarts: draws.filter((d) => voltageV < d.minimumV) };
}
