import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import { answered } from "~/app/lib/stays";
import type { action } from "~/app/routes/stock";
import type { Material } from "~/core/lengths/material";
import { type Supply, supplies } from "~/core/lengths/stock";
import { Button } from "../controls";
import { useJob } from "../entry-form";
import { Mark } from "../marks";

const amount = (n: number, unit: Material["unit"]) => (unit === "m" ? `${n.toFixed(1)} m` : String(Math.ceil(n)));

/** Small material counted, against what lies in the box and on the shelf; the shelf can be counted here. */
export function MaterialList({
  material,
  box,
  stock,
}: {
  material: Material[];
  box: string[];
  /** What lies on the shelf; null without connection. */
  stock: Record<string, number> | null;
}) {
  return (
    <ul>
      {supplies(material, box, stock).map((s) => (
        <Line key={s.what} supply={s} />
      ))}
    </ul>
  );
}

function Line({ supply: s }: { supply: Supply }) {
  const [counting, setCounting] = useState(false);
  const { readOnly } = useJob();
  return (
    <li className="border-b border-rule py-2">
      <p className="flex flex-wrap items-center gap-x-3">
        <span className="num text-lg font-medium">{amount(s.needed, s.unit)}</span>
        <span className="min-w-0 flex-1">{s.what}</span>
        {s.verdict === "box" ? (
          <Mark tone="good">In the box</Mark>
        ) : s.verdict === "shelf" ? (
          <Mark tone="good">On the shelf</Mark>
        ) : s.verdict === "unknown" ? (
          <Mark tone="none">{amount(s.missing, s.unit)} from the shelf</Mark>
        ) : (
          <Mark tone="watch">{amount(s.missing, s.unit)} missing</Mark>
        )}
      </p>
      <p className="text-sm text-quiet">{s.from}</p>
      <div className="flex flex-wrap items-center gap-x-3 text-sm">
        <span className="num">
          box {s.inBox > 0 ? amount(s.inBox, s.unit) : "0"}, shelf {shelfWords(s)}
        </span>
        {!readOnly && s.onShelf !== null && (
          <Button
            look="quiet"
            className="px-1! text-sm"
            aria-expanded={counting}
            aria-label={`Count the shelf: ${s.what}`}
            onClick={() => setCounting(!counting)}
          >
            Count the shelf
          </Button>
        )}
      </div>
      {counting && <Count supply={s} done={() => setCounting(false)} />}
    </li>
  );
}

function shelfWords({ onShelf, unit }: Supply): string {
  if (onShelf === null) return "not known without connection";
  return onShelf > 0 ? amount(onShelf, unit) : "0";
}

function Count({ supply: s, done }: { supply: Supply; done(): void }) {
  const fetcher = useFetcher<typeof action>();
  const answer = answered(fetcher.data);
  const isKept = answer?.ok === true && fetcher.state === "idle";
  useEffect(() => {
    if (isKept) done();
  }, [isKept, done]);
  return (
    <fetcher.Form method="post" action="/stock" className="flex flex-wrap items-end gap-2 pb-1">
      <input type="hidden" name="what" value={s.what} />
      <label className="block">
        <span className="block text-sm">On the shelf, {s.unit}</span>
        <input
          name="amount"
          className="field num mt-1 w-28"
          inputMode="decimal"
          defaultValue={s.onShelf || ""}
          required
        />
      </label>
      <Button type="submit" disabled={fetcher.state !== "idle"}>
        Keep
      </Button>
      {answer?.ok === false && (
        <p role="alert" className="basis-full text-stop">
          {answer.message}
        </p>
      )}
    </fetcher.Form>
  );
}
