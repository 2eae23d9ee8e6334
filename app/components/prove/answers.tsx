import { CarFront } from "lucide";
import { type ReactNode, useState } from "react";
import { useFetcher, useParams } from "react-router";
import type { SpeakerPlan } from "~/core/drawing/plan";
import { entryId } from "~/core/job/entry-id";
import type { Command } from "~/core/log/entry";
import { BREAK_IDS, BREAKS, type BreakAt, type InsteadId, insteadOf, insteadWords } from "~/core/model/sight";
import { Button } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Icon } from "../icon";
import { SaidWithIt, saidWithIt } from "../stop-note";
import { areDrawn, HeardOn } from "./heard-on";
import type { ShownTest } from "./test-focus";
import { ResponseTimer } from "./timers";

type Result = Extract<Command, { kind: "prove.result" }>["data"];

/** Answered on the picture of the car, where there is one. */
const ON_THE_CAR: ReadonlySet<InsteadId> = new Set(["someSpeakers", "otherSpeakers"]);
/** Asks for more before it is noted. */
const ASKS: ReadonlySet<InsteadId> = new Set(["message", "breaksOff", "somethingElse"]);

/** One tap for a try: it works, or what is there instead. */
export function Answers({
  test,
  alike,
  standIn,
  above,
}: {
  test: ShownTest;
  /** Others that can be answered with it. */
  alike: readonly ShownTest[];
  standIn: boolean;
  /** The car from above, where it is drawn: its loudspeakers are tapped there. */
  above: SpeakerPlan | null;
}) {
  const [asking, setAsking] = useState<InsteadId | null>(null);
  const name = `${test.name}, ${test.label}`;
  const seen = test.noted?.sight.split(":")[0];
  const first = saidWithIt(test.stop);
  const body = (more: Partial<Result>): Command[] => [
    ...(more.answer === "impossible" ? [] : first),
    { kind: "prove.result", data: { test: test.id, answer: "wrong", note: "", ...more } },
  ];
  const chosen = (is: boolean) => (is ? "border-2! border-ink! font-semibold" : "");
  const works = !standIn && !test.noted;
  const onTheCar = above !== null && test.heard.length > 1 && areDrawn(test.heard, above);
  const words = insteadOf(test.sense).filter((w) => !onTheCar || !ON_THE_CAR.has(w));
  return (
    <div className="w-full">
      <div className="mb-2 empty:hidden">
        <SaidWithIt stop={test.stop} />
      </div>
      <div className="flex flex-wrap gap-2">
        {standIn && <StandInTry test={test.id} name={name} next={!test.noted} />}
        <EntryButton
          body={body({ answer: "pass" })}
          pressed={test.noted?.value === "pass"}
          look={works ? "next" : "plain"}
          label={`${name}: Works`}
          shortcut={works ? "Space" : "1"}
          className={chosen(test.noted?.value === "pass")}
        >
          Works
        </EntryButton>
        <EntryButton
          body={body({ answer: "impossible" })}
          pressed={test.noted?.value === "impossible"}
          label={`${name}: Not possible`}
          className={chosen(test.noted?.value === "impossible")}
        >
          Not possible
        </EntryButton>
        {test.withinS !== null && !standIn && <ResponseTimer key={test.key} test={test.id} withinS={test.withinS} />}
      </div>
      {alike.length > 0 && <AllWork test={test} alike={alike} />}
      <fieldset className="mt-4">
        <legend className="mb-1.5 text-quiet">If not: what is there instead?</legend>
        <div className="flex flex-wrap gap-2">
          {words.map((word, i) =>
            ASKS.has(word) ? (
              <Button
                key={word}
                aria-pressed={seen === word}
                aria-expanded={asking === word}
                aria-label={`${name}: ${insteadWords(word)}`}
                className={chosen(seen === word)}
                onClick={() => setAsking(asking === word ? null : word)}
              >
                {insteadWords(word)} ...
              </Button>
            ) : (
              <EntryButton
                key={word}
                body={body({ seen: word })}
                pressed={seen === word}
                label={`${name}: ${insteadWords(word)}`}
                shortcut={i < 8 ? String(i + 2) : undefined}
                className={chosen(seen === word)}
              >
                {insteadWords(word)}
              </EntryButton>
            ),
          )}
        </div>
        {asking === "breaksOff" && <BreaksAt name={name} body={(breaksAt) => body({ seen: "breaksOff", breaksAt })} />}
        {(asking === "message" || asking === "somethingElse") && (
          <Typed key={asking} word={asking} name={name} body={(note) => body({ seen: asking, note })} />
        )}
      </fieldset>
      {onTheCar && (
        <HeardOn
          key={`${test.key} ${test.noted?.entry ?? ""}`}
          test={test}
          heard={test.heard}
          plan={above}
          isNext={!standIn}
        />
      )}
    </div>
  );
}

function BreaksAt({ name, body }: { name: string; body(at: BreakAt): Command[] }) {
  return (
    <Row legend="When does it break off?">
      {BREAK_IDS.map((at) => (
        <EntryButton key={at} body={body(at)} label={`${name}: Breaks off, ${BREAKS[at].toLowerCase()}`}>
          {BREAKS[at]}
        </EntryButton>
      ))}
    </Row>
  );
}

/** Words of the screen, or of the person. */
function Typed({ word, name, body }: { word: InsteadId; name: string; body(note: string): Command[] }) {
  const [text, setText] = useState("");
  const ask = word === "message" ? "What does the screen say?" : "What is there?";
  return (
    <Row legend={ask}>
      <input
        // biome-ignore lint/a11y/noAutofocus: it opens by a press on its own button
        autoFocus
        aria-label={ask}
        className="field w-full max-w-md"
        maxLength={300}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <EntryButton body={body(text.trim())} label={`${name}: ${insteadWords(word)}, note it`} look="next">
        Note it
      </EntryButton>
    </Row>
  );
}

function Row({ legend, children }: { legend: string; children: ReactNode }) {
  return (
    <fieldset className="mt-3 border-l-2 border-ink pl-3">
      <legend className="font-medium">{legend}</legend>
      <div className="mt-1.5 flex flex-wrap gap-2">{children}</div>
    </fieldset>
  );
}

/** One press for what was tried in one go, with the car standing the same way; after a failure, for the rest. */
function AllWork({ test, alike }: { test: ShownTest; alike: readonly ShownTest[] }) {
  const failed = test.noted !== null;
  const all = [...(failed ? [] : [test.id]), ...alike.map((a) => a.id)];
  const words = failed ? `The rest works: ${alike.length} more` : `This and ${alike.length} more work`;
  return (
    <div className="mt-2 w-full">
      <EntryButton
        body={[
          ...saidWithIt(test.stop),
          ...all.map((id): Command => ({ kind: "prove.result", data: { test: id, answer: "pass", note: "" } })),
        ]}
        label={`${words}: ${alike.map((a) => a.name).join(", ")}`}
        shortcut="a"
      >
        {words}
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
        <Icon of={CarFront} size={18} /> Try on the stand-in car
      </Button>
    </fetcher.Form>
  );
}
