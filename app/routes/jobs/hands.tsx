import { useCallback, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { buttonLook } from "~/app/components/controls";
import { useSwipe } from "~/app/components/hands/frame";
import { HandsBar } from "~/app/components/strip/hands-bar";
import { OneStep, type Shown } from "~/app/components/strip/one-step";
import { later } from "~/app/lib/later";
import { keptJobs, useHands } from "~/app/lib/use-hands";
import { handsOf } from "~/app/server/hands.server";
import { jobOf, jobOfRequest } from "~/app/server/jobs.server";
import { person, signedIn } from "~/app/server/session.server";
import type { HandsSnapshot } from "~/core/offline/snapshot";
import type { StripView } from "~/core/strip/view";
import type { Route } from "./+types/hands";

/** Shown when something waits for a person. */
const LeftByOthers = later(async () => (await import("~/app/components/strip/hands-left")).LeftByOthers, null);
const Refused = later(async () => (await import("~/app/components/strip/hands-left")).Refused, null);

export const middleware: Route.MiddlewareFunction[] = [signedIn, jobOfRequest];

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  return handsOf(account, await jobOf(context).load());
}

export async function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  const { handsHere, orKept } = await keptJobs();
  return orKept<HandsSnapshot>(params.job, serverLoader, handsHere);
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.job.number} step by step · Iteron` : "Iteron" },
];

/** The page lives on without the server; it asks by itself what is new. */
export const shouldRevalidate = () => false;

/** One step at a time, for one clean hand. */
export default function Hands({ loaderData }: Route.ComponentProps) {
  const { snapshot, journal, view, now, outbox, kept } = useHands(loaderData);
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
      <HandsBar job={snapshot.job} outbox={outbox} view={view} whole={whole} />
      <LeftByOthers outbox={outbox} />
      <Refused outbox={outbox} />
      {shown ? (
        <OneStep
          key={`${shown.task.id}/${shown.direction}`}
          shown={shown}
          view={view}
          number={view.ticks + at + 1}
          whole={whole}
          after={list[at + 1]?.task ?? null}
          peeking={peeked !== null}
          job={snapshot.job.id}
          kept={kept}
          now={now}
          readOnly={snapshot.readOnly}
          journal={journal}
          send={outbox.add}
          sinceMin={minutesBetween(last?.at, loadedAt.current, now)}
          onDone={() => setPeeked(null)}
          move={move}
        />
      ) : (
        <NothingHere view={view} job={snapshot.job.id} kitOpen={snapshot.input.bench.kitOpen} />
      )}
    </div>
  );
}

/** Minutes from the later of two moments to now. */
function minutesBetween(a: string | undefined, b: string, now: string): number {
  const from = a !== undefined && a > b ? a : b;
  return Math.max(0, (Date.parse(now) - Date.parse(from)) / 60_000);
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
