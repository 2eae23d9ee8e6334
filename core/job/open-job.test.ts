import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { observe } from "../../sim/bench";
import { jobOf, logOf, refusalOf } from "../../tests/support/jobs";
import { lengthsOf } from "../lengths/job";
import type { Command } from "../log/entry";
import { effective, foldJob } from "../log/fold";
import { isBlank, noKit, noVariant } from "./blank";
import { jobCarState, jobStripView } from "./car-state";
import { openNow, planJob } from "./plan";
import { handoverReport } from "./report";

const { car, variant, kit } = demoDocuments();
const entries = logOf;
const sheet: Command = {
  kind: "intake.car",
  data: { changed: { identification: "0VMCRA183J1000207" }, before: { identification: "" } },
};
const found: Command = {
  kind: "intake.variant",
  data: { variant: { slug: variant.id, version: 1 }, answers: { knob: "one", lineIn: null } },
};
const chosen = (slug: string, choices: Record<string, string> = {}): Command => ({
  kind: "fit.kit",
  data: { kit: { slug, version: 1 }, choices },
});

const NOW = "2026-03-02T20:00:00Z";

describe("a job whose radio and kit are still to be found", () => {
  const blank = planJob({ car, variant: noVariant(car), kit: noKit() }, { choices: null });
  const withRadio = planJob({ car, variant, kit: noKit() }, { choices: null });

  it("is planned as the car alone", () => {
    expect([isBlank(blank.documents.variant), isBlank(blank.documents.kit), isBlank(kit)]).toEqual([true, true, false]);
    expect(blank.connections).toEqual([]);
    expect(blank.steps).toEqual([]);
    expect(blank.switches).toBeNull();
    expect(blank.tests.map((t) => t.fn.id)).toEqual(["hazard"]);
    expect(blank.fitted.parts.map((p) => p.id)).toEqual(car.parts.map((p) => p.id));
  });

  it("has the whole baseline once the radio is known, and the kit's tests only with the kit", () => {
    expect(withRadio.baseline.length).toBeGreaterThan(blank.baseline.length);
    expect(withRadio.tests.map((t) => t.id).sort()).toEqual(withRadio.baseline.map((t) => t.id).sort());
  });

  it("is led from the number to the radio, the baseline, the kit", () => {
    const next = (plan: typeof blank, ...log: Command[]) => jobOf(plan.documents, entries(...log)).next(NOW);
    expect(next(blank).action).toBe("Enter the identification number");
    expect(next(blank, sheet)).toMatchObject({ stage: "intake", action: "Find out which radio it is" });
    expect(next(withRadio, sheet, found).action).toMatch(/^Baseline: try/);
    const tried = withRadio.baseline.map(
      (t): Command => ({ kind: "intake.baseline", data: { test: t.id, result: "pass", note: "" } }),
    );
    expect(next(withRadio, sheet, found, ...tried)).toMatchObject({ stage: "fit", action: "Choose the kit" });
  });

  it("shows on the board what is known", () => {
    const log = entries(sheet);
    expect(jobOf(blank.documents, log).boardLine(NOW)).toMatchObject({
      kit: { slug: "" },
      variantSlug: "",
      stage: "intake",
    });
    expect(jobOf({ car, variant, kit }, log).boardLine(NOW)).toMatchObject({
      kit: { slug: kit.id, title: kit.title },
      variantSlug: variant.id,
    });
  });

  it("can be handed over as it came", () => {
    const state = foldJob(entries(sheet));
    expect(handoverReport(jobOf(withRadio.documents, entries(sheet)), NOW).lines.every((l) => l.before !== "new")).toBe(
      true,
    );
    expect(jobCarState(jobOf(withRadio.documents, entries(sheet)), NOW).modulePower).toBe("off");
    expect(openNow(withRadio, state).openLinks).toEqual({});
  });
});

describe("the log names radio and kit", () => {
  it("with the answers that led to the radio", () => {
    const state = foldJob(entries(found));
    expect(state.variant).toEqual({ slug: variant.id, version: 1 });
    expect(state.variantAnswers).toEqual({ knob: "one", lineIn: null });
  });

  it("and another kit begins anew: nothing of the old one is plugged, set or proven", () => {
    const work: Command[] = [
      chosen("orvanto-om8", { soundPath: "line" }),
      { kind: "connect.plug", data: { link: "k-car", plugged: true } },
      { kind: "configure.switches", data: { settings: { "module.sw1": "on" } } },
      { kind: "configure.powerCycle", data: { step: "in" } },
      { kind: "prove.result", data: { test: "hazard/key-off", answer: "pass", note: "" } },
    ];
    const before = foldJob(entries(...work));
    expect([before.plugged.size, before.results.size, before.powerCycled]).toEqual([1, 1, true]);
    const after = foldJob(entries(...work, chosen("brackwater-view")));
    expect([after.plugged.size, after.results.size, after.powerCycled, after.switches]).toEqual([0, 0, false, null]);
    expect(after.kit?.slug).toBe("brackwater-view");
  });

  it("undoing the choice brings the old kit and its work back", () => {
    const log = entries(
      chosen("orvanto-om8"),
      { kind: "connect.plug", data: { link: "k-car", plugged: true } },
      chosen("brackwater-view"),
      { kind: "undo", data: { entry: "e2" } },
    );
    expect(effective(log)).toHaveLength(2);
    const state = foldJob(log);
    expect(state.kit?.slug).toBe("orvanto-om8");
    expect(state.plugged.has("k-car")).toBe(true);
  });

  it("keeps the signature with the choices and the price it was given for", () => {
    const state = foldJob(
      entries({
        kind: "fit.signed",
        data: {
          name: "A. Holm",
          kit: { slug: "x", version: 2 },
          choices: { a: "b" },
          price: 150,
          currency: "EUR",
          terms: [],
        },
      } as Command),
    );
    expect(state.signed).toMatchObject({ by: "Test", value: { name: "A. Holm", price: 150, choices: { a: "b" } } });
  });

  it("keeps note and photo with a baseline try, the newest answer counts", () => {
    const photo = "019a0000-0000-7000-8000-000000000001";
    const state = foldJob(
      entries(
        { kind: "intake.baseline", data: { test: "hazard/key-off", result: "pass", note: "" } },
        { kind: "intake.baseline", data: { test: "hazard/key-off", result: "fail", note: "left rear dark", photo } },
      ),
    );
    expect(state.baseline.get("hazard/key-off")).toMatchObject({ value: "fail", note: "left rear dark", photo });
  });

  it("takes wishes for functions of any kit", () => {
    const job = jobOf({ car, variant, kit: null });
    const body: Command = { kind: "intake.wishes", data: { functions: ["phonePicture", "navigation"] } };
    expect(refusalOf(job, body, NOW)).toBeNull();
  });
});

describe("settings beside the switch bank", () => {
  const library = shippedLibrary();
  const of = (id: string) => library.find((p) => p.id === id);
  const halden = of("kestrane-halden-14");
  const k1 = of("kestrane-halden-14-k1");
  const ring = of("orvanto-om8-ring");
  if (halden?.document !== "car" || k1?.document !== "variant" || ring?.document !== "kit")
    throw new Error("no ring car");
  const ringCar = { car: halden, variant: k1, kit: ring };
  const plan = planJob(ringCar, { choices: null });
  const plugged = plan.connections.map(
    (c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } }),
  );
  const moved: Command = { kind: "configure.set", data: { setting: "harness.ring", done: true } };
  const sound = (log: Command[]) => {
    const state = foldJob(entries(...log));
    const test = plan.tests.find((t) => t.fn.id === "tunerSound");
    return test && observe(plan, state, null, test.id).answer;
  };

  it("count as not made until somebody says so: the ring is open and the stand-in car is silent", () => {
    expect(plan.sets.filter((s) => s.means !== "menu").map((s) => s.setting)).toEqual(["harness.ring"]);
    expect(sound(plugged)).toBe("nothing");
    expect(sound([...plugged, moved])).toBe("pass");
    expect(sound([...plugged, moved, { kind: "configure.set", data: { setting: "harness.ring", done: false } }])).toBe(
      "nothing",
    );
  });

  it("come next once everything is plugged, and stand among the open points", () => {
    const tried = plan.baseline.map(
      (t): Command => ({ kind: "intake.baseline", data: { test: t.id, result: "pass", note: "" } }),
    );
    const stripped = jobStripView(plan, foldJob([]), NOW).left.map(
      (s): Command => ({ kind: "strip.step", data: { step: s.id, direction: "in" } }),
    );
    const log = [sheet, ...tried, chosen(ring.id), ...stripped, ...plugged];
    // Plugged before its contacts were moved, the ring is open: that comes before everything else.
    expect(jobOf(ringCar, entries(...log)).next(NOW)).toMatchObject({
      stage: "connect",
      action: expect.stringMatching(/^Put right: .*ring/),
      reached: "connect",
    });
    expect(
      handoverReport(jobOf(ringCar, entries(...log)), NOW)
        .openPoints.map((p) => p.text)
        .join(),
    ).toContain("Not set: Move the two optical contacts");
    expect(jobOf(ringCar, entries(...log, moved)).next(NOW).action).toContain("switch bank");
  });

  it("are only those of the kit", () => {
    const body: Command = { kind: "configure.set", data: { setting: "radio.volume", done: true } };
    expect(refusalOf(jobOf(ringCar), body, NOW)).toMatch(/no setting “radio.volume”/);
    expect(refusalOf(jobOf(ringCar), moved, NOW)).toBeNull();
  });
});

describe("every kit of the library on the radio it is made for", () => {
  const library = shippedLibrary();
  const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
  const variants = library.flatMap((p) => (p.document === "variant" ? [p] : []));
  const made: [kit: string, variant: string][] = [
    ["pellimar-inlay-5", "hollinby-marrow-17-m1"],
    ["ostrel-upper-2", "sundrey-tarn-21-t1"],
    ["brackwater-duo", "velmora-corrie-19-r3"],
    ["brackwater-view", "velmora-corrie-19-r2"],
    ["orvanto-om8-ring", "kestrane-halden-14-k1"],
    ["velmora-socket-b", "velmora-osk-18-o1"],
    ["ostrel-line-1", "kestrane-fjell-11-f2"],
    ["kestrane-sister-s4", "kestrane-fjell-11-f1"],
    ["ostrel-talk-button", "hollinby-dunlin-16-l1"],
    ["sundrey-wide-10", "sundrey-vale-19-v3"],
    ["brackwater-guide", "sundrey-vale-19-v2"],
    ["hollinby-level-4", "hollinby-dunlin-16-l3"],
    ["orvanto-still", "sundrey-tarn-21-t2"],
  ];
  it.each(made)("%s on %s can be planned through all surfaces", (kitId, variantId) => {
    const v = variants.find((x) => x.id === variantId);
    const c = cars.find((x) => x.id === v?.car);
    const k = library.find((p) => p.id === kitId);
    if (!v || !c || k?.document !== "kit") throw new Error("not in the library");
    const plan = planJob({ car: c, variant: v, kit: k }, { choices: null });
    expect(plan.tests.length).toBeGreaterThan(3);
    expect(plan.connections.length).toBeGreaterThan(1);
    const way = jobStripView(plan, foldJob([]), NOW);
    expect(way.route.unreached).toEqual([]);
    expect(way.left.length).toBeGreaterThan(plan.steps.length);
    const lengths = lengthsOf(plan.documents.car, plan.documents.kit, plan.fitted, () => true, new Map());
    expect(lengths.leads.flatMap((l) => l.problem ?? [])).toEqual([]);
    const plugged = plan.connections.map(
      (x): Command => ({ kind: "connect.plug", data: { link: x.link, plugged: true } }),
    );
    const open = openNow(plan, foldJob(entries(...plugged))).openLinks ?? {};
    expect(Object.keys(open)).toEqual([]);
    // Law asks for nothing that the kit takes away.
    const law = plan.stock.functions.filter((f) => f.who === "law").map((f) => f.id);
    for (const id of law)
      expect(
        plan.tests.some((t) => t.fn.id === id),
        id,
      ).toBe(true);
  });
});
