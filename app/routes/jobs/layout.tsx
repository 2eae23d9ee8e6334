import { Outlet, useLocation } from "react-router";
import { JobHeader } from "~/app/components/job/header";
import { Notice } from "~/app/components/marks";
import { useJobUpdates } from "~/app/lib/use-job-updates";
import type { Handle } from "~/app/routes/signed-in";
import { jobOf, overview } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/layout";

export const handle: Handle = { ownHeader: true };

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  return overview(person(context), await source.load(), source.now);
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.job.number} ${loaderData.job.title} · Iteron` : "Iteron" },
];

export default function JobLayout({ loaderData }: Route.ComponentProps) {
  const surface = useLocation().pathname.split("/")[3] ?? "";
  const others = useJobUpdates(loaderData.job.id, loaderData.job.version, surface);
  return (
    <>
      <JobHeader overview={loaderData} others={others} />
      {!loaderData.kitChosen && <NoKitYet />}
      <Outlet />
    </>
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
