/** Ticks of two devices about one thing, as they arrive out of the order in which they were done. */
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf } from "../../tests/support/jobs";
import type { Command } from "../log/entry";
import { decide } from "./decide";

const documents = demoDocuments();
const LOG_START = Date.parse("2026-01-05T08:00:00Z");
const minutes = (n: number) => new Date(LOG_START + n * 60_000).toISOString();
const press = (command: Command, at: number, ...log: Command[]) =>
  decide(
    jobOf(documents, logOf(...log)),
    [{ id: "late", command, at: minutes(at) }],
    { name: "Other", role: "technician" },
    minutes(60),
  );
const key = (to: "on" | "off"): Command =>
  ({ kind: "strip.stands", data: { sets: { key: to }, before: {} } }) as unknown as Command;
const cover = (direction: "in" | "back"): Command => ({ kind: "strip.step", data: { step: "cover", direction } });

describe("a tick that arrives late", () => {
  it("is told of what was noted otherwise after it was done, and changes nothing", () => {
    // The log is written a minute apart: the key was on at minute 1, seen off at minute 0.
    const late = press(key("off"), 0, key("off"), key("on"));
    expect(late).toMatchObject({
      kind: "refused",
      because: "conflict",
      refusal: { problem: expect.stringMatching(/Test noted it otherwise 1 minute after .*ignition is on/) },
    });
  });

  it("counts where it was done last, though another device noted otherwise before", () => {
    expect(press(key("off"), 5, key("on")).kind).toBe("written");
  });

  it("stands against nothing that says the same, or speaks of another thing", () => {
    expect(press({ kind: "strip.stands", data: { sets: { maintainer: true } } }, 0, key("off"), key("on")).kind).toBe(
      "written",
    );
    const twice = press(cover("in"), 0, cover("back"), cover("in"));
    expect(twice.kind === "refused" ? twice.because : twice.kind).not.toBe("conflict");
  });

  it("is measured by the last word on a thing alone", () => {
    expect(press(key("off"), 0, cover("in"), key("on"), key("off"))).not.toMatchObject({ because: "conflict" });
    expect(press(key("on"), 0, cover("in"), key("on"), key("off"))).toMatchObject({ because: "conflict" });
  });

  it("has no say over what was taken back", () => {
    const undo: Command = { kind: "undo", data: { entry: "e1" } };
    expect(press(key("on"), 0, key("off"), key("off"), undo).kind).toBe("written");
  });

  it("of a test is kept as a try, and the one tried last counts", () => {
    const test = jobOf(documents).plan.tests[0]?.id ?? "";
    const result = (answer: "pass" | "nothing"): Command => ({
      kind: "prove.result",
      data: { test, answer, note: "" },
    });
    const log = logOf(result("pass"), result("nothing")).map((e, i) => ({ ...e, by: i === 0 ? "A" : "B" }));
    // B tried a minute before A, and the phone sent it afterwards.
    const [first, second] = log;
    if (!first || !second) throw new Error("no log");
    const { state } = jobOf(documents, [
      { ...first, at: minutes(9) },
      { ...second, at: minutes(8) },
    ]);
    expect(state.results.get(test)).toMatchObject({ value: "pass", by: "A" });
    expect(state.tries.map((t) => t.answer)).toEqual(["pass", "nothing"]);
  });
});
