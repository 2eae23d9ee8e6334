import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { planInput } from "../job/connect";
import { openNow, planJob } from "../job/plan";
import { foldJob } from "../log/fold";
import { Model } from "../model/outcome";
import { asPlugged, misplaced, placesFor } from "./as-plugged";
import { checkConnections } from "./rules";

const documents = demoDocuments();
const plan = planJob(documents, { choices: null });
const link = (id: string) => plan.fitted.links.find((l) => l.id === id) ?? { a: "", b: "" };

describe("a lead that can go into two places", () => {
  it("is found by mating, one that cannot is not asked for", () => {
    expect(placesFor(plan.fitted, link("k-in-module")).sort()).toEqual(["module.videoIn", "module.videoOut"]);
    expect(placesFor(plan.fitted, link("k-car"))).toEqual(["loom.radio"]);
  });

  it("is told when it sits in the other one, with where it belongs", () => {
    const [finding] = misplaced(plan.fitted, new Map([["k-in-module", "module.videoOut"]]));
    expect(finding).toMatchObject({ rule: "wrong-place", level: "stop", link: "k-in-module" });
    expect(finding?.remedy).toMatch(/^Move it to .*VIDEO IN.* before anything is switched on/i);
    expect(misplaced(plan.fitted, new Map([["k-in-module", "module.videoIn"]]))).toEqual([]);
  });

  it("makes the model answer for the leads as they sit, before power is on", () => {
    const crossed = new Map([
      ["k-in-module", "module.videoOut"],
      ["k-out-module", "module.videoIn"],
    ]);
    const system = asPlugged(plan.fitted, { plugAt: crossed, turned: new Set() });
    const rules = checkConnections({ ...planInput(plan, foldJob([])), system }).map((f) => f.rule);
    expect(rules).toEqual(expect.arrayContaining(["two-drivers", "direction"]));
    const picture = plan.fitted.functions.find((f) => f.id === "factoryPicture");
    if (!picture) throw new Error("no picture");
    const tried = (s: typeof system) => new Model(s, {}, plan.settings).try(picture, picture.situations[0]?.id ?? "");
    expect(tried(plan.fitted).outcome.kind).toBe("ok");
    expect(tried(system).outcome.kind).not.toBe("ok");
    expect(asPlugged(plan.fitted, { plugAt: new Map(), turned: new Set() })).toBe(plan.fitted);
  });

  it("is kept by the log, and moved by marking it again", () => {
    const entry = (id: string, at?: string) => ({
      kind: "connect.plug" as const,
      data: { link: "k-in-module", plugged: true, ...(at ? { at } : {}) },
      id,
      at: "2026-03-02T08:00:00Z",
      by: "Test",
    });
    const wrong = foldJob([entry("1", "module.videoOut")]);
    expect([...wrong.plugAt]).toEqual([["k-in-module", "module.videoOut"]]);
    const right = foldJob([entry("1", "module.videoOut"), entry("2")]);
    expect([right.plugAt.size, right.plugged.has("k-in-module")]).toEqual([0, true]);
    expect(Object.keys(openNow(plan, right).openLinks ?? {})).not.toContain("k-in-module");
  });
});
