/** What a customer wishes for decides which kit is taken, not how it is set; what cannot be had together is chosen. */
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf, refusalOf, TEST } from "../../tests/support/jobs";
import { withLamp } from "../../tests/support/lamp-kit";
import { offerOf } from "../fit/offer";
import { rankKits } from "../fit/rank";
import type { Command } from "../log/entry";
import { configureView } from "../views/configure";
import { handoverView } from "../views/handover";
import { decide } from "./decide";
import type { Job } from "./job";

const NOW = "2026-01-05T12:00:00Z";
const documents = demoDocuments();
const wish = (...functions: string[]): Command => ({ kind: "intake.wishes", data: { functions } });

describe("wishes", () => {
  it("change neither the settings nor the tests: everything that the kit gives is planned", () => {
    const plain = jobOf(documents, logOf()).plan;
    expect(plain.tests.map((t) => t.fn.id)).toEqual(
      expect.arrayContaining(["phonePicture", "phoneSound", "assistant"]),
    );
    for (const few of [wish("phonePicture"), wish()]) {
      const { plan } = jobOf(documents, logOf(few));
      expect(plan.settings).toEqual(plain.settings);
      expect(plan.tests.map((t) => t.id)).toEqual(plain.tests.map((t) => t.id));
    }
  });
});

describe("functions that cannot be had together", () => {
  const opened = { ...documents, kit: withLamp(documents.kit) };
  const job = (...commands: Command[]): Job => jobOf(opened, logOf(...commands));
  const ways = job().plan.switches?.conflict ?? [];
  /** As it is stored: with the names of that time. */
  const taken = { kind: "configure.giveUp", data: { functions: ways[0]?.givesUp ?? [] } } as unknown as Command;

  it("are named, nothing is drawn, and the next action asks", () => {
    const { bank } = configureView(job(), NOW);
    expect(ways.map((w) => w.givesUp.map((f) => f.id))).toEqual([["lamp"]]);
    expect(bank?.solution).toMatchObject({ settings: null, missing: [] });
    expect(bank?.solution.switches.map((s) => s.value)).toEqual(Array(8).fill(null));
    expect(bank?.differences).toEqual([]);
    const offer = offerOf(
      opened,
      { givenUp: [], car: { firmware: "" }, placed: new Map(), baseline: new Map() },
      {},
      [],
    );
    expect(offer.conflict).toHaveLength(1);
  });

  it("are solved as soon as somebody says what the car does without, and asked again when that is taken back", () => {
    const solved = job(taken);
    expect(solved.plan.switches).toMatchObject({ conflict: [], missing: [] });
    expect(solved.plan.settings["module.sw4"]).toBe("off");
    expect(configureView(solved, NOW).bank?.givenUp).toEqual(["Lamp on the module"]);
    expect(solved.plan.tests.map((t) => t.fn.id)).not.toContain("lamp");
    const again = job(taken, { kind: "configure.giveUp", data: { functions: [] } });
    expect(again.plan.switches?.conflict).toHaveLength(1);
    const otherKit = job(taken, {
      kind: "fit.kit",
      data: { kit: { slug: "brackwater-view", version: 1 }, choices: {} },
    });
    expect(otherKit.state.givenUp).toEqual([]);
  });

  it("are given up only by one of the ways that there are", () => {
    const ask = (on: Job, ...functions: string[]) =>
      refusalOf(on, { kind: "configure.giveUp", data: { functions } }, NOW);
    expect(ask(job(), "lamp")).toBeNull();
    expect(ask(job(), "rearView")).toMatch(/need not be given up/);
    expect(ask(job(), "lamp", "phonePicture")).toMatch(/need not be given up/);
    expect(ask(job())).toMatch(/Nothing is given up/);
    expect(ask(job(taken))).toBeNull();
    expect(ask(jobOf(documents), "phonePicture")).toMatch(/need not be given up/);
  });

  it("are written with their names and told by them", () => {
    const asked: Command = { kind: "configure.giveUp", data: { functions: ["lamp"] } };
    const decision = decide(job(), [{ id: "a1", command: asked, at: NOW }], TEST);
    if (decision.kind !== "written") throw new Error("refused");
    const [entry] = decision.entries;
    expect(entry).toMatchObject({ data: { functions: [{ id: "lamp", name: "Lamp on the module" }] } });
    expect(handoverView(job().with(decision.entries), NOW).history[0]?.words).toBe(
      "Given up on this car: Lamp on the module",
    );
  });

  it("go to the wishes where kits are ranked", () => {
    const request = { car: documents.car, variant: documents.variant, kits: [opened.kit], firmware: "R2-118" };
    const [plain] = rankKits({ ...request, wishes: [] });
    expect(plain?.lost).toEqual(rankKits({ ...request, kits: [documents.kit], wishes: [] })[0]?.lost);
    const [wished] = rankKits({ ...request, wishes: [{ id: "phonePicture", name: "Phone picture" }] });
    expect(wished?.met).toEqual(["phonePicture"]);
  });
});
