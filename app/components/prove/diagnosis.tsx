import { CarFront, Wrench } from "lucide-react";
import type { ReactNode } from "react";
import { useFetcher, useParams } from "react-router";
import { useDiagnosis } from "~/app/lib/use-diagnosis";
import type { ShownCause, ShownCheck } from "~/app/workers/diagnosis.worker";
import type { DashDrawing } from "~/core/drawing/drawing";
import { entryId } from "~/core/job/entry-id";
import type { PlanState } from "~/core/job/plan";
import { Focus } from "../bench/focus";
import { Button, Section } from "../controls";
import { DashView } from "../drawings/dash-view";
import { EntryButton, useJob } from "../entry-form";
import { Mark, Notice } from "../marks";

interface Props {
  plan: { key: string; state: PlanState };
  results: { id: string; answer: string }[];
  checks: { id: string; answer: string }[];
  failing: number;
  standIn: boolean;
  dash: DashDrawing | null;
  panelsOff: readonly string[];
  /** Behind what each part sits. */
  where: Readonly<Record<string, readonly string[]>>;
}

/** Causes ranked by the results so far, and the next check with most information per minute. */
export function Diagnosis({ plan, results, checks, failing, standIn, dash, panelsOff, where }: Props) {
  const { job } = useJob();
  const answers = [...results, ...checks].map((r): [string, string] => [r.id, r.answer]);
  const state = useDiagnosis(job.id, plan, answers, failing > 0);
  if (state.kind === "failed") return <Notice tone="stop" title={state.message} />;
  if (state.kind !== "ready") {
    return (
      <Focus kicker="Every single fault is simulated" title="Find the cause">
        <p aria-live="polite">Simulating ...</p>
        <progress className="mt-2 w-full" value={state.kind === "working" ? state.share : 0} max={1} />
      </Focus>
    );
  }
  const { diagnosis } = state;
  return (
    <>
      <Focus
        kicker={
          diagnosis.next.length === 0
            ? "No further check would change the ranking"
            : "Find the cause: the check that tells most in a minute"
        }
        title={diagnosis.next[0]?.title ?? "Repair the first cause"}
      >
        {diagnosis.next.length > 0 && <NextChecks checks={diagnosis.next} standIn={standIn} />}
      </Focus>
      <Section title="Causes" id="causes" aside={`${diagnosis.faults} single faults simulated`}>
        <ol>
          {diagnosis.causes.map((c, i) => (
            <Cause key={c.id} cause={c} first={i === 0}>
              {i === 0 && dash && (
                <DashView
                  dash={dash}
                  off={panelsOff}
                  at={c.parts.flatMap((p) => where[p] ?? [])}
                  title="Where it sits, seen from the seats"
                />
              )}
            </Cause>
          ))}
        </ol>
      </Section>
    </>
  );
}

function NextChecks({ checks, standIn }: { checks: ShownCheck[]; standIn: boolean }) {
  const [first, ...rest] = checks as [ShownCheck, ...ShownCheck[]];
  return (
    <>
      <CheckCard check={first} standIn={standIn} first />
      {rest.length > 0 && (
        <details className="mt-2">
          <summary className="min-h-11 cursor-pointer py-2">Other useful checks</summary>
          {rest.map((c) => (
            <CheckCard key={c.id} check={c} standIn={standIn} />
          ))}
        </details>
      )}
    </>
  );
}

function CheckCard({ check, standIn, first = false }: { check: ShownCheck; standIn: boolean; first?: boolean }) {
  return (
    <div className={first ? "" : "border-b border-rule py-2"}>
      {!first && <p className="font-medium">{check.title}</p>}
      <p className={first ? "text-lg" : "text-quiet"}>{check.how}</p>
      <p className="num text-sm text-quiet">
        {check.minutes.toFixed(1)} min · {check.gainBits.toFixed(2)} bit expected
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {standIn && <StandInCheck check={check} first={first} />}
        {check.answers.map((a) =>
          check.isTest ? (
            <EntryButton
              key={a.id}
              body={{ kind: "prove.result", data: { test: check.id, answer: a.id as "pass", note: "" } }}
            >
              {a.label}
            </EntryButton>
          ) : (
            <EntryButton key={a.id} body={{ kind: "prove.check", data: { check: check.id, answer: a.id } }}>
              {a.label}
            </EntryButton>
          ),
        )}
      </div>
    </div>
  );
}

/** Lets the stand-in car of the demonstration answer the check. */
function StandInCheck({ check, first }: { check: ShownCheck; first: boolean }) {
  const fetcher = useFetcher();
  const params = useParams();
  const { seed, readOnly } = useJob();
  return (
    <fetcher.Form method="post" action={`/jobs/${params.job}/stand-in`} className="contents">
      <input type="hidden" name="entry" value={entryId(seed, `stand-in-${check.id}`)} />
      <input type="hidden" name={check.isTest ? "test" : "check"} value={check.id} />
      <Button
        type="submit"
        look={first ? "next" : "plain"}
        disabled={readOnly || fetcher.state !== "idle"}
        className="whitespace-nowrap"
      >
        <CarFront size={18} aria-hidden="true" /> Check on the stand-in car
      </Button>
    </fetcher.Form>
  );
}

function Cause({ cause, first, children }: { cause: ShownCause; first: boolean; children?: ReactNode }) {
  const percent = Math.round(100 * cause.probability);
  return (
    <li className="border-b border-rule py-2.5">
      <div className="flex items-baseline gap-3">
        <span className="num w-14 shrink-0 text-right text-lg font-medium">{percent < 1 ? "< 1" : percent} %</span>
        <div className="flex-1">
          <p className="font-medium">{cause.title}</p>
          <div className="my-1 h-1.5 bg-rule" aria-hidden="true">
            <div className="h-full bg-ink" style={{ width: `${Math.max(1, percent)}%` }} />
          </div>
          <p className="text-sm text-quiet">{cause.cause}</p>
          {cause.normal && <Mark tone="none">Normal behaviour that looks like a fault</Mark>}
          {(first || percent >= 20) && (
            <div className="mt-2">
              <p className="mb-2">{cause.remedy}</p>
              <EntryButton
                look={percent >= 80 ? "next" : "plain"}
                body={{ kind: "prove.repair", data: { fault: cause.id } }}
                label={`Repaired, test again: ${cause.title}`}
              >
                <Wrench size={18} aria-hidden="true" /> Repaired, test again
              </EntryButton>
              {children && <div className="mt-3 max-w-md">{children}</div>}
            </div>
          )}
        </div>
      </div>
    </li>
  );
}
