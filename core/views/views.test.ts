/** What the surfaces show of a job, on the demonstration documents and on a job of which little is known. */
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { answering, jobOf, logOf, refusalOf, TEST } from "../../tests/support/jobs";
import { aroundPart } from "../connect/drawing";
import { rankKits } from "../fit/rank";
import { decide } from "../job/decide";
import type { Job } from "../job/job";
import { planJob, planKey } from "../job/plan";
import type { Command } from "../log/entry";
import { configureView } from "./configure";
import { connectView } from "./connect";
import { feedView } from "./feed";
import { finderView } from "./finder";
import { offeredChoices, offerView, rankRequest, shownKit } from "./fit";
import { handoverView } from "./handover";
import { intakeView } from "./intake";
import { lengthsView } from "./lengths";
import { proveView } from "./prove";
import { systemView } from "./system";

const NOW = "2026-01-05T12:00:00Z";
const documents = demoDocuments();
const library = shippedLibrary();
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const radios = library.flatMap((p) => (p.document === "variant" && p.car === documents.car.id ? [p] : []));
const job = (...commands: Command[]): Job => jobOf(documents, logOf(...commands));
const unknown = jobOf({ car: documents.car, variant: null, kit: null });
const links = job().plan.connections.map((c) => c.link);
const plugAll = links.map((link): Command => ({ kind: "connect.plug", data: { link, plugged: true } }));

describe("the whole system", () => {
  const part = (view: ReturnType<typeof systemView>, id: string) => view.parts.find((p) => p.id === id);

  it("has every connection at both of its parts", () => {
    const { parts, graph } = systemView(job());
    expect(parts.map((p) => p.id).sort()).toEqual(graph.boxes.map((b) => b.id).sort());
    const ends = parts.flatMap((p) => p.lines.map((l) => l.link));
    expect(ends.sort()).toEqual(graph.lines.flatMap((l) => [l.id, l.id]).sort());
  });

  it("says of a connection how it stands, as Connect does", () => {
    const [first = ""] = links;
    const standings = (...commands: Command[]) =>
      systemView(job(...commands)).parts.flatMap((p) => p.lines.filter((l) => l.link === first).map((l) => l.standing));
    expect(standings()).toEqual(["open", "open"]);
    expect(standings({ kind: "connect.plug", data: { link: first, plugged: true } })).toEqual(["plugged", "plugged"]);
    const all = systemView(job(...plugAll)).parts.flatMap((p) => p.lines);
    expect(new Set(all.map((l) => l.standing))).toEqual(new Set(["built", "plugged"]));
  });

  it("shows devices from the side of their sockets, leads with what their ends go into", () => {
    const view = systemView(job());
    expect(part(view, "module")?.back?.sockets.length).toBeGreaterThan(3);
    expect(part(view, "module")?.route).toBeNull();
    const lead = view.parts.find((p) => p.type === "lead");
    expect(lead?.route?.ends.map((e) => e.link).sort()).toEqual(lead?.lines.map((l) => l.link).sort());
  });

  it("draws around a part what it is connected to, through leads to their other ends", () => {
    const { graph, parts } = systemView(job());
    const lead = parts.find((p) => p.type === "lead" && p.lines.some((l) => l.to === "module"));
    if (!lead) throw new Error("the module has a lead");
    const around = aroundPart(graph, "module");
    const names = (ids: readonly { id: string }[]) => ids.map((b) => b.id);
    expect(names(around.boxes)).toEqual(expect.arrayContaining(["module", lead.id, ...lead.lines.map((l) => l.to)]));
    expect(around.boxes.length).toBeLessThan(graph.boxes.length);
    expect(names(aroundPart(graph, lead.id).boxes).sort()).toEqual([lead.id, ...lead.lines.map((l) => l.to)].sort());
  });
});

describe("Connect", () => {
  it("lights nothing with the battery off, and says what comes before the key is turned", () => {
    const off: Command = { kind: "strip.step", data: { step: "battery-off", direction: "in" } };
    const on: Command = { kind: "strip.step", data: { step: "battery-on", direction: "in" } };
    const view = (...more: Command[]) => connectView(job(...plugAll, ...more), kits, NOW, null, {});
    expect(view().works.some((w) => w.works)).toBe(true);
    expect(view(off).works.filter((w) => w.works)).toEqual([]);
    expect(view(off).beforeSwitchingOn.join()).toMatch(/battery is off/);
    expect(view(off, on).beforeSwitchingOn).toEqual([]);
    const cycle: Command = { kind: "configure.powerCycle", data: { step: "in" } };
    expect(refusalOf(job(...plugAll, off), cycle, NOW)).toMatch(/no power to take. The battery is off/);
    expect(refusalOf(job(...plugAll.slice(1)), cycle, NOW)).toMatch(/does not get battery feed/);
    expect(refusalOf(job(...plugAll), cycle, NOW)).toBeNull();
  });

  it("says of each connection whether it is made, and of each function whether it would work", () => {
    const [first = ""] = links;
    const before = connectView(job(), kits, NOW, null, {});
    const one = connectView(job({ kind: "connect.plug", data: { link: first, plugged: true } }), kits, NOW, null, {});
    // A factory plug that has not been opened yet is made.
    expect(before.connections.filter((c) => c.plugged).every((c) => c.kind === "factory")).toBe(true);
    expect(one.connections.filter((c) => c.plugged && c.kind === "kit").map((c) => c.link)).toEqual([first]);
    const working = (v: typeof before) => v.works.filter((w) => w.works).length;
    expect(working(connectView(job(...plugAll), kits, NOW, null, {}))).toBeGreaterThan(working(before));
  });

  it("draws the lane of a failing test first, else of the first that does not work, else the one asked for", () => {
    const shown = connectView(job(), kits, NOW, null, {});
    expect(shown.works.find((w) => w.id === shown.chosen)?.works).toBe(false);
    const [asked] = shown.works.filter((w) => w.id !== shown.chosen);
    expect(connectView(job(), kits, NOW, asked?.id ?? "", {}).chosen).toBe(asked?.id);
    const failed = shown.works.at(-1)?.id ?? "";
    const failing = job({ kind: "prove.result", data: { test: failed, answer: "nothing", note: "" } });
    expect(connectView(failing, kits, NOW, null, {})).toMatchObject({ chosen: failed, failing: 1 });
  });

  it("tries the function in a situation of one's own", () => {
    const all = job(...plugAll);
    const test = all.plan.tests.find((t) => t.fn.id === "phonePicture")?.id ?? "";
    const shown = connectView(all, kits, NOW, test, { key: "off" });
    const on = connectView(all, kits, NOW, test, {});
    expect(shown.situation?.key).toBe("off");
    expect(on.situation?.key).not.toBe("off");
    expect(shown.lane).not.toEqual(on.lane);
  });

  it("draws a plug that is to come off in its socket until it is off", () => {
    const stock = "loom.radio";
    const before = connectView(job(), [], NOW, null, {});
    expect(before.filled).toContain(stock);
    const off = before.before.find((t) => t.kind === "unplug" && t.ports.includes(stock));
    expect(off).toMatchObject({ done: false, route: { ends: [{ port: "radio.main" }] } });
    const after = connectView(
      job({ kind: "connect.task", data: { task: off?.id ?? "", done: true } }),
      [],
      NOW,
      null,
      {},
    );
    expect(after.filled).not.toContain(stock);
    expect(after.made).toEqual(before.made.filter((id) => after.made.includes(id)));
    expect(before.made.length - after.made.length).toBe(1);
  });

  it("takes a factory plug as off when its step is done or something else sits in its place", () => {
    const off = (...commands: Command[]) =>
      connectView(job(...commands), kits, NOW, null, {}).before.filter((t) => t.kind === "unplug" && t.done).length;
    expect(off()).toBe(0);
    expect(off(...plugAll)).toBeGreaterThan(0);
  });
});

describe("Configure", () => {
  it("names the switches that differ only after positions were entered", () => {
    expect(configureView(job(), NOW).bank).toMatchObject({ entered: null, differences: [], powerCycled: false });
    const { solution } = configureView(job(), NOW).bank ?? {};
    const turned = { ...solution?.settings, "module.sw1": solution?.settings?.["module.sw1"] === "on" ? "off" : "on" };
    const entered = configureView(job({ kind: "configure.switches", data: { settings: turned } }), NOW);
    expect(entered.bank?.differences.map((d) => d.number)).toEqual([1]);
  });
});

describe("switches set while the module has no power", () => {
  const set = (...before: Command[]): Job => {
    const on = job(...plugAll, ...before);
    const command: Command = { kind: "configure.switches", data: { settings: { ...on.plan.settings } } };
    const decision = decide(on, [{ id: "s", command, at: NOW }], TEST);
    if (decision.kind !== "written") throw new Error("refused");
    return decision.after;
  };
  const off: Command = { kind: "strip.step", data: { step: "battery-off", direction: "in" } };

  it("are read as it starts: no power cycle is asked for, as it is where it had power", () => {
    expect(set(off).state.powerCycled).toBe(true);
    expect(set().state.powerCycled).toBe(false);
  });
});

describe("the power cycle of the module", () => {
  const entered = (): Job => {
    const on = job(...plugAll);
    return decided(on, { kind: "configure.switches", data: { settings: { ...on.plan.settings } } }, NOW);
  };
  const decided = (on: Job, command: Command, at: string): Job => {
    const decision = decide(on, [{ id: `x${on.entries.length}`, command, at }], TEST);
    if (decision.kind !== "written") throw new Error("refused");
    return decision.after;
  };
  const later = (s: number) => new Date(Date.parse(NOW) + s * 1000).toISOString();

  it("takes its ten seconds between out and in, and the module is dark meanwhile", () => {
    const out = decided(entered(), { kind: "configure.powerCycle", data: { step: "out" } }, NOW);
    const back: Command = { kind: "configure.powerCycle", data: { step: "in" } };
    expect(configureView(out, NOW).bank).toMatchObject({
      powerCycled: false,
      powerOut: NOW,
      noPower: expect.stringMatching(/plug is out/),
    });
    expect(refusalOf(out, back, later(4))).toMatch(/wait 6 s more/);
    const done = decided(out, back, later(11));
    expect(configureView(done, NOW).bank).toMatchObject({ powerCycled: true, powerOut: null });
  });

  it("keeps how the bank stood before, with who changed what", () => {
    const on = entered();
    const third = on.plan.settings["module.sw3"] === "on" ? "off" : "on";
    const turned = { ...on.plan.settings, "module.sw3": third };
    const asked: Command = { kind: "configure.switches", data: { settings: turned } };
    expect(refusalOf(on, asked, later(60))).toMatch(/module has power/);
    const again = answering(on, { id: "again", command: asked, at: later(60) }, TEST).after;
    const { history } = configureView(again, NOW).bank ?? {};
    expect(history?.map((h) => h.changed)).toEqual([[3], []]);
    expect(history?.[0]?.values[2]).toBe(third);
    const undone = decided(again, { kind: "undo", data: { entry: again.entries.at(-1)?.id ?? "" } }, later(90));
    expect(configureView(undone, NOW).bank?.history).toHaveLength(1);
  });
});

describe("Prove", () => {
  it("counts the leads that are open and the tests that fail", () => {
    expect(proveView(job(), NOW).openLeads).toBeGreaterThan(0);
    const done = proveView(job(...plugAll), NOW);
    expect(done.openLeads).toBeLessThan(proveView(job(), NOW).openLeads);
    const [test] = done.tests;
    const failing = job(...plugAll, {
      kind: "prove.result",
      data: { test: test?.id ?? "", answer: "nothing", note: "dark" },
    });
    expect(proveView(failing, NOW)).toMatchObject({ failing: 1 });
    expect(proveView(failing, NOW).tests[0]?.noted).toMatchObject({ value: "nothing" });
  });

  it("tells the judging worker enough of the state for the same plan", () => {
    const planned = job().plan.connections.length;
    const afterAll = job().plan.strip.plan.steps.map(({ id: step }) =>
      job(...plugAll, { kind: "strip.step", data: { step, direction: "in" } }),
    );
    // A step that opens a plug the kit does not touch brings a connection of its own.
    const opened = afterAll.find((j) => j.plan.connections.length > planned);
    if (!opened) throw new Error("no step opens a plug that the kit does not touch");
    const { key, state } = proveView(opened, NOW).plan;
    expect(planKey(documents, state)).toBe(key);
    expect(planJob(documents, state).connections).toEqual(opened.plan.connections);
  });
});

describe("a cause that was found", () => {
  const [test] = job().plan.tests;
  const result = (answer: "pass" | "nothing"): Command => ({
    kind: "prove.result",
    data: { test: test?.id ?? "", answer, note: "" },
  });
  const data = { fault: "x", title: "Plug not home", remedy: "Push it home.", normal: false, looks: [] };
  const repair = {
    kind: "prove.repair",
    data: { ...data, tests: [test?.id], again: [test?.id] },
  } as unknown as Command;
  const proofs = (...after: Command[]) =>
    proveView(job(result("nothing"), repair, ...after), NOW).repairs.map((r) => r.proof);

  it("is proven by the test that failed, and by nothing else", () => {
    expect([proofs(), proofs(result("pass")), proofs(result("nothing"))]).toEqual([["open"], ["passed"], ["failing"]]);
  });
});

describe("the feed and the lengths", () => {
  it("ask for a feed while a lead waits for one, and rank the positions of the car", () => {
    const view = feedView(job());
    expect(view.candidates.length).toBe(documents.car.fusePanel?.length);
    expect(view.load.steadyA).toBeGreaterThan(0);
    expect(feedView(unknown)).toMatchObject({ need: { kind: "none" }, taken: null });
    expect(refusalOf(job(), { kind: "connect.feed", data: { position: "F10" } }, NOW)).toMatch(/takes its power where/);
    const kit = kits.find((k) => k.id === "brackwater-view") ?? null;
    const fuse: Command = { kind: "fit.confirm", data: { choices: { feed: "fuse" } } };
    const asked = jobOf({ ...documents, kit }, logOf(fuse));
    expect(feedView(asked).need).toMatchObject({ kind: "wanted", link: "k-feed-fuse" });
    // A document that asks for the place but names no lead: its wire is tapped by hand, and that is said.
    const leadless = kit && {
      ...kit,
      id: "leadless",
      plug: kit.plug.filter((k) => !k.id.startsWith("k-feed")),
      parts: kit.parts.filter((p) => p.id !== "feedLead"),
    };
    expect(feedView(jobOf({ ...documents, kit: leadless }, logOf(fuse))).need).toMatchObject({
      kind: "byHand",
      link: null,
    });
    expect(refusalOf(asked, { kind: "connect.feed", data: { position: "F3" } }, NOW)).toMatch(
      /Test it with the key on/,
    );
  });

  it("bring the way to the new place, with its panel and its airbag caution", () => {
    const mic = job({ kind: "connect.place", data: { part: "kitMic", place: "A-pillar" } });
    const titles = (of: Job) => of.strip(NOW).left.map((t) => t.title);
    expect(titles(job())).not.toContain("A-pillar trim off");
    expect(titles(mic)).toContain("A-pillar trim off");
    expect(mic.strip(NOW).left.find((t) => t.title === "A-pillar trim off")?.caution).toMatch(/airbag/);
    // What led to the old place only is not taken off for nothing.
    expect(titles(job())).toContain("Column shroud apart");
    expect(titles(mic)).not.toContain("Column shroud apart");
  });

  it("follow a part that is put elsewhere", () => {
    const here = lengthsView(job());
    const [part] = here.parts;
    const place = here.places.find((p) => p !== part?.place) ?? "";
    const moved = lengthsView(job({ kind: "connect.place", data: { part: part?.id ?? "", place } }));
    expect(moved.parts.find((p) => p.id === part?.id)?.place).toBe(place);
  });
});

describe("Hand over", () => {
  it("shows the newest entries first, in words, with what is undone and what can be", () => {
    const view = handoverView(
      job({ kind: "handover.point", data: { text: "scratch" } }, { kind: "undo", data: { entry: "e0" } }),
      NOW,
    );
    expect(view.history.map((h) => h.id)).toEqual(["e1", "e0"]);
    expect(view.history[1]).toMatchObject({ undone: true, canUndo: true });
    expect(view.history[1]?.words).toContain("scratch");
    const closed = handoverView(
      job({ kind: "handover.close", data: { as: "ready", openPoints: ["scratch"], told: [] } } as never),
      NOW,
    );
    expect(closed.history[0]?.canUndo).toBe(false);
    expect(closed.report.openPoints.map((o) => o.text)).toEqual(["scratch"]);
  });
});

describe("Intake and its finder", () => {
  it("offer wishes only when the radio is known", () => {
    expect(intakeView(unknown, kits, NOW).wishes).toEqual([]);
    const before = intakeView(job(), kits, NOW);
    expect(before.wishes.length).toBeGreaterThan(2);
    // Nobody has been asked: nothing is ticked.
    expect([before.wishesAsked, before.wishes.filter((w) => w.wanted)]).toEqual([false, []]);
    const asked = intakeView(job({ kind: "intake.wishes", data: { functions: ["phonePicture"] } }), kits, NOW);
    expect(asked.wishes.filter((w) => w.wanted).map((w) => w.id)).toEqual(["phonePicture"]);
  });

  it("take answers that the car's questions know and leave others out", () => {
    const [question] = documents.car.questions ?? [];
    const [answer] = question?.answers ?? [];
    const params = new URLSearchParams([
      ["a", `${question?.id}:${answer?.id}`],
      ["a", `${question?.id}:nonsense`],
      ["a", "nonsense:1"],
    ]);
    const view = finderView(unknown, radios, new Map(), params);
    expect(intakeView(unknown, kits, NOW).found).toBeNull();
    expect(view.answers).toEqual({ [question?.id ?? ""]: answer?.id });
    expect(intakeView(job(), kits, NOW).found?.title).toBe(documents.variant.title);
  });
});

describe("Fit", () => {
  const list = rankKits(rankRequest(job(), kits));

  it("shows the kit asked for, else that of the job, else the best, else none", () => {
    expect(shownKit(job(), "brackwater-view", list)).toBe("brackwater-view");
    expect(shownKit(job(), null, list)).toBe(documents.kit.id);
    const without = jobOf({ ...documents, kit: null });
    expect(shownKit(without, null, list)).toBe(list[0]?.kit);
    expect(shownKit(without, null, [])).toBeNull();
  });

  it("opens a kit, that of the job too, with the options that its place in the ranking rests on", () => {
    const best = list.find((c) => c.kit === documents.kit.id);
    const shown = offerView(job(), documents.kit, list, kits, {}, []);
    const offers = shown.choices.filter((c) => c.kind === "offer");
    expect(offers.length).toBeGreaterThan(0);
    expect(Object.fromEntries(offers.map((c) => [c.id, c.chosen]))).toEqual(
      Object.fromEntries(offers.map((c) => [c.id, best?.choices[c.id]])),
    );
    expect([...new Set(shown.offer.lines.filter((l) => l.verdict === "lost").map((l) => l.functionId))]).toEqual(
      best?.lost,
    );
    // The shop's usual way of working stays: it makes no other offer.
    const kit = kits.find((k) => k.choices.some((c) => c.kind === "method"));
    const method = kit?.choices.find((c) => c.kind === "method");
    const other = method?.options.find((o) => o.id !== method.default);
    if (!kit || !method || !other) throw new Error("no kit leaves the way of working open");
    const usual = offerView(job(), kit, list, kits, { [method.id]: other.id }, []);
    expect(usual.choices.find((c) => c.id === method.id)?.chosen).toBe(other.id);
  });

  it("says why an option stands preselected that is not the usual one, and nothing once somebody chose", () => {
    const sound = (asked: [string, string][] = [], usual = {}) =>
      offerView(job(), documents.kit, list, kits, usual, asked).choices.find((c) => c.id === "soundPath");
    expect(sound()).toMatchObject({
      chosen: "carBluetooth",
      usual: "line",
      notUsual: "Not the usual one: with Line input the car goes without Calls on the car's hands-free.",
    });
    expect(sound([["soundPath", "carBluetooth"]])?.notUsual).toBeNull();
    expect(sound([], { soundPath: "carBluetooth" })).toMatchObject({ usual: "carBluetooth", notUsual: null });
    const confirmed = job({
      kind: "fit.confirm",
      data: { choices: { soundPath: "carBluetooth" } },
    } as unknown as Command);
    const said = offerView(confirmed, documents.kit, list, kits, {}, []).choices.map((c) => c.notUsual);
    expect(said.every((words) => words === null)).toBe(true);
  });

  it("takes options of the address that the kit offers, and is confirmed only with just these", () => {
    expect(
      offeredChoices(documents.kit, [
        ["soundPath", "carBluetooth"],
        ["soundPath", "tin can"],
        ["x", "y"],
      ]),
    ).toEqual({
      soundPath: "carBluetooth",
    });
    const confirmed = job({ kind: "fit.confirm", data: { choices: { soundPath: "line" } } });
    const view = (asked: [string, string][]) => offerView(confirmed, documents.kit, list, kits, {}, asked);
    expect(view([]).confirmed).toBe(true);
    expect(view([["soundPath", "carBluetooth"]]).confirmed).toBe(false);
    expect(view([]).why).toBeNull();
    expect(view([["why", "no function/at all"]]).why).toBeNull();
    const lost = view([]).offer.lines.find((l) => l.verdict === "lost");
    expect(view([["why", `${lost?.functionId}/${lost?.situationId}`]]).why?.name).toBe(lost?.name);
  });
});

describe("without radio and kit", () => {
  it("nothing is claimed", () => {
    const view = connectView(unknown, kits, NOW, null, {});
    expect(view).toMatchObject({ connections: [], before: [], short: 0 });
    expect(proveView(unknown, NOW).tests.filter((t) => t.noted)).toEqual([]);
    expect(configureView(unknown, NOW)).toMatchObject({ sets: [], bank: null });
    expect(lengthsView(unknown).leads).toEqual([]);
    expect(handoverView(unknown, NOW).history).toEqual([]);
  });
});
