import { Check } from "lucide-react";
import { useEffect, useRef } from "react";
import { NavLink, Outlet, useLocation } from "react-router";
import { Notice } from "~/app/components/marks";
import { NextBar } from "~/app/components/next-bar";
import { STAGE_NAMES } from "~/app/components/stage-line";
import { StateStrip } from "~/app/components/state-strip";
import { useJobUpdates } from "~/app/lib/use-job-updates";
import { jobOf, overview } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { STAGES, type Stage } from "~/core/log/stages";
import type { Route } from "./+types/layout";

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  return overview(person(context), await source.load(), source.now);
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.job.number} ${loaderData.job.title} · Iteron` : "Iteron" },
];

export default function JobLayout({ loaderData }: Route.ComponentProps) {
  const { job, documents, next, car, workMinutes } = loaderData;
  useJobUpdates(job.id, job.version);
  return (
    <div className="mx-auto max-w-[88rem] px-4 pb-24">
      <div className="flex flex-wrap items-baseline gap-x-3 pt-4">
        <span className="num text-quiet">{job.number}</span>
        <h1>{job.title}</h1>
        <p className="basis-full text-sm text-quiet">
          {documents.car} · {documents.variant} · {documents.kit}
          {job.importedBy !== null && ` · imported by ${job.importedBy}`}
        </p>
      </div>
      <StateStrip car={car} workMinutes={workMinutes} />
      <div className="grid gap-x-8 lg:grid-cols-[9.5rem_minmax(0,1fr)]">
        <StageRail next={next.reached ?? next.stage} job={job.id} closed={job.closed} />
        <div className="min-w-0">
          <NextBar next={next} job={job.id} />
          <main id="content">
            {!loaderData.kitChosen && <NoKitYet />}
            <Outlet context={{ kitChosen: loaderData.kitChosen } satisfies JobContext} />
          </main>
        </div>
      </div>
    </div>
  );
}

/** What every surface of the job may ask of the layout. */
export type JobContext = { kitChosen: boolean };

/** The surfaces after Fit work on the car as built until a kit is chosen. */
function NoKitYet() {
  const { pathname } = useLocation();
  if (/\/(intake|fit|bus)$/.test(pathname)) return null;
  return (
    <div className="mb-5">
      <Notice tone="watch" title="No kit is chosen yet">
        <p>What stands here is about the car as built. Choose the kit in Fit first.</p>
      </Notice>
    </div>
  );
}

/** The surfaces of a job as a line of stations: upright at the side, lying on a phone. */
function StageRail({ next, job, closed }: { next: Stage; job: string; closed: boolean }) {
  const reached = closed ? STAGES.length : STAGES.indexOf(next);
  const rail = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  // On a phone the rail is wider than the screen: bring the present stage into it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the path decides which link is the current one
  useEffect(() => {
    const link = rail.current?.querySelector<HTMLElement>("[aria-current=page]");
    if (rail.current && link)
      rail.current.scrollLeft = (link.parentElement?.offsetLeft ?? 0) - rail.current.clientWidth / 3;
  }, [pathname]);
  return (
    <nav ref={rail} aria-label="Stages of the job" className="scroll-x relative lg:pt-4">
      <ol className="flex lg:sticky lg:top-4 lg:block">
        {STAGES.map((stage, i) => (
          <li key={stage} className="relative">
            {i > 0 && (
              <span
                aria-hidden="true"
                className="absolute -left-3 top-1/2 h-px w-6 bg-strong lg:-top-3 lg:left-[9px] lg:h-6 lg:w-px"
              />
            )}
            <NavLink
              to={`/jobs/${job}/${stage}`}
              className={({ isActive }) =>
                `relative flex min-h-11 items-center gap-3 whitespace-nowrap px-4 lg:px-0 ${isActive ? "font-semibold" : "text-quiet"}`
              }
            >
              {({ isActive }) => (
                <>
                  <span
                    aria-hidden="true"
                    className={`hidden size-[19px] shrink-0 place-items-center rounded-full border-2 lg:grid ${stage === next ? "border-accent bg-accent" : i < reached ? "border-ink bg-ink text-paper" : "border-strong bg-paper"}`}
                  >
                    {i < reached && <Check size={13} strokeWidth={3} />}
                  </span>
                  <span className={isActive ? "border-b-2 border-ink" : "border-b-2 border-transparent"}>
                    {STAGE_NAMES[stage]}
                  </span>
                  {stage === next && <span className="sr-only">(next action here)</span>}
                </>
              )}
            </NavLink>
          </li>
        ))}
      </ol>
    </nav>
  );
}
