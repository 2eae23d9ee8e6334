import { Eye, Plug, Power, Unplug } from "lucide";
import { type ReactNode, useState } from "react";
import { toast } from "sonner";
import { useSeconds } from "~/app/lib/use-seconds";
import type { PlugEvent, PlugPhase } from "~/core/configure/programming-plug";
import type { Stop } from "~/core/job/guards/guard";
import type { configureView } from "~/core/views/configure";
import { type PlugFault, plugSeen } from "~/sim/programming-plug";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton, useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";
import { StopNote } from "../stop-note";

type PlugView = NonNullable<ReturnType<typeof configureView>["plug"]>;

/** The programming plug, one thing after the other, with its clock; every deviation says what to do. */
export function PlugFocus({
  view,
  writing,
  after,
}: {
  view: PlugView;
  /** What speaks against writing to the car now. */
  writing: Stop | null;
  after: string | undefined;
}) {
  const { plug, state, choices } = view;
  const { job } = useJob();
  const passed = useSeconds(state.since);
  const [likely, ...others] = choices;
  return (
    <Focus
      kicker="Programming plug"
      marks={<PhaseMark phase={state.phase} />}
      title={titleOf(view)}
      after={after}
      actions={
        <>
          {likely && <EventButton event={likely} view={view} look="next" disabled={waits(view, likely, passed)} />}
          {others.map((e) => (
            <EventButton key={e} event={e} view={view} look="plain" disabled={waits(view, e, passed)} />
          ))}
          {job.practice && state.inSocket && <LookAtIt view={view} />}
        </>
      }
    >
      {state.phase === "waiting" && writing && <StopNote stop={writing} />}
      <Clock view={view} passed={passed} />
      <Advice phase={state.phase} />
      {state.inSocket && state.phase !== "finished" && (
        <p className="text-watch">Never pull it out while it writes; never leave it in the car. Maintainer on.</p>
      )}
      {state.phase === "writing" && passed !== null && passed > plug.writesS.max && (
        <Notice tone="watch" title="It takes longer than usual.">
          <p>Leave it in. Only when nothing has changed for ten more minutes, ask the maker of the plug.</p>
        </Notice>
      )}
    </Focus>
  );
}

function titleOf({ plug, state }: PlugView): string {
  const titles: Record<PlugPhase, string> = {
    start: "Ignition on, engine off, maintainer on",
    waiting: `Wait ${plug.waitS.min} to ${plug.waitS.max} s, then plug it into the diagnostic socket`,
    in: "Look at its lamp",
    dark: "The lamp stays dark",
    writing: `It writes: the lamp ${plug.writing}`,
    finished: `The lamp is ${plug.finished}: take it out`,
    refused: "It refuses",
    tooEarly: "Taken out too early",
    resting: `Everything off for ${plug.restS} s`,
    done: "The car knows the new module",
  };
  return titles[state.phase];
}

function EventButton({
  event,
  view,
  look,
  disabled,
}: {
  event: PlugEvent;
  view: PlugView;
  look: "next" | "plain";
  disabled: boolean;
}) {
  const { plug } = view;
  const words: Record<PlugEvent, { say: string; icon: ReactNode }> = {
    ignition: {
      say: view.state.done ? "Do it again: ignition is on" : "Ignition is on",
      icon: <Icon of={Power} size={18} />,
    },
    pluggedIn: { say: "Plugged in", icon: <Icon of={Plug} size={18} /> },
    dark: { say: "The lamp stays dark", icon: null },
    writing: { say: `The lamp ${plug.writing}`, icon: null },
    finished: { say: `The lamp is ${plug.finished}`, icon: null },
    refused: { say: plug.refused ? `The lamp is ${plug.refused}` : "It refuses", icon: null },
    pulledOut: { say: "Taken out", icon: <Icon of={Unplug} size={18} /> },
    rested: { say: "Off and on again", icon: <Icon of={Power} size={18} /> },
  };
  return (
    <EntryButton
      look={look}
      disabled={disabled}
      body={{ kind: "configure.plug", data: { event } }}
      shortcut={look === "next" ? "Space" : undefined}
    >
      {words[event].icon} {words[event].say}
    </EntryButton>
  );
}

/** Too soon to press; the server decides it by its own clock. */
function waits({ plug, state }: PlugView, event: PlugEvent, passed: number | null): boolean {
  if (passed === null) return false;
  if (event === "pluggedIn") return state.phase === "waiting" && passed < plug.waitS.min;
  return event === "rested" && passed < plug.restS;
}

function PhaseMark({ phase }: { phase: PlugPhase }) {
  if (phase === "done") return <Mark tone="good">Made</Mark>;
  if (phase === "tooEarly" || phase === "refused" || phase === "dark") return <Mark tone="stop">Not as it should</Mark>;
  return phase === "start" ? null : <Mark tone="watch">Under way</Mark>;
}

/** What runs, large enough for an arm's length. */
function Clock({ view: { plug, state }, passed }: { view: PlugView; passed: number | null }) {
  const down = state.phase === "waiting" ? plug.waitS.min : state.phase === "resting" ? plug.restS : null;
  if (passed === null || !["waiting", "in", "writing", "resting"].includes(state.phase)) return null;
  const shown = down === null ? passed : Math.max(0, Math.ceil(down - passed));
  return (
    <p className="num text-4xl" role="timer">
      {Math.floor(shown)} s
    </p>
  );
}

function Advice({ phase }: { phase: PlugPhase }) {
  const list = ADVICE[phase];
  if (!list) return null;
  return (
    <Notice tone="stop" title={list.title}>
      <ol className="list-decimal pl-5">
        {list.steps.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ol>
    </Notice>
  );
}

const ADVICE: Partial<Record<PlugPhase, { title: string; steps: string[] }>> = {
  dark: {
    title: "It has no supply or no car to talk to.",
    steps: [
      "Is the ignition really on, and the plug pushed home?",
      "Measure the permanent feed of the diagnostic socket; its fuse often feeds the lighter socket, too.",
      "Still dark: take it out and begin again.",
    ],
  },
  refused: {
    title: "Plug or module belong to another car, or it was used up.",
    steps: [
      "Take it out; nothing was written.",
      "Compare the order with the identification number of this car.",
      "Ask the supplier for the right plug. Do not try it on another car.",
    ],
  },
  tooEarly: {
    title: "The car may know half of it.",
    steps: [
      "Ignition off for one minute, maintainer stays on.",
      "Begin again: most plugs go on where they were.",
      "Screen dark or module silent after that: for the maker's own tool.",
    ],
  },
};

/** Practice: what the stand-in's plug shows at this moment. */
function LookAtIt({ view }: { view: PlugView }) {
  const { append, busy } = useAppend();
  const [fault, setFault] = useState<PlugFault | "">("");
  return (
    <span className="flex flex-wrap items-center gap-2">
      <Button
        disabled={busy}
        onClick={() => {
          const event = plugSeen(view.plug, view.state, fault || null, new Date().toISOString());
          if (event) append({ kind: "configure.plug", data: { event } });
          else toast("The lamp of the stand-in plug shows nothing new. Wait a moment, then look again.");
        }}
      >
        <Icon of={Eye} size={18} /> Look at the stand-in plug
      </Button>
      <select
        aria-label="What is wrong with the stand-in plug"
        className="field w-auto"
        value={fault}
        onChange={(e) => setFault(e.target.value as PlugFault | "")}
      >
        <option value="">it works</option>
        <option value="dead">it stays dark</option>
        <option value="otherCar">it is for another car</option>
      </select>
    </span>
  );
}
