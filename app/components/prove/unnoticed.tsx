import { Check, CircleAlert } from "lucide";
import { useDiagnosis } from "~/app/lib/use-diagnosis";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { EntryButton, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Notice } from "../marks";
import { MeterValue } from "./meter-value";

type View = Pick<ReturnType<typeof proveView>, "plan" | "evidence">;

/** Mistakes of the work that no test would show: looked at before the panels go back. */
export function Unnoticed({ plan, evidence }: View) {
  const { job } = useJob();
  const state = useDiagnosis(job.id, plan, evidence, true);
  if (state.kind === "failed") return <Notice tone="stop" title={state.message} />;
  const kicker = "Before the panels go back";
  if (state.kind !== "ready")
    return (
      <Focus kicker={kicker} title="What no test shows">
        <p aria-live="polite">Simulating ...</p>
        <progress className="mt-2 w-full" value={state.kind === "working" ? state.share : 0} max={1} />
      </Focus>
    );
  const { unnoticed } = state.diagnosis;
  const looked = new Map(evidence.looks);
  const open = unnoticed.filter((u) => !looked.has(u.id)).length;
  const title =
    unnoticed.length === 0
      ? "Every mistake of the work would be noticed"
      : open === 0
        ? "Everything that no test shows was looked at"
        : `${open} ${open === 1 ? "place" : "places"} to look at: no test would show it`;
  return (
    <Focus kicker={kicker} title={title}>
      <ul>
        {unnoticed.map((u) => (
          <li key={u.id} className="border-b border-rule py-2.5">
            <p className="flex items-center gap-2 font-medium">
              {looked.has(u.id) ? (
                <Icon of={Check} size={18} className="shrink-0 text-good" label="looked at" />
              ) : (
                <Icon of={CircleAlert} size={18} className="shrink-0 text-watch" label="not looked at" />
              )}
              {u.title} <span className="num font-normal whitespace-nowrap text-quiet">{u.minutes.toFixed(1)} min</span>
            </p>
            <p className="text-sm text-quiet">Nobody would notice: {u.causes.join("; ")}.</p>
            {u.window && <MeterValue look={{ ...u, window: u.window }} />}
            <div className="mt-2 flex flex-wrap gap-2">
              {u.answers.toReversed().map((a) => (
                <EntryButton
                  key={a.id}
                  body={{ kind: "prove.check", data: { check: u.id, answer: a.id } }}
                  pressed={looked.get(u.id) === a.id}
                  label={`${u.title}: ${a.label}`}
                >
                  {a.label}
                </EntryButton>
              ))}
            </div>
          </li>
        ))}
      </ul>
    </Focus>
  );
}
