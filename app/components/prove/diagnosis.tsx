import { CarFront, Wrench } from "lucide";
import type { ReactNode } from "react";
import { Link, useFetcher, useParams } from "react-router";
import { useMoney } from "~/app/lib/money";
import { useDiagnosis } from "~/app/lib/use-diagnosis";
import type { ShownCause, ShownDiagnosis, ShownGroup, ShownProposal } from "~/app/workers/diagnosis.worker";
import { entryId } from "~/core/job/entry-id";
import { lowerFirst } from "~/core/model/labels";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Button, Fold, Section } from "../controls";
import { DashView } from "../drawings/dash-view";
import { EntryButton, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";
import { Answers } from "./answers";
import { MeterValue } from "./meter-value";
import { HowToTry } from "./test-focus";

type View = Pick<
  ReturnType<typeof proveView>,
  "wider" | "plan" | "evidence" | "failing" | "strangeCodes" | "dash" | "panelsOff" | "where" | "tests" | "above"
> & { standIn: boolean };

/** What is the matter, as far as it is known, and the quickest way to a repair that is proven. */
export function Diagnosis(view: View) {
  const { job } = useJob();
  const state = useDiagnosis(job.id, view.plan, view.evidence, view.failing + view.strangeCodes.length > 0);
  if (state.kind === "failed") return <Notice tone="stop" title={state.message} />;
  if (state.kind !== "ready") {
    return (
      <Focus kicker="Everything that can be the matter is simulated" title="Find the cause">
        <p aria-live="polite">Simulating ...</p>
        <progress className="mt-2 w-full" value={state.kind === "working" ? state.share : 0} max={1} />
      </Focus>
    );
  }
  const { diagnosis } = state;
  const [first, ...rest] = diagnosis.next;
  return (
    <>
      <InHand proposal={first} diagnosis={diagnosis} view={view} />
      {rest.length > 0 && (
        <Fold line="Do something else first">
          {rest.map((p) => (
            <div key={`${p.kind} ${p.id}`} className="border-b border-rule py-2">
              <p className="font-medium">{p.title}</p>
              <Doing proposal={p} view={view} first={false} />
            </div>
          ))}
        </Fold>
      )}
      <Causes diagnosis={diagnosis} view={view} />
      <Wider ways={view.wider} />
    </>
  );
}

/** What was left for the case that something fails: another way of the kit, with more work. */
function Wider({ ways }: { ways: View["wider"] }) {
  const price = useMoney();
  if (ways.length === 0) return null;
  return (
    <Section title="If nothing is found: another way">
      {ways.map((w) => (
        <div key={`${w.choice} ${w.option}`} className="border-b border-rule py-2">
          <p className="font-medium">{w.wider}</p>
          <p className="text-quiet">
            {w.label}, instead of {lowerFirst(w.first)}.
            {w.opens.length > 0 && ` Opens: ${w.opens.map(lowerFirst).join(", ")}.`}
          </p>
          <p className="num">
            {Math.round(w.minutes)} min more{w.price !== 0 && `, ${price(w.price)}`}
          </p>
          <EntryButton body={{ kind: "fit.confirm", data: { choices: w.choices } }} label={`Take this way: ${w.wider}`}>
            Take this way
          </EntryButton>
        </div>
      ))}
    </Section>
  );
}

function InHand({
  proposal,
  diagnosis,
  view,
}: {
  proposal: ShownProposal | undefined;
  diagnosis: ShownDiagnosis;
  view: View;
}) {
  const kicker = diagnosis.doubtful ? "Find the cause: it may be none of those that are known" : "Find the cause";
  return (
    <>
      {diagnosis.against.length > 0 && (
        <div className="mb-4 max-sm:clear-right">
          <Against results={diagnosis.against} view={view} />
        </div>
      )}
      <Focus kicker={kicker} title={titleOf(proposal)}>
        {proposal ? (
          <Doing proposal={proposal} view={view} first />
        ) : (
          <p className="text-lg">
            Take the kit out of the path, or put in parts that are known to be good, one by one.
          </p>
        )}
      </Focus>
    </>
  );
}

function titleOf(proposal: ShownProposal | undefined): string {
  if (!proposal) return "Nothing more would tell anything";
  return proposal.kind === "repair" && proposal.normal ? `No fault: ${lowerFirst(proposal.title)}` : proposal.title;
}

/** One of the results does not fit the others; a second try is quicker than a wrong repair. */
function Against({ results, view: { tests, standIn, above } }: { results: ShownDiagnosis["against"]; view: View }) {
  return (
    <Notice
      tone="watch"
      title={results.length === 1 ? "One result speaks against the rest" : "Some results speak against the rest"}
    >
      {results.some((r) => !r.twice) && <p>Once more before anything is repaired:</p>}
      {results.map(({ id, name, report, twice }) => {
        const test = tests.find((t) => t.id === id && !t.waits);
        return (
          <div key={id}>
            <p className="font-medium">
              {name} <span className="font-normal text-quiet">{report}</span>
            </p>
            {twice && <p>The same at two tries: it counts.</p>}
            {test && !twice && (
              <Fold line="Try it again">
                <HowToTry test={test} />
                <Answers test={test} alike={[]} standIn={standIn} above={above} />
              </Fold>
            )}
            {id.startsWith("walk:") && (
              <Link className="underline" to="?at=walk">
                Walk again with balance and fader
              </Link>
            )}
          </div>
        );
      })}
    </Notice>
  );
}

function Doing({ proposal, view, first }: { proposal: ShownProposal; view: View; first: boolean }) {
  const { standIn } = view;
  if (proposal.kind === "repair") {
    return (
      <>
        <p className={first ? "text-lg" : ""}>{proposal.remedy}</p>
        <div className="mt-2">
          <Repaired {...proposal} next={first} />
        </div>
        {first && <Where parts={proposal.parts} view={view} />}
      </>
    );
  }
  const cost = (
    <p className="num text-sm text-quiet">
      {proposal.minutes.toFixed(1)} min · about {Math.max(1, Math.round(proposal.total))} min to a proven repair
    </p>
  );
  if (proposal.kind === "test") {
    const test = view.tests.find((t) => t.id === proposal.id && !t.waits);
    return (
      <>
        {cost}
        {test && first && <HowToTry test={test} />}
        {test && <Answers key={test.key} test={test} alike={[]} standIn={standIn} above={first ? view.above : null} />}
      </>
    );
  }
  return (
    <>
      <p className={first ? "text-lg" : "text-quiet"}>{proposal.how}</p>
      {cost}
      {proposal.window && (
        <div className="mt-2">
          <MeterValue key={proposal.id} look={{ ...proposal, window: proposal.window }} />
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {standIn && <StandInLook look={proposal.id} first={first} />}
        {proposal.answers.map((a) => (
          <EntryButton
            key={a.id}
            body={{ kind: "prove.check", data: { check: proposal.id, answer: a.id } }}
            label={`${proposal.title} ${a.label}`}
          >
            {a.label}
          </EntryButton>
        ))}
      </div>
    </>
  );
}

function Repaired({ id, title, normal, next }: { id: string; title: string; normal: boolean; next: boolean }) {
  const label = normal ? "Nothing to repair, test again" : "Repaired, test again";
  return (
    <EntryButton
      look={next ? "next" : "plain"}
      body={{ kind: "prove.repair", data: { fault: id } }}
      label={`${label}: ${title}`}
    >
      {!normal && <Icon of={Wrench} size={18} />} {label}
    </EntryButton>
  );
}

/** Lets the stand-in car of the demonstration answer a look. */
function StandInLook({ look, first }: { look: string; first: boolean }) {
  const fetcher = useFetcher();
  const params = useParams();
  const { seed, readOnly } = useJob();
  return (
    <fetcher.Form method="post" action={`/jobs/${params.job}/stand-in`} className="contents">
      <input type="hidden" name="entry" value={entryId(seed, `stand-in-${look}`)} />
      <input type="hidden" name="check" value={look} />
      <Button
        type="submit"
        look={first ? "next" : "plain"}
        disabled={readOnly || fetcher.state !== "idle"}
        className="whitespace-nowrap"
      >
        <Icon of={CarFront} size={18} /> Check on the stand-in car
      </Button>
    </fetcher.Form>
  );
}

function Where({ parts, view: { dash, panelsOff, where } }: { parts: readonly string[]; view: View }) {
  const at = parts.flatMap((p) => where[p] ?? []);
  if (!dash || at.length === 0) return null;
  return (
    <div className="mt-3 max-w-md">
      <DashView dash={dash} off={panelsOff} at={at} title="Where it sits, seen from the seats" />
    </div>
  );
}

function Causes({ diagnosis, view }: { diagnosis: ShownDiagnosis; view: View }) {
  const leading = diagnosis.groups[0]?.causes[0];
  return (
    <Section title="What it can be" id="causes" aside={`${diagnosis.simulated} simulated`}>
      <ol>
        {diagnosis.groups.map((g) => (
          <Group key={g.causes[0]?.id} group={g} />
        ))}
      </ol>
      {leading && diagnosis.next[0]?.kind !== "repair" && <Where parts={leading.parts} view={view} />}
    </Section>
  );
}

/** Members of a group that are shown before somebody asks for the rest. */
const AT_ONCE = 3;

function Group({ group: { probability, ruleOutFirst, causes, more } }: { group: ShownGroup }) {
  const [only] = causes;
  const percent = Math.round(100 * probability);
  const count = causes.length + more;
  const rest = causes.slice(AT_ONCE);
  return (
    <li className="border-b border-rule py-2.5">
      <div className="flex items-baseline gap-3">
        <span className="num w-14 shrink-0 text-right text-lg font-medium">{percent < 1 ? "< 1" : percent} %</span>
        <div className="min-w-0 flex-1">
          <p className="font-medium">{count === 1 ? only?.title : `One of ${count}, which no test tells apart`}</p>
          <div className="my-1 h-1.5 bg-rule" aria-hidden="true">
            <div className="h-full bg-ink" style={{ width: `${Math.max(1, percent)}%` }} />
          </div>
          {count === 1 && only ? (
            <>
              <p className="text-sm text-quiet">{only.cause}</p>
              {only.normal && (
                <Mark tone="none">{ruleOutFirst ? "Nothing is broken: rule it out first" : "Nothing is broken"}</Mark>
              )}
              <Fold line="Why, and what then" quiet>
                <Why cause={only} />
              </Fold>
            </>
          ) : (
            <>
              {causes.slice(0, AT_ONCE).map((c) => (
                <Member key={c.id} cause={c} />
              ))}
              {rest.length > 0 && (
                <Fold line={`${count - AT_ONCE} more`} quiet>
                  {rest.map((c) => (
                    <Member key={c.id} cause={c} />
                  ))}
                  {more > 0 && <p className="text-quiet">and {more} that are less likely</p>}
                </Fold>
              )}
            </>
          )}
        </div>
      </div>
    </li>
  );
}

/** One of several that look alike, with what a look at it takes; the quickest stands first. */
function Member({ cause }: { cause: ShownCause }) {
  const minutes = cause.lookMinutes !== null && (
    <span className="whitespace-nowrap text-quiet">
      <span className="num">{cause.lookMinutes.toFixed(1)}</span> min to look
    </span>
  );
  return (
    <Fold
      line={
        <>
          {cause.title} {minutes}
        </>
      }
    >
      <Why cause={cause} />
    </Fold>
  );
}

/** What speaks for and against a cause, and what it would look like where nobody has tried yet. */
function Why({ cause: { reasons, hint, wouldShow, remedy, none } }: { cause: ShownCause }) {
  return (
    <div className="space-y-2 pb-2 text-sm">
      {hint && <p>{hint}</p>}
      <Speaks reasons={reasons.filter((r) => r.speaks === "for")} title="For it" />
      <Speaks reasons={reasons.filter((r) => r.speaks === "against")} title="Against it" />
      {wouldShow.length > 0 && (
        <Lines title="It would show at">
          {wouldShow.slice(0, 6).map((w) => (
            <li key={w.name}>
              {w.name}: <span className="font-medium">{w.sight}</span>
            </li>
          ))}
        </Lines>
      )}
      <p>
        <span className="text-quiet">{none ? "What helps whatever it is:" : "To put it right:"}</span> {remedy}
      </p>
    </div>
  );
}

function Speaks({ reasons, title }: { reasons: ShownCause["reasons"]; title: string }) {
  if (reasons.length === 0) return null;
  return (
    <Lines title={title}>
      {reasons.map((r) => (
        <li key={r.name}>
          {r.name} <span className="font-medium">{r.report}</span>
        </li>
      ))}
    </Lines>
  );
}

function Lines({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div>
      <p className="text-quiet">{title}</p>
      <ul>{children}</ul>
    </div>
  );
}
