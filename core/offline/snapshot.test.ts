import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { journalOf } from "../strip/learn";
import { stripView } from "../strip/view";
import { readSnapshot, SNAPSHOT_FORMAT } from "./snapshot";

describe("a snapshot kept on a device", () => {
  const old = JSON.parse(readFileSync("tests/fixtures/2026-11/snapshot.json", "utf8"));

  it("of November 2026 still shows the next step and the trays", () => {
    const snapshot = readSnapshot(old);
    expect(snapshot?.format).toBe(SNAPSHOT_FORMAT);
    if (!snapshot) return;
    const view = stripView(snapshot.input, journalOf(snapshot.entries), snapshot.now);
    expect(view.done.length).toBeGreaterThan(8);
    expect(view.car.panelsOff.length).toBeGreaterThan(0);
    expect(view.skipped).toEqual([]);
    expect(view.route.plan.steps.some((s) => s.id === "own-1" || s.title === "Lamp out")).toBe(true);
  });

  it("of a newer program, or of none, is left to the server", () => {
    expect(readSnapshot({ ...old, format: SNAPSHOT_FORMAT + 1 })).toBeNull();
    for (const nothing of [undefined, null, "x", {}]) expect(readSnapshot(nothing)).toBeNull();
  });
});
