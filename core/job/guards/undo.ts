/** Taking an entry back: what stands on it is taken back before it, or nothing is. */
import type { AskedOf, Command, EntryKind, JobEntry } from "../../log/entry";
import { effective, kindNamed } from "../../log/fold";
import type { Job } from "../job";
import { Pressing, type Stop } from "./guard";

/** Kinds that change what is safe later on. */
const CARRIES: ReadonlySet<EntryKind> = new Set<EntryKind>([
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
  "connect.plug",
  "configure.set",
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
      const press = (on: Job) => new Pressing(on, entry.at, { name: entry.by, role: "lead" }, entry.id);
      const command = { kind: entry.kind, data: kindNamed(entry.kind).asked?.(entry.data) ?? entry.data } as Command;
      if (look(press(without), command) !== null && look(press(with_), command) === null) {
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
