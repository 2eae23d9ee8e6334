import { Camera } from "lucide";
import { useRef, useState } from "react";
import { useParams } from "react-router";
import { toast } from "sonner";
import { v7 as uuid } from "uuid";
import { smallPhoto } from "~/app/lib/small-photo";
import type { Command } from "~/core/log/entry";
import type { intakeView } from "~/core/views/intake";
import { Focus } from "../bench/focus";
import { EntryButton, useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, ResultMark } from "../marks";
import { SaidWithIt, saidWithIt } from "../stop-note";

export type BaselineTry = ReturnType<typeof intakeView>["baseline"][number];

const ANSWERS = [
  ["pass", "Works"],
  ["fail", "Fails"],
  ["absent", "Not present"],
] as const;

/** One try of what works before anything is touched: three large answers, a note, a photo. */
export function BaselineFocus({ now: t, after }: { now: BaselineTry; after: string | undefined }) {
  const [note, setNote] = useState(t.noted?.note ?? "");
  const first = saidWithIt(t.stop);
  const body = (result: (typeof ANSWERS)[number][0]): Command[] => [
    ...(result === "absent" ? [] : first),
    {
      kind: "intake.baseline",
      data: { test: t.id, result, note: note.trim(), ...(t.noted?.photo ? { photo: t.noted.photo } : {}) },
    },
  ];
  return (
    <Focus
      kicker="Baseline: what works today"
      marks={
        <>
          <ResultMark result={t.noted?.value} />
          {t.law && <Mark tone="none">Required by law</Mark>}
        </>
      }
      title={
        <>
          {t.name} <span className="font-normal text-quiet">{t.label}</span>
        </>
      }
      after={after}
      actions={
        <fieldset className="grid w-full grid-cols-3 gap-2 sm:max-w-xl">
          <legend className="sr-only">{t.name}</legend>
          {ANSWERS.map(([result, word], i) => (
            <EntryButton
              key={result}
              body={body(result)}
              pressed={t.noted?.value === result}
              look={result === "pass" && !t.noted ? "next" : "plain"}
              label={`${t.name}, ${t.label}: ${word}`}
              shortcut={result === "pass" ? "Space" : String(i + 1)}
              className={`min-h-16! text-lg ${t.noted?.value === result ? "border-2! border-ink! font-semibold" : ""}`}
            >
              {word}
            </EntryButton>
          ))}
        </fieldset>
      }
      picture={
        <>
          {t.alike.length > 0 && (
            <div className="mb-4">
              <EntryButton
                body={[
                  ...first,
                  ...[t.id, ...t.alike.map((a) => a.id)].map(
                    (test): Command => ({ kind: "intake.baseline", data: { test, result: "pass", note: "" } }),
                  ),
                ]}
                label={`This and ${t.alike.length} more work: ${t.alike.map((a) => a.name).join(", ")}`}
                shortcut="a"
              >
                This and {t.alike.length} more work
              </EntryButton>
              <p className="mt-1 text-sm text-quiet">
                With the car as it stands, tried as well: {t.alike.map((a) => a.name).join(", ")}.
              </p>
            </div>
          )}
          <div className="flex flex-wrap items-end gap-3">
            <label className="block min-w-48 flex-1 sm:max-w-md">
              <span className="text-sm">Note, stored with the answer</span>
              <input
                className="field mt-1"
                value={note}
                maxLength={1000}
                onChange={(e) => setNote(e.currentTarget.value)}
              />
            </label>
            <TakePhoto test={t} note={note.trim()} />
            {t.noted?.photo && <Photo id={t.noted.photo} of={t.name} />}
          </div>
        </>
      }
    >
      <p className="text-lg">{t.say}</p>
      {t.caution && <p className="text-watch">{t.caution}</p>}
      <SaidWithIt stop={t.stop} />
    </Focus>
  );
}

/** A photo of what was seen; it goes with the answer, “fails” when there is none yet. */
function TakePhoto({ test, note }: { test: BaselineTry; note: string }) {
  const { job } = useParams();
  const { readOnly } = useJob();
  const { append, busy } = useAppend();
  const [sending, setSending] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const send = async (file: File) => {
    setSending(true);
    try {
      const photo = uuid();
      const answer = await fetch(`/jobs/${job}/photos?photo=${photo}`, {
        method: "POST",
        body: await smallPhoto(file),
      });
      if (!answer.ok) throw new Error("This photo was not taken: JPEG, PNG or WebP up to 12 MB.");
      append({ kind: "intake.baseline", data: { test: test.id, result: test.noted?.value ?? "fail", note, photo } });
    } catch (error) {
      toast.error(
        error instanceof TypeError ? "No connection. Try the photo again in a moment." : (error as Error).message,
      );
    } finally {
      setSending(false);
      if (input.current) input.current.value = "";
    }
  };
  return (
    <label
      className={`inline-flex min-h-11 cursor-pointer items-center gap-2 rounded-[3px] border border-strong bg-raised px-4 focus-within:outline-3 focus-within:outline-accent ${readOnly ? "opacity-60" : ""}`}
    >
      <Icon of={Camera} size={18} /> {sending || busy ? "Sending ..." : "Photo"}
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        className="sr-only"
        disabled={readOnly || sending}
        onChange={(e) => {
          const [file] = e.currentTarget.files ?? [];
          if (file) void send(file);
        }}
      />
    </label>
  );
}

function Photo({ id, of }: { id: string; of: string }) {
  const { job } = useParams();
  return (
    <a href={`/jobs/${job}/photos/${id}`} target="_blank" rel="noreferrer" className="mt-2 inline-block">
      <img
        src={`/jobs/${job}/photos/${id}`}
        alt={`Baseline: ${of}`}
        className="h-28 border border-rule"
        loading="lazy"
      />
    </a>
  );
}
