/** The tests of a job come in three rounds: with the dash open, after closing, and rolling on the closed yard. */
import { Model } from "../model/outcome";
import type { Settings, System } from "../model/types";
import type { Test } from "./tests";

export type Round = "bench" | "closed" | "yard";

/** A car with its dash open does not roll: what needs speed waits for the yard. */
export function roundOf(test: Test): "bench" | "yard" {
  return test.situation.speedKmh > 0 ? "yard" : "bench";
}

/**
 * Which tests would show that a plug has come off, by link.
 *
 * @param settings as they stand
 */
export function witnesses(
  system: System,
  settings: Settings,
  tests: readonly Test[],
  links: readonly string[],
): Map<string, Test[]> {
  const sound = new Model(system, {}, settings);
  return new Map(
    links.map((link) => {
      const open = sound.under({ openLinks: { [link]: "pulled out while closing" } });
      const shows = (t: Test) => open.sight(t.fn, t.situationId) !== sound.sight(t.fn, t.situationId);
      return [link, tests.filter(shows)];
    }),
  );
}

/**
 * The tests to repeat when everything is closed: few minutes of them that together would show any plug pulled out on
 * the way. Greedy weighted set cover, most plugs shown for a minute first; Chvátal, Mathematics of Operations Research 4
 * (1979). What the yard shows need not be tried twice, and a plug that no test shows asks for none.
 */
export function closingTests(
  system: System,
  settings: Settings,
  tests: readonly Test[],
  links: readonly string[],
): Test[] {
  const shownBy = witnesses(system, settings, tests, links);
  const left = new Set(
    [...shownBy].filter(([, by]) => by.length > 0 && !by.some((t) => roundOf(t) === "yard")).map(([link]) => link),
  );
  const taken = new Set<Test>();
  while (left.size > 0) {
    let best: { test: Test; shows: string[]; worth: number } | null = null;
    for (const test of tests) {
      const shows = [...left].filter((link) => shownBy.get(link)?.includes(test));
      const worth = shows.length / Math.max(0.1, test.minutes);
      if (shows.length > 0 && (!best || worth > best.worth)) best = { test, shows, worth };
    }
    if (!best) break;
    taken.add(best.test);
    for (const link of best.shows) left.delete(link);
  }
  // What was taken early may have been covered by what came later.
  const yard = tests.filter((t) => roundOf(t) === "yard");
  for (const test of [...taken].sort((a, b) => b.minutes - a.minutes)) {
    const others = new Set([...taken, ...yard].filter((t) => t !== test));
    const needed = [...shownBy.values()].some((by) => by.includes(test) && !by.some((t) => others.has(t)));
    if (!needed) taken.delete(test);
  }
  return tests.filter((t) => taken.has(t));
}
