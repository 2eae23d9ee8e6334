import { type FormEvent, useState } from "react";
import { GATE_WORDS, type Gate as GateState } from "~/core/strip/gate";
import type { Bench } from "~/core/strip/view";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Mark, type Tone } from "../marks";

const TONES: Record<GateState, Tone> = { passed: "good", tried: "watch", passedOver: "watch", open: "none" };

/** The bench test between the way in and the way back. It is passed by tests, or on purpose with a reason. */
export function Gate({ gate, bench, reason }: { gate: GateState; bench: Bench; reason: string | null }) {
  const [asked, setAsked] = useState(false);
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const pass = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    append({ kind: "strip.gate", data: { reason: String(new FormData(e.currentTarget).get("reason") ?? "") } });
    setAsked(false);
  };
  return (
    <Focus
      kicker={`${bench.passed} of ${bench.tests} tests passed`}
      marks={<Mark tone={gate === "open" && bench.failing > 0 ? "stop" : TONES[gate]}>{GATE_WORDS[gate]}</Mark>}
      title="Bench test"
    >
      {gate === "passedOver" && <p className="text-quiet">{reason}</p>}
      {gate === "open" && !asked && (
        <p className="text-quiet">
          Everything loosely connected and tried in Prove before a panel goes back.{" "}
          <button
            type="button"
            className="min-h-11 underline underline-offset-4"
            disabled={readOnly}
            onClick={() => setAsked(true)}
          >
            Pass it over on purpose
          </button>
        </p>
      )}
      {asked && (
        <form onSubmit={pass} className="mt-2 flex flex-wrap items-end gap-3">
          <div className="min-w-64 flex-1">
            <Field
              label="Why close without the test?"
              hint="Stands in the record with your name and on the certificate."
            >
              {(ids) => <input {...ids} name="reason" required minLength={3} maxLength={500} className="field mt-1" />}
            </Field>
          </div>
          <Button type="submit" disabled={busy}>
            Close without the test
          </Button>
        </form>
      )}
    </Focus>
  );
}
