/**
 * Consistency-based diagnosis with fault modes, after de Kleer and Williams, Artificial Intelligence 32 (1987).
 * A component is either sound or in one of its fault modes; a mode may leave open what the component does, then it
 * stands for several behaviours ("unknown output"). A set of faulty components explains the observations when some
 * choice of their behaviours predicts all of them.
 */
export interface Diagnosable<Behaviour> {
  components: readonly string[];
  /** What each component may do when it is faulty; for an unknown output: every value it could give. */
  behaviours(component: string): readonly Behaviour[];
  /** Values predicted for each observable when the named components behave as given and all others are sound. */
  predict(faulty: ReadonlyMap<string, Behaviour>): ReadonlyMap<string, string | number>;
}

export interface Explanation {
  /** Minimal sets of faulty components, smallest first. */
  diagnoses: string[][];
  /** No set of faults was left out by the limit; otherwise larger ones may explain it as well. */
  complete: boolean;
  /** Minimal sets of components that cannot all be sound; null where they do not follow, because it is incomplete. */
  conflicts: string[][] | null;
}

/**
 * All minimal diagnoses up to a number of simultaneous faults, and the conflicts that follow from them.
 *
 * Minimal diagnoses are the minimal hitting sets of the minimal conflicts, and the other way round (Reiter 1987), so
 * the conflicts are computed back from the diagnoses. Cost grows with components^size times behaviours^size.
 */
export function explain<B>(
  system: Diagnosable<B>,
  observed: ReadonlyMap<string, string | number>,
  maxFaults: number,
): Explanation {
  const diagnoses: string[][] = [];
  for (let size = 0; size <= maxFaults; size++) {
    for (const set of combinations(system.components, size)) {
      if (diagnoses.some((d) => d.every((c) => set.includes(c)))) continue;
      if (consistent(system, set, observed)) diagnoses.push(set);
    }
  }
  // Every larger set contains one that was found: by then nothing minimal is left out.
  const complete =
    maxFaults >= system.components.length ||
    [...combinations(system.components, maxFaults + 1)].every((set) =>
      diagnoses.some((d) => d.every((c) => set.includes(c))),
    );
  return { diagnoses, complete, conflicts: complete ? minimalHittingSets(diagnoses) : null };
}

function consistent<B>(
  system: Diagnosable<B>,
  faulty: readonly string[],
  observed: ReadonlyMap<string, string | number>,
): boolean {
  const chosen = new Map<string, B>();
  const descend = (i: number): boolean => {
    const component = faulty[i];
    if (component === undefined) {
      const predicted = system.predict(chosen);
      return [...observed].every(([name, value]) => predicted.get(name) === value);
    }
    return system.behaviours(component).some((behaviour) => {
      chosen.set(component, behaviour);
      return descend(i + 1);
    });
  };
  return descend(0);
}

/** Subsets of the given size, in order. */
function* combinations<T>(items: readonly T[], size: number, from = 0): Generator<T[]> {
  if (size === 0) {
    yield [];
    return;
  }
  for (let i = from; i <= items.length - size; i++) {
    for (const rest of combinations(items, size - 1, i + 1)) yield [items[i] as T, ...rest];
  }
}

/**
 * Minimal sets that share an element with every given set, by Berge's method: add one set after the other and drop
 * what is no longer minimal.
 */
export function minimalHittingSets(sets: readonly (readonly string[])[]): string[][] {
  if (sets.length === 0 || sets.some((s) => s.length === 0)) return [];
  let hitting: string[][] = [[]];
  for (const set of sets) {
    const extended = hitting.flatMap((h) => (h.some((x) => set.includes(x)) ? [h] : set.map((x) => [...h, x])));
    hitting = extended.filter(
      (h, i) => !extended.some((o, j) => j !== i && o.every((x) => h.includes(x)) && (o.length < h.length || j < i)),
    );
  }
  return hitting.map((h) => [...h].sort()).sort((a, b) => a.length - b.length || a.join().localeCompare(b.join()));
}
