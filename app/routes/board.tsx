import { format } from "date-fns";
import { FilePlus2, Upload } from "lucide";
import { Link, useFetcher } from "react-router";
import { TryFirst } from "~/app/components/board/try-first";
import { Button, buttonLook, Section } from "~/app/components/controls";
import { Icon } from "~/app/components/icon";
import { StageLine } from "~/app/components/job/stage-line";
import { Notice } from "~/app/components/marks";
import { unlessStayed } from "~/app/lib/stays";
import { database, demoMode } from "~/app/server/db.server";
import { person, WRITERS } from "~/app/server/session.server";
import { type BoardRow, listJobs } from "~/db/jobs";
import type { Route } from "./+types/board";
import type { action as importAction } from "./jobs/import";

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const jobs = await listJobs(database(), account.shopId);
  return {
    open: jobs.filter((j) => !j.closedAt),
    closed: jobs.filter((j) => j.closedAt),
    mayWrite: WRITERS.includes(account.role),
    mayBackUp: account.role === "lead",
    shop: account.shopName,
    isDemo: demoMode(),
  };
}

export const meta: Route.MetaFunction = () => [{ title: "Board · Iteron" }];

/** What was asked for stays on the page when the server cannot take it now. */
export const shouldRevalidate = unlessStayed;

export default function Board({ loaderData }: Route.ComponentProps) {
  const { open, closed, mayWrite, mayBackUp, shop, isDemo } = loaderData;
  return (
    <main id="content" className="mx-auto max-w-[88rem] px-4 py-6">
      <div className="mb-6 flex flex-wrap items-end justify-between gap-4">
        <div>
          <h1>Board</h1>
          <p className="text-quiet">{shop}</p>
        </div>
        {mayWrite && (
          <div className="flex flex-wrap items-start gap-2">
            <ImportJob />
            <Link to="/jobs/new" className={buttonLook("next")}>
              <Icon of={FilePlus2} size={18} /> New job
            </Link>
          </div>
        )}
      </div>
      {isDemo && <TryFirst jobs={open} />}
      <Section title="In the shop" aside={`${open.length} ${open.length === 1 ? "job" : "jobs"}`} id="open-jobs">
        {open.length === 0 ? <p>No car in the shop. Start with “New job”.</p> : <Rows jobs={open} />}
      </Section>
      <Section title="Handed over" aside={`${closed.length} ${closed.length === 1 ? "job" : "jobs"}`} id="closed-jobs">
        {closed.length === 0 ? (
          <p className="text-quiet">Closed jobs with their certificates will stand here.</p>
        ) : (
          <Rows jobs={closed} />
        )}
      </Section>
      {mayBackUp && (
        <p className="mt-8">
          <Link to="/backup" className="underline">
            Backup of the shop
          </Link>
        </p>
      )}
    </main>
  );
}

function Rows({ jobs }: { jobs: BoardRow[] }) {
  return (
    <ul>
      {jobs.map((job) => (
        <li key={job.id} className="border-b border-rule first:border-t">
          <Link
            to={`/jobs/${job.id}`}
            className="grid gap-x-6 gap-y-2 px-2 py-4 hover:bg-raised md:grid-cols-[4rem_minmax(0,1.2fr)_minmax(0,1fr)]"
          >
            <span className="num pt-0.5 text-quiet">{job.number}</span>
            <span>
              <span className="block font-medium">{job.title}</span>
              <span className="block text-sm text-quiet">
                {job.carTitle} · {job.kitTitle}
              </span>
            </span>
            <span className="block md:col-start-3 md:row-start-1">
              <StageLine stage={job.stage} closed={job.closedAt !== null} />
              <span className="mt-1 block">
                {job.closedAt
                  ? `${job.stage === "unfinished" ? "Left" : "Handed over"} ${format(job.closedAt, "d MMM yyyy")}`
                  : job.nextAction}
              </span>
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

function ImportJob() {
  const fetcher = useFetcher<typeof importAction>();
  const refused = fetcher.data && "message" in fetcher.data ? fetcher.data : null;
  return (
    <fetcher.Form
      method="post"
      action="/jobs/import"
      encType="multipart/form-data"
      className="flex flex-wrap items-center gap-2"
    >
      <label className={`${buttonLook("plain")} cursor-pointer focus-within:outline-3 focus-within:outline-accent`}>
        <Icon of={Upload} size={18} /> {fetcher.state === "idle" ? "Import a job" : "Importing ..."}
        <input
          type="file"
          name="file"
          accept="application/json,.json,application/zip,.zip"
          className="sr-only"
          onChange={(e) => fetcher.submit(e.currentTarget.form)}
        />
      </label>
      <noscript>
        <Button type="submit">Import</Button>
      </noscript>
      {refused && (
        <div className="basis-full">
          <Notice tone={refused.known ? "watch" : "stop"} title="Not imported" live>
            <p>{refused.message}</p>
            {refused.known && (
              <div className="mt-2 flex flex-wrap gap-2">
                <Link to={`/jobs/${refused.known.id}`} className={buttonLook("next")}>
                  Open job {refused.known.number}
                </Link>
                <Button type="submit" name="again" value="1">
                  Bring it in once more
                </Button>
              </div>
            )}
          </Notice>
        </div>
      )}
    </fetcher.Form>
  );
}
