import { useEffect, useState } from "react";
import { Focus } from "../bench/focus";
import { useAppend, useJob } from "../entry-form";

/** What the customer wants, as functions and not as products. */
export function Wishes({
  wishes,
  asked,
}: {
  wishes: { id: string; name: string; wanted: boolean }[];
  /** Somebody has said what is wanted, if only nothing. */
  asked: boolean;
}) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const stored = wishes.filter((w) => w.wanted).map((w) => w.id);
  const known = stored.join();
  // What was just ticked stands at once; what is stored counts again when nothing is under way any more: on a slow line
  // the answer to one tick comes after the next one.
  const [ticked, setTicked] = useState<string[] | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another stored list replaces what was ticked
  useEffect(() => {
    if (!busy) setTicked(null);
  }, [known, busy]);
  const shown = ticked ?? stored;
  return (
    <Focus
      title="What the customer wants"
      kicker={busy ? "Saving ..." : asked ? `${shown.length} of ${wishes.length}` : "Not asked yet"}
    >
      <p className="text-quiet">Wishes rank the kits; nothing that a kit gives is left out for want of one.</p>
      <div className="grid gap-x-6 sm:grid-cols-2">
        {wishes.map((w) => (
          <label key={w.id} className="flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              className="size-5 accent-[var(--ink)]"
              checked={shown.includes(w.id)}
              disabled={readOnly}
              onChange={(e) => {
                const functions = e.currentTarget.checked ? [...shown, w.id] : shown.filter((id) => id !== w.id);
                setTicked(functions);
                append({ kind: "intake.wishes", data: { functions } });
              }}
            />
            {w.name}
          </label>
        ))}
      </div>
    </Focus>
  );
}
