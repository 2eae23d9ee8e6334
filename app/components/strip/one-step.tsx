import { PencilLine } from "lucide";
import { useMemo, useState } from "react";
import { Button } from "~/app/components/controls";
import { HandsFrame } from "~/app/components/hands/frame";
import { later } from "~/app/lib/later";
import { useStop } from "~/app/lib/use-hands";
import type { Command } from "~/core/log/entry";
import type { StripJournal } from "~/core/log/strip-journal";
import type { StripStep } from "~/core/model/profile";
import { backPoints } from "~/core/strip/back-points";
import type { Task } from "~/core/strip/route";
import type { StripView } from "~/core/strip/view";
import { Icon } from "../icon";
import { StopWords } from "../stop-words";
import { Count } from "./count";
import type { Send } from "./differs";
import { PanelDrawing } from "./panel-drawing";
import { StepFacts } from "./step-facts";

/** Few steps have any. */
const StepNotes = later(async () => (await import("./step-notes")).StepNotes, null);
const DiffersDialog = later(async () => (await import("./differs")).DiffersDialog, null);

/** A step as it stands in the order of the moment. */
export interface Shown {
  task: Task;
  direction: "in" | "back";
  locked: boolean;
}

interface OneStepProps {
  shown: Shown;
  view: StripView;
  number: number;
  whole: number;
  after: Task | null;
  peeking: boolean;
  job: string;
  /** Version of the job on which the guards are asked, and the moment: a waiting time ends by itself. */
  kept: number;
  now: string;
  readOnly: boolean;
  journal: StripJournal;
  send: Send & ((body: Command, photo?: Blob) => void);
  onDone(): void;
  move(by: number): void;
  /** Minutes since the last tick or since the page was opened. */
  sinceMin: number;
}

/** One step, large: what to do, what to mind, what to count. */
export function OneStep(p: OneStepProps) {
  const { task, direction, locked } = p.shown;
  const [differs, setDiffers] = useState(false);
  const step = useStep(p);
  const { last } = p.view;
  return (
    <>
      <HandsFrame
        head={<Head {...p} />}
        title={task.title}
        picture={task.step && <PanelDrawing step={task.step} className="mt-4 text-base lg:mt-0" />}
        then={p.after ? <Then task={p.after} tool={task.tool} /> : "The last one here."}
        undo={
          last && !p.readOnly
            ? { title: last.title, act: () => p.send({ kind: "undo", data: { entry: last.entry } }) }
            : null
        }
        done={{
          label: step.label,
          look: step.stop?.answer === "refused" ? "plain" : "next",
          disabled: p.readOnly || locked || step.stop === undefined,
          act: step.done,
        }}
        more={
          <Button
            className="min-h-20! flex-col gap-0! px-2! sm:flex-row sm:gap-2! sm:px-6! sm:text-lg"
            disabled={p.readOnly}
            onClick={() => setDiffers(true)}
          >
            <Icon of={PencilLine} size={24} /> Differs
          </Button>
        }
        move={p.move}
        paused={differs}
      >
        <What task={task} direction={direction} />
        <Mind {...p} {...step} />
        {p.journal.notes.some((n) => n.step === task.id) && (
          <div className="text-lg">
            <StepNotes notes={p.journal.notes.filter((n) => n.step === task.id)} />
          </div>
        )}
        <Counts {...p} {...step} />
      </HandsFrame>
      {differs && <DiffersDialog task={task} onClose={() => setDiffers(false)} send={p.send} />}
    </>
  );
}

/** Two taps within so long are one, whatever is shown by then. */
const ONE_TAP_MS = 1000;
let lastTapMs = Number.NEGATIVE_INFINITY;

/** What the person has said of the step so far, what stands against its tick, and what ticking it sends. */
function useStep({
  shown: { task, direction, locked },
  journal,
  job,
  kept,
  now,
  readOnly,
  send,
  onDone,
}: OneStepProps) {
  const [asked, setAsked] = useState(false);
  const [counted, setCounted] = useState<Record<number, number>>({});
  const tick: Command = { kind: "strip.step", data: { step: task.id, direction } };
  const since = useMemo(() => ({ journal, kept, now }), [journal, kept, now]);
  const stop = useStop(job, tick, since);
  const done = () => {
    if (readOnly || locked || stop === undefined) return;
    if (stop && stop.answer !== "asks") return setAsked(true);
    // A second tap is the same tap, also where the next step has come under the finger.
    if (performance.now() - lastTapMs < ONE_TAP_MS) return;
    lastTapMs = performance.now();
    for (const first of stop?.first ?? []) send(first);
    const counting = direction === "in" ? ("out" as const) : ("in" as const);
    for (const [group, count] of Object.entries(counted))
      send({ kind: "strip.count", data: { step: task.id, group: Number(group), direction: counting, count } });
    send(tick);
    onDone();
  };
  const label = stop?.answer === "asks" ? `${stop.say}: done` : stop ? "Not yet" : "Done";
  return { asked, counted, setCounted, stop, label, done };
}

type StepState = ReturnType<typeof useStep>;

function Head({ number, whole, peeking, sinceMin, shown: { task, direction } }: OneStepProps) {
  return (
    <>
      <span className="num">
        {number} of {whole}
      </span>
      {direction === "back" ? "on the way back" : task.kind === "prepStep" ? "car" : "on the way in"}
      {task.tool && <span className="font-medium text-ink">{task.tool}</span>}
      <span>{timeWord(task, sinceMin)}</span>
      {peeking && <span>looked at, not the next one</span>}
    </>
  );
}

/** “2 min on it, usually 4”. */
function timeWord({ minutes }: Task, sinceMin: number): string {
  const likely = `usually ${Math.round(minutes.likely * 2) / 2} min`;
  return sinceMin < 1 ? likely : `${Math.floor(sinceMin)} min on it, ${likely}`;
}

function Then({ task, tool }: { task: Task; tool: string | undefined }) {
  return (
    <>
      Then: {task.title}
      {task.tool && task.tool !== tool && <span className="font-medium text-ink"> · take the {task.tool}</span>}
    </>
  );
}

function What({ task, direction }: { task: Task; direction: "in" | "back" }) {
  return (
    <>
      <div className="mt-2 text-xl">
        <p>{task.detail}</p>
        {direction === "back" && task.step ? (
          <BackPoints step={task.step} />
        ) : (
          task.step && <StepFacts step={{ ...task.step, fasteners: [] }} direction={direction} />
        )}
      </div>
      {direction === "in" && task.caution && (
        <p className="mt-3 border-l-4 border-watch pl-3 text-xl text-watch">{task.caution}</p>
      )}
    </>
  );
}

function BackPoints({ step }: { step: StripStep }) {
  return (
    <ul className="mt-1 space-y-1">
      {backPoints({ ...step, fasteners: [] }).map((text) => (
        <li key={text}>{text}</li>
      ))}
    </ul>
  );
}

/** What stands against the tick, what is still before it, and the gate of the bench test. */
function Mind({ shown: { task, locked }, view, stop, asked, send, journal }: OneStepProps & StepState) {
  const missing = missingBefore(view, task);
  return (
    <div className="mt-2 text-lg" role={asked ? "alert" : undefined}>
      {stop && !locked && <StopWords stop={stop} />}
      {task.step?.lasting === "hole" && !journal.behind.has(task.id) && (
        <Button
          className="mt-2 min-h-16! text-lg"
          onClick={() => send({ kind: "strip.behind", data: { step: task.id } })}
        >
          Looked and felt behind: nothing there
        </Button>
      )}
      {missing.length > 0 && <p className="mt-2">Still before it: {missing.join(", ")}.</p>}
      {locked && <p className="mt-2">The bench test comes first. It is done in Prove.</p>}
    </div>
  );
}

/** Steps that must be off before this one and are not. */
function missingBefore(view: StripView, task: Task): string[] {
  const done = new Set(view.done.map((d) => d.id));
  const left = view.skipped.map((s) => s.id);
  if (view.left.every((t) => t.id !== task.id)) return [];
  return (task.step?.after ?? [])
    .filter((id) => !done.has(id) && !left.includes(id))
    .map((id) => view.route.plan.steps.find((s) => s.id === id)?.title ?? id);
}

/** The groups of fasteners, with what was counted out when they go in again. */
function Counts({ shown: { task, direction }, journal, counted, setCounted }: OneStepProps & StepState) {
  const fasteners = task.step?.fasteners ?? [];
  if (fasteners.length === 0) return null;
  return (
    <div className="mt-3 text-xl">
      {fasteners.map((f, group) => (
        <Count
          key={`${f.kind}-${f.tray}-${f.lengthMm}`}
          fastener={f}
          expected={direction === "in" ? f.count : (journal.counts.get(`${task.id}/${group}`)?.out ?? f.count)}
          value={counted[group]}
          direction={direction === "in" ? "out" : "in"}
          onChange={(count) => setCounted((c) => ({ ...c, [group]: count }))}
        />
      ))}
    </div>
  );
}
