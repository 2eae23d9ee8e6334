import { Scale } from "lucide";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { useMoney } from "~/app/lib/money";
import { hoursRange } from "~/core/fit/hours";
import type { Candidate, Wish } from "~/core/fit/rank";
import type { BenchItem } from "../bench/bench";
import { Focus } from "../bench/focus";
import { buttonLook } from "../controls";
import { Icon } from "../icon";
import { Mark, type Tone } from "../marks";

export const LEVEL_TONES: Record<Candidate["verdict"]["level"], Tone> = {
  possible: "good",
  conditions: "watch",
  impossible: "stop",
};
const LEVEL_WORDS: Record<Candidate["verdict"]["level"], string> = {
  possible: "Fits",
  conditions: "Fits, with conditions",
  impossible: "Does not fit",
};
const MAX_COMPARED = 3;

/** The best offer of each kit, in the order of the ranking. */
function bestOffers(list: readonly Candidate[]): Candidate[] {
  return [...new Map([...list].reverse().map((c) => [c.kit, c])).values()].reverse();
}

/** All kits of the library on this car: what gives a wish first, then what gives none, then why not. */
export function kitItems(
  list: readonly Candidate[],
  wishes: readonly Wish[],
  chosen: string | null,
  money: (amount: number) => string,
): BenchItem[] {
  const best = bestOffers(list);
  const fitting = best.filter((c) => c.verdict.level !== "impossible");
  const useful = fitting.filter((c) => wishes.length === 0 || c.met.length > 0);
  const row = (c: Candidate, group: string): BenchItem => ({
    id: c.kit,
    title: c.title,
    aside: [
      wishes.length > 0 ? `${c.met.length} of ${wishes.length} wishes` : null,
      c.lost.length > 0 ? `${c.lost.length} given up` : null,
      hoursRange(c.minutes),
      money(c.price),
    ]
      .filter((w) => w !== null)
      .join(" · "),
    group,
    state: c.kit === chosen ? "done" : c.verdict.level === "conditions" ? "watch" : "look",
    word: c.kit === chosen ? "chosen" : LEVEL_WORDS[c.verdict.level],
    to: `?kit=${c.kit}`,
  });
  return [
    ...useful.map((c) => row(c, "Kits for this radio")),
    ...fitting.filter((c) => !useful.includes(c)).map((c) => row(c, "Would fit, but give nothing of what is wished")),
    ...best
      .filter((c) => c.verdict.level === "impossible")
      .map((c): BenchItem => ({ ...row(c, "Do not fit"), aside: c.verdict.text, state: "later", folded: true })),
  ];
}

/** Which kits to lay side by side. */
export function Compare({ list }: { list: readonly Candidate[] }) {
  const [compared, setCompared] = useState<string[]>([]);
  const { job } = useParams();
  const price = useMoney();
  return (
    <Focus
      kicker={`Up to ${MAX_COMPARED} at a time`}
      title="Compare kits"
      actions={
        compared.length > 1 && (
          <Link to={`/jobs/${job}/compare?${compared.map((k) => `kit=${k}`).join("&")}`} className={buttonLook("next")}>
            <Icon of={Scale} size={18} /> Compare {compared.length} kits
          </Link>
        )
      }
    >
      {bestOffers(list)
        .filter((c) => c.verdict.level !== "impossible")
        .map((c) => (
          <label key={c.kit} className="flex min-h-11 items-center gap-3 border-b border-rule py-1">
            <input
              type="checkbox"
              className="size-5 shrink-0 accent-[var(--ink)]"
              checked={compared.includes(c.kit)}
              disabled={compared.length >= MAX_COMPARED && !compared.includes(c.kit)}
              onChange={(e) =>
                setCompared(e.currentTarget.checked ? [...compared, c.kit] : compared.filter((k) => k !== c.kit))
              }
            />
            <span className="min-w-0 flex-1">
              {c.title} <Mark tone={LEVEL_TONES[c.verdict.level]}>{LEVEL_WORDS[c.verdict.level]}</Mark>
              {c.with.length > 0 && <span className="block text-sm text-quiet">{c.with.join(" · ")}</span>}
            </span>
            <span className="num text-sm">{price(c.price)}</span>
          </label>
        ))}
    </Focus>
  );
}
