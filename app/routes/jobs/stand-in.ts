import { data } from "react-router";
import { z } from "zod";
import { askedOrStays } from "~/app/lib/stays";
import { readForm } from "~/app/server/form.server";
import { jobOf, type LoadedJob, press, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { stopOf } from "~/core/job/decide";
import type { Command } from "~/core/log/entry";
import { CORNERS } from "~/core/prove/corners";
import { newId } from "~/db/ids";
import { hearCorner, look, observe, seeStep } from "~/sim/bench";
import type { Route } from "./+types/stand-in";

const schema = z.union([
  z.object({ entry: z.uuid(), test: z.string().max(200) }),
  z.object({ entry: z.uuid(), check: z.string().max(200) }),
  z.object({ entry: z.uuid(), corner: z.enum(CORNERS) }),
  z.object({ entry: z.uuid(), sequence: z.string().max(200), step: z.string().max(200) }),
]);

/** Tries a test or a look on the job's stand-in car and notes what it shows. */
export async function action({ request, context }: Route.ActionArgs) {
  const parsed = schema.safeParse(Object.fromEntries(await readForm(request)));
  if (!parsed.success)
    return data({ ok: false as const, status: 400, message: "Say which test or check to try." }, { status: 400 });
  const source = jobOf(context);
  const loaded = await source.load();
  const fault = await standIn(person(context), loaded.row);
  if (fault === undefined)
    return data(
      { ok: false as const, status: 404, message: "This job has no stand-in car. Try it on the real one." },
      { status: 404 },
    );
  const command = tried(loaded, fault, parsed.data);
  const { name, role } = person(context);
  // Whoever lets the stand-in car try something lets it stand as that wants.
  const stop = stopOf(loaded.job, { id: parsed.data.entry, command, at: source.now }, { name, role });
  const first = stop?.answer === "asks" ? stop.first : [];
  const result = await press(source, [
    ...first.map((c) => ({ id: newId(), command: c })),
    { id: parsed.data.entry, command },
  ]);
  return result.ok ? result : data(result, { status: result.status });
}

function tried({ plan, state }: LoadedJob, fault: string | null, wanted: z.infer<typeof schema>): Command {
  if ("check" in wanted)
    return { kind: "prove.check", data: { check: wanted.check, answer: look(plan, state, fault, wanted.check) } };
  if ("corner" in wanted)
    return {
      kind: "prove.walk",
      data: { corner: wanted.corner, plays: hearCorner(plan, state, fault, wanted.corner) },
    };
  if ("sequence" in wanted) {
    const { sequence, step } = wanted;
    return { kind: "prove.step", data: { sequence, step, seen: seeStep(plan, state, fault, sequence, step) } };
  }
  const { answer, seen, sees } = observe(plan, state, fault, wanted.test);
  const told =
    seen && seen.what !== "works"
      ? {
          seen: seen.what,
          ...(seen.right ? { right: [...seen.right] } : {}),
          ...(seen.at ? { breaksAt: seen.at } : {}),
        }
      : {};
  return { kind: "prove.result", data: { test: wanted.test, answer, note: sees, ...told } };
}

/** The page stays as it is when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);

export function loader() {
  throw data(null, { status: 404 });
}
