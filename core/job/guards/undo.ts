/** Taking an entry back: what stands on it is taken back before it, or nothing is. */
import type { AskedOf, Command, EntryKind, JobEntry } from "../../log/entry";
import { effective, kindNamed } from "../../log/fold";
import { offNow } from "../../log/strip-journal";
import { CoreError } from "../../model/errors";
import type { Job } from "../job";
import { Pressing, type Stop } from "./guard";

/** Kinds that change what is safe later on, or what there is to press. */
const CARRIES: ReadonlySet<EntryKind> = new Set<EntryKind>([
  "undo",
  "intake.variant",
  "fit.kit",
  "fit.confirm",
  "strip.step",
  "strip.stands",
  "strip.behind",
  "fit.signed",
  "connect.lock",
  "connect.plug",
  "configure.loaded",
  "configure.powerCycle",
]);

/** Kinds that cannot stand without what was before them. */
const STANDS: ReadonlySet<EntryKind> = new Set<EntryKind>([
  "strip.step",
  "strip.stands",
  "strip.maintainer",
  "strip.behind",
  "connect.plug",
  "connect.lock",
  "connect.feed",
  "connect.tap",
  "configure.switches",
  "configure.set",
  "configure.plug",
  "configure.firmware",
  "configure.session",
  "prove.result",
]);

/** How one kind is guarded; handed in, for the table names this guard itself. */
type Look = (press: Pressing, command: Command) => Stop | null;

/**
 * Later entries that were fine with an entry and would not be without it: the car would have been opened with the battery
 * on, the selector moved without the brake, a hole drilled without a signature.
 */
function standingOn(job: Job, target: JobEntry, look: Look): JobEntry[] {
  if (!CARRIES.has(target.kind)) return [];
  const counting = new Set(effective(job.entries).map((e) => e.id));
  const at = job.entries.indexOf(target);
  let [with_, without] = [job.upTo(at), job.upTo(at)];
  with_ = with_.with([target]);
  const found: JobEntry[] = [];
  for (const entry of job.entries.slice(at + 1)) {
    if (!counting.has(entry.id)) continue;
    if (STANDS.has(entry.kind)) {
      if (isBehind(job, entry, target) || (!passes(without, entry, look) && passes(with_, entry, look))) {
        found.push(entry);
        // It goes as well, and with it what stands on it.
        with_ = with_.with([entry]);
        continue;
      }
    }
    with_ = with_.with([entry]);
    without = without.with([entry]);
  }
  return found;
}

/** True when an entry could be pressed on a job as it is there. */
function passes(on: Job, { id, at, by, kind, data }: JobEntry, look: Look): boolean {
  const asked = kindNamed(kind).asked?.(data) ?? data;
  try {
    if (kindNamed(kind).check(on.facts(at), asked)) return false;
    return look(new Pressing(on, at, { name: by, role: "lead" }, id), { kind, data: asked } as Command) === null;
  } catch (error) {
    // Nothing can be planned there any more.
    if (error instanceof CoreError) return false;
    throw error;
  }
}

/** Taken off once another part was off that lies before it, and still off. */
function isBehind({ plan, state }: Job, entry: JobEntry, target: JobEntry): boolean {
  if (entry.kind !== "strip.step" || target.kind !== "strip.step") return false;
  if (entry.data.direction !== "in" || target.data.direction !== "in" || !offNow(state.strip).has(entry.data.step))
    return false;
  const reached = new Set([entry.data.step]);
  for (const step of reached)
    for (const before of plan.steps.find((s) => s.id === step)?.after ?? []) reached.add(before);
  return entry.data.step !== target.data.step && reached.has(target.data.step);
}

export function takingBack({ job, at }: Pressing, { entry }: AskedOf<"undo">, look: Look): Stop | null {
  const target = job.entries.find((e) => e.id === entry);
  if (!target) return null;
  const above = standingOn(job, target, look);
  if (above.length === 0) return null;
  const facts = job.facts(at);
  const words = above.map((e) => kindNamed(e.kind).words(e.data, facts));
  return {
    guard: "stands-on-it",
    where: kindNamed(target.kind).words(target.data, facts),
    problem: `${above.length === 1 ? "One later entry stands" : `${above.length} later entries stand`} on it: ${words.slice(0, 3).join("; ")}${words.length > 3 ? "; …" : ""}.`,
    remedy: "Take them back as well, the last one first.",
    answer: "asks",
    say: above.length === 1 ? "Take both back" : `Take all ${above.length + 1} back`,
    first: [...above].reverse().map((e) => ({ kind: "undo", data: { entry: e.id } })),
  };
}
