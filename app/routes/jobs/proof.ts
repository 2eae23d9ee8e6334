import { data } from "react-router";
import { z } from "zod";
import { askedOrStays } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { jobOf, press, putProof } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { readLog, UnknownLog } from "~/core/bus/log";
import { proofKey, proofOf } from "~/core/job/bus-proof";
import { readFile, sameContent, storedFile } from "~/db/files";
import type { Route } from "./+types/proof";

const schema = z.object({ entry: z.uuid(), file: z.uuid() });

/** Replays the translation of the job over a stored log and writes how it did. Long logs take their time: on the slow lane. */
export async function action({ request, context }: Route.ActionArgs) {
  const parsed = schema.safeParse(Object.fromEntries(await readForm(request)));
  if (!parsed.success) return refuse(400, "Choose a log first.");
  const { entry, file } = parsed.data;
  const account = person(context);
  const source = jobOf(context);
  const { row, job } = await source.load();
  const { state } = job;
  const stored = await storedFile(database(), account.shopId, row.id, file);
  if (!stored) return refuse(404, "The log is not stored in this shop.");
  if (state.cues[file] && state.translation) {
    const usedFor = new Set(state.signals.map((s) => s.file));
    const twins = await sameContent(database(), account.shopId, row.id, file);
    if (twins.some((t) => usedFor.has(t))) putProof(job, proofKey(state, file), "same content");
    else {
      try {
        const { frames } = await readLog(readFile(database(), account.shopId, stored));
        putProof(job, proofKey(state, file), proofOf(state, file, frames));
      } catch (error) {
        if (error instanceof UnknownLog) return refuse(422, error.message);
        throw error;
      }
    }
  }
  const result = await press(source, [{ id: entry, command: { kind: "bus.proof", data: { file } } }]);
  return result.ok ? result : data(result, { status: result.status });
}

function refuse(status: number, message: string) {
  return data({ ok: false as const, status, message }, { status });
}

/** The page stays as it is when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);

export function loader() {
  throw data(null, { status: 404 });
}
