import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf, TEST } from "../../tests/support/jobs";
import { decide } from "../job/decide";
import { planJob } from "../job/plan";
import type { Command } from "../log/entry";
import { foldJob } from "../log/fold";
import { singleFaults } from "../model/faults";
import { Model } from "../model/outcome";
import { retriedAfter } from "./retry";
import { stateSteps } from "./state-steps";

const documents = demoDocuments();
const plan = planJob(documents, { choices: null });
const faults = singleFaults(plan.fitted, plan.touched);
const fault = (id: string) => faults.find((f) => f.id === id) ?? fail(id);
function fail(id: string): never {
  throw new Error(`no fault ${id}`);
}
const again = (id: string) =>
  retriedAfter(plan.fitted, plan.settings, plan.tests, { ...fault(id), fault: fault(id), shows: null }).map(
    (t) => t.id,
  );

describe("what is tried again after a repair", () => {
  it("holds every test that the fault changes, by trying each one plainly", () => {
    const sound = new Model(plan.fitted, {}, plan.settings);
    for (const f of faults.filter((x) => x.kind !== "assumed").slice(0, 40)) {
      const broken = new Model(plan.fitted, f.disturbance, plan.settings);
      const changed = plan.tests.filter(
        (t) => broken.try(t.fn, t.situationId).outcome.kind !== sound.try(t.fn, t.situationId).outcome.kind,
      );
      expect([f.id, again(f.id)]).toEqual([f.id, expect.arrayContaining(changed.map((t) => t.id))]);
    }
  });

  it("leaves out what the repair cannot have touched", () => {
    expect(again("open:videoOutLead")).toContain("phonePicture/wireless");
    expect(again("open:videoOutLead")).not.toContain("hazard/key-off");
    expect(again("open:videoOutLead").length).toBeLessThan(plan.tests.length);
  });

  it("is computed when the repair is written, and only that is forgotten", () => {
    const results = plan.tests.map(
      (t): Command => ({
        kind: "prove.result",
        data: { test: t.id, answer: t.id === "phonePicture/wireless" ? "nothing" : "pass", note: "" },
      }),
    );
    const log = logOf(...results);
    const at = "2026-01-05T12:00:00Z";
    const command: Command = { kind: "prove.repair", data: { fault: "open:videoOutLead" } };
    const decision = decide(jobOf(documents, log), [{ id: "r", command, at }], TEST);
    if (decision.kind !== "written") throw new Error("refused");
    const state = foldJob([...log, ...decision.entries]);
    expect(state.results.get("hazard/key-off")?.value).toBe("pass");
    expect(state.results.has("phonePicture/wireless")).toBe(false);
    expect([...state.results.keys()].sort()).toEqual(
      plan.tests
        .map((t) => t.id)
        .filter((id) => !again("open:videoOutLead").includes(id))
        .sort(),
    );
  });
});

describe("the state that a test asks for", () => {
  const test = plan.tests.find((t) => t.id === "phonePicture/wireless") ?? fail("phonePicture/wireless");

  it("names phone, source and picture, none of which the sentence says", () => {
    const steps = stateSteps(test, plan.fitted, null);
    expect(steps.map((s) => s.say)).toContain("Phone connected by wireless");
    expect(steps.every((s) => s.change)).toBe(true);
    const sound = plan.tests.find((t) => t.fn.id === "phoneSound") ?? fail("phoneSound");
    expect(stateSteps(sound, plan.fitted, null).map((s) => s.say)).toContain("Radio plays the line input");
  });

  it("says what stands already after the test before, and what must be set back", () => {
    const same = stateSteps(test, plan.fitted, test.situation);
    expect(same.find((s) => s.say === "Phone connected by wireless")?.change).toBe(false);
    const reverse = { ...test.situation, selector: "R" as const };
    expect(stateSteps(test, plan.fitted, reverse)).toContainEqual({ say: "Selector in P", change: true });
  });
});
