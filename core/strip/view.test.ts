import { beforeEach, describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { named } from "../../tests/support/jobs";
import { planJob, stripInput } from "../job/plan";
import type { StripBody } from "../log/entry";
import { emptyJournal, foldJob, noteStrip } from "../log/fold";
import type { StripJournal } from "../log/strip-journal";
import { backPoints } from "./back-points";
import { isFree, reaches } from "./goals";
import { planRoute } from "./route";
import { stripView, wholeWay } from "./view";

const START = Date.parse("2026-03-02T08:00:00Z");
const documents = demoDocuments();
const plan = planJob(documents, { choices: null });
const input = stripInput(plan, foldJob([]));
let journal: StripJournal;
let minute: number;
const now = () => new Date(START + minute * 60_000).toISOString();
const say = (body: StripBody, by = "Test") => {
  minute += 1;
  noteStrip(journal, body, { at: now(), by, entry: `e${minute}` });
};
const tick = (step: string, direction: "in" | "back" = "in") => say({ kind: "strip.step", data: { step, direction } });
const view = (with_ = input) => stripView(with_, journal, now());
const passed = { ...input, bench: { ...input.bench, passed: input.bench.tests, kitOpen: 0 } };
const ids = (tasks: { id: string }[]) => tasks.map((t) => t.id);
const wholeWayIn = () => {
  for (const t of view().left) tick(t.id);
};

beforeEach(() => {
  journal = emptyJournal();
  minute = 0;
});

describe("the way in of the demonstration", () => {
  it("inserts the prepSteps by itself and ends them at once", () => {
    const order = ids(view().left);
    expect(order.slice(order.indexOf("key-on"), order.indexOf("key-off") + 1)).toEqual([
      "key-on",
      "selector-out",
      "console",
      "selector-in",
      "key-off",
    ]);
    expect(order[0]).toBe("brake");
    expect(order.indexOf("battery-off")).toBeLessThan(order.indexOf("vents"));
    expect(order.filter((id) => id.startsWith("battery"))).toEqual(["battery-off"]);
  });

  it("fills the waiting time with a step away from the airbags", () => {
    const order = ids(view().left);
    expect(order.indexOf("shroud")).toBe(order.indexOf("battery-off") + 1);
  });

  it("follows a technician who goes his own way", () => {
    tick("brake");
    tick("battery-off");
    const order = ids(view().left);
    // The console needs the ignition, so the battery must be connected for it and off again after.
    expect(order.slice(0, order.indexOf("console") + 1)).toEqual(expect.arrayContaining(["battery-on", "key-on"]));
    expect(order).toContain("battery-off.2");
  });

  it("leaves out what the kit does not need, and takes it in when it is wanted", () => {
    expect(ids(view().left)).not.toContain("tailgate");
    say({ kind: "strip.want", data: { step: "tailgate", wanted: true } });
    expect(ids(view().left)).toContain("tailgate");
    say({ kind: "strip.want", data: { step: "tailgate", wanted: false } });
    expect(ids(view().left)).not.toContain("tailgate");
  });

  it("lists tools in the order of first use and what to cover, until it is done", () => {
    expect(view().tools).toEqual(["cloth and tape", "plastic wedge", "10 mm spanner", "T20", "8 mm socket"]);
    expect(view().covers).toEqual(["console", "dash edge"]);
    wholeWayIn();
    expect(view()).toMatchObject({ tools: [], covers: [], left: [] });
  });

  it("gives less time for two people than for one, and less with each step done", () => {
    const { one, two } = view().time;
    expect(two.likely).toBeLessThan(one.likely);
    expect([one.low, one.likely, one.high]).toEqual([one.low, one.likely, one.high].sort((a, b) => a - b));
    tick("brake");
    tick("cover");
    expect(view().time.one.likely).toBeLessThan(one.likely);
  });
});

describe("changes on the car", () => {
  it("counts from then on what was found to be otherwise: in the step, in the trays, on the way back", () => {
    const note = (count: number) =>
      say({
        kind: "strip.note",
        data: { step: "glovebox", note: "", differs: { tool: "T25", fasteners: [{ group: 0, count }] } },
      });
    note(5);
    note(4);
    const step = () => view().left.find((t) => t.id === "glovebox");
    expect(step()).toMatchObject({ tool: "T25", step: { fasteners: [{ count: 4 }] } });
    tick("glovebox");
    expect(view().car.fastenersOut.filter((f) => f.step === "glovebox")).toMatchObject([{ count: 4 }]);
    expect(view().back.find((t) => t.id === "glovebox")?.step?.fasteners).toMatchObject([{ count: 4 }]);
  });

  it("puts a step of one's own before the step that needed it", () => {
    say({
      kind: "strip.add",
      data: { id: "own-1", before: "radio-out", title: "Hidden clip behind the ashtray", detail: "", panel: "ashtray" },
    });
    const order = ids(view().left);
    expect(order.indexOf("own-1")).toBeLessThan(order.indexOf("radio-out"));
    expect(view().left.find((t) => t.id === "own-1")?.kind).toBe("added");
    wholeWayIn();
    expect(ids(view(passed).back).indexOf("radio-out")).toBeLessThan(ids(view(passed).back).indexOf("own-1"));
  });

  it("splits a step: screws first, what comes off last, minutes shared", () => {
    const whole = view().left.find((t) => t.id === "glovebox")?.minutes.likely ?? 0;
    say({ kind: "strip.split", data: { step: "glovebox", parts: ["Glovebox screws", "Glovebox out of its eye"] } });
    const parts = view().left.filter((t) => t.id.startsWith("glovebox"));
    expect(ids(parts)).toEqual(["glovebox~1", "glovebox"]);
    expect(parts[0]?.step?.fasteners).toHaveLength(1);
    expect(parts[1]?.step).toMatchObject({ panel: "glovebox", after: ["glovebox~1"] });
    expect(parts.reduce((n, t) => n + t.minutes.likely, 0)).toBeCloseTo(whole, 9);
    wholeWayIn();
    expect(view().car.fastenersOut.filter((f) => f.step.startsWith("glovebox"))).toHaveLength(1);
  });

  it("leaves out a step with its reason, and what waited for it goes on", () => {
    say({ kind: "strip.skip", data: { step: "console", reason: "Panel is off already" } });
    const order = ids(view().left);
    expect(order).not.toContain("console");
    expect(order).not.toContain("selector-out");
    expect(order).toContain("radio-screws");
    expect(view().skipped).toEqual([{ id: "console", title: "Console panel out", reason: "Panel is off already" }]);
  });
});

describe("the way back", () => {
  it("waits for the bench test, and can pass it only on purpose", () => {
    wholeWayIn();
    expect(view({ ...input, bench: { ...input.bench, kitOpen: 0 } })).toMatchObject({
      gate: "open",
      next: { task: { id: "battery-on" } },
    });
    tick("battery-on");
    const open = view({ ...input, bench: { ...input.bench, kitOpen: 0 } });
    expect(open.next).toBeNull();
    expect(open.back.every((t) => t.behindGate)).toBe(true);
    say({ kind: "strip.gate", data: { reason: "Ferry leaves" } });
    expect(view({ ...input, bench: { ...input.bench, kitOpen: 0 } })).toMatchObject({ gate: "passedOver" });
    expect(view(passed).gate).toBe("passed");
    // What could not be tried has not passed, and holds nobody up.
    const { tests } = input.bench;
    expect(view({ ...passed, bench: { ...passed.bench, passed: tests - 1, impossible: 1 } }).gate).toBe("tried");
  });

  it("has the battery off again for the airbag zone and on at the end", () => {
    wholeWayIn();
    tick("battery-on");
    const order = ids(view(passed).back);
    expect(order.indexOf("battery-off.2")).toBeLessThan(order.indexOf("vents"));
    expect(order.at(-1)).toBe("battery-on.2");
    expect(order.indexOf("radio-out")).toBeLessThan(order.indexOf("radio-screws"));
    expect(order.indexOf("radio-screws")).toBeLessThan(order.indexOf("console"));
  });

  it("is followed step by step to its end, with the battery off once more and no oftener", () => {
    wholeWayIn();
    tick("battery-on");
    const first = ids(view(passed).back);
    const followed: string[] = [];
    for (let next = view(passed).next; next && followed.length < 30; next = view(passed).next) {
      followed.push(next.task.id);
      tick(next.task.id, next.direction);
    }
    expect(followed).toEqual(first);
    expect(followed.filter((id) => id.startsWith("battery"))).toEqual(["battery-off.2", "battery-on.2"]);
  });

  it("closes the upper dash before the test by the other method", () => {
    wholeWayIn();
    const early = view({ ...input, base: { ...input.base, closing: "upperEarly" } }).back;
    expect(early.find((t) => t.id === "vents")?.behindGate).toBe(false);
    expect(early.find((t) => t.id === "glovebox")?.behindGate).toBe(true);
    const order = ids(early);
    expect(order.indexOf("vents")).toBeLessThan(order.indexOf("battery-on"));
    expect(order.indexOf("battery-on")).toBeLessThan(order.indexOf("glovebox"));
  });

  it("is made from what was really done", () => {
    for (const id of ["brake", "cover", "key-on", "selector-out", "console"]) tick(id);
    expect(ids(view().back)).toEqual(["console", "selector-in", "key-off"]);
  });

  it("says hooks, parts to move over, locks and clips in the order of the hands", () => {
    const points = backPoints({
      id: "x",
      title: "x",
      detail: "",
      after: [],
      minutes: { low: 1, likely: 1, high: 1 },
      hooks: "Two in front",
      transfer: ["lighter socket"],
      blanks: ["switch cut-out"],
      opens: [{ a: "a.b", b: "c.d", lock: "lever" }],
      clips: { count: 6, start: "top", stay: "dash" },
      fasteners: [{ kind: "T20 screw", count: 2, lengthMm: 16, tray: "B" }],
    });
    expect(points).toEqual([
      "Move over from the old part first: lighter socket.",
      "Blanks into open places: switch cut-out.",
      "Plugs on, each lock shut: lever.",
      "Hooks first: two in front.",
      "6 clips stayed in the dash: put them back on the panel.",
      "2 × T20 screw 16 mm from tray B.",
    ]);
  });
});

describe("hazards", () => {
  it("count the battery's charge from the ignition time and the car's own figures", () => {
    tick("key-on");
    minute += 30;
    // 9.5 A for half an hour are 4.75 of 62 Ah: 7.7 %, under the warning.
    expect(view().hazards).toEqual([]);
    minute += 2;
    expect(view().hazards[0]).toMatchObject({ id: "charge", level: "watch" });
    expect(view().hazards[0]?.text).toContain("5.1 of 62 Ah");
    minute += 60;
    expect(view().hazards[0]).toMatchObject({ id: "charge", level: "stop" });
    say({ kind: "strip.maintainer", data: { connected: true } });
    expect(view().hazards).toEqual([]);
  });

  it("do not count what a maintainer gives back", () => {
    say({ kind: "strip.maintainer", data: { connected: true } });
    tick("key-on");
    minute += 90;
    say({ kind: "strip.maintainer", data: { connected: false } });
    minute += 1;
    expect(view().hazards).toEqual([]);
    expect(view().car.keyOnHours).toBe(0);
  });

  it("stop everything beside an engine that runs, and do not know the key after a long pause", () => {
    say({ kind: "strip.stands", data: { sets: { key: "running" }, before: {} } });
    expect(view().hazards).toMatchObject([{ id: "engine", level: "stop" }]);
    expect(view().left[0]?.id).toBe("key-off");
    const quiet = { ...input, quiet: { pauses: [], lastAt: now() } };
    minute += 130;
    expect(view(quiet).hazards).toEqual([]);
    expect(view(quiet).car.keyKnown).toBe(false);
  });
});

describe("the whole way", () => {
  it("is told before anything is done: in, and back with the battery on for the test and at the end", () => {
    const way = wholeWay(input.base);
    expect(way.in.likely).toBeCloseTo(view().time.one.likely, 6);
    expect(way.back.low).toBeLessThan(way.back.likely);
    expect(way.back.likely).toBeGreaterThan(20);
    expect(wholeWay({ ...input.base, goals: [] })).toEqual({
      in: { low: 0, likely: 0, high: 0 },
      back: { low: 0, likely: 0, high: 0 },
      tools: [],
    });
    expect(way.tools).toEqual(expect.arrayContaining(view().tools));
  });
});

describe("a kit that is laid loosely and tried first", () => {
  const ring = named("kestrane-halden-14", "kestrane-halden-14-k1", "orvanto-om8-ring");
  const inPlace = stripInput(planJob(ring, { choices: null }), foldJob([]));
  const open = stripInput(planJob(ring, { choices: { trying: "loose" } }), foldJob([]));
  const tried = { ...open, bench: { ...open.bench, passed: open.bench.tests, kitOpen: 0 } };

  it("lets stand what only places and leads need until it was tried, and nothing through which it is plugged", () => {
    const { left, later, route } = view(open);
    expect(ids(later).sort()).toEqual([...route.afterTrying].sort());
    expect(later.length).toBeGreaterThan(0);
    expect(ids(left).filter((id) => route.afterTrying.has(id))).toEqual([]);
    const taken = new Set(ids(left));
    for (const goal of open.base.goals.filter((g) => !g.final))
      if (!isFree(open.base.plan, goal))
        expect(route.plan.steps.some((s) => taken.has(s.id) && reaches(s, goal))).toBe(true);
    // Nothing that is left out stands before something that is done.
    for (const t of left) for (const id of t.step?.after ?? []) expect(route.afterTrying.has(id)).toBe(false);
  });

  it("takes them off once it was tried, with the car brought into the state that they need", () => {
    for (const t of view(open).left) tick(t.id);
    tick("battery-on");
    expect(view(open).left).toEqual([]);
    const after = view(tried);
    expect([after.later, ids(after.left).filter((id) => after.route.afterTrying.has(id)).length]).toEqual([
      [],
      after.route.afterTrying.size,
    ]);
    for (const t of after.left) tick(t.id);
    expect(view(tried).left).toEqual([]);
    expect(ids(view(tried).back)).toEqual(expect.arrayContaining([...after.route.afterTrying]));
  });

  it("opens the same panels as in its place, and no fewer minutes", () => {
    const usual = planRoute(inPlace.base, emptyJournal());
    const loose = planRoute(open.base, emptyJournal());
    expect(ids(loose.steps).sort()).toEqual(ids(usual.steps).sort());
    expect(usual.afterTrying.size).toBe(0);
    expect(wholeWay(open.base).in.likely).toBeGreaterThanOrEqual(wholeWay(inPlace.base).in.likely);
  });
});
