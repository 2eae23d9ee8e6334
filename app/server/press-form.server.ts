import { data, redirect } from "react-router";
import { z } from "zod";
import { isEntryKind, versionOf } from "~/core/log/upgrade";
import { commandSchema } from "~/profiles/job";
import { readForm } from "./form.server";
import { type JobOfRequest, press } from "./jobs.server";

/** One press of a button never means more than this. */
const MAX_AT_ONCE = 80;
const MAX_COMMAND = 100_000;
const FORM_LIMIT = 4_000_000;

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

/** Decides a press and appends what follows to the log of the job. */
export async function pressOfForm(request: Request, source: JobOfRequest) {
  const form = await readForm(request, FORM_LIMIT);
  const bodies = form.getAll("body");
  const other = otherProgram(form.get("version"), bodies);
  if (other) return data({ ok: false as const, status: 409, message: other }, { status: 409 });
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
  const result = await press(source, parsed.data);
  if (!result.ok) return data(result, { status: result.status });
  const page = request.headers.get("referer");
  const withoutScript = request.headers.get("sec-fetch-dest") === "document";
  return withoutScript && page ? redirect(new URL(page).pathname) : result;
}

/**
 * What to do when a device has kept a command with another version of the program than this one; null when it has not.
 *
 * @param version of the kind on the device; a page that the server has just made does not say it
 */
function otherProgram(version: FormDataEntryValue | null, bodies: readonly FormDataEntryValue[]): string | null {
  if (version === null) return null;
  for (const body of bodies) {
    const kind = kindOf(String(body));
    // What is no command at all is refused by its schema.
    if (kind === null) continue;
    const own = isEntryKind(kind) ? versionOf(kind) : 0;
    if (own === Number(version)) continue;
    return own < Number(version)
      ? `${kind}: this device has a newer Iteron than the server. It is kept here; bring the server up to date, then log it again.`
      : `${kind}: this device has an older Iteron than the server. It is kept here; load the page again, then log it again.`;
  }
  return null;
}

function kindOf(body: string): string | null {
  try {
    const { kind } = JSON.parse(body) as { kind?: unknown };
    return typeof kind === "string" ? kind : null;
  } catch {
    return null;
  }
}
