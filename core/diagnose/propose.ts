/** What to do next about a car: a test, a look or a repair. */
import { changeMinutes } from "../prove/tests";
import { type Belief, believe, entropyBits, expectedAfter, type Question } from "./belief";
import type { Look } from "./checks";
import type { Hypothesis } from "./hypothesis";
import type { Evidence } from "./judge";
import { type Costs, rankQuestions } from "./policy";
import { type JudgeTable, lookLikelihoods, reportLikelihoods } from "./table";

export type Proposal =
  | { kind: "test"; id: string; minutes: number; total: number; gainBits: number }
  | { kind: "look"; look: Look; minutes: number; total: number; gainBits: number }
  /** Somebody looked, or looking takes longer than repairing. */
  | { kind: "repair"; hypothesis: Hypothesis; total: number };

/** Without a look, a cause that is quicker to repair than to look at must be this sure. */
const SURE_UNSEEN = 0.8;
/** A cause is taken as found from here on. */
const SURE = 0.9;
/** As many causes may be sure together. */
const AT_ONCE = 2;
/** Hypotheses that are less likely than this do not decide what to do next. */
const GIVEN_UP = 1e-5;

/** @param idle hypotheses that explain nothing of what fails: no question is asked for their sake */
export function proposals(
  table: JudgeTable,
  evidence: Evidence,
  belief: Belief,
  idle: ReadonlySet<string>,
): Proposal[] {
  const repair = toRepair(table, evidence.looks, belief);
  const live = table.hypotheses.flatMap((x, h) =>
    (belief[h] as number) > GIVEN_UP &&
    x.kind !== "none" &&
    !idle.has(x.id) &&
    looked(table, evidence.looks, x) !== "nothing"
      ? [h]
      : [],
  );
  const believed = believe(
    live.map((h) => belief[h] as number),
    [],
  );
  const now = entropyBits(believed);
  const ranked = rankQuestions(
    believed,
    questionsOf(table, evidence, live, believed),
    costsOf(table, evidence.looks, live),
  );
  const asked = ranked.map(({ question, minutes: total }): Proposal => {
    const look = table.looks.find((l) => l.id === question.id);
    const gainBits = Math.max(0, now - expectedAfter(believed, question, entropyBits));
    return look
      ? { kind: "look", look, minutes: question.minutes, total, gainBits }
      : { kind: "test", id: question.id, minutes: question.minutes, total, gainBits };
  });
  if (repair) return [repairOf(repair), ...asked];
  return asked.length > 0 ? asked : lastResort(table, evidence.looks, belief);
}

const repairOf = (hypothesis: Hypothesis): Proposal => ({
  kind: "repair",
  hypothesis,
  total: unseenMinutes(hypothesis),
});

/**
 * Nothing more tells the causes apart: what somebody has seen is repaired, else one looks where it most likely is. Not
 * where it is likelier that it is none of them.
 */
function lastResort(table: JudgeTable, done: ReadonlyMap<string, string>, belief: Belief): Proposal[] {
  const none = table.hypotheses.findIndex((h) => h.kind === "none");
  const left = byChance(table, belief).filter(({ h, p }) => !h.normal && p > (belief[none] ?? 0));
  const seen = left.find(({ h }) => looked(table, done, h) === "seen");
  if (seen) return [repairOf(seen.h)];
  for (const { h } of left) {
    const look = table.looks.find((l) => l.id === h.settledBy && !done.has(l.id));
    if (look)
      return [{ kind: "look", look, minutes: look.minutes, total: look.minutes + h.repairMinutes, gainBits: 0 }];
  }
  return [];
}

/** The single causes with their chance, by itself or beside another one, the likeliest first. */
function byChance({ hypotheses }: JudgeTable, belief: Belief): { h: Hypothesis; p: number }[] {
  const of = new Map<string, number>();
  for (const [i, h] of hypotheses.entries())
    for (const { id } of h.pair ?? [h]) of.set(id, (of.get(id) ?? 0) + (belief[i] as number));
  return hypotheses
    .filter((h) => h.kind !== "none" && !h.pair)
    .map((h) => ({ h, p: of.get(h.id) ?? 0 }))
    .sort((a, b) => b.p - a.p);
}

/** The cause to repair now, where somebody has seen it or a look would take longer than the repair. */
function toRepair(table: JudgeTable, done: ReadonlyMap<string, string>, belief: Belief): Hypothesis | null {
  const singles = byChance(table, belief);
  const [leading] = singles;
  if (!leading) return null;
  // Several causes of one place are told apart by who looks there.
  const atPlace = (h: Hypothesis) => singles.reduce((sum, o) => sum + (o.h.settledBy === h.settledBy ? o.p : 0), 0);
  // Of two at once that are sure one may have been seen and the other not.
  const seen = singles.slice(0, AT_ONCE).find(({ h }) => looked(table, done, h) === "seen" && atPlace(h) >= SURE);
  if (seen) return seen.h;
  const look = table.looks.find((l) => l.id === leading.h.settledBy);
  // Nothing is repaired at what is normal; it is waited for, or done differently.
  const quicker = look !== undefined && look.minutes > unseenMinutes(leading.h);
  return leading.p >= SURE_UNSEEN && quicker && !leading.h.normal ? leading.h : null;
}

/** A repair without a look before, on the car as it stands. */
function unseenMinutes({ repairMinutes, reopenMinutes }: Hypothesis): number {
  return repairMinutes + reopenMinutes;
}

/** What was found where a hypothesis would show itself; null while nobody has looked there. */
function looked(table: JudgeTable, done: ReadonlyMap<string, string>, h: Hypothesis): "seen" | "nothing" | null {
  const { looks } = table;
  if (h.pair) {
    const found = h.pair.map((x) => looked(table, done, x));
    return found.includes("seen") ? "seen" : found.every((f) => f === "nothing") ? "nothing" : null;
  }
  const look = looks.find((l) => l.id === h.settledBy);
  const answer = look?.answers.findIndex((a) => a.id === done.get(look.id)) ?? -1;
  if (!look || answer < 0) return null;
  return (look.under(h, false)[answer] as number) > 0.5 ? "seen" : "nothing";
}

/** Where somebody has looked and seen it, the repair follows at once. */
function costsOf({ hypotheses, looks }: JudgeTable, done: ReadonlyMap<string, string>, live: readonly number[]): Costs {
  const among = live.map((h) => hypotheses[h] as Hypothesis);
  const settles = new Map<string, number[]>();
  for (const [i, h] of among.entries())
    for (const { settledBy } of h.pair ?? [h]) {
      if (settledBy === null) continue;
      const list = settles.get(settledBy);
      if (list) list.push(i);
      else settles.set(settledBy, [i]);
    }
  return {
    settling: looks.flatMap(({ id, minutes }) => {
      const settled = settles.get(id);
      if (!settled) return [];
      const shortest = Math.min(...settled.map((i) => unseenMinutes(among[i] as Hypothesis)));
      return [{ id, minutes: done.has(id) ? 0 : Math.min(minutes, shortest + RETRY_MINUTES), hypotheses: settled }];
    }),
    // By then somebody has looked there: the way is open.
    repair: among.map((h) => h.repairMinutes),
  };
}

/** To see whether a repair without a look has helped. Our assumption. */
const RETRY_MINUTES = 1;

/** Answers that no believed hypothesis predicts are not worth a branch. */
function questionsOf(
  table: JudgeTable,
  { tests, looks, stands }: Evidence,
  live: readonly number[],
  believed: Belief,
): Question[] {
  const tried = table.tests.flatMap((test, t): Question[] => {
    if (tests.has(test.id)) return [];
    const shown = new Set(["works"]);
    for (const [i, h] of live.entries())
      if ((believed[i] as number) > 1e-4)
        for (const [sight, p] of table.predictions[h]?.[t] ?? []) if (p > 0.1) shown.add(sight);
    return [
      {
        id: test.id,
        minutes: test.minutes + (stands ? changeMinutes(stands, test.situation) : 0),
        answers: withRest([...shown].map((report) => reportLikelihoods(table, t, report, live))),
      },
    ];
  });
  const looked = table.looks
    .filter((l) => !looks.has(l.id))
    .map(
      (look): Question => ({
        id: look.id,
        minutes: look.minutes,
        answers: look.answers.map((_, a) => lookLikelihoods(table, look, a, live)),
      }),
    );
  return [...tried, ...looked];
}

/** One more answer for everything else that could be reported, so that all of them add up to one. */
function withRest(answers: readonly Float64Array[]): Float64Array[] {
  const rest = (answers[0] ?? new Float64Array()).map((_, h) =>
    Math.max(0, 1 - answers.reduce((sum, likelihood) => sum + (likelihood[h] as number), 0)),
  );
  return [...answers, rest];
}
