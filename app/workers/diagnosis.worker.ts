/** Plans the job, simulates what can be the matter once and judges after each result, away from the page. */
import { expose } from "comlink";
import type { Look } from "~/core/diagnose/checks";
import { type Judgement, judge, reasonsFor } from "~/core/diagnose/judge";
import { type Experience, learned } from "~/core/diagnose/learned";
import type { Proposal } from "~/core/diagnose/propose";
import { asItStands, type JudgeTable, judgeTable } from "~/core/diagnose/table";
import { unnoticed } from "~/core/diagnose/unnoticed";
import { evidenceFor, type JobEvidence } from "~/core/job/evidence";
import { type Documents, type JobPlan, type PlanState, planJob, planKey } from "~/core/job/plan";
import { sightWords } from "~/core/model/sight";
import type { MeterWindow } from "~/core/model/types";

const SHOWN_GROUPS = 6;
const SHOWN_PROPOSALS = 5;
const SHOWN_MEMBERS = 6;

export interface ShownReason {
  /** What was tried or looked at, and what was found. */
  name: string;
  report: string;
  speaks: "for" | "against";
}

export interface ShownCause {
  id: string;
  title: string;
  cause: string;
  remedy: string;
  normal: boolean;
  /** Stands for everything that is on no list. */
  none: boolean;
  probability: number;
  /** Parts that it concerns. */
  parts: string[];
  /** Minutes to look at it; null where no look settles it. */
  lookMinutes: number | null;
  /** What the log of the job says about it. */
  hint: string | null;
  reasons: ShownReason[];
  /** What it would look like where nobody has tried yet. */
  wouldShow: { name: string; sight: string }[];
}

/** Causes that no test tells apart. */
export interface ShownGroup {
  probability: number;
  /** Nothing is broken, and it explains everything. */
  ruleOutFirst: boolean;
  causes: ShownCause[];
  /** Members that are not shown. */
  more: number;
}

export type ShownProposal =
  | { kind: "test"; id: string; title: string; minutes: number; total: number; gainBits: number }
  | {
      kind: "look";
      id: string;
      title: string;
      how: string;
      minutes: number;
      total: number;
      gainBits: number;
      answers: readonly { id: string; label: string }[];
      window: MeterWindow | null;
    }
  | { kind: "repair"; id: string; title: string; remedy: string; normal: boolean; parts: string[] };

export interface ShownDiagnosis {
  groups: ShownGroup[];
  next: ShownProposal[];
  /** It may well be none of these. */
  doubtful: boolean;
  /** Results that speak against what the others say. */
  against: { id: string; name: string; report: string; twice: boolean }[];
  /** What neither a test nor a code would show, by where to look. */
  unnoticed: {
    id: string;
    title: string;
    how: string;
    minutes: number;
    answers: Look["answers"];
    window: MeterWindow | null;
    causes: string[];
  }[];
  /** Hypotheses that were simulated. */
  simulated: number;
}

let prepared: { plan: JobPlan; table: JudgeTable; key: string } | null = null;

const worker = {
  /** Plans the job as the server does and simulates what can be the matter; `progress` gets 0 to 1. */
  prepare(documents: Documents, state: PlanState, progress: (share: number) => void): void {
    const key = planKey(documents, state);
    if (key === prepared?.key) return;
    const plan = planJob(documents, state);
    const table = judgeTable(plan.fitted, plan.tests, plan.touched, (done, total) => {
      if (done % 5 === 0) progress(done / total);
      return true;
    });
    prepared = table && { plan, table, key };
  },

  judge(evidence: JobEvidence, experience: Experience): ShownDiagnosis | null {
    if (!prepared) return null;
    const { plan } = prepared;
    const table = asItStands(prepared.table, new Map(evidence.reopen));
    const known = evidenceFor(plan, evidence, learned(table.hypotheses, experience));
    const judgement = judge(table, known);
    const names = new Map([
      ...table.tests.map((t): [string, string] => [t.id, `${t.fn.name}, ${t.label}`]),
      ...table.looks.map((l): [string, string] => [l.id, l.title]),
      ...evidence.measured.map((m): [string, string] => [m.id, m.title]),
    ]);
    return {
      simulated: table.hypotheses.length - 1,
      unnoticed: unnoticed(table, plan.touched).map(({ look, causes }) => ({
        ...{ id: look.id, title: look.title, how: look.how, minutes: look.minutes, answers: look.answers },
        window: look.window ?? null,
        causes: causes.map((c) => c.title),
      })),
      groups: judgement.groups.slice(0, SHOWN_GROUPS).map((g) => ({
        probability: g.probability,
        ruleOutFirst: g.ruleOutFirst,
        causes: g.members.slice(0, SHOWN_MEMBERS).map((m) => shownCause(table, m, known, names)),
        more: Math.max(0, g.members.length - SHOWN_MEMBERS),
      })),
      next: judgement.next.slice(0, SHOWN_PROPOSALS).map((p) => shownProposal(p, names)),
      doubtful: judgement.doubtful,
      against: judgement.against.map(({ id, report, twice }) => ({
        ...{ id, twice },
        name: names.get(id) ?? id,
        report: known.tests.has(id) ? sightWords(report) : report,
      })),
    };
  },
};

function shownProposal(p: Proposal, names: ReadonlyMap<string, string>): ShownProposal {
  if (p.kind === "repair") {
    const { id, title, remedy, normal, parts } = p.hypothesis;
    return { kind: "repair", id, title, remedy, normal, parts: [...parts] };
  }
  const { minutes, total, gainBits } = p;
  if (p.kind === "test") return { kind: "test", id: p.id, title: names.get(p.id) ?? p.id, minutes, total, gainBits };
  const { id, title, how, answers, window = null } = p.look;
  return { kind: "look", id, title, how, answers, window, minutes, total, gainBits };
}

function shownCause(
  table: JudgeTable,
  member: Judgement["groups"][number]["members"][number],
  known: Parameters<typeof judge>[1],
  names: ReadonlyMap<string, string>,
): ShownCause {
  const { id, title, cause, remedy, normal, kind, probability, parts, settledBy } = member;
  const at = table.hypotheses.findIndex((h) => h.id === id);
  return {
    ...{ id, title, cause, remedy, normal, probability },
    none: kind === "none",
    parts: [...parts],
    lookMinutes: table.looks.find((l) => l.id === settledBy)?.minutes ?? null,
    hint: known.hints?.get(id)?.why || null,
    reasons: reasonsFor(table, known, id).map((r) => ({
      name: names.get(r.id) ?? r.id,
      report: known.tests.has(r.id) ? sightWords(r.report) : r.report,
      speaks: r.ratio > 1 ? "for" : "against",
    })),
    wouldShow:
      kind === "none"
        ? []
        : table.tests.flatMap((t, i) => {
            const [most] = table.predictions[at]?.[i] ?? [];
            if (known.tests.has(t.id) || !most || most[0] === "works") return [];
            return [{ name: `${t.fn.name}, ${t.label}`, sight: sightWords(most[0]) }];
          }),
  };
}

export type DiagnosisWorker = typeof worker;
expose(worker);
