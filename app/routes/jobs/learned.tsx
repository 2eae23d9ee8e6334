import { data, Form, Link, redirect } from "react-router";
import { Button, buttonLook } from "~/app/components/controls";
import { Mark, Notice } from "~/app/components/marks";
import { answered, askedOrStays, unlessStayed } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { jobOf, type LoadedJob } from "~/app/server/jobs.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import type { CarProfile } from "~/core/model/profile";
import { applySuggestions, suggestChanges } from "~/core/strip/learn";
import type { Account } from "~/db/accounts";
import { createDraft } from "~/db/drafts";
import { newId } from "~/db/ids";
import { closedJobsOn } from "~/db/jobs";
import { profileByPin } from "~/db/profiles";
import type { Route } from "./+types/learned";

const JOBS_READ = 30;

/** Suggestions for the newest version of the car, from its closed jobs and the job at hand. */
async function suggestions(account: Account, job: LoadedJob) {
  const found = await profileByPin(database(), account.shopId, "car", job.plan.documents.car.id);
  const car = (found?.profile.document === "car" ? found.profile : job.plan.documents.car) satisfies CarProfile;
  const closed = await closedJobsOn(database(), account.shopId, car.id, JOBS_READ);
  const jobs = job.state.closed ? closed : [job.entries, ...closed];
  return { car, jobs: jobs.length, list: suggestChanges(car.stripPlan, jobs) };
}

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const job = await jobOf(context).load();
  const { car, jobs, list } = await suggestions(account, job);
  return {
    job: { id: job.row.id, number: job.row.number, title: job.row.title },
    car: car.title,
    jobs,
    list: list.map(({ change: _, ...s }) => s),
    draft: newId(),
    readOnly: !WRITERS.includes(account.role),
  };
}

/** Makes a draft of the car with the chosen suggestions. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const form = await readForm(request);
  const id = String(form.get("draft") ?? "");
  const chosen = form.getAll("suggestion").map(String);
  if (!/^[0-9a-f-]{36}$/.test(id) || chosen.length === 0)
    return data({ message: "Choose at least one line." }, { status: 400 });
  const { car, list } = await suggestions(account, await jobOf(context).load());
  const document = { ...car, stripPlan: applySuggestions(car.stripPlan, list, chosen) };
  await createDraft(database(), account.shopId, {
    id,
    kind: "car",
    title: document.title,
    document: JSON.stringify(document),
    by: account.name,
  });
  return redirect(`/library/drafts/${id}`);
}

export const meta: Route.MetaFunction = () => [{ title: "What the plan can learn · Iteron" }];

const KINDS = {
  minutes: "Time",
  tool: "Tool",
  fasteners: "Fasteners",
  added: "New step",
  leftOut: "Left out",
} as const;

/** What was chosen stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);
export const shouldRevalidate = unlessStayed;

export default function Learned({ loaderData, actionData }: Route.ComponentProps) {
  const refused = answered(actionData)?.message;
  const { job, list } = loaderData;
  return (
    <main id="content" className="mx-auto max-w-4xl px-4 py-6">
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>What the plan can learn</h1>
          <p className="text-quiet">
            {loaderData.car}, from {loaderData.jobs} {loaderData.jobs === 1 ? "job" : "jobs"}. Median and outer tenths;
            with fewer than five jobs the plan's own figures still count.
          </p>
        </div>
        <Link to={`/jobs/${job.id}/strip`} className={buttonLook("plain")}>
          Back to Strip
        </Link>
      </div>
      {list.length === 0 ? (
        <Notice tone="good" title="Nothing differs from the plan">
          <p>Times, tools, screws and steps were as written.</p>
        </Notice>
      ) : (
        <Form method="post">
          <input type="hidden" name="draft" value={loaderData.draft} />
          <ul className="border-t border-rule">
            {list.map((s) => (
              <li key={s.id} className="border-b border-rule">
                <label className="flex min-h-11 cursor-pointer items-start gap-3 py-2">
                  <input
                    type="checkbox"
                    name="suggestion"
                    value={s.id}
                    defaultChecked={s.common}
                    className="mt-1 size-5 shrink-0"
                  />
                  <span className="w-24 shrink-0">
                    <Mark tone="none">{KINDS[s.kind]}</Mark>
                  </span>
                  <span className="min-w-0 flex-1">
                    {s.say}
                    <span className="block text-sm text-quiet">
                      {s.jobs} of {s.of} {s.of === 1 ? "job" : "jobs"}
                    </span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
          {refused && <p className="mt-3 text-stop">{refused}</p>}
          <div className="mt-4 flex flex-wrap items-center gap-4">
            <Button type="submit" look="next" disabled={loaderData.readOnly}>
              Make a draft of the car with these
            </Button>
            <p className="text-quiet">The draft opens in the library; nothing changes before it is released.</p>
          </div>
        </Form>
      )}
    </main>
  );
}
