import { data, redirect } from "react-router";
import { z } from "zod";
import { readForm } from "~/app/server/form.server";
import { jobOf, press } from "~/app/server/jobs.server";
import { commandSchema } from "~/profiles/job";
import type { Route } from "./+types/log";

/** One press of a button never means more than this. */
const MAX_AT_ONCE = 20;
const MAX_COMMAND = 100_000;
const FORM_LIMIT = 2 * MAX_AT_ONCE * MAX_COMMAND;

const schema = z.object({
  id: z.uuid(),
  /** Milliseconds since it happened, from a device that was without connection. */
  ageMs: z.coerce.number().min(0).optional(),
  command: z
    .string()
    .max(MAX_COMMAND)
    .transform((text, ctx) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        ctx.addIssue({ code: "custom", message: "not JSON" });
        return z.NEVER;
      }
    })
    .pipe(commandSchema),
});

/** Decides a press and appends what follows to the log of the job: what every button of the surfaces does. */
export async function action({ request, context }: Route.ActionArgs) {
  const form = await readForm(request, FORM_LIMIT);
  const bodies = form.getAll("body");
  const parsed = z
    .array(schema)
    .min(1)
    .max(MAX_AT_ONCE)
    .safeParse(form.getAll("entry").map((id, i) => ({ id, command: bodies[i], ageMs: form.get("age") ?? undefined })));
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
  const result = await press(jobOf(context), parsed.data);
  if (!result.ok) return data(result, { status: result.status });
  const page = request.headers.get("referer");
  const withoutScript = request.headers.get("sec-fetch-dest") === "document";
  return withoutScript && page ? redirect(new URL(page).pathname) : result;
}

export function loader({ params }: Route.LoaderArgs) {
  return redirect(`/jobs/${params.job}`);
}
