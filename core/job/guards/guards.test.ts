/** The table of guards: every kind of entry through the states of its row, on server and device alike. */
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../../profiles/library";
import { at, type Case, entry, plug, type Said, said, stands, step, tryCase } from "../../../tests/support/guards";
import { jobOf, logOf, named, signedFor, TEST } from "../../../tests/support/jobs";
import type { Command, EntryKind } from "../../log/entry";
import { kindNamed } from "../../log/fold";
import { KINDS } from "../../log/kinds";
import type { CarStand } from "../../log/strip-journal";
import { sameEnds } from "../../model/compose";
import { decide, stopOf } from "../decide";
import type { OpenedWith } from "../job";
import { ribbons } from "../locks";
import { needModule } from "../power-now";
import type { Person } from "./guard";

const demo = demoDocuments();
const holeJob = named("sundrey-heron-20", "sundrey-heron-20-h2", "ostrel-upper-2");
const blankJob = named("velmora-osk-18", "velmora-osk-18-o2", "orvanto-om9-blank");

const wiredJob = named("kestrane-halden-14", "kestrane-halden-14-k1", "orvanto-om8-ring");
const [spliced = ""] = jobOf(wiredJob).plan.connections.flatMap((c) => (c.a === "reverseWire.lamp" ? [c.link] : []));

/** The demonstration's car with an airbag circuit in one of the plugs that come off and go back. */
const backPlug = jobOf(demo).plan.connections.find((c) => c.kind === "factory");
const airbagJob: OpenedWith = {
  ...demo,
  car: {
    ...demo.car,
    stripPlan: {
      ...demo.car.stripPlan,
      steps: demo.car.stripPlan.steps.map((s) => ({
        ...s,
        ...(s.opens
          ? { opens: s.opens.map((o) => (backPlug && sameEnds(o, backPlug) ? { ...o, airbag: true } : o)) }
          : {}),
      })),
    },
  },
};
const result = (test: string, answer: "pass" | "nothing" | "impossible" = "pass"): Command =>
  entry("prove.result", { test, answer, note: "" });

const plan = jobOf(demo).plan;
const allPlugged = plan.connections.map((c) => plug(c.link));
const volts = (value: number) => entry("connect.reading", { reading: "battery", value });
const ON: Partial<CarStand> = { key: "on" };
const isolated = [stands({ battery: "isolated" })];
const benched = [...allPlugged, stands(ON)];
const test = (wanted: (t: (typeof plan.tests)[number]) => boolean) => plan.tests.find(wanted)?.id ?? "";
const onTest = test((t) => t.situation.key === "on" && t.situation.selector === "P" && t.fn.who !== "law");
const kitTest = test((t) => needModule(plan).has(t.id) && t.situation.key === "on" && t.situation.selector === "P");
const reverseTest = test((t) => t.situation.selector === "R");
const rollingTest = test((t) => t.situation.speedKmh > 0);
const offTest = test((t) => t.situation.key === "off");
const fuse = demo.car.fusePanel?.[0]?.id ?? "";
const bank = { ...plan.settings };
const [third = ""] = Object.keys(bank).slice(2);
const turnedBank = { ...bank, [third]: bank[third] === "on" ? "off" : "on" };
const session = (act: "scan" | "write") => entry("configure.session", { log: "", act });
const firmware = (state: "started" | "done", value?: number) =>
  entry("configure.firmware", { state, ...(value === undefined ? {} : { volts: value }) });

const COUNTER: Person = { name: "Runa", role: "counter" };
const WORKER: Person = { name: "Tomas", role: "technician" };

const baseline = (id: string) => entry("intake.baseline", { test: id, result: "pass", note: "" });
const onTry = plan.baseline.find((t) => t.situation.key === "on" && t.situation.selector === "P")?.id ?? "";
const loadedFor = (what: "blank" | "loaded") =>
  entry("configure.loaded", { setting: "module.data", what, identification: "", data: "", translation: false });
const holePlan = jobOf(holeJob, logOf(entry("fit.confirm", { choices: { leadWay: "hole" } }))).plan;
const holeChosen = entry("fit.confirm", { choices: { leadWay: "hole" } });
const [ribbon = ""] = ribbons(holePlan);
const readAfter = entry("prove.codes", { text: "" });
const battery = demo.kit.choices.find((c) => c.id === "battery");
const batteryOff = entry("fit.confirm", { choices: { battery: "off" } });

const CASES: readonly Case[] = [
  ["a supply plugged, key off", "passes", plug("k-car"), []],
  ["a supply plugged, key on", "asks", plug("k-car"), [stands(ON)], { words: /key off/ }],
  ["a supply pulled, engine running", "asks", plug("k-car", false), [...allPlugged, stands({ key: "running" })]],
  ["a supply plugged, key on hours ago", "asks", plug("k-car"), [stands(ON)], { after: 300 }],
  [
    "a supply plugged, key on, battery off",
    "passes",
    plug("k-car"),
    [stands({ key: "on" }), stands({ battery: "isolated", key: "off" })],
  ],
  ["a sound lead plugged, key on", "passes", plug("k-audio-module"), [stands(ON)]],
  [
    "a ribbon locked",
    "passes",
    entry("connect.lock", { link: ribbon, shut: true }),
    [holeChosen, plug(ribbon)],
    { on: holeJob },
  ],
  ["an airbag zone, battery on", "refused", step("vents"), [], { words: /battery is connected/ }],
  ["an airbag zone, just isolated", "refused", step("vents"), isolated, { after: 1, words: /not over/ }],
  ["an airbag zone, waited", "passes", step("vents"), isolated, { after: 11 }],
  [
    "an airbag zone going back, battery on",
    "refused",
    step("vents", "back"),
    [...isolated, step("vents"), stands({ battery: "connected" })],
    { after: 30 },
  ],
  [
    "an airbag plug in Connect, battery on",
    "refused",
    plug(backPlug?.link ?? ""),
    [],
    { on: airbagJob, words: /airbag plug/ },
  ],
  [
    "an airbag plug in Connect, waiting",
    "refused",
    plug(backPlug?.link ?? ""),
    isolated,
    { on: airbagJob, after: 1, words: /not over/ },
  ],
  ["an airbag plug in Connect, waited", "passes", plug(backPlug?.link ?? ""), isolated, { on: airbagJob, after: 11 }],
  ["a panel with plugs, key on", "asks", step("radio-out"), [stands(ON)]],
  ["a panel, engine running", "asks", step("cover"), [stands({ key: "running" })], { words: /engine/ }],
  ["a panel, key off", "passes", step("radio-screws"), []],
  ["the selector out, brake not set", "asks", step("selector-out"), [stands(ON)], { words: /roll/ }],
  ["the selector out, brake set", "passes", step("selector-out"), [stands({ ...ON, parkingBrake: true })]],
  ["the selector out, key off", "asks", step("selector-out"), [stands({ parkingBrake: true })]],
  [
    "the brake off, selector in neutral",
    "asks",
    stands({ parkingBrake: false }),
    [stands({ ...ON, parkingBrake: true, selector: "N" })],
  ],
  ["the key on, battery off", "asks", stands(ON), isolated],
  [
    "the key on over an exchanged pair",
    "refused",
    stands(ON),
    [
      ...allPlugged,
      plug("k-in-radio"),
      { kind: "connect.plug", data: { link: "k-out-display", plugged: true, turned: true } } as Command,
    ],
  ],
  [
    "the battery on with a ribbon not locked",
    "refused",
    stands({ battery: "connected" }),
    [holeChosen, ...isolated, plug(ribbon)],
    { on: holeJob, words: /lock bar/ },
  ],
  [
    "the battery on with the ribbon locked",
    "passes",
    stands({ battery: "connected" }),
    [holeChosen, ...isolated, plug(ribbon), entry("connect.lock", { link: ribbon, shut: true })],
    { on: holeJob },
  ],
  [
    "the battery on, module blank",
    "refused",
    stands({ battery: "connected" }),
    [...isolated, ...jobOf(blankJob).plan.connections.map((c) => plug(c.link)), loadedFor("blank")],
    { on: blankJob, words: /blank/ },
  ],
  [
    "the battery on, module never looked at",
    "asks",
    stands({ battery: "connected" }),
    [...isolated, ...jobOf(blankJob).plan.connections.map((c) => plug(c.link))],
    { on: blankJob },
  ],
  [
    "the battery on, module loaded",
    "passes",
    stands({ battery: "connected" }),
    [...isolated, ...jobOf(blankJob).plan.connections.map((c) => plug(c.link)), loadedFor("loaded")],
    { on: blankJob },
  ],
  ["the battery off, key on", "asks", step("battery-off"), [stands(ON)]],
  [
    "the battery off while an update runs",
    "refused",
    stands({ battery: "isolated" }),
    [{ kind: "configure.firmware", data: { from: "1", to: "2", state: "started", volts: 13 } } as unknown as Command],
    { words: /update/ },
  ],
  [
    "the maintainer off while an update runs",
    "refused",
    entry("strip.maintainer", { connected: false }),
    [
      stands({ maintainer: true }),
      { kind: "configure.firmware", data: { from: "1", to: "2", state: "started", volts: 13 } } as unknown as Command,
    ],
  ],
  ["the maintainer on", "passes", entry("strip.maintainer", { connected: true }), []],
  ["waited, said too early", "refused", stands({ waited: true }), isolated, { after: 2, words: /still to wait/ }],
  ["a test of the ignition, key off", "asks", result(onTest), allPlugged],
  ["a test of the ignition, key on", "passes", result(onTest), benched],
  ["a test of the ignition, battery off", "asks", result(onTest), [...allPlugged, ...isolated]],
  ["a test of the kit, feed open", "refused", result(kitTest), [...benched, plug("k-car", false)], { words: /feed/ }],
  ["a test with a phone lead open", "passes", result(onTest), [...benched, plug("k-usb", false)]],
  ["a test in reverse, in park", "asks", result(reverseTest), benched],
  [
    "a test in reverse, in reverse",
    "passes",
    result(reverseTest),
    [
      ...allPlugged,
      stands({
        key: plan.tests.find((t) => t.id === reverseTest)?.situation.key ?? "on",
        selector: "R",
        parkingBrake: true,
      }),
    ],
  ],
  ["a test with the key off, key on", "asks", result(offTest), benched],
  [
    "a rolling test, panels off",
    "refused",
    result(rollingTest),
    [step("glovebox"), ...allPlugged],
    { words: /last round/ },
  ],
  ["a test that could not be tried", "passes", result(rollingTest, "impossible"), []],
  ["the baseline, key off", "asks", baseline(onTry), []],
  ["the baseline, key on", "passes", baseline(onTry), [stands(ON)]],
  ["the baseline after the kit is plugged", "reason", baseline(onTry), benched],
  ["a fuse lit on, key off", "asks", entry("connect.feedTest", { position: fuse, state: "on", lit: true }), []],
  ["a fuse lit off, key off", "passes", entry("connect.feedTest", { position: fuse, state: "off", lit: true }), []],
  ["a fuse lit, battery off", "asks", entry("connect.feedTest", { position: fuse, state: "off", lit: true }), isolated],
  ["the pair measured, battery on", "asks", entry("connect.reading", { reading: "pairOhm", value: 60 }), []],
  ["the pair measured, battery off", "passes", entry("connect.reading", { reading: "pairOhm", value: 60 }), isolated],
  ["the feed measured, key off", "asks", entry("connect.reading", { reading: "supplyOn", value: 12.4 }), []],
  ["a session that reads, key off", "asks", session("scan"), []],
  ["a session that reads, key on", "passes", session("scan"), [stands(ON)]],
  ["a session that writes, key off", "refused", session("write"), [stands({ maintainer: true })]],
  [
    "a session that writes, engine running",
    "refused",
    session("write"),
    [stands({ key: "running", maintainer: true })],
  ],
  ["a session that writes, supply not known", "refused", session("write"), [stands(ON)], { words: /maintainer/ }],
  ["a session that writes, voltage low", "refused", session("write"), [stands(ON), volts(11.9)], { words: /11.9 V/ }],
  ["a session that writes, voltage known", "passes", session("write"), [stands(ON), volts(12.8)]],
  [
    "a session that writes, voltage of an hour ago",
    "refused",
    session("write"),
    [stands(ON), volts(12.8)],
    { after: 60 },
  ],
  ["a session that writes, maintainer on", "passes", session("write"), [stands({ ...ON, maintainer: true })]],
  ["an update, key off", "refused", firmware("started", 13), []],
  ["an update, key on", "passes", firmware("started", 13), [stands(ON)]],
  ["an update ended", "passes", firmware("done"), []],
  ["a bank entered without power", "passes", entry("configure.switches", { settings: bank }), isolated],
  [
    "a bank changed under power",
    "asks",
    entry("configure.switches", { settings: turnedBank }),
    [...benched, { kind: "configure.switches", data: { settings: bank, before: null, unpowered: false } } as Command],
  ],
  [
    "a bank entered again as it was, under power",
    "passes",
    entry("configure.switches", { settings: bank }),
    [...benched, { kind: "configure.switches", data: { settings: bank, before: null, unpowered: false } } as Command],
  ],
  [
    "a first panel of a kit that does not fit",
    "refused",
    step("radio-screws"),
    [],
    {
      on: { ...demo, kit: { ...demo.kit, plug: demo.kit.plug.filter((p) => !/screen|display|radio/.test(p.id)) } },
      words: /does not fit/,
    },
  ],
  [
    "a hole, not signed",
    "refused",
    step("kit-hole"),
    [holeChosen, stands({ parkingBrake: true })],
    { on: holeJob, words: /signed/ },
  ],
  [
    "a hole, signed, nobody looked",
    "refused",
    step("kit-hole"),
    [holeChosen, signedFor(holeJob, { leadWay: "hole" })],
    { on: holeJob, words: /behind/ },
  ],
  [
    "a hole, signed and looked",
    "passes",
    step("kit-hole"),
    [holeChosen, signedFor(holeJob), entry("strip.behind", { step: "kit-hole" })],
    { on: holeJob },
  ],
  ["a wire of the car opened, not signed", "refused", plug(spliced), isolated, { on: wiredJob, words: /signed/ }],
  ["a wire of the car opened, signed", "passes", plug(spliced), [signedFor(wiredJob), ...isolated], { on: wiredJob }],
  [
    "a joint taken off again",
    "passes",
    plug(spliced, false),
    [signedFor(wiredJob), ...isolated, plug(spliced)],
    { on: wiredJob },
  ],
  ["codes read, key off", "asks", readAfter, []],
  ["codes read, key on", "passes", readAfter, [stands(ON)]],
  ["a walk, key off", "asks", entry("prove.walk", { corner: "LF", plays: "LF" }), allPlugged],
  [
    "hum, key on",
    "passes",
    entry("prove.hum", { ground: "without", hz: 50, levels: [0, 0, 0, 0, 0, 0], totalDb: 0 }),
    benched,
  ],
  ["contacts moved, key on", "asks", entry("prove.moved", {}), [stands(ON)]],
  ["contacts moved, key off", "passes", entry("prove.moved", {}), []],
  [
    "another kit, plugs in",
    "asks",
    entry("fit.kit", { kit: { slug: demo.kit.id, version: 1 }, choices: {} }),
    allPlugged,
  ],
  ["another kit, nothing in", "passes", entry("fit.kit", { kit: { slug: demo.kit.id, version: 1 }, choices: {} }), []],
  ["a step by the counter", "refused", step("glovebox"), [], { who: COUNTER, words: /works there/ }],
  ["wishes by the counter", "passes", entry("intake.wishes", { functions: [] }), [], { who: COUNTER }],
  [
    "an open point accepted by a technician",
    "refused",
    entry("handover.accept", { point: "untried", reason: "late" }),
    [],
    { who: WORKER },
  ],
  ["an open point accepted by the lead", "passes", entry("handover.accept", { point: "untried", reason: "late" }), []],
  ["a closing of an untouched job", "refused", entry("handover.close", {}), []],
  ["an unfinished closing", "reason", entry("handover.close", { as: "unfinished" }), [step("glovebox")]],
  [
    "an unfinished closing, car loose in neutral",
    "asks",
    entry("handover.close", { as: "unfinished" }),
    [stands({ ...ON, selector: "N" })],
  ],
  [
    "a phone paired, key off",
    "asks",
    entry("configure.pairing", { phone: "P", act: "begin", family: null }),
    allPlugged,
  ],
  [
    "a phone paired, feed open",
    "refused",
    entry("configure.pairing", { phone: "P", act: "begin", family: null }),
    [stands(ON)],
  ],
  ["a phone paired", "passes", entry("configure.pairing", { phone: "P", act: "begin", family: null }), benched],
  ["a walk", "passes", entry("prove.walk", { corner: "LF", plays: "LF" }), benched],
  ["a tap tested, key off", "asks", entry("connect.tap", { lit: true }), []],
  ["a tap tested, key on", "passes", entry("connect.tap", { lit: true }), [stands(ON)]],
];

describe("the table of guards", () => {
  it.each(CASES)("%s: %s", (...one) => tryCase(one as Case, demo));

  it("is tried with every kind whose row looks at the car, each passing and not", () => {
    const tried = (says: (s: Said) => boolean) => new Set(CASES.filter((c) => says(c[1])).map((c) => c[2].kind));
    const stopped = tried((s) => s !== "passes");
    const passing = tried((s) => s === "passes");
    const looks: EntryKind[] = (Object.keys(KINDS) as EntryKind[]).filter((k) => stopped.has(k));
    expect(looks.length).toBeGreaterThan(17);
    // A job that may be closed is tried in core/job/close.test.ts.
    expect(looks.filter((k) => !passing.has(k))).toEqual(
      ["handover.close", "undo"].filter((k) => stopped.has(k as EntryKind)),
    );
  });

  it("finds its choice of working with the battery off, where the kit has it", () => {
    if (!battery) return;
    const job = jobOf(demo, logOf(batteryOff));
    expect(said(job, plug("k-car"), at(1))).toMatchObject({
      says: "asks",
      words: expect.stringMatching(/battery off/),
    });
    expect(said(jobOf(demo, logOf(batteryOff, ...isolated)), plug("k-car"), at(2)).says).toBe("passes");
  });
});

describe("one tap", () => {
  const bench = jobOf(demo, logOf(...allPlugged, ...isolated));

  it("is enough: it brings everything that the press wants, and the press is written with it", () => {
    const stop = stopOf(bench, { id: "r", command: result(reverseTest), at: at(40) }, TEST);
    if (stop?.answer !== "asks") throw new Error("it asks");
    expect(stop.first).toHaveLength(1);
    const press = [...stop.first, result(reverseTest)].map((command, i) => ({ id: `p${i}`, command, at: at(40) }));
    const decided = decide(bench, press, TEST);
    expect(decided.kind).toBe("written");
    if (decided.kind !== "written") return;
    const { car } = decided.after.strip(at(40));
    expect(car).toMatchObject({ battery: "connected", selector: "R", parkingBrake: true });
    const before = decided.entries[0];
    expect(before && kindNamed(before.kind).words(before.data, decided.after.facts(at(40)))).toMatch(/battery is on/);
  });

  it("is refused with what would be dangerous to bring about", () => {
    const job = jobOf(holeJob, logOf(holeChosen, ...isolated, ...holePlan.connections.map((c) => plug(c.link))));
    const test = holePlan.tests.find((t) => t.situation.key === "on" && t.situation.speedKmh === 0)?.id ?? "";
    expect(said(job, result(test), at(60))).toMatchObject({
      says: "refused",
      words: expect.stringMatching(/lock bar/),
    });
  });

  it("with a reason needs just this reason for just this entry", () => {
    const job = jobOf(demo, logOf(...benched));
    const why = (id: string, guard: string) => entry("despite", { entry: id, guard, reason: "The driver told us" });
    const pressed = (...first: Command[]) =>
      decide(
        job,
        [...first, baseline(onTry)].map((command, i, all) => ({
          id: i === all.length - 1 ? "it" : `f${i}`,
          command,
          at: at(40),
        })),
        TEST,
      );
    expect(pressed()).toMatchObject({ kind: "refused", because: "reason", stop: { entry: "it", guard: "baseline" } });
    expect(pressed(why("other", "baseline")).kind).toBe("refused");
    expect(pressed(why("it", "right")).kind).toBe("refused");
    expect(pressed(why("it", "baseline")).kind).toBe("written");
  });

  it("later than now is no time", () => {
    const press = [{ id: "x", command: stands(ON), at: at(50) }];
    expect(decide(jobOf(demo), press, TEST, at(10))).toMatchObject({ kind: "refused", because: "unsound" });
    expect(decide(jobOf(demo), press, TEST, at(50)).kind).toBe("written");
  });
});

describe("a key of which nobody knows", () => {
  it("is asked for, and said once more", () => {
    const job = jobOf(demo, logOf(...benched));
    expect(said(job, result(onTest), at(300)).says).toBe("asks");
    const press = [stands(ON), result(onTest)].map((command, i) => ({ id: `k${i}`, command, at: at(300) }));
    expect(decide(job, press, TEST).kind).toBe("written");
    expect(decide(job, [{ id: "k", command: stands(ON), at: at(25) }], TEST).kind).toBe("refused");
  });
});

describe("times", () => {
  it("count from the latest: a battery off that is dated back shortens no wait", () => {
    const late = logOf(stands({ parkingBrake: true }), stands({ battery: "isolated" }));
    const dated = late.map((e, i) => (i === 1 ? { ...e, at: at(-60) } : { ...e, at: at(20) }));
    expect(said(jobOf(demo, dated), step("vents"), at(25)).says).toBe("refused");
    expect(said(jobOf(demo, dated), step("vents"), at(31)).says).toBe("passes");
  });
});

describe("taking back", () => {
  const undo = (id: string) => entry("undo", { entry: id });

  it("knows what stands on the battery, and takes it back in order with one tap", () => {
    const entries = logOf(stands({ battery: "isolated" }), step("vents")).map((e, i) => ({ ...e, at: at(i * 20) }));
    const job = jobOf(demo, entries);
    const stop = stopOf(job, { id: "u", command: undo("e0"), at: at(30) }, TEST);
    expect(stop).toMatchObject({ guard: "stands-on-it", answer: "asks", first: [undo("e1")] });
    if (stop?.answer !== "asks") return;
    const press = [...stop.first, undo("e0")].map((command, i) => ({ id: `u${i}`, command, at: at(30) }));
    const decided = decide(job, press, TEST);
    expect(decided.kind === "written" && decided.after.state.strip.stood).toEqual([]);
    expect(said(job, undo("e1"), at(30)).says).toBe("passes");
  });

  it("knows what stands on the brake and on a signature", () => {
    const rolled = jobOf(demo, logOf(stands({ parkingBrake: true }), stands(ON), stands({ selector: "N" })));
    expect(said(rolled, undo("e0"), at(5)).says).toBe("asks");
    expect(said(rolled, undo("e2"), at(5)).says).toBe("passes");
    const drilled = jobOf(
      holeJob,
      logOf(holeChosen, signedFor(holeJob), entry("strip.behind", { step: "kit-hole" }), step("kit-hole")),
    );
    expect(said(drilled, undo("e1"), at(5)).says).toBe("asks");
    expect(said(drilled, undo("e2"), at(5)).says).toBe("asks");
  });
});
