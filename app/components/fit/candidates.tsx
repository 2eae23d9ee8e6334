import { ArrowDown, ArrowRight, Scale } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { useMoney } from "~/app/lib/money";
import type { Candidate, Wish } from "~/core/fit/rank";
import { hoursRange } from "~/core/fit/time";
import { buttonLook, Section } from "../controls";
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

/** All kits of the library on this car: the best offer of each first, then those that give nothing wished, then why not. */
export function Candidates({ list, selected, wishes }: { list: Candidate[]; selected: string | null; wishes: Wish[] }) {
  const [compared, setCompared] = useState<string[]>([]);
  const { job } = useParams();
  const best = [...new Map([...list].reverse().map((c) => [c.kit, c])).values()].reverse();
  const fitting = best.filter((c) => c.verdict.level !== "impossible");
  const useful = fitting.filter((c) => wishes.length === 0 || c.met.length > 0);
  const useless = fitting.filter((c) => !useful.includes(c));
  const impossible = best.filter((c) => c.verdict.level === "impossible");
  const row = (c: Candidate) => (
    <Row
      key={c.kit}
      candidate={c}
      offers={list.filter((o) => o.kit === c.kit).length}
      selected={c.kit === selected}
      wishes={wishes}
      compared={compared.includes(c.kit)}
      full={compared.length >= MAX_COMPARED}
      onCompare={(on) => setCompared(on ? [...compared, c.kit] : compared.filter((k) => k !== c.kit))}
    />
  );
  return (
    <Section
      title="Kits for this radio"
      id="kits"
      aside={
        compared.length > 1 ? (
          <Link
            to={`/jobs/${job}/compare?${compared.map((k) => `kit=${k}`).join("&")}`}
            className={buttonLook("plain")}
          >
            <Scale size={18} aria-hidden="true" /> Compare {compared.length} kits
          </Link>
        ) : (
          `${useful.length} of ${best.length} fit${wishes.length > 0 ? " and give what is wished" : ""}`
        )
      }
    >
      {wishes.length === 0 && (
        <p className="mb-2 text-quiet">No wish is noted in Intake; the kit that gives most stands first.</p>
      )}
      {useful.length === 0 && <p className="mb-3">No kit gives what the customer wants on this radio.</p>}
      <ul>{useful.map(row)}</ul>
      {useless.length > 0 && (
        <details className="border-b border-rule" open={useful.length === 0}>
          <summary className="min-h-11 cursor-pointer py-2.5">
            {useless.length} more would fit but give{useless.length === 1 ? "s" : ""} nothing of what is wished
          </summary>
          <ul>{useless.map(row)}</ul>
        </details>
      )}
      {impossible.length > 0 && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5">{impossible.length} do not fit. Why not?</summary>
          <ul className="grid gap-x-8 md:grid-cols-2">
            {impossible.map((c) => (
              <li key={c.kit} className="border-b border-rule py-2">
                <span className="font-medium">{c.title}</span>
                <span className="block text-sm text-quiet">{c.verdict.text}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </Section>
  );
}

function Row(props: {
  candidate: Candidate;
  offers: number;
  selected: boolean;
  wishes: Wish[];
  compared: boolean;
  full: boolean;
  onCompare: (on: boolean) => void;
}) {
  const { candidate: c, selected, wishes, offers } = props;
  const price = useMoney();
  return (
    <li
      className={`grid items-center gap-x-5 gap-y-2 border-b border-rule py-3 md:grid-cols-[minmax(0,1fr)_13rem_8.5rem] ${selected ? "border-l-4 border-l-ink bg-raised px-3" : ""}`}
    >
      <div>
        <p className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <span className="font-medium">{c.title}</span>
          <Mark tone={LEVEL_TONES[c.verdict.level]}>{LEVEL_WORDS[c.verdict.level]}</Mark>
        </p>
        <p className="text-sm text-quiet">
          {c.work}
          {c.with.length > 0 && ` · ${c.with.join(" · ")}`}
          {offers > 1 && ` · ${offers} ways`}
        </p>
        <p className="text-sm">{c.verdict.text}</p>
      </div>
      <dl className="grid grid-cols-[1fr_auto] gap-x-3 text-sm">
        {wishes.length > 0 && (
          <>
            <dt className="text-quiet">Wishes</dt>
            <dd className="num text-right">
              {c.met.length} of {wishes.length}
            </dd>
          </>
        )}
        <dt className="text-quiet">Given up</dt>
        <dd className="num text-right">{c.lost.length}</dd>
        <dt className="text-quiet">Time</dt>
        <dd className="num text-right">{hoursRange(c.minutes)}</dd>
        <dt className="text-quiet">Price</dt>
        <dd className="num text-right">{price(c.price)}</dd>
      </dl>
      <div className="flex gap-2 md:flex-col">
        {selected ? (
          <span className="flex min-h-11 items-center gap-2 font-medium">
            Shown below <ArrowDown size={18} aria-hidden="true" />
          </span>
        ) : (
          <Link
            to={`?kit=${c.kit}`}
            preventScrollReset
            className={buttonLook("plain")}
            aria-label={`Look at ${c.title}`}
          >
            Look <ArrowRight size={18} aria-hidden="true" />
          </Link>
        )}
        <label className="flex min-h-11 items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="size-5 accent-[var(--ink)]"
            checked={props.compared}
            disabled={props.full && !props.compared}
            onChange={(e) => props.onCompare(e.currentTarget.checked)}
            aria-label={`Compare ${c.title}`}
          />
          Compare
        </label>
      </div>
    </li>
  );
}
