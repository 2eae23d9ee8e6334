import type { EntryBody } from "~/core/job/entry";
import { Section } from "../controls";
import { EntryButton } from "../entry-form";
import { Mark, ResultMark } from "../marks";

interface Try {
  id: string;
  name: string;
  label: string;
  say: string;
  caution?: string;
  law: boolean;
  noted: { value: "pass" | "fail" | "absent"; by: string } | null;
}

const ANSWERS = [
  ["pass", "Works"],
  ["fail", "Fails"],
  ["absent", "Not present"],
] as const;

/** What worked before anything was touched: one try after the other, three large answers each. */
export function Baseline({ tries }: { tries: Try[] }) {
  const done = tries.filter((t) => t.noted).length;
  return (
    <Section title="Baseline" id="baseline" aside={`${done} of ${tries.length} tried`}>
      <p className="mb-2 max-w-prose text-quiet">Try everything that works today. “Kept” is judged against this.</p>
      <ul>
        {tries.map((t) => (
          <li
            key={t.id}
            className="grid items-center gap-x-6 gap-y-2 border-b border-rule py-3 md:grid-cols-[minmax(0,1fr)_auto]"
          >
            <div>
              <p className="flex flex-wrap items-center gap-x-3 gap-y-1">
                <span className="font-medium">{t.name}</span>
                <span className="text-quiet">{t.label}</span>
                {t.law && <Mark tone="none">Required by law</Mark>}
                {t.noted && <ResultMark result={t.noted.value} />}
              </p>
              <p className="text-quiet">{t.say}</p>
              {t.caution && <p className="mt-0.5 text-watch">{t.caution}</p>}
            </div>
            <fieldset className="flex gap-2">
              <legend className="sr-only">{t.name}</legend>
              {ANSWERS.map(([result, word]) => {
                const body: EntryBody = { kind: "intake.baseline", data: { test: t.id, result, note: "" } };
                return (
                  <EntryButton
                    key={result}
                    body={body}
                    pressed={t.noted?.value === result}
                    label={`${t.name}, ${t.label}: ${word}`}
                    className={t.noted?.value === result ? "border-2! border-ink! font-semibold" : ""}
                  >
                    {word}
                  </EntryButton>
                );
              })}
            </fieldset>
          </li>
        ))}
      </ul>
    </Section>
  );
}
