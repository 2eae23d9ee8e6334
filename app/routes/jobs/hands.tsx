import { useCallback, useRef } from "react";
import { Link } from "react-router";
import { buttonLook } from "~/app/components/controls";
import { HandsBar } from "~/app/components/hands/bar";
import { WrongClock } from "~/app/components/hands/clock";
import { UndoButton, useSwipe } from "~/app/components/hands/frame";
import { OneAct } from "~/app/components/hands/one-act";
import { later } from "~/app/lib/later";
import { type Hands as HandsState, keptJobs, useHands } from "~/app/lib/use-hands";
import { jobOf, jobOfRequest } from "~/app/server/jobs.server";
import { person, signedIn, WRITERS } from "~/app/server/session.server";
import { type HandsView, handsView } from "~/core/views/hands";
import type { Route } from "./+types/hands";

/** Shown when something waits for a person. */
const LeftByOthers = later(async () => (await import("~/app/components/hands/left")).LeftByOthers, null);
const Refused = later(async () => (await import("~/app/components/hands/left")).Refused, null);

export const middleware: Route.MiddlewareFunction[] = [signedIn, jobOfRequest];

export async function loader({ context }: Route.LoaderArgs): Promise<HandsView> {
  const { name, role } = person(context);
  const source = jobOf(context);
  const { row, job } = await source.load();
  return handsView(job, row, { name, readOnly: !WRITERS.includes(role) }, source.now);
}

export async function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  const { handsOf, orKept } = await keptJobs();
  return orKept<HandsView>(params.job, serverLoader, handsOf);
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.job.number} step by step · Iteron` : "Iteron" },
];

/** The page lives on without the server; it asks by itself what is new. */
export const shouldRevalidate = () => false;

/** One thing at a time, from the first cover to the last test, for one clean hand. */
export default function Hands({ loaderData }: Route.ComponentProps) {
  const hands = useHands(loaderData);
  const { view, look } = hands;
  const { order, at, last, now } = view;
  const move = useCallback(
    (by: number) => {
      const to = Math.min(Math.max(0, at + by), order.length - 1);
      look(to === 0 ? null : (order[to]?.key ?? null));
    },
    [order, at, look],
  );
  const swipe = useSwipe(move);
  const loadedAt = useRef(loaderData.now);
  return (
    <div className="flex h-dvh flex-col bg-paper" {...swipe}>
      <HandsBar view={view} outbox={hands.outbox} />
      <WrongClock />
      <LeftByOthers outbox={hands.outbox} />
      <Refused outbox={hands.outbox} />
      {view.act ? (
        <OneAct
          key={view.act.key}
          act={view.act}
          hands={hands}
          move={move}
          sinceMin={minutesBetween(last?.at, loadedAt.current, now)}
        />
      ) : (
        <NothingHere hands={hands} />
      )}
    </div>
  );
}

/** Minutes from the later of two moments to now. */
function minutesBetween(a: string | undefined, b: string, now: string): number {
  const from = a !== undefined && a > b ? a : b;
  return Math.max(0, (Date.parse(now) - Date.parse(from)) / 60_000);
}

/** Nothing is left for the hands: what comes, and where. */
function NothingHere({ hands: { view, undo } }: { hands: HandsState }) {
  const { next, job } = view;
  return (
    <main id="content" className="grid flex-1 place-content-center gap-4 px-6 text-center">
      <h1 className="text-3xl! sm:text-4xl!">Nothing left at the car</h1>
      <p className="text-xl text-quiet">{next.why}</p>
      <p>
        <Link to={`/jobs/${job.id}/${next.stage}#do`} className={`${buttonLook("next")} min-h-16! px-8! text-xl`}>
          {next.action}
        </Link>
      </p>
      {undo && <UndoButton undo={undo} />}
    </main>
  );
}
