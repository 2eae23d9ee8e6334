/** The classic mistakes of the trade, planted in systems that archetypes built: the model must show what a person sees. */
import { describe, expect, it } from "vitest";
import { resolveFit } from "../../core/fit/resolve-fit";
import { kitPartIds } from "../../core/model/compose";
import { type Fault, singleFaults } from "../../core/model/faults";
import { outcomeKey } from "../../core/model/observe";
import { Model } from "../../core/model/outcome";
import type { Disturbance } from "../../core/model/types";
import { shippedLibrary } from "../library";

const library = shippedLibrary();

function fitted(kitId: string, variantId: string, choices: Record<string, string> = {}) {
  const variant = library.find((p) => p.id === variantId);
  const kit = library.find((p) => p.id === kitId);
  if (variant?.document !== "variant" || kit?.document !== "kit") throw new Error("not in the library");
  const car = library.find((p) => p.id === variant.car);
  if (car?.document !== "car") throw new Error("no car");
  const resolved = resolveFit({ car, variant, kit }, choices);
  const outcome = (fnId: string, situation: string, disturbance: Disturbance = {}, settings = {}) => {
    const fn = resolved.fitted.functions.find((f) => f.id === fnId);
    if (!fn) throw new Error(`no function ${fnId}`);
    const model = new Model(resolved.fitted, disturbance, { ...resolved.settings, ...settings });
    return outcomeKey(model.try(fn, situation).outcome);
  };
  const faults = singleFaults(resolved.fitted, {
    parts: kitPartIds(kit),
    links: new Set(kit.plug.map((l) => l.id)),
    bank: kit.switchBank,
    planned: resolved.settings,
  });
  return { resolved, outcome, faults, has: (id: string): Fault | undefined => faults.find((f) => f.id === id) };
}

describe("a board inside the radio", () => {
  const { outcome, faults } = fitted("pellimar-inlay-5", "hollinby-marrow-17-m1");

  it("shows nothing with a ribbon the wrong way round, in both modes", () => {
    const reversed = faults.filter((f) => f.kind === "reversed");
    expect(reversed.length).toBeGreaterThan(0);
    const ribbon = reversed.find((f) => f.links.includes("k-in-module"));
    expect(ribbon && outcome("factoryPicture", "on", ribbon.disturbance)).toBe("absent");
    expect(ribbon && outcome("phonePicture", "wireless", ribbon.disturbance)).toBe("ok");
  });

  it("shows the wrong format with the format switches wrong", () => {
    expect(outcome("phonePicture", "wireless", {}, { "module.sw1": "on" })).toBe("wrong:format");
    expect(outcome("phoneTouch", "on", {}, { "module.sw3": "off" })).toBe("absent");
  });
});

describe("an interface with a ring", () => {
  const { outcome, has } = fitted("orvanto-om8-ring", "kestrane-halden-14-k1");

  it("is silent with the optical contacts left in the old plug, while the picture is fine", () => {
    const fault = has("setting:harness.ring=in the old plug");
    expect(fault?.title).toContain("in the old plug");
    expect(fault && outcome("tunerSound", "on", fault.disturbance)).toBe("absent");
    expect(fault && outcome("factoryPicture", "on", fault.disturbance)).toBe("ok");
  });

  it("does not see reverse on a manual car without its wire", () => {
    const open = { openLinks: { "k-reverse": "not plugged" } };
    expect(outcome("rearViewPhone", "phone")).toBe("ok");
    expect(outcome("rearViewPhone", "phone", open)).not.toBe("ok");
  });

  it("refuses a phone that remembers the cable, by wireless only", () => {
    const fault = has("state:remembersCable");
    expect(fault && outcome("phonePicture", "wireless", fault.disturbance)).toBe("absent");
    expect(fault && outcome("phonePicture", "wired", fault.disturbance)).toBe("ok");
  });

  it("has weak wireless with its antenna on metal", () => {
    expect(outcome("phonePicture", "wireless", {}, { "kitAntenna.place": "on metal" })).toBe("absent");
    expect(outcome("phonePicture", "wired", {}, { "kitAntenna.place": "on metal" })).toBe("ok");
  });
});

describe("two boxes", () => {
  const { outcome } = fitted("brackwater-duo", "velmora-corrie-19-r3");
  const dead = { deadParts: { module: "The first box is dead." } };

  it("show neither picture without the first box, since the second waits for its word", () => {
    expect(outcome("factoryPicture", "on", dead)).toBe("absent");
    expect(outcome("phonePicture", "wireless", dead)).toBe("absent");
  });

  it("keep the factory sound whatever happens to them", () => {
    expect(outcome("tunerSound", "on", dead)).toBe("ok");
  });
});

describe("a socket upgrade", () => {
  const { outcome, has } = fitted("velmora-socket-b", "velmora-osk-18-o1");

  it("does not mirror with its two small plugs exchanged", () => {
    const panel = has("exchanged:k-first-panel+k-second-panel");
    expect(panel && outcome("phonePicture", "wired", panel.disturbance)).not.toBe("ok");
    expect(panel && outcome("rearView", "factory", panel.disturbance)).toBe("ok");
  });

  it("does not mirror with old firmware", () => {
    expect(outcome("phonePicture", "wired", {}, { "radio.mirroring": "locked" })).not.toBe("ok");
  });
});

describe("a picture adapter on a video input", () => {
  const { outcome } = fitted("ostrel-line-1", "sundrey-tarn-21-t2");

  it("has bars at the sides until the format is changed, and is sent home while automatic return is on", () => {
    expect(outcome("phonePicture", "wired", {}, { "radio.videoFormat": "original" })).toBe("wrong:format");
    expect(outcome("phonePicture", "wired", {}, { "radio.autoReturn": "on" })).toBe("wrong:picture");
  });

  it("is locked while the car rolls", () => expect(outcome("motionLock", "rolling")).toBe("ok"));
});

describe("a radio from a sister car", () => {
  it("is silent until the gateway lists it", () => {
    const { outcome } = fitted("kestrane-sister-s4", "kestrane-fjell-11-f1");
    expect(outcome("tunerSound", "on")).toBe("ok");
    expect(outcome("tunerSound", "on", {}, { "radio.listed": "no" })).toBe("absent");
  });

  it("hears no wheel keys and no lights over the small bus adapter, but plays", () => {
    const { outcome } = fitted("kestrane-sister-s4", "kestrane-fjell-11-f1", { bus: "adapter" });
    expect(outcome("tunerSound", "on")).toBe("ok");
    expect(outcome("wheelVolume", "short")).toBe("absent");
    expect(outcome("dimming", "lights")).toBe("absent");
  });
});

describe("an aftermarket radio", () => {
  it("gets no accessory from a bus module without the car's data, and always from a fuse tap", () => {
    const module = fitted("pellimar-free-7", "kestrane-fjell-11-f1");
    expect(module.outcome("tunerSound", "on")).toBe("ok");
    expect(module.outcome("tunerSound", "on", {}, { "busModule.data": "as delivered" })).toBe("absent");
    expect(fitted("pellimar-free-7", "kestrane-fjell-11-f1", { feed: "fuse" }).outcome("tunerSound", "on")).toBe("ok");
  });
});

describe("a bigger module and screen", () => {
  it("does nothing until the programming plug has told the car", () => {
    const { outcome } = fitted("sundrey-wide-10", "sundrey-vale-19-v1");
    expect(outcome("factoryPicture", "on", {}, { "radio.coded": "no" })).toBe("absent");
  });
});

describe("a navigation module", () => {
  it("is mute on the premium amplifier with its wires as delivered", () => {
    const { outcome } = fitted("brackwater-guide", "sundrey-vale-19-v2");
    expect(outcome("guidanceVoice", "on")).toBe("ok");
    expect(outcome("guidanceVoice", "on", {}, { "speechLead.pins": "as delivered" })).toBe("absent");
  });
});

describe("a passenger video module", () => {
  const { outcome } = fitted("orvanto-still", "sundrey-tarn-21-t2");

  it("leaves the lock on until the passenger asks, and does nothing while it is blank", () => {
    expect(outcome("motionLock", "rolling")).toBe("ok");
    expect(outcome("passengerVideo", "request")).toBe("ok");
    expect(outcome("passengerVideo", "request", {}, { "module.data": "blank" })).toBe("absent");
  });
});
