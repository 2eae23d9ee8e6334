/** What the log of a job says about what is the matter, beside the tests. */
import { codeLook } from "../diagnose/checks";
import type { Evidence, Hint, Measured } from "../diagnose/judge";
import { readFaultCodes } from "../intake/fault-codes";
import type { JobState } from "../log/entry";
import { isFailure } from "../log/kinds/prove/result";
import { sameCode } from "../prove/codes";
import { measuredHints } from "./measured-hints";
import { meterHints } from "./meter-hints";
import { type JobPlan, openNow } from "./plan";
import { reopenMinutes } from "./reopen";
import { hypothesesOfPlan } from "./suspects";
import { walkEvidence } from "./walk-evidence";

/** How much likelier a cause is that the log names itself. Our assumption. */
const NAMED = 40;
/** How much likelier a plug is that was touched since everything worked. Our assumption. */
const TOUCHED = 4;
/** How much less likely it is that what was repaired is the matter again. Our assumption. */
const REPAIRED = 0.05;

/** Everything that is known about the car of a job, as plain lists that a worker can be given. */
export interface JobEvidence {
  tests: [test: string, sight: string][];
  /** Tests that showed the same when they were tried again. */
  twice: string[];
  looks: [look: string, answer: string][];
  hints: [hypothesis: string, hint: Hint][];
  measured: (Omit<Measured, "under"> & { under: [hypothesis: string, chance: number][] })[];
  /** Test after which car and phone stand as they do. */
  last: string | null;
  /** Minutes to get at parts behind closed panels. */
  reopen: [part: string, minutes: number][];
}

export function jobEvidence(plan: JobPlan, state: JobState): JobEvidence {
  return {
    tests: [...state.results].map(([id, { sight }]) => [id, sight]),
    twice: [...state.results].flatMap(([id, { same }]) => (same > 1 ? [id] : [])),
    looks: [...codeAnswers(plan, state), ...[...state.checks].map(([id, { value }]): [string, string] => [id, value])],
    hints: [...[meterHints(plan, state), ...measuredHints(plan, state)].reduce(together, hintsOf(plan, state))],
    measured: walkEvidence(plan, state).map((m) => ({ ...m, under: [...m.under] })),
    last: state.tries.at(-1)?.test ?? null,
    reopen: [...reopenMinutes(plan, state)],
  };
}

/**
 * The evidence as judging takes it.
 *
 * @param learned what other jobs say about each hypothesis
 */
export function evidenceFor(
  { tests }: Pick<JobPlan, "tests">,
  { last, ...known }: Omit<JobEvidence, "reopen">,
  learned: ReadonlyMap<string, Hint> = new Map(),
): Evidence {
  const stands = tests.find((t) => t.id === last)?.situation;
  return {
    tests: new Map(known.tests),
    twice: new Set(known.twice),
    looks: new Map(known.looks),
    measured: known.measured.map((m) => ({ ...m, under: new Map(m.under) })),
    hints: together(learned, new Map(known.hints)),
    ...(stands ? { stands } : {}),
  };
}

/** Both say something: their factors multiply. */
function together(one: ReadonlyMap<string, Hint>, two: ReadonlyMap<string, Hint>): ReadonlyMap<string, Hint> {
  const both = new Map(one);
  for (const [id, { factor, why }] of two) {
    const other = one.get(id);
    both.set(
      id,
      other ? { factor: factor * other.factor, why: [why, other.why].filter(Boolean).join(" ") } : { factor, why },
    );
  }
  return both;
}

/** Codes that were read after the work answer what each control unit stores; what was there before says nothing. */
function codeAnswers({ fitted }: JobPlan, { codesAfter, car }: JobState): [string, string][] {
  if (!codesAfter) return [];
  const [now, before] = [codesAfter.value, car.faultCodes].map((text) => readFaultCodes(text).codes.map((c) => c.code));
  return (fitted.monitors ?? []).flatMap(({ id, code }): [string, string][] => {
    const same = (c: string) => sameCode(c, code);
    if (before?.some(same)) return [];
    return [[codeLook(id), now?.some(same) ? "stored" : "not stored"]];
  });
}

/** What makes a hypothesis likelier before anything is tried, and why. */
function hintsOf(plan: JobPlan, state: JobState): Map<string, Hint> {
  const hints = new Map<string, Hint>();
  const { openLinks = {}, settings = {} } = openNow(plan, state);
  const stands = { ...settings, ...state.switches };
  const moved = touchedSince(plan, state);
  const repaired = new Set(state.repairs.map((r) => r.fault));
  for (const { id, kind, links, fault } of hypothesesOfPlan(plan)) {
    const set = Object.entries(fault?.disturbance.settings ?? {});
    if (kind === "notPlugged" && links.some((l) => l in openLinks)) {
      hints.set(id, { factor: NAMED, why: "Not ticked in Connect." });
    } else if (kind === "setting" && set.some(([key, value]) => stands[key] === value)) {
      hints.set(id, { factor: NAMED, why: "It stands so in the log." });
    } else if (repaired.has(id)) {
      hints.set(id, { factor: REPAIRED, why: "Repaired before." });
    } else if (kind === "notPlugged" && links.some((l) => moved.has(l))) {
      hints.set(id, { factor: TOUCHED, why: "Panels went back over it since it last worked." });
    }
  }
  return hints;
}

/** Connections that panels can have pulled at since what fails now last worked. */
function touchedSince(plan: JobPlan, { results, tries, strip }: JobState): Set<string> {
  const failing = [...results].filter(([, r]) => isFailure(r.value)).map(([id]) => id);
  const worked = tries.filter((t) => t.answer === "pass" && failing.includes(t.test)).at(-1)?.at;
  if (!worked || !strip.stepEvents.some((e) => e.direction === "back" && e.at > worked)) return new Set();
  return new Set(plan.connections.map((c) => c.link));
}
