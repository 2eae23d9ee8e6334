import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { planJob } from "../job/plan";
import { compile } from "./compile";
import { ModelError } from "./errors";
import { evaluate } from "./evaluate";
import { singleFaults } from "./faults";
import { outcomeKey } from "./observe";
import { Model } from "./outcome";
import { contact, smallSystem } from "./testing";
import { DEFAULT_SITUATION, type System } from "./types";

const inReverse = { ...DEFAULT_SITUATION, selector: "R" as const };

describe("evaluate", () => {
  it("carries signals through links, joins and routes and sums the settling times", () => {
    const evaluation = evaluate(compile(smallSystem()), inReverse);
    const [arrival] = evaluation.arrivals("screen.glass.1");
    expect(arrival?.signal.attributes).toEqual({ picture: "rear" });
    expect(arrival?.afterMs).toBe(500);
    expect(evaluation.hops("screen.glass.1", () => true).map((h) => h.ref)).toEqual([
      "camera.v.1",
      "screen.v.1",
      "screen.glass.1",
      "screen.glass.1",
    ]);
  });

  it("says where a missing signal stopped and follows the failed condition to its cause", () => {
    const open = new Model(smallSystem(), { openLinks: { "battery-lead": "The lead is not plugged at the battery." } });
    const [fn] = open.system.functions;
    if (!fn) throw new Error("the small system has a function");
    const { outcome } = open.try(fn, "r");
    expect(outcome.kind).toBe("absent");
    if (outcome.kind !== "absent") return;
    expect(outcome.break.owner).toBe("camera");
    expect(outcome.break.reasons.join(" ")).toContain("Camera gets battery feed");
    expect(outcome.break.reasons.at(-1)).toBe("The lead is not plugged at the battery.");
  });

  it("names a condition on a later layer, a denial of the own layer and a reference to nothing", () => {
    const later = smallSystem();
    const [battery] = later.parts;
    battery?.ports.push({ id: "v", label: "picture", contacts: [contact("1", "compositeVideo", "in")] });
    battery?.sources?.push({ id: "x", at: ["p.1"], when: { present: "v.1" } });
    expect(() => compile(later)).toThrow(ModelError);

    const denied = smallSystem();
    denied.parts[3]?.routes?.push({ id: "x", from: "v.1", to: "glass.1", when: { not: { present: "v.1" } } });
    expect(() => compile(denied)).toThrow(/denies v\.1 of its own layer/);

    const nothing = smallSystem();
    nothing.links.push({ id: "lost", a: "lead.c", b: "camera.p" });
    expect(() => compile(nothing)).toThrow(/there is no port lead\.c/);
  });

  it("finds two drivers on one sink", () => {
    const system = smallSystem();
    system.parts[3]?.routes?.push({ id: "again", from: "v.2", to: "glass.1" });
    system.parts[3]?.ports[0]?.contacts.push(contact("2", "compositeVideo", "in"));
    system.parts.push({
      id: "second",
      name: "Second camera",
      type: "device",
      ports: [{ id: "v", label: "picture", contacts: [contact("2", "compositeVideo", "out")] }],
      sources: [{ id: "view", at: ["v.2"], attributes: { picture: "other" } }],
    });
    system.links.push({ id: "second-screen", a: "second.v", b: "screen.v" });
    const model = new Model(system);
    const { outcome } = model.try(system.functions[0] ?? never(), "r");
    expect(outcome.kind).toBe("doubled");
    if (outcome.kind === "doubled") expect(outcome.drivers.sort()).toEqual(["camera/view", "second/view"]);
  });

  it("tells a picture that comes too late from one that is missing", () => {
    const system = smallSystem();
    const fn = { ...(system.functions[0] ?? never()), withinMs: 400 };
    expect(new Model(system).try(fn, "r").outcome).toMatchObject({ kind: "late", afterMs: 500, withinMs: 400 });
  });

  it("gives the same outcomes for any order of parts, links, ports and routes", () => {
    const plan = planJob(demoDocuments(), { choices: null });
    const key = (system: System) => {
      const model = new Model(system, { openLinks: { "k-out-module": "open" } }, plan.settings);
      return plan.tests.map((t) => {
        const { outcome } = model.try(t.fn, t.situationId);
        return [t.id, outcomeKey(outcome), outcome.kind === "absent" ? outcome.break.reasons : []];
      });
    };
    const reference = key(plan.fitted);
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        expect(key(shuffled(plan.fitted, seed))).toEqual(reference);
      }),
      { numRuns: 15 },
    );
  });

  it("never makes a function better by breaking one more thing of the supply (monotone in its plain systems)", () => {
    const system = smallSystem();
    const model = new Model(system);
    expect(model.try(system.functions[0] ?? never(), "r").outcome.kind).toBe("ok");
    for (const link of system.links) {
      const broken = new Model(system, { openLinks: { [link.id]: "open" } });
      expect(broken.try(system.functions[0] ?? never(), "r").outcome.kind).toBe("absent");
    }
  });
});

describe("the demonstration car", () => {
  const plan = planJob(demoDocuments(), { choices: null });

  it("works in all its tests when everything is plugged and set", () => {
    expect(plan.tests.length).toBeGreaterThan(12);
    const model = new Model(plan.fitted, {}, plan.settings);
    for (const t of plan.tests) expect([t.id, model.try(t.fn, t.situationId).outcome.kind]).toEqual([t.id, "ok"]);
  });

  it("blacks out every picture when the video leads are exchanged, and keeps the sound", () => {
    const fault = singleFaults(plan.fitted, plan.touched).find((f) => f.id === "exchanged:k-in-module+k-out-module");
    const model = new Model(plan.fitted, fault?.disturbance, plan.settings);
    const outcome = (id: string) => {
      const t = plan.tests.find((x) => x.id === id) ?? never();
      return model.try(t.fn, t.situationId).outcome.kind;
    };
    expect(fault).toBeDefined();
    expect(outcome("phonePicture/wireless")).toBe("absent");
    expect(outcome("factoryPicture/on")).toBe("absent");
    expect(outcome("tunerSound/on")).toBe("ok");
    expect(outcome("phoneSound/on")).toBe("ok");
  });

  it("shows a wrong picture format, not a missing picture, for a wrong format switch", () => {
    const model = new Model(plan.fitted, { settings: { "module.sw2": "off" } }, plan.settings);
    const t = plan.tests.find((x) => x.id === "phonePicture/wired") ?? never();
    expect(model.try(t.fn, t.situationId).outcome).toMatchObject({
      kind: "wrong",
      attribute: "format",
      expected: "1024x600",
      got: "1280x480",
    });
  });

  it("leaves the factory picture when the toggle key is let go early, and says so", () => {
    const shortHold = plan.fitted.assumed.find((a) => a.id === "shortHold");
    const model = new Model(plan.fitted, { assumed: shortHold ? [shortHold] : [] }, plan.settings);
    const t = plan.tests.find((x) => x.id === "phonePicture/wireless") ?? never();
    const tried = model.try(t.fn, t.situationId);
    expect(tried.missed[0]?.break.reasons[0]).toMatch(/Held for 1 s/);
    expect(tried.outcome).toMatchObject({ kind: "wrong", attribute: "picture", got: "factory" });
  });

  it("notices a pair of bus wires that are exchanged", () => {
    const crossed = structuredClone(plan.fitted);
    const harness = crossed.parts.find((p) => p.id === "harness") ?? never();
    for (const join of harness.joins ?? []) {
      join.contacts = join.contacts.map((c) => (c === "module.3" ? "module.4" : c === "module.4" ? "module.3" : c));
    }
    expect(new Model(crossed, {}, plan.settings).alive("module")).toBe(false);
    expect(new Model(plan.fitted, {}, plan.settings).alive("module")).toBe(true);
  });
});

function never(): never {
  throw new Error("the fixture lacks what the test needs");
}

function shuffled(system: System, seed: number): System {
  let state = seed >>> 0 || 1;
  const random = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  const mix = <T>(list: readonly T[] | undefined): T[] => {
    const copy = [...(list ?? [])];
    for (let i = copy.length - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      [copy[i], copy[j]] = [copy[j] as T, copy[i] as T];
    }
    return copy;
  };
  return {
    ...system,
    links: mix(system.links),
    parts: mix(system.parts).map((p) => ({
      ...p,
      ports: mix(p.ports),
      sources: mix(p.sources),
      routes: mix(p.routes),
      messages: mix(p.messages),
    })),
  };
}
