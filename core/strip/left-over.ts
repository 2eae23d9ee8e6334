/** A screw or clip that was left over: where it could belong. */

/** Fasteners of one kind that were out on this job. */
export interface OutGroup {
  step: string;
  title: string;
  /** Place among the fasteners of its step. */
  group: number;
  kind: string;
  lengthMm?: number;
  place?: string;
  tray: string;
  /** What counting says of it. */
  counted: { state: "stillOut" | "notCounted" | "right" } | { state: "short"; out: number; in: number };
  /** Minutes to look: everything that has to come off again. */
  minutes: number;
}

export interface LeftOver {
  /** Drive and kind as the plan writes it; empty when nobody knows. */
  kind: string;
  lengthMm: number | null;
}

export interface Belonging {
  step: string;
  title: string;
  group: number;
  fastener: string;
  /** 0 to 1, of all candidates together. */
  likely: number;
  reasons: string[];
  minutes: number;
}

/** A length taken with a ruler in a bay is good to a millimetre or two. */
const LENGTH_SPREAD_MM = 1.5;
/** How likely a group lacks a screw, by what the counts say; ratios are judgement, not measurement. */
const WEIGHT: Record<OutGroup["counted"]["state"], number> = { short: 40, notCounted: 4, stillOut: 0.5, right: 0.2 };
/** Places less likely than this are not told. */
const LEAST_LIKELY = 0.005;

/**
 * Where a fastener that was left over could belong, the likeliest first. Every group that was out on this job is
 * weighed by its kind, by its length against the one measured (normal, 1.5 mm), and by what counting says about it.
 */
export function whereItBelongs(groups: readonly OutGroup[], found: LeftOver): Belonging[] {
  const weighed = groups.map((g) => {
    const length = lengthWeight(g.lengthMm, found.lengthMm);
    const kind = found.kind === "" || found.kind === g.kind ? 1 : 0;
    return {
      weight: kind * length.weight * WEIGHT[g.counted.state],
      belonging: {
        step: g.step,
        title: g.title,
        group: g.group,
        fastener: `${g.kind}${g.lengthMm ? ` ${g.lengthMm} mm` : ""}${g.place ? `, ${g.place}` : ""}`,
        reasons: [length.reason, countedWords(g)].filter((r) => r !== ""),
        minutes: g.minutes,
      },
    };
  });
  const total = weighed.reduce((n, w) => n + w.weight, 0);
  return weighed
    .filter((w) => total > 0 && w.weight / total > LEAST_LIKELY)
    .map(({ weight, belonging }) => ({ ...belonging, likely: weight / total }))
    .sort((a, b) => b.likely - a.likely);
}

function countedWords({ counted, tray }: OutGroup): string {
  switch (counted.state) {
    case "stillOut":
      return `still off: it should lie in tray ${tray} with the others`;
    case "notCounted":
      return "went back without being counted";
    case "right":
      return "counted: as many in as out";
    case "short":
      return `${counted.out} came out, ${counted.in} went in`;
  }
}

function lengthWeight(planned: number | undefined, measured: number | null): { weight: number; reason: string } {
  if (measured === null || planned === undefined) return { weight: 1, reason: "" };
  const off = Math.abs(planned - measured);
  return {
    weight: Math.exp(-0.5 * (off / LENGTH_SPREAD_MM) ** 2),
    reason: off < 1 ? "length agrees" : `${off.toFixed(0)} mm ${planned > measured ? "longer" : "shorter"} in the plan`,
  };
}
