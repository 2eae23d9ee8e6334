import { ArrowRight, Check, ChevronDown } from "lucide";
import { Link, useLocation } from "react-router";
import type { Other } from "~/app/lib/job-version";
import type { JobOverview } from "~/app/server/jobs.server";
import type { NextAction } from "~/core/job/order/order";
import { STAGES, type Stage } from "~/core/log/stages";
import { Icon } from "../icon";
import { Mark } from "../marks";
import { TopButtons } from "../top";
import { Sign } from "../wordmark";
import { CarState } from "./car-state";
import { STAGE_NAMES } from "./stage-line";

/** Job, stages, state of the car and the next action in one bar that never leaves the screen. */
export function JobHeader({ overview, others }: { overview: JobOverview; others: readonly Other[] }) {
  const { job, documents, next, stages, car, workMinutes } = overview;
  return (
    <header className="sticky top-0 z-20 border-b border-rule bg-paper">
      <div className="flex h-[46px] items-center gap-x-3 border-b border-rule pr-1 pl-3">
        <Link to="/board" aria-label="Board" className="grid size-11 shrink-0 place-items-center">
          <Sign />
        </Link>
        <div className="min-w-0 flex-1 xl:max-w-64">
          <h1
            className="truncate text-base! leading-tight!"
            title={[
              job.title,
              documents.car,
              documents.variant,
              documents.kit,
              ...(job.importedBy === null ? [] : [`imported by ${job.importedBy}`]),
            ].join(" · ")}
          >
            <span className="num mr-2 font-normal text-quiet max-sm:hidden">{job.number}</span>
            {job.title}
          </h1>
          {/* On a phone the title needs the whole line. */}
          <p className="truncate text-[0.8rem] leading-tight text-quiet sm:hidden">
            Job <span className="num">{job.number}</span>
            {job.practice && <span className="font-semibold text-watch"> · Practice</span>}
          </p>
        </div>
        {job.practice && (
          <span className="max-sm:hidden">
            <Mark tone="watch">Practice</Mark>
          </span>
        )}
        <Stages next={next.stage} left={stages} job={job.id} closed={job.closed} />
        <div className="ml-auto flex shrink-0 items-center">
          <Others others={others} />
          <TopButtons />
        </div>
      </div>
      <div className="flex h-[53px] items-center gap-x-2 pr-2 pl-2 sm:gap-x-4 sm:pl-3">
        <StagesButton />
        <CarState car={car} workMinutes={workMinutes} />
        <Next next={next} job={job.id} />
      </div>
    </header>
  );
}

/** Who else has the job open, and where. */
function Others({ others }: { others: readonly Other[] }) {
  return (
    <ul aria-label="Also here" aria-live="polite" className="flex gap-1">
      {others.slice(0, MAX_OTHERS).map(({ name, surface }) => {
        const where = STAGES.find((s) => s === surface);
        const words = `${name} is here, in ${where ? STAGE_NAMES[where] : surface}`;
        return (
          <li key={words} title={words} className="rounded-[3px] border border-strong px-1.5 text-sm leading-6">
            <span aria-hidden="true">
              {initials(name)}
              <span className="hidden 2xl:inline"> {where ? STAGE_NAMES[where] : ""}</span>
            </span>
            <span className="sr-only">{words}</span>
          </li>
        );
      })}
    </ul>
  );
}

const MAX_OTHERS = 3;

function initials(name: string): string {
  return name
    .split(/\s+/)
    .map((w) => w.charAt(0))
    .join("")
    .slice(0, 2)
    .toUpperCase();
}

/** The surfaces of a job as a line of stations; on a narrow screen a list that opens. */
function Stages({
  next,
  left,
  job,
  closed,
}: {
  next: Stage;
  left: JobOverview["stages"];
  job: string;
  closed: boolean;
}) {
  const here = useStage();
  return (
    <nav
      popover="auto"
      id="stages"
      aria-label="Stages of the job"
      className="m-0 text-ink max-lg:inset-auto max-lg:top-[98px] max-lg:left-2 max-lg:min-w-52 max-lg:border max-lg:border-strong max-lg:bg-raised max-lg:p-1 lg:static lg:block lg:overflow-visible lg:border-0 lg:bg-transparent lg:p-0"
    >
      <ol className="lg:flex">
        {STAGES.map((stage) => (
          <li key={stage}>
            <Link
              to={`/jobs/${job}/${stage}`}
              aria-current={stage === here ? "page" : undefined}
              title={leftWords(left[stage])}
              onClick={(e) => e.currentTarget.closest<HTMLElement>("[popover]")?.hidePopover()}
              className={`stage ${stage === here ? "border-ink font-semibold" : "border-transparent"}`}
            >
              <Station state={stage === next && !closed ? "next" : left[stage] === 0 ? "done" : "open"} />
              {STAGE_NAMES[stage]}
              {stage === next && !closed && <span className="sr-only">(next action here)</span>}
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  );
}

/** A tick goes only when something is to be done again; then this says how much. */
function leftWords(left: number | null | "later"): string {
  if (left === "later") return "Follows from the kit";
  if (left === null) return "Not needed on this job";
  return left === 0 ? "Nothing left here" : `${left} left here`;
}

function Station({ state }: { state: "next" | "done" | "open" }) {
  if (state === "done") return <Icon of={Check} size={15} className="shrink-0 stroke-3! text-ink" />;
  return (
    <span
      aria-hidden="true"
      className={`size-2.5 shrink-0 rounded-full border-2 ${state === "next" ? "border-accent bg-accent" : "border-strong"}`}
    />
  );
}

/** The stage whose page this is; undefined on the pages of none. */
function useStage(): Stage | undefined {
  const here = useLocation().pathname.split("/")[3];
  return STAGES.find((s) => s === here);
}

/** Opens the list of stages where they do not fit in a line. */
function StagesButton() {
  const stage = useStage();
  return (
    <button
      type="button"
      popoverTarget="stages"
      className="inline-flex min-h-11 items-center gap-1 border-b-[3px] border-ink px-1 font-semibold lg:hidden"
    >
      {stage ? STAGE_NAMES[stage] : "Stages"} <Icon of={ChevronDown} size={16} />
    </button>
  );
}

/** The one thing to do now, and why; it leads to its place on its surface. */
function Next({ next, job }: { next: NextAction; job: string }) {
  return (
    <aside
      aria-label="Next action"
      className="flex min-w-0 flex-1 items-center justify-end gap-3 border-l-4 border-accent pl-2 sm:pl-3"
    >
      <p className="min-w-0 flex-1 leading-tight">
        <span className="line-clamp-2 text-sm font-semibold sm:line-clamp-1 sm:text-base">
          <span className="sr-only text-accent sm:not-sr-only sm:mr-2">Next</span> {next.action}
        </span>
        <span className="hidden truncate text-sm text-quiet sm:block">{next.why}</span>
      </p>
      <Link
        to={`/jobs/${job}/${next.stage}${next.page ? `/${next.page}` : ""}#do`}
        aria-label={`Go to ${STAGE_NAMES[next.stage]}: ${next.action}`}
        className="inline-flex min-h-11 shrink-0 items-center gap-2 rounded-[3px] border border-strong bg-raised px-3"
      >
        <span className="hidden sm:inline">{STAGE_NAMES[next.stage]}</span>
        <Icon of={ArrowRight} size={18} />
      </Link>
    </aside>
  );
}
