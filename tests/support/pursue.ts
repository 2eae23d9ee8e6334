/** Plays a job with something planted: answers what is proposed as the car would, until a repair is proposed. */
import { shownAt } from "../../core/diagnose/checks";
import { type Evidence, type Judgement, judge } from "../../core/diagnose/judge";
import type { Proposal } from "../../core/diagnose/propose";
import type { JudgeTable } from "../../core/diagnose/table";
import type { Situation } from "../../core/model/types";

export interface Pursuit {
  /** Tests and looks that were answered, beside the one that failed first. */
  steps: number;
  minutes: number;
  end: Judgement;
  first: Judgement;
  /** Hypothesis that was to be repaired; null where nothing more was proposed or the steps ran out. */
  repaired: string | null;
  /** Step at which the page said first that it may be none of these; null when never. */
  doubtAfter: number | null;
}

/** What the planted car shows. */
export interface Planted {
  test(index: number): string;
  look(id: string): string;
}

/** Shows what a hypothesis of the table predicts most. */
export function plantedBy(table: JudgeTable, h: number): Planted {
  return {
    test: (t) => table.predictions[h]?.[t]?.reduce((a, b) => (b[1] > a[1] ? b : a))[0] ?? "works",
    look(id) {
      const look = table.looks.find((l) => l.id === id);
      const hypothesis = table.hypotheses[h];
      if (!look || !hypothesis) throw new Error(`no look ${id}`);
      return shownAt(look, hypothesis, table.signs[h] ?? new Set());
    },
  };
}

export type Policy = (judgement: Judgement) => Proposal | undefined;
const asProposed: Policy = ({ next }) => next[0];

/** @param failing number of the test that failed first */
export function pursue(
  table: JudgeTable,
  failing: number,
  planted: Planted,
  { policy = asProposed, maxSteps = 40 }: { policy?: Policy; maxSteps?: number } = {},
): Pursuit {
  const tests = new Map<string, string>();
  const looks = new Map<string, string>();
  const id = table.tests[failing]?.id ?? "";
  tests.set(id, planted.test(failing));
  let stands: Situation | undefined = table.tests[failing]?.situation;
  const now = (): Evidence => ({ tests, looks, ...(stands ? { stands } : {}) });
  const first = judge(table, now());
  let judgement = first;
  let [steps, minutes] = [0, 0];
  let doubtAfter: number | null = null;
  for (;;) {
    if (doubtAfter === null && judgement.doubtful) doubtAfter = steps;
    const proposal = policy(judgement);
    if (!proposal || steps >= maxSteps) return { steps, minutes, first, end: judgement, repaired: null, doubtAfter };
    if (proposal.kind === "repair")
      return { steps, minutes, first, end: judgement, repaired: proposal.hypothesis.id, doubtAfter };
    steps++;
    minutes += proposal.minutes;
    if (proposal.kind === "look") looks.set(proposal.look.id, planted.look(proposal.look.id));
    else {
      const t = table.tests.findIndex((x) => x.id === proposal.id);
      tests.set(proposal.id, planted.test(t));
      stands = table.tests[t]?.situation;
    }
    judgement = judge(table, now());
  }
}
