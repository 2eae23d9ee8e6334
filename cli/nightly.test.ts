import { addDays } from "date-fns";
import { describe, expect, it } from "vitest";
import { isDue, nightlyName, superfluous } from "./nightly.mjs";

const NOW = new Date(2026, 10, 27, 9, 30);

describe("nightly backups", () => {
  it("are due once a day, from two o'clock on", () => {
    expect(isDue([], new Date(2026, 10, 27, 1, 59))).toBe(false);
    expect(isDue([], new Date(2026, 10, 27, 2, 0))).toBe(true);
    expect(isDue(["iteron-2026-11-26.backup"], NOW)).toBe(true);
    expect(isDue(["iteron-2026-11-27.backup"], NOW)).toBe(false);
  });

  it("are kept: seven days, the newest of five weeks and of twelve months", () => {
    // As it goes: each day one is made and what is not kept is deleted, for two years.
    let names: string[] = [];
    for (let day = addDays(NOW, -730); day <= NOW; day = addDays(day, 1)) {
      names = [...names, nightlyName(day)];
      const gone = new Set(superfluous(names, day));
      names = names.filter((n) => !gone.has(n));
    }
    const days = names.map((n) => n.slice(7, 17)).reverse();
    expect(days.slice(0, 7)).toEqual(["27", "26", "25", "24", "23", "22", "21"].map((d) => `2026-11-${d}`));
    // The newest of a week is its Sunday: 27 November 2026 is a Friday.
    expect(days).toEqual(expect.arrayContaining(["2026-11-22", "2026-11-15", "2026-11-08", "2026-11-01"]));
    expect(days).toEqual(expect.arrayContaining(["2026-10-31", "2026-06-30", "2025-12-31"]));
    expect(days).not.toContain("2025-11-30");
    expect(days.length).toBeLessThanOrEqual(7 + 5 + 12);
  });

  it("leave files with other names alone", () => {
    expect(superfluous(["iteron-2020-01-01.backup", "mine.backup", "iteron-2020-01-01.backup.txt"], NOW)).toEqual([]);
  });
});
