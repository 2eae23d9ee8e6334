import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { plugSeen } from "../../sim/programming-plug";
import { jobOf, logOf, refusalOf } from "../../tests/support/jobs";
import { openNow } from "../job/plan";
import { isSet } from "../job/set-state";
import type { Command } from "../log/entry";
import { PLUG_EVENTS, type PlugEvent, plugChoices, plugState, tooSoon } from "./programming-plug";

const library = shippedLibrary();
const kit = library.find((p) => p.id === "sundrey-wide-10");
const variant = library.find((p) => p.id === "sundrey-vale-19-v1");
const car = library.find((p) => p.document === "car" && p.id === "sundrey-vale-19");
if (kit?.document !== "kit" || variant?.document !== "variant" || car?.document !== "car" || !kit.programmingPlug)
  throw new Error("library");
const plug = kit.programmingPlug;
const START = Date.parse("2026-01-05T12:00:00Z");
const at = (s: number) => new Date(START + s * 1000).toISOString();
const log = (...events: PlugEvent[]) => events.map((event, i) => ({ event, at: at(i * 60) }));

describe("a programming plug", () => {
  it.each<[PlugEvent[], string, boolean]>([
    [[], "start", false],
    [["ignition"], "waiting", false],
    [["ignition", "pluggedIn"], "in", true],
    [["ignition", "pluggedIn", "writing"], "writing", true],
    [["ignition", "pluggedIn", "writing", "pulledOut"], "tooEarly", false],
    [["ignition", "pluggedIn", "pulledOut"], "tooEarly", false],
    [["ignition", "pluggedIn", "dark", "pulledOut"], "start", false],
    [["ignition", "pluggedIn", "refused", "pulledOut"], "start", false],
    [["ignition", "pluggedIn", "writing", "finished"], "finished", true],
    [["ignition", "pluggedIn", "writing", "finished", "pulledOut"], "resting", false],
    [["ignition", "pluggedIn", "writing", "finished", "pulledOut", "rested"], "done", false],
    // What does not follow changes nothing.
    [["pluggedIn", "finished", "rested"], "start", false],
  ])("after %j stands at %s", (events, phase, inSocket) => {
    expect(plugState(log(...events), plug)).toMatchObject({ phase, inSocket });
  });

  it("needs no rest where the car needs none", () => {
    const events = log("ignition", "pluggedIn", "writing", "finished", "pulledOut");
    expect(plugState(events, { restS: 0 }).phase).toBe("done");
  });

  it("is never done without having finished, whatever happens", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...PLUG_EVENTS), { maxLength: 30 }), (events) => {
        const state = plugState(log(...events), plug);
        if (state.done) expect(events).toContain("finished");
        if (state.phase !== "done") expect(plugChoices(state).length).toBeGreaterThan(0);
      }),
    );
  });

  it("waits for the control units and for the rest", () => {
    const waiting = plugState([{ event: "ignition", at: at(0) }], plug);
    expect(tooSoon(plug, waiting, "pluggedIn", at(4))).toContain("wait 6 s more");
    expect(tooSoon(plug, waiting, "pluggedIn", at(10))).toBeNull();
    const out = log("ignition", "pluggedIn", "writing", "finished", "pulledOut");
    expect(tooSoon(plug, plugState(out, plug), "rested", at(4 * 60 + 10))).toBe("Leave everything off for 20 s more.");
  });

  it.each([
    [null, ["writing", "finished"]],
    ["dead" as const, ["dark"]],
    ["otherCar" as const, ["refused"]],
  ])("of the stand-in car with the fault %s shows %j", (fault, want) => {
    const events = [
      { event: "ignition" as PlugEvent, at: at(0) },
      { event: "pluggedIn" as PlugEvent, at: at(12) },
    ];
    const seen: PlugEvent[] = [];
    for (let s = 12; s < 200; s++) {
      const event = plugSeen(plug, plugState(events, plug), fault, at(s));
      if (!event) continue;
      seen.push(event);
      events.push({ event, at: at(s) });
    }
    expect(seen).toEqual(want);
  });
});

describe("a job with a programming plug", () => {
  const opened = { car, variant, kit };
  const does = (event: PlugEvent): Command => ({ kind: "configure.plug", data: { event } });
  const coded = kit.sets.find((s) => s.setting === "radio.coded");

  it("is not closed over a plug in the socket", () => {
    const close: Command = { kind: "handover.close", data: {} };
    const inside = jobOf(opened, logOf(does("ignition"), does("pluggedIn")));
    expect(refusalOf(inside, close, at(600))).toContain("still in the diagnostic socket");
    const out = jobOf(opened, logOf(does("ignition"), does("pluggedIn"), does("dark"), does("pulledOut")));
    expect(refusalOf(out, close, at(600))).not.toContain("diagnostic socket");
  });

  it("counts the setting as made by the ritual alone", () => {
    const half = jobOf(opened, logOf(does("ignition"), does("pluggedIn"), does("writing"), does("pulledOut")));
    const whole = jobOf(
      opened,
      logOf(...(["ignition", "pluggedIn", "writing", "finished", "pulledOut", "rested"] as const).map(does)),
    );
    expect(isSet(half.plan, half.state, coded as never)).toBe(false);
    expect(openNow(half.plan, half.state).settings?.["radio.coded"]).toBe("no");
    expect(isSet(whole.plan, whole.state, coded as never)).toBe(true);
    const tick: Command = { kind: "configure.set", data: { setting: "radio.coded", done: true } };
    expect(refusalOf(half, tick, at(600))).toContain("cannot be ticked");
  });

  it("takes only what follows", () => {
    const sure: Command = { kind: "strip.stands", data: { sets: { key: "on", maintainer: true } } };
    const job = jobOf(opened, logOf(does("ignition"), sure));
    expect(refusalOf(job, does("finished"), at(600))).toContain("does not follow");
    expect(refusalOf(job, does("pluggedIn"), "2026-01-05T08:00:03Z")).toContain("still starting");
    expect(refusalOf(job, does("pluggedIn"), "2026-01-05T08:10:00Z")).toBeNull();
    expect(refusalOf(jobOf(opened, logOf(does("ignition"))), does("pluggedIn"), "2026-01-05T08:10:00Z")).toMatch(
      /ignition is not on/,
    );
  });
});
