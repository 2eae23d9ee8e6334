import { useState } from "react";
import type { FaultCode } from "~/core/intake/fault-codes";
import type { PredictedCode } from "~/core/model/monitors";
import { type CodesCompared, codeWords } from "~/core/prove/codes";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton, useAppend, useJob } from "../entry-form";
import { FaultList, ReadStandIn, TakeScan } from "../intake/car-readings";
import { Mark, Notice } from "../marks";

/** The fault memory after the work, against what was in it before. */
export function CodesAfter({
  before,
  scanned,
  after,
  compared,
  predicted,
  due,
  standIn,
}: {
  before: string;
  /** What the last scan of the control units found. */
  scanned: { text: string; at: string } | null;
  after: { value: string; by: string } | null;
  compared: CodesCompared | null;
  /** What control units would store with everything as it stands. */
  predicted: readonly PredictedCode[];
  /** It is the next thing to do. */
  due: boolean;
  standIn: boolean;
}) {
  const [again, setAgain] = useState(false);
  return (
    <Focus kicker={after ? `Read, ${after.by}` : "Not read yet"} title="Fault codes after the work">
      {compared && !again ? (
        <>
          <Compared {...compared} predicted={predicted} />
          <Button look="quiet" onClick={() => setAgain(true)}>
            Read again
          </Button>
        </>
      ) : (
        <>
          <Expected predicted={predicted} />
          <Entry before={before} scanned={scanned} due={due} standIn={standIn} onDone={() => setAgain(false)} />
        </>
      )}
    </Focus>
  );
}

/** The codes that the model of the car expects: a cable or a coding behind them, not a broken part. */
function Expected({ predicted }: { predicted: readonly PredictedCode[] }) {
  if (predicted.length === 0) return null;
  return (
    <Notice tone="watch" title="As the car stands now it will store">
      <ul>
        {predicted.map((p) => (
          <li key={p.monitor}>
            <span className="font-mono">{p.code}</span> {p.say}, in {p.by}
          </li>
        ))}
      </ul>
    </Notice>
  );
}

function Compared({ gone, stayed, came, unread, predicted }: CodesCompared & { predicted: readonly PredictedCode[] }) {
  if (gone.length + stayed.length + came.length + unread.length === 0)
    return (
      <p>
        <Mark tone="good">None stored</Mark> before and after.
      </p>
    );
  const foreseen = (c: FaultCode) => predicted.some((p) => p.code === c.code);
  return (
    <ul className="space-y-2">
      <Codes codes={came.filter(foreseen)} tone="watch" word="New, as expected with the car as it stands" />
      <Codes codes={came.filter((c) => !foreseen(c))} tone="stop" word="New" />
      <Codes codes={stayed} tone="watch" word="Was there before" />
      <Codes codes={gone} tone="good" word="Gone" />
      {unread.map((p) => (
        <li key={`${p.line} ${p.text}`}>
          <Mark tone="watch">Not read</Mark> “{p.text}”
        </li>
      ))}
    </ul>
  );
}

function Codes({ codes, tone, word }: { codes: FaultCode[]; tone: "stop" | "watch" | "good"; word: string }) {
  return codes.map((c) => (
    <li key={`${c.module} ${c.code}`}>
      <Mark tone={tone}>{word}</Mark> {codeWords(c)}
    </li>
  ));
}

function Entry({
  before,
  scanned,
  due,
  standIn,
  onDone,
}: Pick<Parameters<typeof CodesAfter>[0], "before" | "scanned" | "due" | "standIn"> & { onDone(): void }) {
  const [text, setText] = useState("");
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  return (
    <>
      <label className="block">
        <span className="text-quiet">
          {before.trim() === "" ? "None were noted before." : "Typed or pasted, as before the work."}
        </span>
        <textarea
          rows={3}
          value={text}
          disabled={readOnly}
          onChange={(e) => setText(e.target.value)}
          className="field mt-1"
          aria-label="Fault codes after the work"
        />
      </label>
      <FaultList text={text} />
      <div className="mt-2 flex flex-wrap gap-2">
        {text.trim() === "" ? (
          <EntryButton body={{ kind: "prove.codes", data: { text: "" } }} look={due ? "next" : "plain"}>
            None stored
          </EntryButton>
        ) : (
          <Button
            look={due ? "next" : "plain"}
            disabled={busy || readOnly}
            onClick={() => {
              append({ kind: "prove.codes", data: { text } });
              onDone();
            }}
          >
            Note these codes
          </Button>
        )}
        {standIn && <ReadStandIn onRead={setText} />}
        <TakeScan scanned={scanned} onRead={setText} />
      </div>
    </>
  );
}
