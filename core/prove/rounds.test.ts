import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf } from "../../tests/support/jobs";
import { planJob, stripInput } from "../job/plan";
import { closedAt, openTests, repeatedTests } from "../job/rounds";
import type { Command } from "../log/entry";
import { foldJob } from "../log/fold";
import { Model } from "../model/outcome";
import { closingTests, roundOf, witnesses } from "./rounds";

const documents = demoDocuments();
const plan = planJob(documents, { choices: null });
const links = plan.connections.map((c) => c.link);
const NOW = "2026-01-05T12:00:00Z";
const pass = (test: string): Command => ({ kind: "prove.result", data: { test, answer: "pass", note: "" } });

describe("the rounds", () => {
  it("leave what needs speed to the yard, and the gate asks for the bench alone", () => {
    const yard = plan.tests.filter((t) => roundOf(t) === "yard");
    expect(yard.map((t) => t.id)).toEqual(["motionLock/rolling"]);
    const bench = plan.tests.filter((t) => roundOf(t) === "bench");
    const state = foldJob(logOf(...bench.map((t) => pass(t.id))));
    expect(stripInput(plan, state).bench).toMatchObject({ tests: bench.length, passed: bench.length });
    expect(openTests(plan, state, { left: [], later: [], back: [{}] as never })).toEqual([]);
    expect(openTests(plan, state, { left: [], later: [], back: [] }).map((o) => o.round)).toEqual(["yard"]);
  });

  it("repeat a few tests that together show every plug that any test shows", () => {
    const again = closingTests(plan.fitted, plan.settings, plan.tests, links);
    const shownBy = witnesses(plan.fitted, plan.settings, plan.tests, links);
    const yard = plan.tests.filter((t) => roundOf(t) === "yard");
    expect(again.length).toBeLessThan(plan.tests.length);
    for (const [link, by] of shownBy)
      if (by.length > 0) expect([link, by.some((t) => again.includes(t) || yard.includes(t))]).toEqual([link, true]);
    // None of them is there for nothing.
    for (const test of again) {
      const others = [...again.filter((t) => t !== test), ...yard];
      const only = [...shownBy.values()].some((by) => by.includes(test) && !by.some((t) => others.includes(t)));
      expect([test.id, only]).toEqual([test.id, true]);
    }
  });

  it("name as a witness just the tests that turn out otherwise with the plug out", () => {
    const [link = ""] = links;
    const open = new Model(plan.fitted, { openLinks: { [link]: "out" } }, plan.settings);
    const sound = new Model(plan.fitted, {}, plan.settings);
    const plain = plan.tests.filter(
      (t) => open.try(t.fn, t.situationId).outcome.kind !== sound.try(t.fn, t.situationId).outcome.kind,
    );
    const found = witnesses(plan.fitted, plan.settings, plan.tests, [link]).get(link) ?? [];
    expect(found.map((t) => t.id)).toEqual(expect.arrayContaining(plain.map((t) => t.id)));
    expect(closingTests(plan.fitted, plan.settings, plan.tests, [])).toEqual([]);
  });

  it("ask again only for what was last tried before the car was closed", () => {
    const steps = jobOf(documents).strip(NOW).left;
    const passes = plan.tests.map((t) => pass(t.id));
    const tick = (direction: "in" | "back") => (t: (typeof steps)[number]) =>
      ({ kind: "strip.step", data: { step: t.id, direction } }) as Command;
    const opened = [...steps.map(tick("in")), ...passes];
    const closing = jobOf(documents, logOf(...opened)).strip(NOW).back;
    const back = closing.map((t) => tick(t.prepStep ? "in" : "back")(t));
    const closed = jobOf(documents, logOf(...opened, ...back));
    const view = closed.strip(NOW);
    expect(closedAt(closed.state, view)).not.toBeNull();
    const due = openTests(plan, closed.state, view);
    expect(due.map((o) => o.test.id)).toEqual(repeatedTests(plan).map((t) => t.id));
    const again = jobOf(documents, logOf(...opened, ...back, ...due.map((o) => pass(o.test.id))));
    expect(openTests(plan, again.state, again.strip(NOW))).toEqual([]);
  });
});
