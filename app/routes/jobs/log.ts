import { data, redirect } from "react-router";
import { z } from "zod";
import { append } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { entryBodySchema } from "~/profiles/job";
import type { Route } from "./+types/log";

const schema = z.object({
  entry: z.uuid(),
  /** Milliseconds since it happened, from a device that was without connection. */
  age: z.coerce.number().min(0).optional(),
  body: z
    .string()
    .max(100_000)
    .transform((text, ctx) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        ctx.addIssue({ code: "custom", message: "not JSON" });
        return z.NEVER;
      }
    })
    .pipe(entryBodySchema),
});

/** Appends one entry to the log of a job: what every button of the surfaces does. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const account = person(context);
  const parsed = schema.safeParse(Object.fromEntries(await request.formData()));
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return data(
      {
        ok: false as const,
        status: 400,
        message: `The entry was not complete (${issue?.path.join(" › ")}: ${issue?.message}). Load the page again.`,
      },
      { status: 400 },
    );
  }
  const { entry, body, age } = parsed.data;
  const result = await append(account, params.job, { id: entry, body, ...(age === undefined ? {} : { ageMs: age }) });
  if (!result.ok) return data(result, { status: result.status });
  const page = request.headers.get("referer");
  const withoutScript = request.headers.get("sec-fetch-dest") === "document";
  return withoutScript && page ? redirect(new URL(page).pathname) : result;
}

export function loader({ params }: Route.LoaderArgs) {
  return redirect(`/jobs/${params.job}`);
}
