import { data } from "react-router";
import { z } from "zod";
import { readForm } from "~/app/server/form.server";
import { jobOf } from "~/app/server/jobs.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import { recordOnCue } from "~/sim/on-cue";
import { seedOf } from "~/sim/random";
import type { Route } from "./+types/recording";

const schema = z
  .array(
    z.object({
      thing: z.string().max(60),
      label: z.string().max(60),
      fromS: z.number().min(0).max(1800),
      toS: z.number().min(0).max(1800),
      value: z.number().optional(),
    }),
  )
  .min(1)
  .max(600);

/** Lets the stand-in car of a practice job do what is called out, and gives the log of its bus. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const row = await jobOf(context).row();
  if (!row.practice) return refuse(404, "This job has no stand-in car. Record the real one with an adapter.");
  const cues = schema.safeParse(parsed((await readForm(request)).get("cues")));
  if (!cues.success) return refuse(400, "Say what is to be done, and when.");
  // Every recording is another drive.
  const seed = seedOf(row.id) + (Date.now() % 100_000);
  const { log, notDone } = recordOnCue(cues.data, { seed, startS: Math.floor(Date.now() / 1000) });
  return data({ ok: true as const, log, notDone });
}

function parsed(text: FormDataEntryValue | null): unknown {
  try {
    return JSON.parse(String(text));
  } catch {
    return null;
  }
}

function refuse(status: number, message: string) {
  return data({ ok: false as const, status, message }, { status });
}

export function loader() {
  throw data(null, { status: 404 });
}
