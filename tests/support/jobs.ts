/** Jobs and logs for tests. */

import type { Documents } from "../../core/fit/resolve-fit";
import { type Asked, type Decision, decide } from "../../core/job/decide";
import type { Person } from "../../core/job/guards/guard";
import { Job, type OpenedWith, type Outside, ownStore } from "../../core/job/job";
import { ribbons } from "../../core/job/locks";
import type { Command, JobEntry } from "../../core/log/entry";
import { shippedLibrary } from "../../profiles/library";

const START = Date.parse("2026-01-05T08:00:00Z");

/**
 * Commands as entries, a minute apart, without any check. What the job would compute is left out, so they are for
 * folding and planning only.
 */
export function logOf(...commands: Command[]): JobEntry[] {
  return commands.map(
    (c, i) => ({ ...c, id: `e${i}`, at: new Date(START + i * 60_000).toISOString(), by: "Test" }) as JobEntry,
  );
}

/** Three documents of the shipped library. @throws where it has none of that name */
export function named(carId: string, variantId: string, kitId: string): OpenedWith & Documents {
  const [car, variant, kit] = [carId, variantId, kitId].map((id) => shippedLibrary().find((p) => p.id === id));
  if (car?.document !== "car" || variant?.document !== "variant" || kit?.document !== "kit")
    throw new Error(`not all in the library: ${carId}, ${variantId}, ${kitId}`);
  return { car, variant, kit };
}

/** The shipped library in any version, every file, every wish. */
const GENEROUS: Outside = {
  document(kind, { slug }) {
    const found = shippedLibrary().find((p) => p.id === slug && p.document === kind);
    return found && found.document !== "car" ? found : null;
  },
  file: (id) => ({ name: id, what: "log" }),
  proof: () => [],
  wish: (id) => id,
  currency: "EUR",
};

const store = ownStore();
const numbers = new WeakMap<object, number>();
let numbered = 0;

/** Tests change documents without giving them a version: each one is known by itself. */
function numberOf(document: object | null): number {
  if (!document) return 0;
  const number = numbers.get(document) ?? ++numbered;
  numbers.set(document, number);
  return number;
}

export function jobOf(opened: OpenedWith, entries: readonly JobEntry[] = [], outside: Outside = GENEROUS): Job {
  const own = [opened.car, opened.variant, opened.kit].map(numberOf).join();
  return new Job(opened, entries, outside, { plan: (key, make) => store.plan(`${own} ${key}`, make) });
}

/** The customer's signature: nothing is cut, drilled or joined without. */
export function signedFor({ kit }: Documents, choices: Record<string, string> = {}): Command {
  const pin = { slug: kit.id, version: kit.version };
  return {
    kind: "fit.signed",
    data: { name: "A. Holm", kit: pin, choices, price: 0, currency: "EUR", terms: [] },
  } as Command;
}

/** A job whose customer has signed. */
export function signedJob(opened: OpenedWith & Documents): Job {
  return jobOf(opened, logOf(signedFor(opened)));
}

/** Who presses in tests. */
export const TEST: Person = { name: "Test", role: "lead" };

/** What speaks against a command on a job, in words; null when it would be written. */
export function refusalOf(job: Job, command: Command, at: string): string | null {
  const decision = decide(job, [{ id: "asked", command, at }], TEST);
  return decision.kind === "refused" ? `${decision.refusal.problem} ${decision.refusal.remedy}` : null;
}

/** The job after commands that are decided and written at one moment; fails the test when one is refused. */
export function press(job: Job, ...commands: Command[]): Job {
  return commands.reduce((j, command) => {
    const at = new Date(Date.UTC(2026, 10, 27, 9, j.entries.length)).toISOString();
    return answering(j, { id: `e${j.entries.length}`, command, at }, TEST).after;
  }, job);
}

/** The job with everything plugged and locked: what the kit gives can be tried. */
export function plugged(job: Job): Job {
  const bars = ribbons(job.plan);
  return press(
    job,
    ...job.plan.connections.flatMap(({ link }): Command[] => [
      { kind: "connect.plug", data: { link, plugged: true } },
      ...(bars.has(link) ? [{ kind: "connect.lock", data: { link, shut: true } } as const] : []),
    ]),
  );
}

/** A press with everything that a tap has to say first; throws when it is refused all the same. */
export function answering(job: Job, asked: Asked, who: Person): Decision & { kind: "written" } {
  let decision = decide(job, [asked], who);
  if (decision.kind === "refused" && decision.stop?.answer === "asks") {
    const first = decision.stop.first.map((command, i) => ({ ...asked, id: `${asked.id}.${i}`, command }));
    decision = decide(job, [...first, asked], who);
  }
  if (decision.kind !== "written") throw new Error(JSON.stringify(decision));
  return decision;
}
