import { format } from "date-fns";
import { useState } from "react";
import type { JobState } from "~/core/log/entry";
import type { ReadingKind } from "~/core/log/kinds/connect/reading";
import { interpret, READINGS, readNumber } from "~/core/power/readings";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Mark } from "../marks";

const WORDS = { good: "As it must be", watch: "Look closer", stop: "Wrong" } as const;

/** A reading is interpreted while it is typed, and kept in the log. */
export function Readings({ readings }: { readings: JobState["readings"] }) {
  const [kind, setKind] = useState<ReadingKind>("supplyOn");
  const [text, setText] = useState("");
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const spec = READINGS.find((r) => r.kind === kind) ?? READINGS[0];
  if (!spec) return null;
  const read = text.trim() === "" ? null : readNumber(text, spec);
  return (
    <Focus kicker={readings.length > 0 ? `${readings.length} kept` : "None kept yet"} title="Meter readings">
      <form
        className="grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_9rem_auto]"
        onSubmit={(e) => {
          e.preventDefault();
          if (!read?.ok) return;
          append({ kind: "connect.reading", data: { reading: kind, value: read.value } });
          setText("");
        }}
      >
        <Field label="What is measured" hint={spec.how}>
          {(ids) => (
            <select
              {...ids}
              className="field mt-1"
              value={kind}
              onChange={(e) => setKind(e.currentTarget.value as ReadingKind)}
            >
              {READINGS.map((r) => (
                <option key={r.kind} value={r.kind}>
                  {r.label}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field label={`Reading, ${spec.unit}`} {...(read && !read.ok ? { errors: [read.message] } : {})}>
          {(ids) => (
            <input
              {...ids}
              className="field num mt-1"
              inputMode="decimal"
              value={text}
              onChange={(e) => setText(e.currentTarget.value)}
            />
          )}
        </Field>
        <Button type="submit" className="sm:mt-7" disabled={busy || readOnly || !read?.ok}>
          Keep
        </Button>
      </form>
      {read?.ok && <Meaning kind={kind} value={read.value} />}
      <ul className="mt-3">
        {readings.map((r) => (
          <li key={r.entry} className="border-b border-rule py-2">
            <p className="flex flex-wrap gap-x-3">
              <span className="font-medium">{READINGS.find((x) => x.kind === r.reading)?.label}</span>
              <span className="num">
                {r.value} {READINGS.find((x) => x.kind === r.reading)?.unit}
              </span>
              <span className="text-sm text-quiet">
                {format(new Date(r.at), "HH:mm")}, {r.by}
              </span>
            </p>
            <Meaning kind={r.reading} value={r.value} />
          </li>
        ))}
      </ul>
    </Focus>
  );
}

function Meaning({ kind, value }: { kind: ReadingKind; value: number }) {
  const { tone, says, causes } = interpret(kind, value);
  return (
    <p className="mt-1">
      <Mark tone={tone}>{WORDS[tone]}</Mark> {says}
      {causes.length > 0 && <span className="block text-quiet">Likely: {causes.join("; ")}.</span>}
    </p>
  );
}
