import { useState } from "react";
import type { MeterWindow } from "~/core/model/types";
import { readNumber } from "~/core/power/readings";
import { Button, Field } from "../controls";
import { useAppend, useJob } from "../entry-form";

/** More than any meter of a bay shows. */
const MOST: Readonly<Record<MeterWindow["unit"], number>> = { V: 100, Ω: 10_000_000, A: 100 };

/** A measurement of the search, typed as the meter shows it; what it means is for the program to say. */
export function MeterValue({
  look: { id, title, window },
  noted,
}: {
  look: { id: string; title: string; window: MeterWindow };
  /** What was measured there before. */
  noted?: number | undefined;
}) {
  const [text, setText] = useState(noted === undefined ? "" : String(noted));
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const { unit, min, max } = window;
  const read = text.trim() === "" ? null : readNumber(text, { label: title, unit, most: MOST[unit] });
  const isWithin = read?.ok && read.value >= min && read.value <= max;
  return (
    <form
      className="flex flex-wrap items-end gap-x-3 gap-y-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (read?.ok) append({ kind: "prove.check", data: { check: id, value: read.value } });
      }}
    >
      <Field label={`The meter shows, ${unit}`} {...(read && !read.ok ? { errors: [read.message] } : {})}>
        {(ids) => (
          <input
            {...ids}
            className="field num mt-1 w-32"
            inputMode="decimal"
            value={text}
            onChange={(e) => setText(e.currentTarget.value)}
          />
        )}
      </Field>
      <Button type="submit" disabled={busy || readOnly || !read?.ok} aria-label={`${title}: note the value`}>
        Note it
      </Button>
      <p className={`num pb-2.5 ${read?.ok && !isWithin ? "font-medium text-stop" : "text-quiet"}`} aria-live="polite">
        {read?.ok ? (isWithin ? "As on a sound car: " : "Not as on a sound car: ") : "A sound car: "}
        {min} to {max} {unit}
      </p>
    </form>
  );
}
