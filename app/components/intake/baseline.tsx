import { Camera } from "lucide-react";
import { useRef, useState } from "react";
import { useParams } from "react-router";
import { toast } from "sonner";
import { v7 as uuid } from "uuid";
import { smallPhoto } from "~/app/lib/small-photo";
import type { Command } from "~/core/log/entry";
import { Button, Section } from "../controls";
import { EntryButton, useAppend, useJob } from "../entry-form";
import { Mark, ResultMark } from "../marks";

interface Try {
  id: string;
  name: string;
  label: string;
  say: string;
  caution?: string;
  law: boolean;
  noted: { value: "pass" | "fail" | "absent"; by: string; note: string; photo?: string } | null;
}

const ANSWERS = [
  ["pass", "Works"],
  ["fail", "Fails"],
  ["absent", "Not present"],
] as const;

/** What worked before anything was touched: one try after the other, three large answers each. */
export function Baseline({ tries }: { tries: Try[] }) {
  const done = tries.filter((t) => t.noted).length;
  const [picked, setPicked] = useState<string | null>(null);
  const current = tries.find((t) => t.id === picked) ?? tries.find((t) => !t.noted);
  return (
    <Section title="Baseline" id="baseline" aside={`${done} of ${tries.length} tried`}>
      <p className="mb-3 max-w-prose text-quiet">Try everything that works today. “Kept” is judged against this.</p>
      {current && <OneTry key={current.id} now={current} onAnswer={() => setPicked(null)} />}
      <ul className="mt-4">
        {tries.map((t) => (
          <li
            key={t.id}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-1 border-b border-rule py-1.5 first:border-t sm:grid-cols-[8rem_minmax(0,1fr)_auto]"
          >
            <span className="row-start-2 sm:row-start-1">
              <ResultMark result={t.noted?.value} />
            </span>
            <span className="min-w-0">
              <span className="font-medium">{t.name}</span> <span className="text-quiet">{t.label}</span>
              {t.noted?.note && <span className="block text-sm">{t.noted.note}</span>}
              {t.noted?.photo && <Photo id={t.noted.photo} of={t.name} />}
            </span>
            <Button look="quiet" className="px-2!" aria-pressed={current?.id === t.id} onClick={() => setPicked(t.id)}>
              {current?.id === t.id ? "Shown above" : t.noted ? "Change" : "Try now"}
              <span className="sr-only">
                : {t.name}, {t.label}
              </span>
            </Button>
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** The try at hand, readable at arm's length. */
function OneTry({ now: t, onAnswer }: { now: Try; onAnswer: () => void }) {
  const [note, setNote] = useState(t.noted?.note ?? "");
  const body = (result: (typeof ANSWERS)[number][0]): Command => ({
    kind: "intake.baseline",
    data: { test: t.id, result, note: note.trim(), ...(t.noted?.photo ? { photo: t.noted.photo } : {}) },
  });
  return (
    <div className="border-l-4 border-ink bg-raised px-4 py-4">
      <p className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="text-xl font-semibold">{t.name}</span>
        <span className="text-quiet">{t.label}</span>
        {t.law && <Mark tone="none">Required by law</Mark>}
      </p>
      <p className="mt-1 max-w-prose text-lg">{t.say}</p>
      {t.caution && <p className="mt-1 text-watch">{t.caution}</p>}
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: a button pressed by key sends a click as well */}
      <fieldset className="mt-4 grid grid-cols-3 gap-2 sm:max-w-xl" onClick={() => setTimeout(onAnswer, 0)}>
        <legend className="sr-only">{t.name}</legend>
        {ANSWERS.map(([result, word]) => (
          <EntryButton
            key={result}
            body={body(result)}
            pressed={t.noted?.value === result}
            label={`${t.name}, ${t.label}: ${word}`}
            className={`min-h-16! text-lg ${t.noted?.value === result ? "border-2! border-ink! font-semibold" : ""}`}
          >
            {word}
          </EntryButton>
        ))}
      </fieldset>
      <div className="mt-3 flex flex-wrap items-end gap-3">
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
      </div>
      {t.noted?.photo && <Photo id={t.noted.photo} of={t.name} />}
    </div>
  );
}

/** A photo of what was seen; it goes with the answer, “fails” when there is none yet. */
function TakePhoto({ test, note }: { test: Try; note: string }) {
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
      <Camera size={18} aria-hidden="true" /> {sending || busy ? "Sending ..." : "Photo"}
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
