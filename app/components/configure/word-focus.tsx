import { format, parseISO } from "date-fns";
import { ArrowRight, BookOpen, PencilLine, Undo2 } from "lucide";
import { useState } from "react";
import { useCarSession } from "~/app/lib/use-car-session";
import { changedBits } from "~/core/coding/word";
import type { Stop } from "~/core/job/guards/guard";
import { upperFirst } from "~/core/model/labels";
import type { CodingView, WordView } from "~/core/views/coding";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";
import { StopNote } from "../stop-note";
import { AllowSending, SessionBar } from "./session-bar";
import { WordBytes } from "./word-bytes";

/** A coded word: what it says in plain settings, what has to change and why, its bytes, its history. */
export function WordFocus({
  word,
  coding,
  writing,
  after,
}: {
  word: WordView;
  coding: CodingView;
  /** What speaks against writing now. */
  writing: Stop | null;
  after: string | undefined;
}) {
  const session = useCarSession();
  const { job, readOnly } = useJob();
  const busy = session.running !== null || readOnly;
  const change = word.after;
  const ready = session.way !== null && session.sending;
  return (
    <Focus
      kicker="Coded word"
      marks={<WordMark word={word} />}
      title={word.title}
      after={after}
      actions={
        <>
          <AllowSending />
          {change && (
            <Button
              look={ready && !writing ? "next" : "plain"}
              disabled={busy || !ready || writing !== null}
              onClick={() => session.write(word, change, coding.units)}
              aria-keyshortcuts={ready ? "Space" : undefined}
            >
              <Icon of={PencilLine} size={18} /> Write {word.changes} {word.changes === 1 ? "change" : "changes"}
            </Button>
          )}
          <Button
            look={word.bytes || !ready ? "plain" : "next"}
            disabled={busy || !ready}
            onClick={() => session.read([word], coding.units)}
            aria-keyshortcuts="r"
          >
            <Icon of={BookOpen} size={18} /> {word.bytes ? "Read again" : "Read from the car"}
          </Button>
        </>
      }
      picture={
        <>
          {word.bytes ? <Settings word={word} /> : <NotRead word={word} />}
          {word.bytes && (
            <div className="mt-4">
              <WordBytes bytes={word.bytes} after={word.after} label={`Bytes of ${word.title}`} />
              <p className="mt-1 text-sm text-quiet">
                {8 * word.length - word.known.length} of {8 * word.length} bits are not known to the map and never
                change.
              </p>
            </div>
          )}
          <ByHand key={word.ref} word={word} />
          {word.history.length > 0 && <History word={word} coding={coding} ready={ready && !busy} />}
        </>
      }
    >
      {word.notKnown && (
        <Notice tone="stop" title="How this word stands is not known.">
          <p>It was sent and not read back. Read it before anything else.</p>
        </Notice>
      )}
      {word.waitsFor.length > 0 && (
        <Notice tone="watch" title={`Read first: ${word.waitsFor.join(", ")}.`}>
          <p>What has to change here depends on it; nothing is proposed before.</p>
        </Notice>
      )}
      {word.unfit && (
        <Notice tone="stop" title={`What was read cannot be this word: ${word.unfit.problem}`}>
          <p>{word.unfit.remedy} A saved one can be restored from the history.</p>
        </Notice>
      )}
      {coding.undecided && (
        <Notice tone="watch" title="The dependencies of this coding map are too entangled to find the least change.">
          <p>Nothing is proposed. Leave out dependencies that this car does not need, in a version of the map.</p>
        </Notice>
      )}
      {coding.conflict.length > 0 && (
        <Notice tone="stop" title="These cannot have their right values together:">
          <p>{coding.conflict.join("; ")}. Nothing is proposed before that is settled.</p>
        </Notice>
      )}
      {change && <Prediction coding={coding} />}
      {change && ready && writing && <StopNote stop={writing} />}
      {change && !writing && (
        <p className="text-watch">
          Battery maintainer on, ignition on, engine off. The word as it stands is saved in the history.
        </p>
      )}
      <SessionBar standIn={job.practice} />
    </Focus>
  );
}

function WordMark({ word }: { word: WordView }) {
  if (word.notKnown) return <Mark tone="stop">Not known</Mark>;
  if (word.unfit) return <Mark tone="stop">Does not fit the map</Mark>;
  switch (word.standing) {
    case "unread":
      return <Mark tone="none">{word.outdated ? "Read before the unit was changed" : "Not read yet"}</Mark>;
    case "change":
      return <Mark tone="watch">To change</Mark>;
    case "waits":
      return <Mark tone="watch">Cannot be judged yet</Mark>;
    case "right":
      return <Mark tone="good">Stands as it should</Mark>;
    case "noMatter":
      return <Mark tone="none">Read; this job does not depend on it</Mark>;
  }
}

/** What the car stores as it is and after the change. */
function Prediction({ coding }: { coding: CodingView }) {
  const { codesNow, codesThen } = coding;
  if (!codesNow || !codesThen) return null;
  if (codesNow.length === 0 && codesThen.length === 0) return <p>Fault codes: none predicted, before or after.</p>;
  return (
    <p>
      Fault codes predicted as it stands: {codesNow.length > 0 ? codesNow.join("; ") : "none"}. After the change:{" "}
      {codesThen.length > 0 ? codesThen.join("; ") : "none"}.
    </p>
  );
}

function NotRead({ word }: { word: WordView }) {
  return (
    <p className="text-quiet">
      {word.wanted.length > 0
        ? `This job depends on it: ${word.wanted.join(", ")}.`
        : "Nothing in this job depends on it, as far as the coding map knows."}
    </p>
  );
}

/** What the word says, grouped by what it is about; what changes stands out with its reason. */
function Settings({ word }: { word: WordView }) {
  const changes = word.groups.flatMap((g) => g.fields).filter((f) => f.to !== null);
  const rest = word.groups.map((g) => ({ ...g, fields: g.fields.filter((f) => f.to === null) }));
  const groups = [{ about: "Changes", fields: changes }, ...rest].filter((g) => g.fields.length > 0);
  return (
    <div className="space-y-4">
      {groups.map(({ about, fields }) => (
        <section key={about} aria-label={about}>
          <h3 className="text-sm text-quiet">{about}</h3>
          <dl>
            {fields.map((f) => (
              <div
                key={f.ref}
                className="grid grid-cols-[minmax(8rem,1fr)_minmax(0,1.4fr)] gap-x-4 border-t border-rule py-1.5"
              >
                <dt className={f.to ? "font-semibold" : ""}>{f.label}</dt>
                <dd>
                  <span className="inline-flex flex-wrap items-center gap-x-2">
                    {f.value}
                    {f.to && (
                      <>
                        <Icon of={ArrowRight} size={16} label="becomes" />
                        <strong>{f.to}</strong>
                      </>
                    )}
                  </span>
                  {f.facts.map(({ because, agrees }) => (
                    <p key={because} className={`text-sm ${agrees ? "text-quiet" : "text-watch"}`}>
                      {agrees ? upperFirst(because) : `Speaks against it: ${because}`}
                    </p>
                  ))}
                  {f.why.map((why) => (
                    <p key={why} className="text-sm text-quiet">
                      {why}
                    </p>
                  ))}
                </dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </div>
  );
}

/** A word that was read with another tool. */
function ByHand({ word }: { word: WordView }) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const [hex, setHex] = useState("");
  return (
    <details className="mt-4">
      <summary className="min-h-11 cursor-pointer py-2.5">Read with another tool</summary>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          append({ kind: "configure.word", data: { word: word.ref, hex } });
        }}
      >
        <div className="min-w-64 flex-1">
          <Field label="The word as it was read" hint={`${word.length} bytes as hexadecimal digits, in any spacing`}>
            {(ids) => (
              <input
                {...ids}
                className="field num mt-1"
                value={hex}
                onChange={(e) => setHex(e.target.value)}
                autoComplete="off"
                spellCheck={false}
              />
            )}
          </Field>
        </div>
        <Button type="submit" disabled={busy || readOnly || hex.trim() === ""}>
          Enter
        </Button>
      </form>
    </details>
  );
}

function History({ word, coding, ready }: { word: WordView; coding: CodingView; ready: boolean }) {
  const session = useCarSession();
  const [held, setHeld] = useState<readonly string[]>([]);
  const hold = (key: string) => setHeld(held.includes(key) ? held.filter((k) => k !== key) : [...held, key].slice(-2));
  // The history stands newest first.
  const [newer, older] = word.history.filter((h) => held.includes(`${h.entry}${h.at}`));
  return (
    <details className="mt-2" open={word.unfit !== null || undefined}>
      <summary className="min-h-11 cursor-pointer py-2.5">
        History <span className="num text-quiet">{word.history.length}</span>
      </summary>
      <ol>
        {word.history.map((h, i) => {
          const key = `${h.entry}${h.at}`;
          const other = h.bytes && word.stands && h.bytes.some((b, at) => b !== word.stands?.[at]) ? h.bytes : null;
          return (
            <li key={key} className="flex flex-wrap items-center gap-x-4 border-t border-rule py-1.5">
              <span className="num">{h.hex ?? "not known"}</span>
              <span className="text-sm text-quiet">
                {h.how}, {h.by}, {format(parseISO(h.at), "d MMM, HH:mm")}
                {h.changed !== null && `, ${h.changed} bits other than before`}
              </span>
              {h.bytes && word.history.length > 1 && (
                <Button
                  look={held.includes(key) ? "plain" : "quiet"}
                  aria-pressed={held.includes(key)}
                  onClick={() => hold(key)}
                >
                  {held.includes(key) ? "Compared" : "Compare"}
                </Button>
              )}
              {i > 0 && other && (
                <Button look="quiet" disabled={!ready} onClick={() => session.write(word, other, coding.units)}>
                  <Icon of={Undo2} size={16} /> Restore
                </Button>
              )}
            </li>
          );
        })}
      </ol>
      {held.length === 1 && <p className="text-quiet">Choose a second one to compare it with.</p>}
      {older && newer && <Compared word={word} older={older} newer={newer} />}
    </details>
  );
}

type HistoryEntry = WordView["history"][number];

/** Two states of a word against each other: settings first, then what the map does not know. */
function Compared({ word, older, newer }: { word: WordView; older: HistoryEntry; newer: HistoryEntry }) {
  if (!older.bytes || !newer.bytes) return null;
  const bits = changedBits(older.bytes, newer.bytes);
  const checkByte = word.checksum?.byte;
  const unknown = bits.filter((b) => !word.known.includes(b) && b >> 3 !== checkByte).length;
  return (
    <section aria-label="Compared" className="mt-3 border-t-2 border-rule pt-2">
      <h3 className="font-medium">
        <span className="num">{older.hex}</span> <Icon of={ArrowRight} size={16} className="inline" label="against" />{" "}
        <span className="num">{newer.hex}</span>
      </h3>
      {!older.values || !newer.values ? (
        <p className="text-watch">One of the two does not fit the coding map; only its bytes can be compared.</p>
      ) : (
        <ul>
          {word.labels.map((label, i) => {
            const [a, b] = [older.values?.[i], newer.values?.[i]];
            return a === b ? null : (
              <li key={label} className="border-t border-rule py-1.5">
                <span className="font-medium">{label}</span>: {a}{" "}
                <Icon of={ArrowRight} size={14} className="inline" label="becomes" /> {b}
              </li>
            );
          })}
        </ul>
      )}
      <p className="text-sm text-quiet">
        {bits.length === 0
          ? "No bit differs."
          : `${bits.length} ${bits.length === 1 ? "bit differs" : "bits differ"}${unknown > 0 ? `, ${unknown} of them not known to the map` : ""}.`}
      </p>
    </section>
  );
}
