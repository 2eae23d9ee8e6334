import { ArrowRight } from "lucide-react";
import { Link, useLocation } from "react-router";
import type { NextAction } from "~/core/job/next";
import { STAGE_NAMES } from "./stage-line";

/** The one thing to do now, and why. Visible on every surface of a job. */
export function NextBar({ next, job }: { next: NextAction; job: string }) {
  const here = useLocation().pathname.endsWith(`/${next.stage}`);
  return (
    <aside
      aria-label="Next action"
      className="my-3 flex flex-wrap items-center gap-x-5 gap-y-2 border-l-4 border-accent bg-raised px-4 py-3"
    >
      <div className="min-w-0 flex-1 basis-64">
        <p className="text-lg font-semibold leading-snug">
          <span className="mr-2 font-semibold text-accent">Next</span>
          {next.action}
        </p>
        <p className="text-quiet">{next.why}</p>
      </div>
      {!here && (
        <Link
          to={`/jobs/${job}/${next.stage}`}
          className="inline-flex min-h-11 items-center gap-2 rounded-[3px] bg-accent px-4 font-medium text-on-accent"
        >
          Go to {STAGE_NAMES[next.stage]} <ArrowRight size={18} aria-hidden="true" />
        </Link>
      )}
    </aside>
  );
}
