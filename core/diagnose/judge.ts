/** Judges what is the matter by what was seen, and says what to do next. */
import type { Situation } from "../model/types";
import { changeMinutes } from "../prove/tests";
import { type Belief, believe, entropyBits, expectedAfter, type Question } from "./belief";
import type { Look } from "./checks";
import { type Hypothesis, NONE } from "./hypothesis";
import { type Costs, rankQuestions } from "./policy";
import { type JudgeTable, lookLikelihoods, reportLikelihoods } from "./table";

/** What is known about a car. */
export interface Evidence {
  /** By test: a sight key, or `pass`, `nothing`, `wrong`, `late`, `impossible`. */
  tests: ReadonlyMap<string, string>;
  /** Answers by look. */
  looks: ReadonlyMap<string, string>;
  /** What the log of the job says for or against a hypothesis before anything was tried. */
  hints?: ReadonlyMap<string, Hint>;
  /** How car and phone stand now; the usual way where nobody said. */
  stands?: Situation;
}

export interface Hint {
  /** By how much it makes it more likely. */
  factor: number;
  why: string;
}

/** Causes that no test tells apart: one line, the quickest to look at first. */
export interface CauseGroup {
  probability: number;
  members: readonly (Hypothesis & { probability: number })[];
}

export type Proposal =
  | { kind: "test"; id: string; minutes: number; total: number; gainBits: number }
  | { kind: "look"; look: Look; minutes: number; total: number; gainBits: number }
  /** Somebody looked, or looking takes longer than repairing. */
  | { kind: "repair"; hypothesis: Hypothesis; total: number };

export interface Judgement {
  /** Most likely first; *none of these* is among them. */
  groups: readonly CauseGroup[];
  /** The best first; empty when nothing more would tell anything. */
  next: readonly Proposal[];
  /** A result that speaks against what everything else says. */
  against: readonly string[];
}

/** A cause is taken as found from here on. */
const SURE = 0.9;
/** Without a look, a cause that is quicker to repair than to look at must be this sure. */
const SURE_UNSEEN = 0.8;
/** A report this unlikely under the leading cause speaks against it. */
const AGAINST = 0.035;
/** Members of a group that are this much less likely than its first are not worth a word. */
const FAINT = 0.02;

/** What speaks for and against a hypothesis: how much likelier it makes each report than everything else does. */
export interface Reason {
  /** Test or look. */
  id: string;
  report: string;
  /** Above 1 it speaks for it. */
  ratio: number;
}

/** Each report against what the other hypotheses, as they are believed without it, make of it. */
export function reasonsFor(table: JudgeTable, evidence: Evidence, hypothesis: string): Reason[] {
  const at = table.hypotheses.findIndex((h) => h.id === hypothesis);
  const weights = weightsOf(table, evidence);
  return reportsOf(table, evidence).flatMap(({ id, report, likelihood }): Reason[] => {
    let [others, total] = [0, 0];
    for (const [h, weight] of weights.entries()) {
      if (h === at) continue;
      others += weight * (likelihood[h] as number);
      total += weight;
    }
    const ratio = total > 0 && others > 0 ? (likelihood[at] as number) / (others / total) : 1;
    return Math.abs(Math.log(ratio)) > 0.2 ? [{ id, report, ratio }] : [];
  });
}

function weightsOf({ hypotheses }: JudgeTable, { hints }: Evidence): number[] {
  return hypotheses.map((h) => h.weight * (hints?.get(h.id)?.factor ?? 1));
}

export function judge(table: JudgeTable, evidence: Evidence): Judgement {
  const { hypotheses } = table;
  const reports = reportsOf(table, evidence);
  const belief = believe(
    weightsOf(table, evidence),
    reports.map((r) => r.likelihood),
  );
  const groups = groupsOf(table, belief);
  return {
    groups,
    next: proposals(table, evidence, belief),
    against: againstOf(groups, hypotheses, reports),
  };
}

interface Report {
  id: string;
  report: string;
  likelihood: Float64Array;
}

function reportsOf(table: JudgeTable, { tests, looks }: Evidence): Report[] {
  const tried = table.tests.flatMap(({ id }, t): Report[] => {
    const report = tests.get(id);
    return report === undefined ? [] : [{ id, report, likelihood: reportLikelihoods(table, t, report) }];
  });
  const looked = table.looks.flatMap((look): Report[] => {
    const answer = look.answers.findIndex((a) => a.id === looks.get(look.id));
    const report = look.answers[answer]?.label ?? "";
    return answer < 0 ? [] : [{ id: look.id, report, likelihood: lookLikelihoods(table, look, answer) }];
  });
  return [...tried, ...looked];
}

function groupsOf({ hypotheses, alike, looks }: JudgeTable, belief: Belief): CauseGroup[] {
  const minutes = new Map(looks.map((l) => [l.id, l.minutes]));
  const groups = new Map<number, (Hypothesis & { probability: number })[]>();
  for (const [i, h] of hypotheses.entries()) {
    const first = alike[i] ?? i;
    const group = groups.get(first) ?? [];
    groups.set(first, group);
    group.push({ ...h, probability: belief[i] as number });
  }
  const worth = (h: Hypothesis & { probability: number }) =>
    h.probability / (minutes.get(h.settledBy ?? "") ?? Number.POSITIVE_INFINITY);
  return [...groups.values()]
    .map((members) => {
      const best = Math.max(...members.map((m) => m.probability));
      return {
        probability: members.reduce((sum, m) => sum + m.probability, 0),
        members: members
          .filter((m) => m.probability >= FAINT * best)
          .sort((a, b) => worth(b) - worth(a) || b.probability - a.probability || (a.id < b.id ? -1 : 1)),
      };
    })
    .sort((a, b) => b.probability - a.probability || ((a.members[0]?.id ?? "") < (b.members[0]?.id ?? "") ? -1 : 1));
}

/** Reports that the leading cause, *none of these* apart, does not explain while it explains the rest. */
function againstOf([first]: readonly CauseGroup[], hypotheses: readonly Hypothesis[], reports: readonly Report[]) {
  const leading = first?.members.find((m) => m.kind !== "none");
  if (!leading) return [];
  const at = hypotheses.findIndex((h) => h.id === leading.id);
  return reports.filter((r) => (r.likelihood[at] as number) < AGAINST).map((r) => r.id);
}

function proposals(table: JudgeTable, { tests, looks, stands }: Evidence, belief: Belief): Proposal[] {
  const costs = costsOf(table, looks);
  const repair = toRepair(table, looks, belief);
  const now = entropyBits(belief);
  const ask = rankQuestions(belief, questionsOf(table, { tests, looks, ...(stands ? { stands } : {}) }, belief), costs);
  const asked = ask.map(({ question, minutes: total }): Proposal => {
    const look = table.looks.find((l) => l.id === question.id);
    const gainBits = Math.max(0, now - expectedAfter(belief, question, entropyBits));
    return look
      ? { kind: "look", look, minutes: question.minutes, total, gainBits }
      : { kind: "test", id: question.id, minutes: question.minutes, total, gainBits };
  });
  return repair ? [{ kind: "repair", hypothesis: repair, total: repair.repairMinutes }, ...asked] : asked;
}

/** The cause to repair now, where somebody has seen it or a look would take longer than the repair. */
function toRepair({ hypotheses, looks: all }: JudgeTable, done: ReadonlyMap<string, string>, belief: Belief) {
  const leading = hypotheses.map((h, i) => ({ h, i, p: belief[i] as number })).reduce((a, b) => (b.p > a.p ? b : a));
  const { h, p } = leading;
  if (h.kind === "none") return null;
  const look = all.find((l) => l.id === h.settledBy);
  const answer = look?.answers.findIndex((a) => a.id === done.get(look.id)) ?? -1;
  const seen = look !== undefined && answer >= 0 && (look.under(h, false)[answer] as number) > 0.5;
  // Several causes of one place are told apart by who looks there.
  const place = hypotheses.reduce(
    (sum, o, i) => sum + (o.settledBy !== null && o.settledBy === h.settledBy ? (belief[i] as number) : 0),
    0,
  );
  if (seen) return place >= SURE ? h : null;
  // Nothing is repaired at what is normal; it is waited for, or done differently.
  const quicker = look !== undefined && look.minutes > h.repairMinutes;
  return p >= SURE_UNSEEN && quicker && !h.normal ? h : null;
}

/** Minutes when the cause is on no list. Our assumption. */
const NONE_MINUTES = 90;

/** What was looked at and found good is not looked at again; where it is bad, the repair follows at once. */
function costsOf({ hypotheses, looks }: JudgeTable, done: ReadonlyMap<string, string>): Costs {
  const of = new Map<string, number[]>();
  for (const [i, { settledBy }] of hypotheses.entries()) {
    if (settledBy === null) continue;
    const list = of.get(settledBy);
    if (list) list.push(i);
    else of.set(settledBy, [i]);
  }
  return {
    settling: looks.flatMap(({ id, minutes }) => {
      const settles = of.get(id);
      if (!settles) return [];
      const shortest = Math.min(...settles.map((h) => hypotheses[h]?.repairMinutes ?? 0));
      return [{ id, minutes: done.has(id) ? 0 : Math.min(minutes, shortest + RETRY_MINUTES), hypotheses: settles }];
    }),
    repair: hypotheses.map((h) => (h.id === NONE ? 0 : h.repairMinutes)),
    none: NONE_MINUTES,
  };
}

/** One more answer for everything else that could be reported, so that all of them add up to one. */
function withRest(answers: readonly Float64Array[]): Float64Array[] {
  const rest = (answers[0] ?? new Float64Array()).map((_, h) =>
    Math.max(0, 1 - answers.reduce((sum, likelihood) => sum + (likelihood[h] as number), 0)),
  );
  return [...answers, rest];
}

/** To see whether a repair without a look has helped. Our assumption. */
const RETRY_MINUTES = 1;

/** Answers that no believed hypothesis predicts are not worth a branch. */
function questionsOf(table: JudgeTable, { tests, looks, stands }: Evidence, belief: Belief): Question[] {
  const tried = table.tests.flatMap((test, t): Question[] => {
    if (tests.has(test.id)) return [];
    const shown = new Set<string>();
    for (const [h, row] of table.predictions.entries())
      if ((belief[h] as number) > 1e-4 && table.hypotheses[h]?.kind !== "none")
        for (const [sight, p] of row[t] ?? []) if (p > 0.1) shown.add(sight);
    shown.add("works");
    return [
      {
        id: test.id,
        minutes: test.minutes + (stands ? changeMinutes(stands, test.situation) : 0),
        answers: withRest([...shown].map((report) => reportLikelihoods(table, t, report))),
      },
    ];
  });
  const looked = table.looks
    .filter((l) => !looks.has(l.id))
    .map(
      (look): Question => ({
        id: look.id,
        minutes: look.minutes,
        answers: look.answers.map((_, a) => lookLikelihoods(table, look, a)),
      }),
    );
  return [...tried, ...looked];
}
