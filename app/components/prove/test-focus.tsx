import { ArrowRight, CarFront, Check, Hourglass, TriangleAlert } from "lucide-react";
import { useFetcher, useParams } from "react-router";
import type { PlanDrawing } from "~/core/drawing/drawing";
import { entryId } from "~/core/job/entry-id";
import type { TestAnswer } from "~/core/log/kinds/prove/result";
import { spanWords } from "~/core/model/labels";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Mark, Notice, ResultMark } from "../marks";
import { HeardOn } from "./heard-on";
import { HoldTimer, ResponseTimer } from "./timers";

export type ShownTest = ReturnType<typeof proveView>["tests"][number];

const ANSWERS: [TestAnswer, string][] = [
  ["pass", "Works"],
  ["nothing", "Nothing"],
  ["wrong", "Wrong"],
  ["late", "Too late"],
  ["impossible", "Not possible"],
];

function answerWord(answer: string): string {
  return ANSWERS.find(([a]) => a === answer)?.[1].toLowerCase() ?? answer;
}

const ROUND_SAYS: Readonly<Record<ShownTest["round"], string>> = {
  bench: "With the dash open",
  closed: "After closing: would any plug have come off?",
  yard: "On the closed yard. One drives, one looks; the driver operates nothing",
};

/** One test: how car and phone must stand, what to do, and large answers. A stand-in car can answer, too. */
export function TestFocus({
  test,
  alike,
  standIn,
  above,
  after,
}: {
  test: ShownTest;
  /** Others that can be answered with it. */
  alike: readonly ShownTest[];
  standIn: boolean;
  /** The car from above, where it is drawn. */
  above: PlanDrawing | null;
  after: string | undefined;
}) {
  return (
    <Focus
      kicker={ROUND_SAYS[test.round]}
      marks={
        <>
          <ResultMark result={test.noted?.value} />
          {test.law && <Mark tone="none">Required by law</Mark>}
          {test.failedBefore && <Mark tone="watch">Did not work before the work</Mark>}
        </>
      }
      title={
        <>
          {test.name} <span className="font-normal text-quiet">{test.label}</span>
        </>
      }
      after={after}
      actions={!test.waits && <Answers key={test.key} test={test} alike={alike} standIn={standIn} />}
    >
      {test.waits && <p className="text-quiet">It is tried again when the car is closed.</p>}
      <StateSteps steps={test.steps} />
      <p className="text-lg">{test.say}</p>
      {!test.waits && test.holds.map((h) => <HoldTimer key={h.say} {...h} />)}
      {test.caution && (
        <p className="flex items-start gap-2 text-watch">
          <TriangleAlert size={18} className="mt-1 shrink-0" aria-hidden="true" />
          {test.caution}
        </p>
      )}
      {above && !test.waits && test.heard.length > 1 && (
        <HeardOn
          key={`${test.key} ${test.noted?.entry ?? ""}`}
          test={test}
          heard={test.heard}
          plan={above}
          isNext={!standIn}
        />
      )}
      <CanBeNormal normal={test.normal} open={test.noted !== null && test.noted.value !== "pass"} />
      {test.noted && test.otherwise && (
        <Notice tone="watch" title="Two people answer differently">
          <p>
            {test.noted.by}: {answerWord(test.noted.value)}. {test.otherwise.by}: {answerWord(test.otherwise.answer)}.
            Try it together; the last answer counts.
          </p>
        </Notice>
      )}
      {test.noted?.note && (
        <p>
          “{test.noted.note}” <span className="text-quiet">{test.noted.by}</span>
        </p>
      )}
    </Focus>
  );
}

/** What looks like a fault at this test and passes by itself. */
function CanBeNormal({ normal, open }: { normal: ShownTest["normal"]; open: boolean }) {
  if (normal.length === 0) return null;
  return (
    <details open={open} className="border-y border-rule">
      <summary className="flex min-h-11 cursor-pointer items-center gap-2 font-medium">
        <Hourglass size={17} className="shrink-0" aria-hidden="true" />
        Not a fault yet: {normal.length === 1 ? "one thing" : `${normal.length} things`} can be met here
      </summary>
      <ul className="pb-3">
        {normal.map((n) => (
          <li key={n.id} className="py-1">
            <span className="font-medium">{n.seen}</span>{" "}
            {n.lastsS && <span className="font-mono">{spanWords(n.lastsS)}</span>}
            <span className="block text-quiet">
              {n.why} {n.remedy}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** How car and phone must stand; what is to be changed for it stands out. */
function StateSteps({ steps }: { steps: ShownTest["steps"] }) {
  return (
    <ul aria-label="Set before" className="grid gap-x-6 sm:grid-cols-2">
      {steps.map((s) => (
        <li
          key={s.say}
          className={`flex min-h-8 items-center gap-2 border-b border-rule ${s.change ? "font-medium" : "text-quiet"}`}
        >
          {s.change ? (
            <ArrowRight size={17} className="shrink-0" aria-hidden="true" />
          ) : (
            <Check size={17} className="shrink-0" aria-hidden="true" />
          )}
          {s.say}
          <span className="sr-only">{s.change ? ", set it" : ", as it is"}</span>
        </li>
      ))}
    </ul>
  );
}

function Answers({ test, alike, standIn }: { test: ShownTest; alike: readonly ShownTest[]; standIn: boolean }) {
  const likely = (answer: TestAnswer) => answer === "pass" && !standIn && !test.noted;
  return (
    <fieldset className="flex w-full flex-wrap gap-2">
      <legend className="sr-only">Result of {test.name}</legend>
      {standIn && <StandInTry test={test.id} name={`${test.name}, ${test.label}`} next={!test.noted} />}
      {ANSWERS.map(([answer, word], i) => (
        <EntryButton
          key={answer}
          body={{ kind: "prove.result", data: { test: test.id, answer, note: "" } }}
          pressed={test.noted?.value === answer}
          look={likely(answer) ? "next" : "plain"}
          label={`${test.name}, ${test.label}: ${word}`}
          shortcut={likely(answer) ? "Space" : String(i + 1)}
          className={test.noted?.value === answer ? "border-2! border-ink! font-semibold" : ""}
        >
          {word}
        </EntryButton>
      ))}
      {test.withinS !== null && !standIn && <ResponseTimer key={test.key} test={test.id} withinS={test.withinS} />}
      {alike.length > 0 && <AllWork test={test} alike={alike} />}
    </fieldset>
  );
}

/** One press for what was tried in one go, with the car standing the same way. */
function AllWork({ test, alike }: { test: ShownTest; alike: readonly ShownTest[] }) {
  const all = [test.id, ...alike.map((a) => a.id)];
  return (
    <div className="w-full">
      <EntryButton
        body={all.map((id) => ({ kind: "prove.result", data: { test: id, answer: "pass", note: "" } }))}
        label={`This and ${alike.length} more work: ${alike.map((a) => a.name).join(", ")}`}
        shortcut="a"
      >
        This and {alike.length} more work
      </EntryButton>
      <p className="mt-1 text-sm text-quiet">
        With the car as it stands, tried as well: {alike.map((a) => a.name).join(", ")}.
      </p>
    </div>
  );
}

/** Lets the stand-in car of the demonstration answer a test. */
function StandInTry({ test, name, next }: { test: string; name: string; next: boolean }) {
  const fetcher = useFetcher();
  const params = useParams();
  const { seed, readOnly } = useJob();
  return (
    <fetcher.Form method="post" action={`/jobs/${params.job}/stand-in`} className="contents">
      <input type="hidden" name="entry" value={entryId(seed, `stand-in-${test}`)} />
      <input type="hidden" name="test" value={test} />
      <Button
        type="submit"
        look={next ? "next" : "plain"}
        disabled={readOnly}
        aria-label={`Try on the stand-in car: ${name}`}
        aria-busy={fetcher.state !== "idle"}
        aria-keyshortcuts="Space"
      >
        <CarFront size={18} aria-hidden="true" /> Try on the stand-in car
      </Button>
    </fetcher.Form>
  );
}
