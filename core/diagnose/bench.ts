import type { TestAnswer } from "../log/kinds/prove/result";
import { type Fault, singleFaults, type Touched } from "../model/faults";
import { describePort } from "../model/labels";
import { Model, type OutcomeKind } from "../model/outcome";
import type { System } from "../model/types";
import type { Test } from "../prove/tests";
import { type Check, type Hypothesis, posterior, type Ranked, type RankedCheck, rankChecks } from "./posterior";

/** Every single fault of a job with what each test and each look would show. */
export interface FaultTable {
  faults: Fault[];
  /** Outcome key by fault and test: `outcomes[fault][test]`. */
  outcomes: string[][];
  tests: Test[];
  checks: Check[];
  /** Devices whose lamp would be dark, by fault. */
  dark: ReadonlyMap<string, ReadonlySet<string>>;
}

/** Chance that a result was misread or noted wrongly. Our assumption. */
const MISREAD = 0.02;
/** Chance that what is predicted as nothing is noted as wrong, or the other way round. Our assumption. */
const CONFUSED = 0.15;

/**
 * Simulates all single faults of a system against all tests.
 *
 * @param progress called after each fault with done and total; return false to stop
 */
export function simulateFaults(
  system: System,
  tests: readonly Test[],
  touched: Touched,
  progress?: (done: number, total: number) => boolean | undefined,
): FaultTable {
  const faults = singleFaults(system, touched);
  const lamps = system.parts.filter((p) => p.lamp);
  const outcomes: string[][] = [];
  const dark = new Map<string, Set<string>>();
  const sound = new Model(system, {}, touched.planned);
  for (const [i, fault] of faults.entries()) {
    const model = sound.under(fault.disturbance);
    outcomes.push(tests.map((t) => model.key(t.fn, t.situationId)));
    dark.set(fault.id, new Set(lamps.filter((p) => !model.alive(p.id)).map((p) => p.id)));
    if (progress?.(i + 1, faults.length) === false) break;
  }
  return {
    faults: faults.slice(0, outcomes.length),
    outcomes,
    tests: [...tests],
    checks: checksFor(system, faults, touched),
    dark,
  };
}

/** The looks and measurements of a job, known without simulating anything. */
export function checkList(system: System, touched: Touched): Check[] {
  return checksFor(system, singleFaults(system, touched), touched);
}

/** The looks and measurements that tell faults apart without trying functions. */
function checksFor(system: System, faults: readonly Fault[], touched: Touched): Check[] {
  const reach = (id: string) => system.parts.find((p) => p.id === id)?.reachMinutes ?? 3;
  const lamps: Check[] = system.parts
    .filter((p) => p.lamp)
    .map((p) => ({
      id: `lamp:${p.id}`,
      title: `Is the ${p.lamp} of ${p.name} lit?`,
      how: "Ignition on, look at the lamp.",
      minutes: 0.5 + reach(p.id) / 4,
      answers: [
        { id: "lit", label: "Lit" },
        { id: "dark", label: "Dark" },
      ],
    }));
  const leads: Check[] = system.parts
    .filter((p) => p.type === "lead")
    .map((p) => ({
      id: `measure:${p.id}`,
      title: `Measure ${p.name} end to end`,
      how: "Unplug both ends, continuity of each conductor with the meter, move the lead while measuring.",
      minutes: 2 + reach(p.id),
      answers: [
        { id: "good", label: "All conductors good" },
        { id: "open", label: "A conductor is open" },
      ],
    }));
  const plugs: Check[] = system.links
    .filter((l) => !l.air && touched.links.has(l.id))
    .map((l) => ({
      id: `look:${l.id}`,
      title: `Look at ${describePort(system, l.a)} – ${describePort(system, l.b)}`,
      how: "Is it the right lead, pushed home, the right way round? Pull gently.",
      minutes: 0.5 + Math.max(reach(l.a.split(".")[0] as string), reach(l.b.split(".")[0] as string)) / 2,
      answers: [
        { id: "right", label: "Right and home" },
        { id: "loose", label: "Loose" },
        { id: "misplaced", label: "Wrong lead or wrong way round" },
      ],
    }));
  const settings: Check[] = system.parts
    .filter((p) => touched.parts.has(p.id) && (p.settings ?? []).length > 0)
    .map((p) => ({
      id: `set:${p.id}`,
      title:
        p.id === touched.bank?.part
          ? "Read the switch bank"
          : `Look at the ${p.settings?.map((s) => s.label.toLowerCase()).join(" and ")}`,
      how:
        p.id === touched.bank?.part
          ? "Compare every switch with the drawing in Configure."
          : `As planned: ${p.settings?.map((s) => touched.planned[`${p.id}.${s.id}`] ?? s.initial).join(", ")}.`,
      minutes: 1 + reach(p.id) / 2,
      answers: [
        { id: "as planned", label: "As planned" },
        { id: "different", label: "Differs" },
      ],
    }));
  const states: Check[] = system.assumed.map((a) => ({
    id: `state:${a.id}`,
    title: `Rule out: ${a.title.toLowerCase()}`,
    how: a.remedy,
    minutes: a.minutes,
    answers: [
      { id: "ruled out", label: "Ruled out" },
      { id: "was it", label: "That was it" },
    ],
  }));
  return [...lamps, ...leads, ...plugs, ...settings, ...states].filter((c) =>
    faults.some((f) => special(f, c.id, null) !== null || c.id.startsWith("lamp:")),
  );
}

/** What a look or measurement shows under a fault; null when the fault says nothing special about it. */
function special(fault: Fault, check: string, isDark: ((part: string) => boolean) | null): string | null {
  const [kind, target = ""] = split(check);
  if (kind === "lamp") return isDark?.(target) ? "dark" : null;
  if (kind === "measure") return fault.kind === "leadOpen" && fault.parts.includes(target) ? "open" : null;
  if (kind === "look" && fault.links.includes(target)) return fault.kind === "notPlugged" ? "loose" : "misplaced";
  if (kind === "set") return fault.kind === "setting" && fault.parts.includes(target) ? "different" : null;
  if (kind === "state") return fault.id === check ? "was it" : null;
  return null;
}

const USUAL_ANSWER: Readonly<Record<string, string>> = {
  lamp: "lit",
  measure: "good",
  look: "right",
  set: "as planned",
  state: "ruled out",
};

function split(check: string): [string, string?] {
  const colon = check.indexOf(":");
  return colon < 0 ? [check] : [check.slice(0, colon), check.slice(colon + 1)];
}

/** A fault table asked for what one of its faults would show at a look. */
function predictedAnswer(table: FaultTable, fault: Fault, check: string): string {
  const dark = table.dark.get(fault.id);
  return lookAnswer(fault, check, (part) => dark?.has(part) ?? false);
}

/**
 * What a look or a measurement shows on a car with a fault, or on a sound one.
 *
 * @param isDark whether the lamp of a part is dark on that car
 */
export function lookAnswer(fault: Fault | null, check: string, isDark: (part: string) => boolean): string {
  const [kind, target = ""] = split(check);
  const shown = fault ? special(fault, check, isDark) : kind === "lamp" && isDark(target) ? "dark" : null;
  return shown ?? USUAL_ANSWER[kind] ?? "";
}

/** What a person would note for an outcome of the model. */
export function answerFor(outcome: OutcomeKind | string): TestAnswer {
  if (outcome === "ok") return "pass";
  if (outcome === "absent") return "nothing";
  return outcome === "late" ? "late" : "wrong";
}

/** Probability that a person notes an answer when the model predicts an outcome. */
function answerLikelihood(predicted: string, answer: string): number {
  if (answer === "impossible") return 1;
  const expected = answerFor(predicted);
  if (expected === "pass") return answer === "pass" ? 1 - MISREAD : MISREAD / 3;
  if (answer === "pass") return MISREAD;
  return answer === expected ? 1 - MISREAD - CONFUSED : CONFUSED / 2;
}

export interface Diagnosis {
  causes: (Ranked & { fault: Fault })[];
  next: RankedCheck[];
}

/**
 * Ranks the causes after the results so far and proposes the next checks: looks, measurements and tests not done yet,
 * by expected information per minute.
 *
 * @param results answers by test identifier and by check identifier
 */
export function diagnose(table: FaultTable, results: ReadonlyMap<string, string>): Diagnosis {
  const testIndex = new Map(table.tests.map((t, i) => [t.id, i]));
  const hypotheses: Hypothesis[] = table.faults.map((fault, f) => ({
    id: fault.id,
    weight: fault.weight,
    likelihood(check, answer) {
      const t = testIndex.get(check);
      if (t !== undefined) return answerLikelihood(table.outcomes[f]?.[t] ?? "ok", answer);
      return predictedAnswer(table, fault, check) === answer ? 1 - MISREAD : MISREAD;
    },
  }));
  const ranked = posterior(hypotheses, results);
  const byId = new Map(table.faults.map((f) => [f.id, f]));
  const open: Check[] = [
    ...table.checks.filter((c) => !results.has(c.id)),
    ...table.tests.filter((t) => !results.has(t.id)).map(asCheck),
  ];
  return {
    causes: ranked.map((r) => ({ ...r, fault: byId.get(r.id) as Fault })),
    next: rankChecks(hypotheses, ranked, open),
  };
}

function asCheck(test: Test): Check {
  return {
    id: test.id,
    title: `Try: ${test.fn.name}, ${test.label}`,
    how: test.fn.say,
    minutes: test.minutes,
    answers: [
      { id: "pass", label: "Works" },
      { id: "nothing", label: "Nothing" },
      { id: "wrong", label: "Wrong" },
      { id: "late", label: "Too late" },
    ],
  };
}
