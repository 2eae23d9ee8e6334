import { data, redirect } from "react-router";
import { z } from "zod";
import { append } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { entryBodySchema } from "~/profiles/job";
import type { Route } from "./+types/log";

/** One press of a button never means more than this. */
const MOST_AT_ONCE = 20;

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

/** Appends entries to the log of a job, in their order: what every button of the surfaces does. Most bring one. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const account = person(context);
  const form = await request.formData();
  const bodies = form.getAll("body");
  const parsed = z
    .array(schema)
    .min(1)
    .max(MOST_AT_ONCE)
    .safeParse(form.getAll("entry").map((entry, i) => ({ entry, body: bodies[i], age: form.get("age") ?? undefined })));
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
  let repeated = true;
  for (const { entry, body, age } of parsed.data) {
    const result = await append(account, params.job, { id: entry, body, ...(age === undefined ? {} : { ageMs: age }) });
    if (!result.ok) return data(result, { status: result.status });
    repeated &&= result.repeated;
  }
  const page = request.headers.get("referer");
  const withoutScript = request.headers.get("sec-fetch-dest") === "document";
  return withoutScript && page ? redirect(new URL(page).pathname) : { ok: true as const, repeated };
}

export function loader({ params }: Route.LoaderArgs) {
  return redirect(`/jobs/${params.job}`);
}
