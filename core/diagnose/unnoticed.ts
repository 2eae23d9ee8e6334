/** What nobody would notice: mistakes of the work that neither a test nor a stored code would show. */
import type { Touched } from "../model/faults";
import type { Look } from "./checks";
import type { Hypothesis } from "./hypothesis";
import type { JudgeTable } from "./table";

export interface Unnoticed {
  /** Where to look, and what is seen there. */
  look: Look;
  causes: readonly Hypothesis[];
}

const OF_THE_WORK: ReadonlySet<Hypothesis["kind"]> = new Set([
  "notPlugged",
  "exchanged",
  "otherSocket",
  "reversed",
  "leadOpen",
]);

/** Places of the work to look at before the panels go back, the quickest first. */
export function unnoticed(table: JudgeTable, { links, parts }: Touched): Unnoticed[] {
  const hidden = table.hypotheses.filter(
    (h, i) =>
      OF_THE_WORK.has(h.kind) &&
      (h.links.some((l) => links.has(l)) || (h.kind === "leadOpen" && h.parts.some((p) => parts.has(p)))) &&
      (table.predictions[i] ?? []).every((p) => p[0]?.[0] === "works") &&
      (table.signs[i]?.size ?? 0) === 0,
  );
  return table.looks
    .flatMap((look): Unnoticed[] => {
      const causes = hidden.filter((h) => h.settledBy === look.id);
      return causes.length > 0 ? [{ look, causes }] : [];
    })
    .sort((a, b) => a.look.minutes - b.look.minutes);
}
