import { Check, ChevronLeft, ChevronRight, PencilLine, RotateCcw } from "lucide-react";
import { type TouchEvent, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { Button, buttonLook } from "~/app/components/controls";
import { Count } from "~/app/components/strip/count";
import { DiffersDialog, type Send } from "~/app/components/strip/differs";
import { HandsBar, LeftByOthers, Refused } from "~/app/components/strip/hands-bar";
import { PanelDrawing } from "~/app/components/strip/panel-drawing";
import { StepFacts } from "~/app/components/strip/step-facts";
import { StepNotes } from "~/app/components/strip/step-notes";
import { ConfirmHazards, HazardList } from "~/app/components/strip/step-row";
import { useHands } from "~/app/lib/use-hands";
import { handsSnapshot } from "~/app/server/hands.server";
import { jobOf, jobOfRequest } from "~/app/server/jobs.server";
import { person, signedIn } from "~/app/server/session.server";
import type { Command } from "~/core/log/entry";
import type { StripJournal } from "~/core/log/strip-journal";
import type { StripStep } from "~/core/model/profile";
import type { Task } from "~/core/strip/route";
import { type StripView, taskHazards, taskOf } from "~/core/strip/view";
import { backPoints } from "~/core/strip/way-back";
import type { Route } from "./+types/hands";

export const middleware: Route.MiddlewareFunction[] = [signedIn, jobOfRequest];

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  return handsSnapshot(account, await jobOf(context).load());
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.job.number} step by step · Iteron` : "Iteron" },
];

/** The page lives on without the server; it asks by itself what is new. */
export const shouldRevalidate = () => false;

const SWIPE_PX = 60;

/** One step at a time, for one clean hand. */
export default function Hands({ loaderData }: Route.ComponentProps) {
  const { snapshot, journal, view, now, outbox } = useHands(loaderData);
  const list = useMemo(() => tasksOf(view), [view]);
  const [peeked, setPeeked] = useState<string | null>(null);
  const nextId = view.next?.task.id ?? null;
  const at = list.findIndex((t) => t.task.id === (peeked ?? nextId));
  const shown = list[at] ?? null;
  const move = useCallback(
    (by: number) => {
      const to = list[Math.min(Math.max(0, Math.max(0, at) + by), list.length - 1)];
      if (to) setPeeked(to.task.id === nextId ? null : to.task.id);
    },
    [list, at, nextId],
  );
  const swipe = useSwipe(move);
  const whole = view.ticks + list.length;
  const { last } = view;
  const loadedAt = useRef(loaderData.now);
  return (
    <div className="flex h-dvh flex-col bg-paper" {...swipe}>
      <HandsBar job={snapshot.job} outbox={outbox} car={view.car} done={view.ticks} whole={whole} />
      <LeftByOthers outbox={outbox} />
      <Refused
        outbox={outbox}
        hazardsOf={(body) => {
          if (body.kind !== "strip.step") return [];
          const task = taskOf(view, body.data.step, body.data.direction);
          return task ? stopIds(taskHazards(snapshot.input, view, task, now)) : [];
        }}
      />
      {shown ? (
        <OneStep
          key={`${shown.task.id}/${shown.direction}`}
          shown={shown}
          view={view}
          number={view.ticks + at + 1}
          whole={whole}
          after={list[at + 1]?.task ?? null}
          peeking={peeked !== null}
          hazards={taskHazards(snapshot.input, view, shown.task, now)}
          readOnly={snapshot.readOnly}
          counts={(step, group) => ({ out: countOf(step, group, "out"), in: countOf(step, group, "in") })}
          notes={journal.notes.filter((n) => n.step === shown.task.id)}
          send={outbox.add}
          last={snapshot.readOnly ? null : last}
          undo={() => last && outbox.add({ kind: "undo", data: { entry: last.entry } })}
          sinceMin={minutesBetween(last?.at, loadedAt.current, now)}
          onDone={() => setPeeked(null)}
          move={move}
        />
      ) : (
        <NothingHere view={view} job={snapshot.job.id} kitOpen={snapshot.input.bench.kitOpen} />
      )}
    </div>
  );

  function countOf(step: string, group: number, direction: "in" | "out"): number | undefined {
    return journal.counts.get(`${step}/${group}`)?.[direction];
  }
}

/** Minutes from the later of two moments to now. */
function minutesBetween(a: string | undefined, b: string, now: string): number {
  const from = a !== undefined && a > b ? a : b;
  return Math.max(0, (Date.parse(now) - Date.parse(from)) / 60_000);
}

interface Shown {
  task: Task;
  direction: "in" | "back";
  locked: boolean;
}

/** The way in while it lasts, then the way back; preparation steps are always done, never undone. */
function tasksOf(view: StripView): Shown[] {
  if (view.left.length > 0) return view.left.map((task) => ({ task, direction: "in", locked: false }));
  if (!view.next) return [];
  return view.back.map((task) => ({
    task,
    direction: task.prepStep ? "in" : "back",
    locked: task.behindGate && view.gate === "open",
  }));
}

function stopIds(hazards: { id: string; level: string }[]): string[] {
  return hazards.filter((h) => h.level === "stop").map((h) => h.id);
}

/** A swipe to the left shows the next step, to the right the one before. */
function useSwipe(move: (by: number) => void) {
  const from = useRef<{ x: number; y: number } | null>(null);
  return {
    onTouchStart: (e: TouchEvent) => {
      const t = e.changedTouches[0];
      from.current = t ? { x: t.clientX, y: t.clientY } : null;
    },
    onTouchEnd: (e: TouchEvent) => {
      const t = e.changedTouches[0];
      if (!t || !from.current) return;
      const dx = t.clientX - from.current.x;
      if (Math.abs(dx) > SWIPE_PX && Math.abs(dx) > 2 * Math.abs(t.clientY - from.current.y)) move(dx < 0 ? 1 : -1);
    },
  };
}

interface OneStepProps {
  shown: Shown;
  view: StripView;
  number: number;
  whole: number;
  after: Task | null;
  peeking: boolean;
  hazards: ReturnType<typeof taskHazards>;
  readOnly: boolean;
  counts(step: string, group: number): { out: number | undefined; in: number | undefined };
  notes: StripJournal["notes"];
  send: Send & ((body: Command, photo?: Blob) => void);
  onDone(): void;
  move(by: number): void;
  /** The tick before this one, if it can be taken back. */
  last: StripView["last"];
  undo(): void;
  /** Minutes since the last tick or since the page was opened. */
  sinceMin: number;
}

/** “2 min on it, usually 4”. */
function timeWord({ minutes }: Task, sinceMin: number): string {
  const usual = `usually ${Math.round(minutes.likely * 2) / 2} min`;
  return sinceMin < 1 ? usual : `${Math.floor(sinceMin)} min on it, ${usual}`;
}

function OneStep(p: OneStepProps) {
  const { task, direction, locked } = p.shown;
  const [sure, setSure] = useState(false);
  const [asked, setAsked] = useState(false);
  const [counted, setCounted] = useState<Record<number, number>>({});
  const [differs, setDiffers] = useState(false);
  const stops = stopIds(p.hazards);
  const blocked = stops.length > 0 && !sure;
  const missing = missingBefore(p.view, task);
  const pressed = useRef(false);
  const done = () => {
    if (p.readOnly || locked || pressed.current) return;
    if (blocked) return setAsked(true);
    // A second tap before the next step is drawn is the same tap.
    pressed.current = true;
    for (const [group, count] of Object.entries(counted))
      p.send({
        kind: "strip.count",
        data: { step: task.id, group: Number(group), direction: direction === "in" ? "out" : "in", count },
      });
    p.send({ kind: "strip.step", data: { step: task.id, direction, confirmed: sure ? stops : [] } });
    p.onDone();
  };
  useKeys({ done, move: p.move, paused: differs });
  const fasteners = task.step?.fasteners ?? [];
  return (
    <main id="content" className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto]">
      <div className="overflow-y-auto px-4 py-4 sm:px-8">
        <p className="flex flex-wrap items-baseline gap-x-3 text-lg text-quiet">
          <span className="num">
            {p.number} of {p.whole}
          </span>
          {direction === "back" ? "on the way back" : task.kind === "prepStep" ? "car" : "on the way in"}
          {task.tool && <span className="font-medium text-ink">{task.tool}</span>}
          <span>{timeWord(task, p.sinceMin)}</span>
          {p.peeking && <span>looked at, not the next one</span>}
        </p>
        <div className="mt-1 grid grid-cols-[minmax(0,1fr)] gap-x-10 lg:grid-cols-[minmax(0,1fr)_24rem]">
          <div>
            <h1 className="text-3xl! sm:text-4xl!">{task.title}</h1>
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
            <div className="mt-2 text-lg" role={asked ? "alert" : undefined}>
              {p.hazards.length > 0 && (
                <div className={`px-3 pb-2 ${stops.length > 0 ? "bg-stop-ground" : "bg-watch-ground"}`}>
                  <HazardList hazards={p.hazards} />
                  {stops.length > 0 && <ConfirmHazards sure={sure} onChange={setSure} />}
                </div>
              )}
              {missing.length > 0 && <p className="mt-2">Still before it: {missing.join(", ")}.</p>}
              {locked && <p className="mt-2">The bench test comes first. It is done in Prove.</p>}
            </div>
            <div className="text-lg">
              <StepNotes notes={p.notes} />
            </div>
            {fasteners.length > 0 && (
              <div className="mt-3 text-xl">
                {fasteners.map((f, group) => {
                  const out = p.counts(task.id, group).out ?? f.count;
                  return (
                    <Count
                      key={`${f.kind}-${f.tray}-${f.lengthMm}`}
                      fastener={f}
                      expected={direction === "in" ? f.count : out}
                      value={counted[group]}
                      direction={direction === "in" ? "out" : "in"}
                      onChange={(count) => setCounted((c) => ({ ...c, [group]: count }))}
                    />
                  );
                })}
              </div>
            )}
          </div>
          {task.step && <PanelDrawing step={task.step} className="mt-4 text-base lg:mt-0" />}
        </div>
      </div>
      <footer className="border-t border-rule bg-raised px-3 pt-2 pb-3 sm:px-8">
        <p className="mb-2 flex items-center gap-3 text-quiet">
          <span className="min-w-0 flex-1 truncate">
            {p.after ? (
              <>
                Then: {p.after.title}
                {p.after.tool && p.after.tool !== task.tool && (
                  <span className="font-medium text-ink"> · take the {p.after.tool}</span>
                )}
              </>
            ) : (
              "The last one here."
            )}
          </span>
          {p.last && (
            <Button
              look="quiet"
              className="shrink-0 px-0!"
              aria-label={`Undo the tick: ${p.last.title}`}
              onClick={p.undo}
            >
              <RotateCcw size={18} aria-hidden="true" /> Undo<span className="hidden sm:inline"> “{p.last.title}”</span>
            </Button>
          )}
        </p>
        <div className="flex gap-2">
          <Button aria-label="Step before" className="min-h-20! px-2! sm:px-4!" onClick={() => p.move(-1)}>
            <ChevronLeft size={28} aria-hidden="true" />
          </Button>
          <Button
            look={blocked ? "plain" : "next"}
            className="min-h-20! min-w-0 flex-1 px-2! text-xl sm:text-2xl"
            disabled={p.readOnly || locked}
            onClick={done}
            aria-keyshortcuts="Space"
          >
            <Check size={32} aria-hidden="true" /> {blocked ? "Make sure first" : "Done"}
          </Button>
          <Button
            className="min-h-20! flex-col gap-0! px-2! sm:flex-row sm:gap-2! sm:px-6! sm:text-lg"
            disabled={p.readOnly}
            onClick={() => setDiffers(true)}
          >
            <PencilLine size={24} aria-hidden="true" /> Differs
          </Button>
          <Button aria-label="Step after" className="min-h-20! px-2! sm:px-4!" onClick={() => p.move(1)}>
            <ChevronRight size={28} aria-hidden="true" />
          </Button>
        </div>
      </footer>
      <DiffersDialog task={differs ? task : null} onClose={() => setDiffers(false)} send={p.send} />
    </main>
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

/** Steps that must be off before this one and are not. */
function missingBefore(view: StripView, task: Task): string[] {
  const done = new Set(view.done.map((d) => d.id));
  const left = view.skipped.map((s) => s.id);
  if (view.left.every((t) => t.id !== task.id)) return [];
  return (task.step?.after ?? [])
    .filter((id) => !done.has(id) && !left.includes(id))
    .map((id) => view.route.plan.steps.find((s) => s.id === id)?.title ?? id);
}

/** Space ticks, the arrows look around, unless somebody types. */
function useKeys({ done, move, paused }: { done(): void; move(by: number): void; paused: boolean }) {
  const act = useRef({ done, move });
  act.current = { done, move };
  useEffect(() => {
    if (paused) return;
    const onKey = (e: KeyboardEvent) => {
      if (e.repeat || (e.target as HTMLElement).closest("input, textarea, select, button, a, summary")) return;
      if (e.key === " ") act.current.done();
      else if (e.key === "ArrowRight") act.current.move(1);
      else if (e.key === "ArrowLeft") act.current.move(-1);
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [paused]);
}

/** Nothing to do here now: what comes, and where. */
function NothingHere({ view, job, kitOpen }: { view: StripView; job: string; kitOpen: number }) {
  const home = view.back.length === 0;
  const [title, say, to, word] = home
    ? view.done.length === 0
      ? [
          "Nothing has to come off",
          "Choose the kit first; its plugs and places are reached from here.",
          "fit",
          "To Fit",
        ]
      : ["Everything is back in place", "Show the customer, then close the job.", "handover", "To Hand over"]
    : kitOpen > 0
      ? ["Everything is reached", `${kitOpen} connections of the kit are next.`, "connect", "To Connect"]
      : ["The bench test comes first", "Nothing goes back before everything was tried.", "prove", "To Prove"];
  return (
    <main id="content" className="grid flex-1 place-content-center gap-4 px-6 text-center">
      <h1 className="text-3xl! sm:text-4xl!">{title}</h1>
      <p className="text-xl text-quiet">{say}</p>
      <p>
        <Link to={`/jobs/${job}/${to}`} className={`${buttonLook("next")} min-h-16! px-8! text-xl`}>
          {word}
        </Link>
      </p>
    </main>
  );
}
