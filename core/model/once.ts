/** Computed when it is first asked for. */
export function once<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => {
    made ??= { value: make() };
    return made.value;
  };
}

/**
 * Computed once for each object that is asked about, as long as the object lives: systems, plans and tests are never
 * changed, so what follows from one is kept as long as it is.
 */
export function oncePer<K extends object, V>(make: (key: K) => V): (key: K) => V {
  const known = new WeakMap<K, { value: V }>();
  return (key) => {
    let kept = known.get(key);
    if (!kept) {
      kept = { value: make(key) };
      known.set(key, kept);
    }
    return kept.value;
  };
}
