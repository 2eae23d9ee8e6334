import fc from "fast-check";
import semver from "semver";
import { describe, expect, it } from "vitest";
import { allShortest } from "../../tests/support/floyd-warshall";
import type { FirmwareUpdate } from "../model/profile";
import { checkUpdates, FirmwareLoop, mediumWords, updatePath } from "./firmware";
import { compareVersions, readVersion } from "./version";

const update = (from: string, to: string, minutes: number, ...sideEffects: string[]): FirmwareUpdate => ({
  from,
  to,
  minutes,
  how: "card",
  sideEffects,
});

describe("versions", () => {
  it.each([
    ["R3-90", "R3-210", -1],
    ["2.10", "2.4", 1],
    ["O1-3.1", "O1-3.1", 0],
    ["1.0", "1.0.1", -1],
    ["r2-118", "R2-118", 0],
  ])("%s against %s", (a, b, sign) => {
    expect(Math.sign(compareVersions(a, b))).toBe(sign);
    expect(Math.sign(compareVersions(b, a))).toBe(sign === 0 ? 0 : -sign);
  });

  it("compare as the npm package semver does, where the scheme is semantic", () => {
    const part = fc.integer({ min: 0, max: 400 });
    const version = fc.tuple(part, part, part).map((v) => v.join("."));
    fc.assert(
      fc.property(version, version, (a, b) => {
        expect(Math.sign(compareVersions(a, b))).toBe(semver.compare(a, b));
        expect(Math.sign(compareVersions(`R3-${a}`, `R3-${b}`))).toBe(semver.compare(a, b));
      }),
    );
  });

  it("are read from label and version screen as the radio writes them", () => {
    const known = ["R3-210", "R3-300"];
    expect(readVersion("Part 0VM-556  SW R3-210 / HW 2", ["SW R3-*"], known)).toBe("R3-210");
    expect(readVersion("SW R3-377", ["SW R3-*"], known)).toBe("R3-377");
    expect(readVersion("System R3 402", ["R3 *"], known)).toBe("R3-402");
    expect(readVersion("FW:O1-2.4", ["FW:O1-*"], ["O1-2.0"])).toBe("O1-2.4");
    expect(readVersion("nothing of the kind", ["SW R3-*"], known)).toBeNull();
  });
});

describe("update path", () => {
  const updates = [
    update("A-1", "A-2", 20),
    update("A-2", "A-4", 20, "channels"),
    update("A-1", "A-4", 60, "all erased"),
    update("A-4", "A-5", 5),
  ];

  it("is the shortest in minutes to a version not older than the floor", () => {
    expect(updatePath(updates, "A-1", "A-3")).toMatchObject({ minutes: 40 });
    expect(updatePath(updates, "A-4", "A-3")).toEqual({ steps: [], minutes: 0 });
    expect(updatePath(updates, "A-1", "A-9")).toBeNull();
    expect(updatePath(updates, "B-9", "A-3")).toBeNull();
  });

  it("takes as long as the algorithm of Floyd finds on generated updates", () => {
    const edge = fc.record({
      from: fc.integer({ min: 0, max: 8 }),
      step: fc.integer({ min: 1, max: 4 }),
      minutes: fc.integer({ min: 1, max: 90 }),
    });
    let compared = 0;
    fc.assert(
      fc.property(fc.array(edge, { minLength: 15, maxLength: 40 }), (edges) => {
        const name = (n: number) => `V-${n}`;
        const list = edges.map((e) => update(name(e.from), name(e.from + e.step), e.minutes));
        const shortest = allShortest(
          13,
          edges.map((e) => ({ from: e.from, to: e.from + e.step, length: e.minutes })),
        );
        const path = updatePath(list, name(0), name(12));
        expect(path?.minutes ?? Number.POSITIVE_INFINITY).toBe(shortest(0, 12));
        if (path) compared++;
      }),
      { seed: 7, numRuns: 400 },
    );
    expect(compared).toBeGreaterThan(20);
  });

  it("refuses a circle and names it", () => {
    expect(() => checkUpdates(updates, "radio")).not.toThrow();
    const circle = [...updates, update("A-5", "A-2", 1)];
    expect(() => checkUpdates(circle, "radio")).toThrow(FirmwareLoop);
    expect(() => checkUpdates(circle, "radio")).toThrow(/A-2 → A-4 → A-5 → A-2/);
  });
});

it("says what the medium of an update must hold, where that is known", () => {
  expect(mediumWords({ how: "From a USB stick", storageMb: 3200 })).toBe("From a USB stick, with 3200 MB of room");
  expect(mediumWords({ how: "From a USB stick" })).toBe("From a USB stick");
});
