/** What is wrong with a translation, before it is tried. */
import type { Dbc, DbcSignal } from "../dbc-messages";
import {
  type Comparison,
  compares,
  OUTPUTS,
  type OutputId,
  type Rule,
  signalsOf,
  type Translation,
} from "./translation";

export interface TranslationProblem {
  output: OutputId;
  /** `stop`: it is not loaded so. */
  tone: "stop" | "watch";
  problem: string;
  remedy: string;
}

/** Above this the car moves: from here on the lock must be on. Source: walking pace; the law of the place decides. */
export const MOVING_KMH = 5;

/**
 * Contradictions, outputs that can never switch or never switch off, times that cannot be kept, and pictures released in
 * motion.
 *
 * @param cycleMs usual time between two frames of a message, by its name; null when it is not known
 */
export function checkTranslation(
  { rules }: Translation,
  dbc: Pick<Dbc, "messages">,
  cycleMs: (message: string) => number | null = () => null,
): TranslationProblem[] {
  const signals = signalTable(dbc);
  const problems: TranslationProblem[] = [];
  for (const [i, rule] of rules.entries()) {
    const say = (tone: TranslationProblem["tone"], problem: string, remedy: string) =>
      problems.push({ output: rule.output, tone, problem, remedy });
    if (rules.findIndex((r) => r.output === rule.output) !== i)
      say("stop", "It has two rules.", "Put both conditions into one rule.");
    const unknown = signalsOf(rule).filter((s) => !signals.has(s));
    if (unknown.length > 0) {
      say("stop", `The signal ${unknown[0]} is in no description of this job.`, "Find it first, or take another.");
      continue;
    }
    if (OUTPUTS[rule.output].kind === "level") levelProblems(rule, signals, say);
    else conditionProblems(rule, signals, say);
    for (const name of signalsOf(rule)) {
      const cycle = cycleMs(name.split(".")[0] ?? "");
      if (cycle !== null && rule.timeoutMs < 1.5 * cycle)
        say(
          "stop",
          `Its message comes every ${Math.round(cycle)} ms and would count as missing after ${rule.timeoutMs} ms.`,
          `Wait at least ${Math.ceil(3 * cycle)} ms.`,
        );
    }
  }
  problems.push(...keysTogether(rules, signals), ...lockProblems(rules, signals));
  return problems;
}

type Signals = ReadonlyMap<string, DbcSignal>;
type Say = (tone: TranslationProblem["tone"], problem: string, remedy: string) => void;

function signalTable({ messages }: Pick<Dbc, "messages">): Signals {
  return new Map(messages.flatMap((m) => m.signals.map((s) => [`${m.name}.${s.name}`, s] as const)));
}

function levelProblems(rule: Rule, signals: Signals, say: Say): void {
  const signal = rule.level && signals.get(rule.level.signal);
  if (!rule.level || !signal) return say("stop", "It follows no signal.", "Choose the signal that it follows.");
  if (rule.level.factor === 0) say("stop", "With a factor of 0 it never changes.", "Give the factor.");
}

function conditionProblems(rule: Rule, signals: Signals, say: Say): void {
  if (rule.when.length === 0 || rule.when.some((g) => g.length === 0))
    return say("stop", "It has no condition.", "Say when it is on.");
  const possible = rule.when.filter((g) => canHold(g, signals));
  if (possible.length === 0)
    say(
      "stop",
      "Its condition can never hold, so it never switches on.",
      "Compare with values that the signal can have.",
    );
  else if (possible.length < rule.when.length)
    say(
      "watch",
      "One of its conditions can never hold.",
      "Remove it, or compare with a value that the signal can have.",
    );
  if (alwaysHolds(rule.when, signals))
    say(
      "stop",
      "Its condition always holds, so it never switches off.",
      "Compare with a value that is not always reached.",
    );
}

/** Values a signal can have: those of its raw values that fit its bits. */
function rangeOf(s: DbcSignal): { least: number; greatest: number; step: number } {
  if (s.kind === "float32" || s.kind === "float64")
    return { least: Number.NEGATIVE_INFINITY, greatest: Number.POSITIVE_INFINITY, step: 0 };
  const raw = s.kind === "signed" ? [-(2 ** (s.length - 1)), 2 ** (s.length - 1) - 1] : [0, 2 ** s.length - 1];
  const ends = raw.map((r) => r * s.factor + s.offset);
  return { least: Math.min(...ends), greatest: Math.max(...ends), step: Math.abs(s.factor) };
}

/**
 * Values at which the answer of any of the comparisons can change, one between each two neighbours, and the ends: with
 * them every case is tried.
 */
function casesOf(signal: DbcSignal, list: readonly Comparison[]): number[] {
  const { least, greatest, step } = rangeOf(signal);
  const marks = [...new Set(list.map((c) => c.value))].sort((a, b) => a - b);
  const between = step || 1e-6;
  const wanted = [
    least,
    greatest,
    ...marks.flatMap((m) => [m - between, m, m + between]),
    ...marks.flatMap((m, i) => (i > 0 ? [(m + (marks[i - 1] as number)) / 2] : [])),
  ];
  return [
    ...new Set(wanted.filter((v) => Number.isFinite(v) && v >= least && v <= greatest).map((v) => onStep(v, signal))),
  ];
}

/** The value of the signal that lies nearest. */
function onStep(value: number, { kind, factor, offset }: DbcSignal): number {
  if (kind === "float32" || kind === "float64") return value;
  return Math.round((value - offset) / factor) * factor + offset;
}

/** True when some values of the signals fulfil all comparisons. */
function canHold(group: readonly Comparison[], signals: Signals): boolean {
  const names = [...new Set(group.map((c) => c.signal))];
  return names.every((name) => {
    const of = group.filter((c) => c.signal === name);
    const signal = signals.get(name);
    return signal !== undefined && casesOf(signal, of).some((v) => of.every((c) => compares(c, v)));
  });
}

/** Combinations that are tried at most; a rule of a module has few signals. */
const MOST_COMBINATIONS = 20_000;

/** True when every combination of values fulfils one of the groups. */
function alwaysHolds(when: readonly (readonly Comparison[])[], signals: Signals): boolean {
  return !somewhere(when.flat(), signals, (values) => !when.some((g) => holds(g, values)));
}

function holds(group: readonly Comparison[], values: ReadonlyMap<string, number>): boolean {
  return group.every((c) => compares(c, values.get(c.signal) ?? Number.NaN));
}

/** True when a combination of values has a property; also true when there are too many to try. */
function somewhere(
  list: readonly Comparison[],
  signals: Signals,
  property: (values: ReadonlyMap<string, number>) => boolean,
): boolean {
  const names = [...new Set(list.map((c) => c.signal))];
  const cases = names.map((n) =>
    casesOf(
      signals.get(n) as DbcSignal,
      list.filter((c) => c.signal === n),
    ),
  );
  const count = cases.reduce((n, c) => n * c.length, 1);
  if (count > MOST_COMBINATIONS) return true;
  for (let i = 0; i < count; i++) {
    const values = new Map<string, number>();
    let rest = i;
    names.forEach((name, k) => {
      const of = cases[k] as number[];
      values.set(name, of[rest % of.length] as number);
      rest = Math.floor(rest / of.length);
    });
    if (property(values)) return true;
  }
  return false;
}

/** Two keys that one state of the signals would press together. */
function keysTogether(rules: readonly Rule[], signals: Signals): TranslationProblem[] {
  const keys = rules.filter((r) => OUTPUTS[r.output].kind === "key" && signalsOf(r).every((s) => signals.has(s)));
  return keys.flatMap((a, i) =>
    keys.slice(i + 1).flatMap((b): TranslationProblem[] => {
      if (a.output === b.output) return [];
      const shared = signalsOf(a).some((s) => signalsOf(b).includes(s));
      const together =
        shared &&
        somewhere(
          [...a.when.flat(), ...b.when.flat()],
          signals,
          (v) => a.when.some((g) => holds(g, v)) && b.when.some((g) => holds(g, v)),
        );
      return together
        ? [
            {
              output: b.output,
              tone: "stop",
              problem: `One value presses it together with “${OUTPUTS[a.output].name}”.`,
              remedy: "Give each key a value of its own.",
            },
          ]
        : [];
    }),
  );
}

/** The lock must be on whenever the car moves, and when nothing is known of its speed. */
function lockProblems(rules: readonly Rule[], signals: Signals): TranslationProblem[] {
  const rule = rules.find((r) => r.output === "motionLock");
  if (!rule || signalsOf(rule).some((s) => !signals.has(s))) return [];
  const problems: TranslationProblem[] = [];
  const say = (problem: string, remedy: string) =>
    problems.push({ output: "motionLock", tone: "stop", problem, remedy });
  if (rule.missing !== "on")
    say("Without messages it would release moving pictures.", "Let it be on when messages are missing.");
  if (rule.debounceMs > 500) say("It waits more than half a second before it locks.", "Let it lock within 500 ms.");
  const speed = signalsOf(rule).filter((s) => /km\/?h/i.test(signals.get(s)?.unit ?? ""));
  if (speed.length === 0) {
    say(
      "None of its signals is a speed in km/h, so it is not known whether it locks in motion.",
      "Compare a speed signal.",
    );
    return problems;
  }
  const moving = (v: ReadonlyMap<string, number>) => speed.every((s) => (v.get(s) ?? 0) > MOVING_KMH);
  // Just above walking pace is a case of its own, whatever the rule compares with.
  const edges = speed.map((signal): Comparison => ({ signal, is: ">", value: MOVING_KMH }));
  if (somewhere([...rule.when.flat(), ...edges], signals, (v) => moving(v) && !rule.when.some((g) => holds(g, v))))
    say(
      `There is a speed above ${MOVING_KMH} km/h at which it would release moving pictures.`,
      `Let it be on above ${MOVING_KMH} km/h, whatever else is the case.`,
    );
  return problems;
}
