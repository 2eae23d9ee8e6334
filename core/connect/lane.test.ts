import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { planJob } from "../job/plan";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import type { Disturbance, FunctionSpec, System } from "../model/types";
import { drawingGraph, onlyKind, onlyLayers } from "./drawing";
import { lane } from "./lane";

const taxi = planJob(demoDocuments(), { choices: null });
const fn = (system: System, id: string): FunctionSpec => {
  const found = system.functions.find((f) => f.id === id);
  if (!found) throw new Error(`no function ${id}`);
  return found;
};
const draw = (id: string, now: Disturbance = {}, system = taxi.fitted) => {
  const f = fn(system, id);
  return lane(system, f, f.situations[0]?.id ?? "", taxi.settings, now);
};

/** A second sender spliced into the factory display lead. */
function withIntruder(): System {
  const system = structuredClone(taxi.fitted);
  const lead = system.parts.find((p) => p.id === "displayLead");
  lead?.ports.push({ id: "tee", label: "splice", contacts: [{ id: "v", kind: "serialVideo", direction: "wire" }] });
  lead?.joins?.[0]?.contacts.push("tee.v");
  system.parts.push({
    id: "intruder",
    name: "Second picture box",
    type: "device",
    ports: [{ id: "out", label: "out", contacts: [{ id: "v", kind: "serialVideo", direction: "out" }] }],
    sources: [{ id: "s", at: ["out.v"], attributes: { picture: "other" } }],
  });
  system.links.push({ id: "splice", a: "displayLead.tee", b: "intruder.out" });
  return system;
}

describe("a lane", () => {
  it("runs from the source to where a person looks, each part once", () => {
    const { stations, works, breakAt, doubled } = draw("factoryPicture");
    expect([works, breakAt, doubled]).toEqual([true, -1, null]);
    expect(stations.map((s) => s.part)).toEqual([
      "radio",
      "videoInLead",
      "module",
      "videoOutLead",
      "displayLead",
      "screen",
    ]);
    expect(stations.every((s) => s.reached)).toBe(true);
  });

  it("marks the first station that is not reached, and everything behind it", () => {
    const broken = draw("factoryPicture", { openJoins: { videoOutLead: "It is broken." } });
    expect(broken.stations[broken.breakAt]?.part).toBe("videoOutLead");
    expect(broken.stations.slice(broken.breakAt).every((s) => !s.reached)).toBe(true);
    expect(broken.reasons.join(" ")).toContain("It is broken.");
  });

  it("marks where two senders meet, and names both", () => {
    const { doubled, works, stations } = draw("factoryPicture", {}, withIntruder());
    expect(works).toBe(false);
    expect(stations[doubled?.at ?? -1]?.part).toBe("displayLead");
    expect([...(doubled?.senders ?? [])].sort()).toEqual(["Radio R2", "Second picture box"]);
  });

  it("goes back over the control that makes a camera send", () => {
    const parts = draw("rearView").stations.map((s) => s.part);
    expect(parts.indexOf("bodyComputer")).toBeLessThan(parts.indexOf("rearCamera"));
    expect(parts.at(-1)).toBe("screen");
  });

  it("can be asked in another situation than the one it is tried in", () => {
    const f = fn(taxi.fitted, "factoryPicture");
    const off = { ...f, situations: f.situations.map((s) => ({ ...s, set: { ...s.set, key: "off" as const } })) };
    const drawn = lane(taxi.fitted, off, f.situations[0]?.id ?? "", taxi.settings, {});
    expect(drawn.works).toBe(false);
    expect(drawn.stations.length).toBeGreaterThan(2);
    expect(drawn.reasons.length).toBeGreaterThan(0);
  });

  it("is drawn for every test of every shipped job that fits, and ends where the function is observed", () => {
    const library = shippedLibrary();
    const get = (id: string) => library.find((p) => p.id === id);
    const jobs = [
      ["kestrane-halden-14", "kestrane-halden-14-k1", "orvanto-om8-ring"],
      ["sundrey-vale-19", "sundrey-vale-19-v2", "brackwater-guide"],
      ["kestrane-fjell-11", "kestrane-fjell-11-f1", "pellimar-free-7"],
    ] as const;
    let drawn = 0;
    for (const [car, variant, kit] of jobs) {
      const documents = {
        car: get(car) as CarProfile,
        variant: get(variant) as VariantProfile,
        kit: get(kit) as KitProfile,
      };
      const plan = planJob(documents, { choices: null });
      for (const t of plan.tests) {
        const l = lane(plan.fitted, t.fn, t.situationId, plan.settings, {});
        expect([t.id, l.works]).toEqual([t.id, true]);
        expect(l.stations.length).toBeGreaterThan(0);
        drawn++;
      }
    }
    expect(drawn).toBeGreaterThan(20);
  });
});

describe("the drawing of a system", () => {
  const graph = drawingGraph(taxi.fitted, taxi.touched.parts);

  it("has a box for every part that is joined, and a line for every connection", () => {
    expect(graph.lines).toHaveLength(taxi.fitted.links.length);
    const boxes = new Set(graph.boxes.map((b) => b.id));
    for (const l of graph.lines) expect([boxes.has(l.from), boxes.has(l.to)]).toEqual([true, true]);
    expect(graph.boxes.filter((b) => b.ofKit).map((b) => b.id)).toContain("module");
  });

  it("is cut down to one kind: who has no line of it has no box", () => {
    const video = onlyKind(graph, "serialVideo");
    expect(video.boxes.map((b) => b.id).sort()).toEqual(
      ["displayLead", "module", "radio", "screen", "videoInLead", "videoOutLead"].sort(),
    );
    expect(onlyKind(graph, "opticalRing")).toEqual({ boxes: [], lines: [] });
  });

  it("is cut down to layers, all of which together are the whole", () => {
    const each = [0, 1, 2].map((layer) => onlyLayers(graph, [layer]).lines.length);
    expect(each.reduce((a, b) => a + b, 0)).toBe(graph.lines.length);
    expect(onlyLayers(graph, [])).toEqual({ boxes: [], lines: [] });
    expect(onlyLayers(graph, [0, 1, 2]).boxes).toHaveLength(graph.boxes.length);
  });
});
