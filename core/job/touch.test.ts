import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, named, plugged, press, refusalOf, signedJob } from "../../tests/support/jobs";
import type { Command } from "../log/entry";
import { singleFaults } from "../model/faults";
import { type Place, TARGET_IDS, TARGETS } from "../prove/touch-targets";
import { certificateOf } from "./certificate";
import { handoverReport } from "./report";
import { explainingSettings, touchOf, touchTests } from "./touch";

const NOW = "2026-11-27T09:00:00Z";
const fresh = jobOf(demoDocuments());
const tests = touchTests(fresh.plan);
const [factory, phone] = ["factoryTouch", "phoneTouch"].map((id) => tests.find((t) => t.fn.id === id));
if (!factory || !phone) throw new Error("the demonstration's kit has no touch");

const touched = (test: string, where: (p: Place) => Place | null): Command[] =>
  TARGET_IDS.map((target) => ({ kind: "prove.touch", data: { test, target, at: where(TARGETS[target].at) } }));
const mirrored = ({ x, y }: Place) => ({ x: 1 - x, y });

describe("the touch panel of a job", () => {
  it("is measured in each picture by itself, and stands on the certificate when it is right", () => {
    const done = press(plugged(fresh), ...touched(factory.id, (p) => p), ...touched(phone.id, mirrored));
    expect(touchOf(done.state, factory)).toMatchObject({ kind: "right" });
    expect(touchOf(done.state, phone)).toMatchObject({ kind: "mapped", stand: "mirrored left to right" });
    expect(certificateOf(done, NOW).sections.find((s) => s.title === "Touch panel")?.lines).toEqual([
      expect.stringMatching(/corners and centre touched, at most 0 % of the picture off/),
    ]);
    const open = handoverReport(done, NOW).openPoints.map((p) => p.text);
    expect(open.filter((t) => /fingers do not arrive/.test(t))).toHaveLength(1);
    const cured = press(done, ...touched(phone.id, (p) => p));
    expect(touchOf(cured.state, phone)).toMatchObject({ kind: "right" });
  });

  it("that is dead is explained by the settings that the model knows, once everything is plugged and set", () => {
    expect(explainingSettings(fresh.plan, fresh.state, phone)).toBeNull();
    const made = press(
      fresh,
      ...fresh.plan.connections.map((c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } })),
      ...fresh.plan.sets.map((s): Command => ({ kind: "configure.set", data: { setting: s.setting, done: true } })),
      { kind: "configure.switches", data: { settings: { ...fresh.plan.settings } } },
    );
    const settings = explainingSettings(made.plan, made.state, phone) ?? [];
    expect(settings.length).toBeGreaterThan(0);
    expect(settings.join()).toMatch(/Switch \d stands/);
  });

  it("that is mirrored is explained by the one setting that turns it, where the module has one", () => {
    const job = plugged(signedJob(named("sundrey-heron-20", "sundrey-heron-20-h2", "brackwater-bare-2")));
    const [test] = touchTests(job.plan).filter((t) => t.fn.id === "phoneTouch");
    if (!test) throw new Error("no touch");
    const found = press(job, ...touched(test.id, mirrored));
    expect(explainingSettings(found.plan, found.state, test)).toEqual([
      expect.stringMatching(/Touch panel.*mirrored left to right/),
    ]);
    // Turned by half and a shift is another value; what no value gives is explained by none.
    const half = press(job, ...touched(test.id, ({ x, y }) => ({ x: 1 - x, y: 1 - y })));
    expect(explainingSettings(half.plan, half.state, test)).toEqual([expect.stringMatching(/turned by half/)]);
    const quarter = press(job, ...touched(test.id, ({ x, y }) => ({ x: 1 - y, y: x })));
    expect(explainingSettings(quarter.plan, quarter.state, test)).toEqual([]);
  });

  it("is refused for what is no test of a panel", () => {
    const [other] = fresh.plan.tests.filter((t) => !tests.includes(t));
    const [first] = touched(other?.id ?? "", (p) => p);
    expect(first && refusalOf(fresh, first, NOW)).toMatch(/no test of a touch panel/);
  });
});

it("a repair that can have disturbed the panel asks for it again", () => {
  const touch = press(plugged(fresh), ...touched(phone.id, mirrored), {
    kind: "prove.result",
    data: { test: phone.id, answer: "wrong", note: "" },
  });
  const [fault] = singleFaults(touch.plan.fitted, touch.plan.touched);
  const repaired = press(touch, { kind: "prove.repair", data: { fault: fault?.id ?? "" } });
  expect(touchOf(repaired.state, phone)).toMatchObject({ kind: "open" });
});
