import type { Finding } from "~/core/connect/rules";
import { EntryButton } from "../entry-form";
import { Notice } from "../marks";

const TONES = { stop: "stop", watch: "watch", note: "none" } as const;

/** Findings of the check, each with its place, reason and remedy; one button where the remedy is the only one. */
export function Findings({ findings }: { findings: Finding[] }) {
  return (
    <ul className="space-y-2">
      {findings.map((f) => (
        <li key={`${f.rule} ${f.where}`}>
          <Notice tone={TONES[f.level]} title={f.where}>
            <p>
              {f.text} {f.remedy}
            </p>
            {f.damages && <p className="font-medium text-stop">Power on now would damage: {f.damages}.</p>}
            <p className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
              {f.fix && (
                <EntryButton body={f.fix.press} label={`${f.fix.say}: ${f.where}`}>
                  {f.fix.say}
                </EntryButton>
              )}
              <span className="num text-sm text-quiet">Rule {f.rule}</span>
            </p>
          </Notice>
        </li>
      ))}
    </ul>
  );
}
