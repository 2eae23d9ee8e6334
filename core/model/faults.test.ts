import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { fittingJobs } from "../../tests/bench/jobs";
import { planJob } from "../job/plan";
import { singleFaults } from "./faults";
import { Model } from "./outcome";

const plan = planJob(demoDocuments(), { choices: null });
const faults = singleFaults(plan.fitted, plan.touched);
const under = (id: string) => {
  const fault = faults.find((f) => f.id === id);
  if (!fault) throw new Error(`no fault ${id}`);
  return new Model(plan.fitted, fault.disturbance, plan.settings);
};
const sight = (model: Model, test: string) => {
  const found = plan.tests.find((t) => t.id === test);
  if (!found) throw new Error(`no test ${test}`);
  return model.sight(found.fn, found.situationId);
};

describe("single faults", () => {
  it("are of every kind over the shipped jobs, each with a name of its own", () => {
    const kinds = new Set<string>();
    for (const job of fittingJobs().filter((_, i) => i % 3 === 0)) {
      const all = singleFaults(job.fitted, job.touched);
      expect(new Set(all.map((f) => f.id)).size).toBe(all.length);
      for (const f of all) kinds.add(f.kind);
    }
    expect([...kinds].sort()).toEqual([
      "assumed",
      "crossed",
      "dead",
      "exchanged",
      "leadOpen",
      "notPlugged",
      "pushedBack",
      "reversed",
      "setting",
    ]);
  });

  it("put a plug into a free socket that takes it, and find it dark there", () => {
    const module = plan.fitted.parts.find((x) => x.id === "module");
    const usb = module?.ports.find((x) => x.id === "videoOut");
    if (!module || !usb) throw new Error("the module has a socket for the picture lead");
    const twin = { ...usb, id: "spare", label: "spare socket" };
    const system = {
      ...plan.fitted,
      parts: plan.fitted.parts.map((x) => (x === module ? { ...module, ports: [...module.ports, twin] } : x)),
    };
    const wrong = singleFaults(system, plan.touched).filter((f) => f.kind === "otherSocket");
    expect(wrong.map((f) => f.title)).toContainEqual(expect.stringContaining("spare socket"));
    const fault = wrong.find((f) => f.disturbance.movedLinks && f.id.endsWith("module.spare"));
    const model = new Model(system, fault?.disturbance, plan.settings);
    expect(sight(model, "factoryPicture/on")).toBe("black");
  });

  it("let every job be evaluated under each of them", () => {
    for (const job of fittingJobs().filter((_, i) => i % 6 === 1))
      for (const f of singleFaults(job.fitted, job.touched)) {
        const model = new Model(job.fitted, f.disturbance, job.settings);
        for (const t of job.tests) expect(model.sight(t.fn, t.situationId)).not.toBe("");
      }
  });

  it("move loudspeakers to other corners when contacts of two corners are exchanged", () => {
    const crossed = faults.filter((f) => f.kind === "crossed");
    expect(crossed.length).toBeGreaterThan(0);
    const front = crossed.find((f) => f.id.endsWith("left front+right front"));
    expect(sight(under(front?.id ?? ""), "tunerSound/on")).toBe("otherSpeakers:speakers.cones.LR+speakers.cones.RR");
  });

  it("take away what goes through a contact that is pushed back, and nothing else", () => {
    const back = faults.filter((f) => f.kind === "pushedBack");
    const changed = new Set(
      back.flatMap((f) => plan.tests.filter((t) => sight(under(f.id), t.id) !== "works").map((t) => `${f.id} ${t.id}`)),
    );
    expect(back.length).toBeGreaterThan(5);
    expect(changed.size).toBeGreaterThan(5);
    expect(changed.size).toBeLessThan(back.length * plan.tests.length);
  });

  it("weigh little where nobody was to touch anything", () => {
    const radio = faults.filter((f) => f.kind === "setting" && f.parts[0] === "radio");
    const module = faults.filter((f) => f.kind === "setting" && f.parts[0] === "module");
    expect(module.length).toBeGreaterThan(0);
    for (const f of radio)
      if (!plan.sets.some((s) => f.id.includes(`:${s.setting}=`))) expect(f.weight).toBeLessThan(1);
  });
});
