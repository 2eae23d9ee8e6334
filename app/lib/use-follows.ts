import { useEffect, useRef, useState } from "react";
import { changedPath, type KitFacts, whatFollows } from "~/core/library/what-follows";
import type { FieldProblem } from "~/profiles/checks";

/** What followed from the answer of a leaflet that was changed last, at its field; null while nothing is known. */
export function useFollows(leaflet: Record<string, unknown>, facts: KitFacts | null): FieldProblem | null {
  const last = useRef({ leaflet, facts });
  const [follows, setFollows] = useState<FieldProblem | null>(null);
  const text = JSON.stringify(facts);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was built decides; the leaflet is as it was built
  useEffect(() => {
    const before = last.current;
    if (!facts) return;
    last.current = { leaflet, facts };
    const path = changedPath(before.leaflet, leaflet);
    if (!before.facts || path === null) return;
    const say = whatFollows(before.facts, facts);
    if (say !== "") setFollows({ path, say });
  }, [text]);
  return follows;
}
