/** Wires: cross-section, resistance, voltage drop, and the smallest that will do. */
import { CoreError } from "../model/errors";

/** A quantity that cannot be: negative, not finite, outside of what is meant. */
export class PowerError extends CoreError {}

/** Resistivity of annealed copper at 20 °C, ohm mm² per metre. IEC 60028. */
const COPPER_OHM_MM2_PER_M = 1 / 58;
/** Its temperature coefficient at 20 °C, per kelvin. IEC 60028. */
const COPPER_PER_K = 0.00393;

/** Diameter of a solid wire of American wire gauge n, in mm. ASTM B258. */
export function gaugeDiameterMm(n: number): number {
  return 0.127 * 92 ** ((36 - n) / 39);
}

/** Cross-section of American wire gauge n, in mm². ASTM B258. */
export function gaugeAreaMm2(n: number): number {
  return (Math.PI / 4) * gaugeDiameterMm(n) ** 2;
}

/** Resistance of a copper wire in ohm. */
export function wireOhm({ lengthM, areaMm2, tempC }: { lengthM: number; areaMm2: number; tempC: number }): number {
  positive("length", lengthM, 200);
  positive("cross-section", areaMm2, 200);
  return ((COPPER_OHM_MM2_PER_M * lengthM) / areaMm2) * (1 + COPPER_PER_K * (tempC - 20));
}

/** Resistance of resistors side by side, in ohm: one over the sum of the conductances. */
export function parallelOhm(...ohms: readonly number[]): number {
  if (ohms.some((r) => r === 0)) return 0;
  return 1 / ohms.reduce((sum, r) => sum + 1 / r, 0);
}

/** A cross-section of automotive low-voltage wire, with the largest fuse that protects it. */
export interface WireSize {
  areaMm2: number;
  /** Largest fuse in ampere; common practice for short runs in a loom at up to 60 °C. */
  mostFuseA: number;
}

/** Cross-sections in use, the nominal ones of ISO 6722 (from memory). */
const WIRE_SIZES: readonly WireSize[] = [
  { areaMm2: 0.35, mostFuseA: 3 },
  { areaMm2: 0.5, mostFuseA: 5 },
  { areaMm2: 0.75, mostFuseA: 7.5 },
  { areaMm2: 1, mostFuseA: 10 },
  { areaMm2: 1.5, mostFuseA: 15 },
  { areaMm2: 2.5, mostFuseA: 20 },
  { areaMm2: 4, mostFuseA: 30 },
];

/** The largest fuse that protects a cross-section; thinner than the thinnest in use in proportion. */
export function mostFuseA(areaMm2: number): number {
  positive("cross-section", areaMm2, 200);
  const thinnest = WIRE_SIZES[0] as WireSize;
  const size = WIRE_SIZES.findLast((s) => s.areaMm2 <= areaMm2);
  return size?.mostFuseA ?? (thinnest.mostFuseA * areaMm2) / thinnest.areaMm2;
}

export interface Run {
  /** Largest steady current. */
  currentA: number;
  /** One way. */
  lengthM: number;
  /** The current comes back through a wire of its own instead of the body. */
  returnWire: boolean;
  tempC: number;
}

/** Voltage that is lost on a run, in volt. The body's own resistance does not count. */
export function dropV(run: Run, areaMm2: number): number {
  const lengthM = run.lengthM * (run.returnWire ? 2 : 1);
  return run.currentA * wireOhm({ lengthM, areaMm2, tempC: run.tempC });
}

export interface WireChoice {
  size: WireSize;
  dropV: number;
  /** What asked for this size and not the next smaller one. */
  because: "drop" | "fuse" | "smallest";
  /** The American gauge that is at least as thick. */
  gauge: number;
}

/**
 * The smallest wire that keeps the drop and is protected by the fuse; null when the thickest in use is too thin.
 *
 * @throws {PowerError} for a length, current or drop that cannot be
 */
export function smallestWire(run: Run, allowedDropV: number, fuseA: number): WireChoice | null {
  positive("current", run.currentA, 200);
  positive("allowed drop", allowedDropV, 12);
  let because: WireChoice["because"] = "smallest";
  for (const size of WIRE_SIZES) {
    const drop = dropV(run, size.areaMm2);
    if (fuseA > size.mostFuseA) because = "fuse";
    else if (drop > allowedDropV) because = "drop";
    else return { size, dropV: drop, because, gauge: gaugeAtLeast(size.areaMm2) };
  }
  return null;
}

/** The thinnest even American gauge that has at least a cross-section; standard figures round, so 2 % less will do. */
function gaugeAtLeast(areaMm2: number): number {
  for (let n = 24; n >= 0; n -= 2) if (gaugeAreaMm2(n) >= areaMm2 * 0.98) return n;
  return 0;
}

/** Checks a quantity at the door of a computation. */
function positive(what: string, value: number, most: number): void {
  if (!(value > 0 && value <= most))
    throw new PowerError(what, `${value} cannot be.`, `Enter a number above 0 and up to ${most}.`);
}
