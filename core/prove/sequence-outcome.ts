/** What a sequence that was gone through proves. */
import type { Sight } from "./sequence-sights";
import type { Sequence } from "./sequences";

/** Where a sequence stands: the first step without an answer, or the one at which it broke. */
export type SequenceOutcome =
  | { kind: "open"; at: string }
  | { kind: "right" }
  | { kind: "breaks"; at: string; seen: Exclude<Sight, "asSaid"> };

export function sequenceOutcome({ steps }: Sequence, seen: ReadonlyMap<string, Sight>): SequenceOutcome {
  for (const { id } of steps) {
    const sight = seen.get(id);
    if (sight === undefined) return { kind: "open", at: id };
    if (sight !== "asSaid") return { kind: "breaks", at: id, seen: sight };
  }
  return { kind: "right" };
}
