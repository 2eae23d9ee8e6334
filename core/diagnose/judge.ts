/** Judges what is the matter by what was seen, and says what to do next. */
import type { Situation } from "../model/types";
import { type Belief, believe } from "./belief";
import type { Hypothesis } from "./hypothesis";
import { type Proposal, proposals } from "./propose";
import { type JudgeTable, lookLikelihoods, reportLikelihoods } from "./table";
import { withPairs } from "./two";

/** What is known about a car. */
export interface Evidence {
  /** By test: a sight key, or `pass`, `nothing`, `wrong`, `late`, `impossible`. */
  tests: ReadonlyMap<string, string>;
  /** Tests that showed the same when they were tried again. */
  twice?: ReadonlySet<string>;
  /** Answers by look. */
  looks: ReadonlyMap<string, string>;
  /** What was measured beside tests and looks. */
  measured?: readonly Measured[];
  /** What the log of the job says for or against a hypothesis before anything was tried. */
  hints?: ReadonlyMap<string, Hint>;
  /** How car and phone stand now; the usual way where nobody said. */
  stands?: Situation;
}

/** Something that was measured, with how likely each hypothesis makes it. */
export interface Measured {
  id: string;
  title: string;
  report: string;
  /** It is as it should be. */
  passes: boolean;
  /** Chance of it under a hypothesis that changes nothing here. */
  usual: number;
  /** Chance of it under those that do, by hypothesis. */
  under: ReadonlyMap<string, number>;
}

export interface Hint {
  /** By how much it makes it more likely. */
  factor: number;
  why: string;
}

/** Causes that no test tells apart: one line, the quickest to look at first. */
export interface CauseGroup {
  probability: number;
  /** Nothing is broken, and it explains everything that was seen: it stands before every fault. */
  ruleOutFirst: boolean;
  members: readonly (Hypothesis & { probability: number })[];
}

export interface Judgement {
  /** What is normal and explains everything, then the most likely first; *none of these* is among them. */
  groups: readonly CauseGroup[];
  /** The best first; empty when nothing more would tell anything. */
  next: readonly Proposal[];
  /** It may well be none of these. */
  doubtful: boolean;
  /** Results that speak against what everything else says: test or look, what was answered, and whether twice. */
  against: readonly (Pick<Reason, "id" | "report"> & { twice: boolean })[];
}

/** A report this unlikely under the leading cause speaks against it. */
const AGAINST = 0.035;
/** From here on it is said that it may be none of these. */
const DOUBT = 0.2;
/** A report this likely is what one would see. */
const EXPLAINED = 0.15;
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
  const factor = (h: Hypothesis): number =>
    h.pair ? factor(h.pair[0]) * factor(h.pair[1]) : (hints?.get(h.id)?.factor ?? 1);
  return hypotheses.map((h) => h.weight * factor(h));
}

export function judge(table: JudgeTable, reported: Evidence): Judgement {
  const evidence = knownOf(table, reported);
  const single = judged(table, evidence);
  const wrong = [...evidence.tests.values()].filter((report) => !PASSES.has(report)).length;
  const failing = wrong + (evidence.measured ?? []).filter((m) => !m.passes).length;
  const noneLeads = single.groups[0]?.members[0]?.kind === "none";
  // Where no single cause explains everything, two at once may.
  return single.against.length > 0 || (noneLeads && failing > 1)
    ? judged(withPairs(table, worthOf(table, evidence)), evidence)
    : single;
}

/** What a plan of before has left behind, tests, looks and answers that there are no more, says nothing. */
function knownOf(table: JudgeTable, evidence: Evidence): Evidence {
  const tests = new Set(table.tests.map((t) => t.id));
  const answers = new Map(table.looks.map((l) => [l.id, new Set(l.answers.map((a) => a.id))]));
  return {
    ...evidence,
    tests: new Map([...evidence.tests].filter(([id]) => tests.has(id))),
    looks: new Map([...evidence.looks].filter(([id, answer]) => answers.get(id)?.has(answer))),
  };
}

function judged(table: JudgeTable, evidence: Evidence): Judgement {
  const { hypotheses } = table;
  const reports = reportsOf(table, evidence);
  const belief = believe(
    weightsOf(table, evidence),
    // Two tries are misread independently of each other.
    reports.flatMap((r) => (r.twice ? [r.likelihood, r.likelihood] : [r.likelihood])),
  );
  const groups = groupsOf(table, belief, reports);
  return {
    groups,
    doubtful: hypotheses.some((h, i) => h.kind === "none" && (belief[i] as number) >= DOUBT),
    next: proposals(table, evidence, belief, idleOf(hypotheses, reports)),
    against: againstOf(groups, hypotheses, reports),
  };
}

/** Normal states that would explain nothing of what fails: nobody waits for them. */
function idleOf(hypotheses: readonly Hypothesis[], reports: readonly Report[]): ReadonlySet<string> {
  const failing = reports.filter((r) => r.fails);
  return new Set(
    hypotheses.flatMap((h, i) =>
      h.normal && !failing.some((r) => (r.likelihood[i] as number) >= EXPLAINED) ? [h.id] : [],
    ),
  );
}

/** What each hypothesis explains of the reports, by its weight, whatever speaks against it. */
function worthOf(table: JudgeTable, evidence: Evidence): number[] {
  const reports = reportsOf(table, evidence);
  return weightsOf(table, evidence).map((weight, h) => {
    const explained = reports.filter((r) => !r.passes && (r.likelihood[h] as number) >= EXPLAINED).length;
    return explained * weight;
  });
}

const PASSES: ReadonlySet<string> = new Set(["pass", "works", "impossible"]);

interface Report {
  id: string;
  report: string;
  /** It is as it should be: it names no cause. */
  passes: boolean;
  /** Something that was tried or measured is not as it should be. */
  fails: boolean;
  /** It was the same when it was tried again. */
  twice: boolean;
  likelihood: Float64Array;
}

function reportsOf(table: JudgeTable, { tests, twice: again, looks, measured = [] }: Evidence): Report[] {
  const all = table.hypotheses.map((_, h) => h);
  const tried = table.tests.flatMap(({ id }, t): Report[] => {
    const report = tests.get(id);
    if (report === undefined) return [];
    const passes = PASSES.has(report);
    const twice = again?.has(id) ?? false;
    return [{ id, report, passes, fails: !passes, twice, likelihood: reportLikelihoods(table, t, report, all) }];
  });
  const looked = table.looks.flatMap((look): Report[] => {
    const answer = look.answers.findIndex((a) => a.id === looks.get(look.id));
    const report = look.answers[answer]?.label ?? "";
    if (answer < 0) return [];
    const likelihood = lookLikelihoods(table, look, answer, all);
    return [{ id: look.id, report, passes: false, fails: false, twice: false, likelihood }];
  });
  return [...tried, ...looked, ...measured.map((m) => reportOfMeasured(table, m))];
}

function reportOfMeasured({ hypotheses }: JudgeTable, { id, report, passes, usual, under }: Measured): Report {
  // Of two causes the one that changes something there is measured.
  const chance = (h: Hypothesis): number =>
    h.pair ? (under.get(h.pair[0].id) ?? chance(h.pair[1])) : (under.get(h.id) ?? usual);
  return { id, report, passes, fails: !passes, twice: false, likelihood: Float64Array.from(hypotheses, chance) };
}

function groupsOf({ hypotheses, alike, looks }: JudgeTable, belief: Belief, reports: readonly Report[]): CauseGroup[] {
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
        ruleOutFirst: members.some((m) => m.normal && m.probability >= FAINT && explains(hypotheses, m, reports)),
        members: members
          .filter((m) => m.probability >= FAINT * best)
          .sort((a, b) => worth(b) - worth(a) || b.probability - a.probability || (a.id < b.id ? -1 : 1)),
      };
    })
    .sort(
      (a, b) =>
        Number(b.ruleOutFirst) - Number(a.ruleOutFirst) ||
        b.probability - a.probability ||
        ((a.members[0]?.id ?? "") < (b.members[0]?.id ?? "") ? -1 : 1),
    );
}

/** Every report is what one would see. */
function explains(hypotheses: readonly Hypothesis[], { id }: Hypothesis, reports: readonly Report[]): boolean {
  const at = hypotheses.findIndex((h) => h.id === id);
  return reports.length > 0 && reports.every((r) => (r.likelihood[at] as number) >= EXPLAINED);
}

/** Reports that the leading cause, *none of these* apart, does not explain while it explains the rest. */
function againstOf([first]: readonly CauseGroup[], hypotheses: readonly Hypothesis[], reports: readonly Report[]) {
  const leading = first?.members.find((m) => m.kind !== "none");
  if (!leading) return [];
  const at = hypotheses.findIndex((h) => h.id === leading.id);
  return reports
    .filter((r) => (r.likelihood[at] as number) < AGAINST)
    .map(({ id, report, twice }) => ({ id, report, twice }));
}
