import { Outlet, useLocation, useRouteLoaderData } from "react-router";
import { v7 as uuid } from "uuid";
import { AskHost } from "~/app/components/ask";
import { WrongClock } from "~/app/components/hands/clock";
import { JobHeader } from "~/app/components/job/header";
import { KeptHere } from "~/app/components/job/kept-here";
import { LastDone } from "~/app/components/job/last-done";
import { Notice } from "~/app/components/marks";
import { orKept } from "~/app/lib/kept-job";
import { useJobUpdates } from "~/app/lib/use-job-updates";
import { useKeptJob } from "~/app/lib/use-kept-job";
import type { Handle, loader as signedIn } from "~/app/routes/signed-in";
import { jobOf, overview } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/layout";

export const handle: Handle = { ownHeader: true };

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  return overview(person(context), await source.load(), source.now);
}

export async function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept(params.job, serverLoader, ({ kept, job, now, views }) =>
    views.overviewOf(kept.row, job, { name: kept.person, role: kept.role, readOnly: kept.readOnly }, now, uuid()),
  );
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.job.number} ${loaderData.job.title} · Iteron` : "Iteron" },
];

export default function JobLayout({ loaderData }: Route.ComponentProps) {
  const surface = useLocation().pathname.split("/")[3] ?? "";
  const { job } = loaderData;
  // Who is signed in says the session, never a copy on this device.
  const person = useRouteLoaderData<typeof signedIn>("routes/signed-in")?.name ?? loaderData.person;
  const others = useJobUpdates(job.id, job.version, surface);
  const kept = useKeptJob(job.id, job.version, person);
  return (
    <AskHost>
      <JobHeader overview={loaderData} others={others} />
      <WrongClock />
      <KeptHere {...kept} />
      {!loaderData.kitChosen && <NoKitYet />}
      <Outlet />
      <LastDone last={loaderData.lastDone} />
    </AskHost>
  );
}

/** The surfaces after Fit work on the car as built until a kit is chosen. */
function NoKitYet() {
  const { pathname } = useLocation();
  if (/\/(intake|fit|bus)$/.test(pathname)) return null;
  return (
    <div className="px-4 pt-3">
      <Notice tone="watch" title="No kit is chosen yet">
        <p>What stands here is about the car as built. Choose the kit in Fit first.</p>
      </Notice>
    </div>
  );
}
