/** Guards over what is planned: the kit, its options, the radio, and the offer that is signed. */
import type { AskedOf, JobEntry } from "../../log/entry";
import { CoreError } from "../../model/errors";
import type { Connection, JobPlan } from "../plan";
import { type Pressing, refused, type Stop } from "./guard";
import { verdictOf } from "./strip";

/** Another kit: the plugs of the one before come out first. */
export function changingKit({ plan, state }: Pressing): Stop | null {
  const own = plan.connections.filter((c) => c.kind === "kit" && state.plugged.has(c.link));
  return outFirst(own, `of ${plan.documents.kit.title} are still in`, "Take the kit out first.");
}

/** Other options or another radio: what is plugged and is no longer in the plan comes out first. */
export function changingPlan<K extends "fit.confirm" | "intake.variant">(
  press: Pressing,
  kind: K,
  asked: AskedOf<K>,
): Stop | null {
  const { plan, state } = press;
  if (state.plugged.size === 0) return null;
  const then = planWith(press, { kind, data: asked } as unknown as Pick<JobEntry, "kind" | "data">);
  if (!then) return null;
  const gone = plan.connections.filter(
    (c) => c.kind === "kit" && state.plugged.has(c.link) && !then.connections.some((o) => o.link === c.link),
  );
  return outFirst(gone, "would not be in the plan any more", "Take out first what is not used any more.");
}

/** The plan after an entry; null where nothing can be planned then, which is refused by itself. */
function planWith({ job, id, at, who }: Pressing, entry: Pick<JobEntry, "kind" | "data">): JobPlan | null {
  try {
    return job.with([{ ...entry, id, at, by: who.name } as JobEntry]).plan;
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}

function outFirst(plugs: readonly Connection[], why: string, remedy: string): Stop | null {
  if (plugs.length === 0) return null;
  const names = plugs.slice(0, 3).map((c) => c.say);
  return {
    guard: "kit",
    where: "kit",
    problem: `${plugs.length === 1 ? "1 plug" : `${plugs.length} plugs`} ${why}: ${names.join("; ")}${plugs.length > 3 ? "; …" : ""}.`,
    remedy,
    answer: "asks",
    say: plugs.length === 1 ? "It is out again" : "All of them are out again",
    first: plugs.map((c) => ({ kind: "connect.plug", data: { link: c.link, plugged: false } })),
  };
}

/** What does not fit is not sold. */
export function signing({ plan }: Pressing): Stop | null {
  const verdict = verdictOf(plan);
  const { title } = plan.documents.kit;
  return verdict.level === "impossible"
    ? refused("fit", title, `${title} does not fit this car: ${verdict.text}`, "Choose another kit in Fit.")
    : null;
}
