import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compile } from "./compile";
import { ModelError } from "./errors";
import { evaluate } from "./evaluate";
import { KIND_NAMES, layerOf, oneDriverOnly, SIGNAL_KINDS } from "./kinds";
import { conditionWords, describeContact, describePort, situationWords } from "./labels";
import { Model } from "./outcome";
import { contact, smallSystem } from "./testing";
import { type Condition, DEFAULT_SITUATION, type Part, type Situation, type System } from "./types";

/** One device whose route from `in.1` to `out.1` stands under the condition. */
function gate(when: Condition, more: Partial<Part> = {}): System {
  const part: Part = {
    id: "gate",
    name: "Gate",
    type: "device",
    ports: [
      { id: "feed", label: "feed", contacts: [contact("1", "battery", "out")] },
      { id: "bus", label: "bus", contacts: [contact("H", "can"), contact("L", "can")] },
      { id: "in", label: "in", inside: true, contacts: [contact("1", "serialVideo", "out")] },
      { id: "out", label: "out", contacts: [contact("1", "serialVideo", "out")] },
    ],
    buses: [{ id: "b", high: "bus.H", low: "bus.L" }],
    settings: [{ id: "s", label: "Setting", values: ["off", "on"], initial: "off" }],
    sources: [{ id: "picture", at: ["in.1"], attributes: { picture: "x" } }],
    routes: [{ id: "r", from: "in.1", to: "out.1", when }],
    ...more,
  };
  return { parts: [part], links: [], functions: [], actions: [], assumed: [], defaultSituation: DEFAULT_SITUATION };
}

const passes = (when: Condition, situation: Partial<Situation> = {}, settings = {}) =>
  evaluate(compile(gate(when)), { ...DEFAULT_SITUATION, ...situation }, settings).arrivals("gate.out.1", "out").length >
  0;

/** Conditions of any nesting. @param denied with `not`, too */
function nestingOf(leaf: fc.Arbitrary<Condition>, denied: boolean): fc.Arbitrary<Condition> {
  return fc.letrec<{ tree: Condition }>((tie) => {
    const some = fc.array(tie("tree"), { minLength: 1, maxLength: 4 });
    const not = denied ? [fc.record({ not: tie("tree") })] : [];
    return {
      tree: fc.oneof({ depthSize: "small" }, leaf, fc.record({ all: some }), fc.record({ any: some }), ...not),
    };
  }).tree;
}

describe("conditions", () => {
  it("look at the situation by value and by bound", () => {
    expect(passes({ situation: "key", is: ["on", "running"] })).toBe(true);
    expect(passes({ situation: "key", is: ["on", "running"] }, { key: "off" })).toBe(false);
    expect(passes({ situation: "speedKmh", atMost: 5 }, { speedKmh: 5 })).toBe(true);
    expect(passes({ situation: "speedKmh", atMost: 5 }, { speedKmh: 6 })).toBe(false);
    expect(passes({ situation: "speedKmh", atLeast: 6 }, { speedKmh: 6 })).toBe(true);
    expect(passes({ situation: "lights", is: [true] }, { lights: true })).toBe(true);
  });

  it("look at settings: given, else initial", () => {
    expect(passes({ setting: "s", is: ["off"] })).toBe(true);
    expect(passes({ setting: "s", is: ["on"] }, {}, { "gate.s": "on" })).toBe(true);
    expect(passes({ setting: "s", is: ["on"] })).toBe(false);
  });

  it("follow Boolean algebra on any nesting", () => {
    const atom = fc.constantFrom<Condition>(
      { situation: "lights", is: [true] },
      { situation: "paired", is: [true] },
      { setting: "s", is: ["on"] },
    );
    const plain = (c: Condition, s: Situation, on: boolean): boolean => {
      if ("all" in c) return c.all.every((x) => plain(x, s, on));
      if ("any" in c) return c.any.some((x) => plain(x, s, on));
      if ("not" in c) return !plain(c.not, s, on);
      return "setting" in c ? on : "situation" in c && s[c.situation] === true;
    };
    fc.assert(
      fc.property(nestingOf(atom, true), fc.boolean(), fc.boolean(), fc.boolean(), (c, lights, paired, on) => {
        const situation = { ...DEFAULT_SITUATION, lights, paired };
        expect(passes(c, situation, { "gate.s": on ? "on" : "off" })).toBe(plain(c, situation, on));
      }),
    );
  });

  describe("of settings", () => {
    const SWITCHES = ["s", "t", "u"];
    const bank = SWITCHES.map((id) => ({ id, label: id, values: ["off", "on"], initial: "off" }));
    const at = (on: readonly string[]) => Object.fromEntries(on.map((s) => [`gate.${s}`, "on"]));
    const run = (when: Condition, on: readonly string[], lights = true) =>
      evaluate(compile(gate(when, { settings: bank })), { ...DEFAULT_SITUATION, lights }, at(on));
    const serves = (when: Condition, on: readonly string[], other: readonly string[], lights = true) =>
      run(when, on, lights).isSameWith((key) => at(other)[key] ?? "off");
    const is = (setting: string, value = "on"): Condition => ({ setting, is: [value] });
    const code: Condition = { all: [is("s"), is("t"), is("u", "off")] };

    it("are one question where they make a code: every wrong one is the same", () => {
      expect(serves(code, [], ["s", "u"])).toBe(true);
      expect(serves(code, [], ["s", "t"])).toBe(false);
      expect(serves({ not: code }, ["s"], ["t"])).toBe(true);
      expect(serves({ any: [code, is("u")] }, ["s"], ["u"])).toBe(false);
    });

    it("are not asked where nothing waits for them", () => {
      expect(serves({ all: [is("s"), { situation: "lights", is: [true] }] }, [], ["s"], false)).toBe(true);
      expect(serves({ all: [is("s"), { situation: "lights", is: [true] }] }, [], ["s"], true)).toBe(false);
    });

    it("serve other settings only where these give the same", () => {
      const leaf = fc.constantFrom<Condition>(
        ...SWITCHES.flatMap((s) => [is(s), is(s, "off"), { not: is(s) }]),
        { situation: "lights", is: [true] },
        { present: "in.1" },
      );
      // What arrives on the own layer cannot be denied.
      const tree = nestingOf(leaf, false);
      const passesAt = (c: Condition, on: readonly string[], lights: boolean) =>
        run(c, on, lights).arrivals("gate.out.1", "out").length > 0;
      let served = 0;
      fc.assert(
        fc.property(tree, fc.subarray(SWITCHES), fc.subarray(SWITCHES), fc.boolean(), (c, on, other, lights) => {
          if (!serves(c, on, other, lights)) return;
          served++;
          expect(passesAt(c, other, lights)).toBe(passesAt(c, on, lights));
        }),
        { numRuns: 500 },
      );
      expect(served).toBeGreaterThan(100);
    });
  });

  it("are refused when they name an unknown setting, bus or contact", () => {
    for (const when of [{ setting: "t", is: ["on"] }, { hears: "x", bus: "c" }, { present: "in.9" }] as Condition[])
      expect(() => compile(gate(when))).toThrow(ModelError);
  });

  it("hear a message only when both wires carry it the right way round", () => {
    const talker = (high: string, low: string): System => {
      const system = gate({ hears: "hello", bus: "b" });
      system.parts.push({
        id: "talker",
        name: "Talker",
        type: "device",
        ports: [{ id: "p", label: "p", contacts: [contact("H", "can"), contact("L", "can")] }],
        buses: [{ id: "b", high, low }],
        messages: [{ bus: "b", name: "hello" }],
      });
      system.links.push({ id: "l", a: "talker.p", b: "gate.bus" });
      return system;
    };
    const heard = (s: System) => evaluate(compile(s), DEFAULT_SITUATION).arrivals("gate.out.1", "out").length > 0;
    expect(heard(talker("p.H", "p.L"))).toBe(true);
    expect(heard(talker("p.L", "p.H"))).toBe(false);
  });

  it("are said in words with the names of the part", () => {
    const system = smallSystem();
    const camera = system.parts.find((p) => p.id === "camera");
    if (!camera) throw new Error("no camera");
    expect(conditionWords(system, camera, { present: "p.1" })).toBe("Camera gets battery feed");
    expect(
      conditionWords(system, camera, {
        any: [{ situation: "selector", is: ["R", "N"] }, { not: { situation: "lights", is: [true] } }],
      }),
    ).toBe("the selector is in R or the selector is in N or not (the lights are on)");
    expect(describeContact(system, "camera.p.2")).toBe("Camera, supply, contact 2 (trigger)");
    expect(describeContact(system, "no.such.one")).toBe("no.such.one");
    expect(describePort(system, "lead.a")).toBe("Lead, battery end");
    for (const field of Object.keys(DEFAULT_SITUATION)) expect(situationWords(field, "x").length).toBeGreaterThan(3);
  });
});

describe("signal kinds", () => {
  it("each have a layer, a name and a rule about drivers", () => {
    for (const kind of SIGNAL_KINDS) {
      expect([0, 1, 2]).toContain(layerOf(kind));
      expect(KIND_NAMES[kind]).toBeTruthy();
    }
    expect(oneDriverOnly("serialVideo")).toBe(true);
    expect(oneDriverOnly("can")).toBe(false);
  });
});

describe("disturbances", () => {
  const [fn] = smallSystem().functions;
  if (!fn) throw new Error("the small system has a function");
  const outcome = (...args: ConstructorParameters<typeof Model>) => new Model(...args).try(fn, "r").outcome;

  it("open one conductor of a lead and leave the other", () => {
    expect(outcome(smallSystem(), { openJoins: { "lead/0": "first open" } })).toMatchObject({
      kind: "absent",
      break: { reasons: [expect.stringContaining("Camera"), "first open"] },
    });
    expect(outcome(smallSystem(), { openJoins: { "lead/1": "second open" } })).toMatchObject({ kind: "absent" });
    expect(outcome(smallSystem(), { openJoins: { other: "elsewhere" } }).kind).toBe("ok");
  });

  it("silence a dead part with the given reason", () => {
    expect(outcome(smallSystem(), { deadParts: { camera: "Camera is dead." } })).toMatchObject({
      kind: "absent",
      break: { owner: "camera", reasons: ["Camera is dead."] },
    });
  });

  it("turn a plug round: contact 1 meets the last one", () => {
    const { arrivals } = evaluateReversed();
    expect(arrivals).toEqual(["lead.a.2"]);
    function evaluateReversed() {
      const evaluation = evaluate(compile(smallSystem(), { reversedLinks: ["battery-lead"] }), DEFAULT_SITUATION);
      // Only the battery feed is live in park: reversed it comes out at the other contact, of another layer.
      return { arrivals: ["lead.a.1", "lead.a.2"].filter((ref) => evaluation.arrivals(ref).length > 0) };
    }
  });

  it("name links that do not exist", () => {
    expect(() => compile(smallSystem(), { movedLinks: { ghost: "lead.a" } })).toThrow(/ghost.*no such link/);
  });
});
