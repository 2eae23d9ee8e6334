import { decodeIdentification, type IdentificationNote } from "~/core/vehicle/identification";
import { Mark } from "../marks";

const TONES: Record<IdentificationNote["level"], "stop" | "watch" | "good"> = {
  error: "stop",
  watch: "watch",
  good: "good",
};
const WORDS: Record<IdentificationNote["level"], string> = { error: "Wrong", watch: "Note", good: "Good" };

/** What the identification number says, character by character, while it is typed. */
export function IdentificationPanel({
  typed,
  patterns,
  years,
  thisYear,
}: {
  typed: string;
  patterns: { pattern: string; says: string }[];
  years: { from: number; to: number };
  thisYear: number;
}) {
  const decoded = decodeIdentification(typed, patterns, thisYear + 1);
  const wrong = new Set(decoded.notes.filter((n) => n.level === "error").map((n) => n.position));
  const fitting = decoded.modelYears.filter((y) => y >= years.from && y <= years.to);
  return (
    <div aria-live="polite">
      <ol className="flex flex-wrap gap-y-2" aria-label="Characters of the number">
        {Array.from({ length: 17 }, (_, i) => {
          const position = i + 1;
          return (
            <li
              key={position}
              className={`w-[5.5%] min-w-[1.1rem] border-b-2 text-center ${position === 4 || position === 10 ? "ml-[2%]" : ""} ${wrong.has(position) ? "border-stop bg-stop-ground" : decoded.number[i] ? "border-ink" : "border-strong"}`}
            >
              <span className="num block text-lg font-medium">{decoded.number[i] ?? "·"}</span>
              <span className="num block text-[0.65rem] text-quiet">{position}</span>
            </li>
          );
        })}
      </ol>
      <ul className="mt-3 space-y-2">
        {decoded.notes.map((n) => (
          <li key={n.text} className="flex items-start gap-2">
            <Mark tone={TONES[n.level]}>{WORDS[n.level]}</Mark>
            <span>{n.text}</span>
          </li>
        ))}
      </ul>
      {decoded.number.length > 0 && (
        <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
          {decoded.region && (
            <>
              <dt className="text-quiet">Region</dt>
              <dd>{decoded.region}</dd>
            </>
          )}
          {decoded.modelYears.length > 0 && (
            <>
              <dt className="text-quiet">Model year</dt>
              <dd>
                <span className="num">{(fitting.length > 0 ? fitting : decoded.modelYears).join(" or ")}</span>
                {fitting.length === 0 && `, outside ${years.from} to ${years.to} of the chosen car`}
              </dd>
            </>
          )}
          {decoded.says.map((s) => (
            <div key={s} className="contents">
              <dt className="text-quiet">Shop library</dt>
              <dd>{s}</dd>
            </div>
          ))}
        </dl>
      )}
      <p className="mt-4 text-sm text-quiet">
        1 to 3 maker, 4 to 9 the car, in North America with a check digit at 9 (weighted sum modulo 11, 49 CFR 565.15),
        10 model year, then the running number.
      </p>
    </div>
  );
}
