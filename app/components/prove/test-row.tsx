import { CarFront, TriangleAlert } from "lucide-react";
import { useFetcher, useParams } from "react-router";
import { entryId } from "~/core/job/entry-id";
import type { TestAnswer } from "~/core/log/kinds/prove/result";
import type { Situation } from "~/core/model/types";
import { Button } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Mark, ResultMark } from "../marks";

interface Test {
  id: string;
  name: string;
  label: string;
  say: string;
  caution?: string;
  law: boolean;
  minutes: number;
  noted: { value: string; note: string; by: string } | null;
  failedBefore: boolean;
  situation: Situation;
}

const ANSWERS: [TestAnswer, string][] = [
  ["pass", "Works"],
  ["nothing", "Nothing"],
  ["wrong", "Wrong"],
  ["late", "Too late"],
  ["impossible", "Not possible"],
];

/** One test: what to do, and large answers. On the demonstration the stand-in car can answer. */
export function TestRow({
  number,
  test,
  next,
  standIn,
}: {
  number: number;
  test: Test;
  next: boolean;
  standIn: boolean;
}) {
  return (
    <li className={`border-b border-rule py-3 ${next ? "bg-raised" : ""}`}>
      <div className="grid grid-cols-[1.8rem_minmax(0,1fr)] gap-x-3">
        <span className="num text-quiet">{number}</span>
        <div>
          <p className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <span className="font-medium">{test.name}</span>
            <span className="text-quiet">{test.label}</span>
            <ResultMark result={test.noted?.value} />
            {test.law && <Mark tone="none">Required by law</Mark>}
            {test.failedBefore && <Mark tone="watch">Did not work before the work</Mark>}
          </p>
          <p className="text-quiet">{test.say}</p>
          <p className="num text-sm text-quiet">
            key {test.situation.key} · selector {test.situation.selector} · {test.minutes} min
          </p>
          {test.caution && (
            <p className="mt-1 flex items-start gap-2 text-watch">
              <TriangleAlert size={18} className="mt-1 shrink-0" aria-hidden="true" />
              {test.caution}
            </p>
          )}
          {test.noted?.note && (
            <p className="mt-1">
              “{test.noted.note}” <span className="text-quiet">{test.noted.by}</span>
            </p>
          )}
          {test.noted ? (
            <details className="mt-1">
              <summary className="inline-flex min-h-11 cursor-pointer items-center text-quiet underline decoration-strong underline-offset-4">
                Change or try again
              </summary>
              <Answers test={test} next={false} standIn={standIn} />
            </details>
          ) : (
            <Answers test={test} next={next} standIn={standIn} />
          )}
        </div>
      </div>
    </li>
  );
}

function Answers({ test, next, standIn }: { test: Test; next: boolean; standIn: boolean }) {
  return (
    <fieldset className="mt-2 flex flex-wrap gap-2">
      <legend className="sr-only">Result of {test.name}</legend>
      {standIn && <StandInTry test={test.id} name={`${test.name}, ${test.label}`} next={next} />}
      {ANSWERS.map(([answer, word]) => (
        <EntryButton
          key={answer}
          body={{ kind: "prove.result", data: { test: test.id, answer, note: "" } }}
          pressed={test.noted?.value === answer}
          look={next && !standIn && answer === "pass" ? "next" : "plain"}
          label={`${test.name}, ${test.label}: ${word}`}
          className={test.noted?.value === answer ? "border-2! border-ink! font-semibold" : ""}
        >
          {word}
        </EntryButton>
      ))}
    </fieldset>
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
      >
        <CarFront size={18} aria-hidden="true" /> Try on the stand-in car
      </Button>
    </fetcher.Form>
  );
}
