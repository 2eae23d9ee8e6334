/**
 * The one cache of a server: things that never change once they are made. What is not there is made again; nothing is
 * true only here, so several servers need not agree.
 */
import { LRUCache } from "lru-cache";

/** What is kept. Documents and plans follow from their key; a job is kept by the version of its log. */
export type Space = "document" | "plan" | "job" | "ranking" | "drawing";

const LIMIT_KB = 256 * 1024;

const store = new LRUCache<string, object>({ max: 20_000, maxSize: LIMIT_KB });
const counts: Record<Space, { hits: number; misses: number }> = {
  document: { hits: 0, misses: 0 },
  plan: { hits: 0, misses: 0 },
  job: { hits: 0, misses: 0 },
  ranking: { hits: 0, misses: 0 },
  drawing: { hits: 0, misses: 0 },
};

export function recall<T extends object>(space: Space, key: string): T | undefined {
  const found = store.get(`${space} ${key}`) as T | undefined;
  counts[space][found ? "hits" : "misses"]++;
  return found;
}

/** @param sizeKb about how much memory it takes */
export function keep<T extends object>(space: Space, key: string, value: T, sizeKb: number): T {
  store.set(`${space} ${key}`, value, { size: Math.max(1, Math.ceil(sizeKb)) });
  return value;
}

/** What is kept under a key; made when it is not there. */
export function recallOr<T extends object>(space: Space, key: string, sizeKb: number, make: () => T): T {
  return recall<T>(space, key) ?? keep(space, key, make(), sizeKb);
}

/** How often the cache was asked and had it, by space, and what it holds. */
export function cacheReport() {
  return { ...counts, entries: store.size, kb: store.calculatedSize };
}
