import { data } from "react-router";
import { z } from "zod";
import { append, loadJob, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { simulateFaults } from "~/core/diagnose/bench";
import { look, observe } from "~/sim/bench";
import type { Route } from "./+types/stand-in";

const schema = z.union([
  z.object({ entry: z.uuid(), test: z.string().max(200) }),
  z.object({ entry: z.uuid(), check: z.string().max(200) }),
]);

/** Tries a test or a look on the job's stand-in car and notes what it shows. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const account = person(context);
  const parsed = schema.safeParse(Object.fromEntries(await request.formData()));
  if (!parsed.success)
    return data({ ok: false as const, status: 400, message: "Say which test or check to try." }, { status: 400 });
  const job = await loadJob(account, params.job);
  const fault = await standIn(account, job.row);
  if (fault === undefined)
    return data(
      { ok: false as const, status: 404, message: "This job has no stand-in car. Try it on the real one." },
      { status: 404 },
    );
  const result = await append(account, params.job, { id: parsed.data.entry, body: bodyFor(parsed.data) });
  return result.ok ? result : data(result, { status: result.status });

  function bodyFor(wanted: z.infer<typeof schema>) {
    if ("test" in wanted) {
      const seen = observe(job.plan, job.state, fault ?? null, wanted.test);
      return { kind: "prove.result" as const, data: { test: wanted.test, answer: seen.answer, note: seen.sees } };
    }
    const table = simulateFaults(job.plan.fitted, job.plan.tests, job.plan.touched);
    return {
      kind: "prove.check" as const,
      data: { check: wanted.check, answer: look(job.plan, job.state, table, fault ?? null, wanted.check) },
    };
  }
}

export function loader() {
  throw data(null, { status: 404 });
}
