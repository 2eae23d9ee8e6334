import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf } from "../../tests/support/jobs";
import type { Command } from "../log/entry";
import { lastDone } from "./last-done";

const documents = demoDocuments();
const cover: Command = { kind: "strip.step", data: { step: "cover", direction: "in" } };
const point: Command = { kind: "handover.point", data: { text: "Stone chip" } } as Command;
const undo = (entry: string): Command => ({ kind: "undo", data: { entry } });
const at = (minutes: number) => new Date(Date.parse("2026-01-05T08:00:00Z") + minutes * 60_000).toISOString();
const last = (by: string, minutes: number, ...log: Command[]) =>
  lastDone(jobOf(documents, logOf(...log)), by, at(minutes));

describe("what was done last", () => {
  it("is offered to the person who did it, as long as it can be a slip", () => {
    expect(last("Test", 2, point, cover)).toEqual({ entry: "e1", words: expect.stringContaining("Cover") });
    expect([last("Other", 2, point, cover), last("Test", 30, point, cover), last("Test", 2)]).toEqual([
      null,
      null,
      null,
    ]);
  });

  it("is the one before, once the last was taken back", () => {
    expect(last("Test", 3, point, cover, undo("e1"))?.entry).toBe("e0");
  });

  it("is not the closing of a job", () => {
    const close = { kind: "handover.close", data: { unfinished: null } } as unknown as Command;
    expect(last("Test", 2, cover, close)).toBeNull();
  });
});
