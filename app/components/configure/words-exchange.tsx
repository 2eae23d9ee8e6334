import { Download } from "lucide";
import { useState } from "react";
import { saveText } from "~/app/lib/save-text";
import { readWordsText, type StandingWord, wordsJson, wordsText } from "~/core/coding/words-text";
import type { CodingView } from "~/core/views/coding";
import { Button } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Icon } from "../icon";

/** All words of the car as a file, and words that another tool or another day has saved. */
export function WordsExchange({ coding }: { coding: CodingView }) {
  const { job } = useJob();
  const [text, setText] = useState("");
  const standing: StandingWord[] = coding.words.map((w) => ({ ...w, bytes: w.stands }));
  const known = standing.filter((w) => w.bytes).length;
  const read = readWordsText(standing, text);
  const changed = read.words.filter((r) => {
    const now = coding.words.find((w) => w.ref === r.ref)?.history[0];
    return now?.hex !== r.hex;
  });
  const title = `${coding.map.title}, job ${job.number}`;
  return (
    <details className="mt-4 border-y border-rule">
      <summary className="min-h-11 cursor-pointer py-2.5 font-medium">Save words, or take them from a file</summary>
      <div className="space-y-3 pb-4">
        <div className="flex flex-wrap items-center gap-2">
          <Button
            disabled={known === 0}
            onClick={() => saveText(wordsText(title, standing), `words-${job.number}.txt`)}
          >
            <Icon of={Download} size={18} /> Text
          </Button>
          <Button
            disabled={known === 0}
            onClick={() => saveText(wordsJson(title, standing), `words-${job.number}.json`, "application/json")}
          >
            <Icon of={Download} size={18} /> JSON
          </Button>
          <span className="text-sm text-quiet">
            {known} of {standing.length} words are known
          </span>
        </div>
        <label className="block">
          <span className="block font-medium">Words as they were read elsewhere</span>
          <span className="block text-sm text-quiet">
            One a line, for example 0600: 01 20 00; or a saved file. They count as read by hand; nothing is sent to the
            car.
          </span>
          <textarea
            rows={5}
            className="field num mt-1 text-sm"
            spellCheck={false}
            value={text}
            onChange={(e) => setText(e.currentTarget.value)}
          />
        </label>
        <input
          type="file"
          accept=".txt,.json,text/plain,application/json"
          aria-label="Saved words"
          className="block min-h-11"
          onChange={async (e) => setText((await e.currentTarget.files?.[0]?.text()) ?? "")}
        />
        {text.trim() !== "" && (
          <ul aria-live="polite">
            {read.words.map((w) => (
              <li key={w.ref} className="flex flex-wrap gap-x-4">
                {w.title} <span className="num text-quiet">{w.hex}</span>
                {!changed.includes(w) && <span className="text-sm text-quiet">as known already</span>}
              </li>
            ))}
            {read.problems.map((p) => (
              <li key={`${p.line} ${p.problem}`} className="text-stop">
                Line <span className="num">{p.line}</span>: {p.problem}
              </li>
            ))}
          </ul>
        )}
        <EntryButton
          disabled={changed.length === 0}
          body={changed.map((w) => ({ kind: "configure.word" as const, data: { word: w.ref, hex: w.hex } }))}
        >
          Take over {changed.length} {changed.length === 1 ? "word" : "words"}
        </EntryButton>
      </div>
    </details>
  );
}
