import { Check, CircleSlash, Play } from "lucide";
import { type ReactNode, useState } from "react";
import { useSeconds } from "~/app/lib/use-seconds";
import type { Stop } from "~/core/job/guards/guard";
import type { configureView } from "~/core/views/configure";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { EntryButton, useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";
import { StopNote } from "../stop-note";

type Firmware = NonNullable<ReturnType<typeof configureView>["firmware"]>;

/** An update of the radio's firmware: supply first, then the start, then how it ended. */
export function FirmwareFocus(props: Firmware & { writing: Stop | null; after: string | undefined }) {
  const { present, running, interrupted, step, left, after } = props;
  if (running)
    return (
      <Focus
        kicker="Firmware"
        marks={<Mark tone="watch">Running</Mark>}
        title={`Update ${running.from} → ${running.to}`}
        actions={
          <>
            <EntryButton look="next" body={{ kind: "configure.firmware", data: { state: "done" } }} shortcut="Space">
              <Icon of={Check} size={18} /> The version screen says {running.to}
            </EntryButton>
            <EntryButton body={{ kind: "configure.firmware", data: { state: "interrupted" } }}>
              <Icon of={CircleSlash} size={18} /> It broke off
            </EntryButton>
          </>
        }
      >
        <Elapsed since={running.at} />
        <p className="text-watch">
          Leave maintainer, ignition and medium as they are. Never unplug or switch off while it writes.
        </p>
      </Focus>
    );
  if (interrupted)
    return (
      <Focus
        kicker="Firmware"
        marks={<Mark tone="stop">Interrupted</Mark>}
        title="Which version the radio has is not known"
        after={after}
        actions={<Start atLeast={props.atLeastVolts}>Start it again</Start>}
      >
        <Notice tone="stop" title={`The update ${interrupted.from} → ${interrupted.to} broke off.`}>
          <ol className="list-decimal pl-5">
            <li>Leave the medium in and the maintainer on. Do not disconnect the battery.</li>
            <li>Ignition off for one minute, then on. Many radios go on by themselves: wait for it.</li>
            <li>If it goes on, or starts anew, say so here as a start with its supply.</li>
            <li>If it starts in the old version, note the version screen in Intake; then it counts.</li>
            <li>If the screen stays dark, it is for the maker's own tool. Do not try other media.</li>
          </ol>
        </Notice>
      </Focus>
    );
  if (!step)
    return (
      <Focus
        kicker="Firmware"
        marks={<Mark tone="good">As the kit needs it</Mark>}
        title={`Firmware ${present}`}
        after={after}
      >
        <p>Nothing is to be updated.</p>
      </Focus>
    );
  return (
    <Focus
      kicker={`Firmware ${present}${left > 1 ? `, ${left} updates to go` : ""}`}
      title={`Update to ${step.to}`}
      after={after}
      actions={<Start atLeast={props.atLeastVolts}>Start the update</Start>}
    >
      {props.writing && <StopNote stop={props.writing} />}
      <p>
        {step.medium}, <span className="num">{step.minutes} min</span>.
      </p>
      {step.effects.length > 0 && (
        <Notice tone="watch" title="What else it changes">
          <ul>
            {step.effects.map((e) => (
              <li key={e}>{e}</li>
            ))}
          </ul>
        </Notice>
      )}
      <p className="text-watch">
        Battery maintainer on, consumers off, ignition as the maker says. A radio that loses its supply can be lost.
      </p>
    </Focus>
  );
}

/** The supply is measured before anything starts; below the limit it is refused. */
function Start({ atLeast, children }: { atLeast: number; children: ReactNode }) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const [volts, setVolts] = useState("");
  const value = Number(volts.replace(",", "."));
  const given = volts.trim() !== "" && Number.isFinite(value);
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        append({ kind: "configure.firmware", data: { state: "started", volts: value } });
      }}
    >
      <Field label="Supply at the battery, V" hint={`with the maintainer on, ${atLeast} V or more`}>
        {(ids) => (
          <input
            {...ids}
            className="field num mt-1 w-32"
            inputMode="decimal"
            value={volts}
            onChange={(e) => setVolts(e.target.value)}
          />
        )}
      </Field>
      <Button type="submit" look="next" disabled={!given || busy || readOnly}>
        <Icon of={Play} size={18} /> {children}
      </Button>
    </form>
  );
}

function Elapsed({ since }: { since: string }) {
  const passed = useSeconds(since);
  const s = passed === null ? null : Math.floor(passed);
  return (
    <p className="num text-3xl" role="timer">
      {s === null ? "" : `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`}
    </p>
  );
}
