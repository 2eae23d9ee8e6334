/** Small material of a job, counted instead of guessed. */
import { lowerFirst } from "../model/labels";
import type { LengthCheck } from "./slack";

/** A tie every 150 to 200 mm on a run; common practice. The middle of it. */
const TIE_EVERY_M = 0.175;
/** Bundle of a lead and a tape of the shop, in mm. */
const BUNDLE_MM = 6;
const FABRIC_TAPE_MM = 19;
const FOAM_TAPE_MM = 15;
const OVERLAP = 0.5;
/** A foam-wrapped lead or box is wrapped so far at each place that could rattle. */
const FOAM_PLACE_M = 0.15;

/**
 * Tape for a wrap: a helix round a bundle, each turn advancing by the uncovered part of the tape's width.
 *
 * @param overlap part of the width that lies on the turn before, 0 to below 1
 * @returns metres of tape
 */
export function wrapTapeM(lengthM: number, bundleMm: number, tapeMm: number, overlap: number): number {
  const advance = tapeMm * (1 - overlap);
  const turns = (lengthM * 1000) / advance;
  return (turns * Math.hypot(Math.PI * bundleMm, advance)) / 1000;
}

/** Something that stays in the car unused, wrapped over a length and tied back. */
export interface TiedBack {
  say: string;
  lengthM: number;
}

export interface Material {
  what: string;
  amount: number;
  unit: "pieces" | "m";
  from: string;
}

/** Whole pieces, or metres to the tenth. */
export function materialAmount({ amount, unit }: Pick<Material, "amount" | "unit">): string {
  return unit === "m" ? `${amount.toFixed(1)} m` : `${Math.ceil(amount)} pieces`;
}

/** Ties and tape for the runs of a job, and crimps and shrink for its feed. */
export function materialFor(
  checks: readonly LengthCheck[],
  more: { feedTap: boolean; module: boolean; tiedBack: readonly TiedBack[] },
): Material[] {
  // Leads that share a segment are tied together.
  const shared = new Map(checks.flatMap((c) => c.run.segments.map((s) => [s.id, s] as const)));
  const wholeM = [...shared.values()].reduce((n, s) => n + s.lengthM, 0);
  const coils = checks.filter((c) => c.verdict === "fits" && c.differenceM >= 0.1).length;
  const rough = [...shared.values()].filter((s) => s.zone === "sharp" || s.zone === "moving");
  const roughM = rough.reduce((n, s) => n + s.lengthM, 0);
  const rattles = [...shared.values()].filter((s) => s.zone === undefined).length;
  const backM = more.tiedBack.reduce((n, t) => n + t.lengthM, 0);
  const back = more.tiedBack.map((t) => `${t.lengthM.toFixed(1)} m of ${lowerFirst(t.say)}`);
  return [
    {
      what: "Ties",
      amount: Math.ceil(wholeM / TIE_EVERY_M) + 2 * coils,
      unit: "pieces" as const,
      from: `one every ${TIE_EVERY_M * 1000} mm on ${wholeM.toFixed(1)} m, two a coil`,
    },
    {
      what: "Foam tape",
      amount: wrapTapeM(rattles * FOAM_PLACE_M + backM, BUNDLE_MM, FOAM_TAPE_MM, OVERLAP),
      unit: "m" as const,
      from: `${[`${FOAM_PLACE_M * 100} cm at each of ${rattles} places that could rattle`, ...back].join(", ")}, half overlapped`,
    },
    {
      what: "Fabric tape",
      amount: wrapTapeM(roughM, BUNDLE_MM, FABRIC_TAPE_MM, OVERLAP),
      unit: "m" as const,
      from: `${roughM.toFixed(1)} m past edges and moving parts, half overlapped`,
    },
    ...(more.module
      ? [
          {
            what: "Double-sided tape",
            amount: 2,
            unit: "pieces" as const,
            from: "two strips under the module, vents free",
          },
        ]
      : []),
    ...(more.feedTap
      ? [
          { what: "Crimps", amount: 2, unit: "pieces" as const, from: "feed and ground" },
          { what: "Heat shrink", amount: 0.1, unit: "m" as const, from: "5 cm on each crimp" },
        ]
      : []),
  ].filter((m) => m.amount > 0);
}
