import { data } from "react-router";
import { z } from "zod";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { jobOf, standIn } from "~/app/server/jobs.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import type { TimedFrame } from "~/core/diagnostics/transcript";
import { changeUnits, type HeldUnits } from "~/db/stand-in";
import { standInCar } from "~/sim/bench";
import { hear, newUnits, restarted, UNIT_FAULTS } from "~/sim/control-units";
import { seedOf } from "~/sim/random";
import type { Route } from "./+types/units";

const frame = z.object({
  atMs: z.number(),
  id: z.int().min(0).max(0x1fff_ffff),
  extended: z.boolean().optional(),
  data: z.array(z.int().min(0).max(255)).max(8),
});
const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("frame"), frame }),
  z.object({ do: z.literal("look") }),
  z.object({ do: z.literal("restart") }),
  z.object({ do: z.literal("set"), volts: z.number().min(6).max(16), fault: z.enum(UNIT_FAULTS).nullable() }),
]);

/** What the stand-in car's units answer. */
export interface UnitsAnswer {
  ok: boolean;
  message: string;
  frames: TimedFrame[];
  volts: number;
  fault: string | null;
}

/** So long after somebody's last frame his session counts as open. */
const HELD_MS = 6000;

/** The bus of the stand-in car: a frame in, what the units say out. One person at a time. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const parsed = schema.safeParse(jsonOf((await readForm(request)).get("say")));
  if (!parsed.success) return refused(400, "The frame was not complete. Load the page again.");
  const { row, job, plan, state } = await jobOf(context).load();
  const fault = await standIn(account, row);
  if (fault === undefined) return refused(404, "This job has no stand-in car.");
  const map = job.codingMap;
  if (!map) return refused(409, "Take a coding map first; it says where the units are.");
  const car = standInCar(plan, state, fault, map);
  const said = parsed.data;
  return changeUnits(database(), account.shopId, row.id, (before: HeldUnits | null) => {
    const units =
      known(
        before,
        map.units.map((u) => u.id),
      ) ?? newUnits(car, seedOf(row.id));
    const other = before?.tester && before.tester.id !== account.id && Date.now() - before.tester.atMs < HELD_MS;
    if (other && said.do === "frame")
      return {
        held: null,
        result: refused(409, `${before.tester?.name} is talking to the control units. Wait until that is done.`),
      };
    const tester =
      said.do === "frame" ? { id: account.id, name: account.name, atMs: Date.now() } : (before?.tester ?? null);
    // With the key off or the battery off the units sleep: nobody answers.
    const { battery, key, keyKnown } = job.strip(new Date().toISOString()).car;
    const awake = battery === "connected" && keyKnown && (key === "on" || key === "running");
    const heard = said.do === "frame" && awake ? hear(car, units, said.frame) : { state: units, frames: [] };
    const after =
      said.do === "set"
        ? { ...units, volts: said.volts, fault: said.fault }
        : said.do === "restart"
          ? restarted(units)
          : heard.state;
    const result: UnitsAnswer = { ok: true, message: "", frames: heard.frames, volts: after.volts, fault: after.fault };
    return { held: { units: after, tester }, result: data(result) };
  });
}

/** Units of an earlier map are not those of another one. */
function known(before: HeldUnits | null, ids: readonly string[]) {
  return before && ids.every((id) => id in before.units.units) ? before.units : null;
}

function refused(status: number, message: string) {
  return data<UnitsAnswer>({ ok: false, message, frames: [], volts: 0, fault: null }, { status });
}

function jsonOf(text: FormDataEntryValue | null): unknown {
  try {
    return JSON.parse(String(text));
  } catch {
    return null;
  }
}

export function loader() {
  throw data(null, { status: 404 });
}
