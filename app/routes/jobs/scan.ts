import { data } from "react-router";
import { database } from "~/app/server/db.server";
import { jobOf, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { heldUnits } from "~/db/stand-in";
import { seedOf } from "~/sim/random";
import { scanStandIn } from "~/sim/scan";
import type { Route } from "./+types/scan";

/** Reads the fault memory of the job's stand-in car, as text. */
export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, job, plan, state } = await jobOf(context).load();
  const fault = await standIn(account, row);
  if (fault === undefined)
    throw data("This job has no stand-in car. Type or paste what the reader shows.", { status: 404 });
  const map = job.codingMap;
  const held = map && (await heldUnits(database(), account.shopId, row.id));
  const units = held && map.units.every((u) => u.id in held.units.units) ? held.units : null;
  return { text: scanStandIn({ plan, state, fault, map, units, seed: seedOf(row.id) }) };
}
