/** Fit, Connect, Configure, Prove and Strip on the demonstration documents. */
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { compareSwitches } from "../configure/switches";
import { lane } from "../connect/lane";
import { type CheckInput, checkConnections } from "../connect/rules";
import { fitVerdict, ledger } from "../fit/ledger";
import { foldJob } from "../log/fold";
import { ComposeError } from "../model/errors";
import { mates } from "../model/mating";
import { Model } from "../model/outcome";
import { orderCost, orderTests } from "../prove/tests";
import { planInput } from "./connect";
import { planJob } from "./plan";

const documents = demoDocuments();
const plan = planJob(documents, { choices: null });
const bluetooth = planJob(documents, { choices: { soundPath: "carBluetooth" } });

describe("fit", () => {
  const lines = ledger(plan.stock, plan.fitted, plan.settings, plan.touched.parts);
  const line = (id: string) => lines.find((l) => l.functionId === id);

  it("finds what is gained, kept, changed and lost, each with its cause", () => {
    expect(line("phonePicture")).toMatchObject({ verdict: "gained" });
    expect(line("hazard")).toMatchObject({ verdict: "kept" });
    expect(line("rearView")).toMatchObject({
      verdict: "changed",
      causes: [expect.stringContaining("1.0 s instead of 0.9 s")],
    });
    expect(line("handsFree")).toMatchObject({
      verdict: "lost",
      causes: [expect.stringContaining("not paired"), expect.anything()],
    });
  });

  it("keeps the car's hands-free when the sound goes over the car's own Bluetooth", () => {
    const other = ledger(bluetooth.stock, bluetooth.fitted, bluetooth.settings, bluetooth.touched.parts);
    expect(other.find((l) => l.functionId === "handsFree")?.verdict).toBe("kept");
    expect(other.find((l) => l.functionId === "phoneSound")?.verdict).toBe("gained");
    expect(bluetooth.connections.some((c) => c.link === "k-audio-radio")).toBe(false);
  });

  it("says impossible when something the law asks for is lost", () => {
    const wrong = ledger(plan.stock, plan.fitted, { ...plan.settings, "module.sw4": "on" }, plan.touched.parts);
    expect(fitVerdict(wrong, [])).toMatchObject({ level: "impossible", text: expect.stringContaining("Rear camera") });
    expect(fitVerdict(lines, [])).toMatchObject({ level: "conditions", text: expect.stringContaining("hands-free") });
    expect(fitVerdict(lines, ["handsFree"]).text).toMatch(/not all wishes/);
  });

  it("refuses documents that do not go together, with place and remedy", () => {
    const other = structuredClone(documents);
    other.kit.unplug.push({ a: "radio.video", b: "screen.video", why: "" });
    expect(() => planJob(other, { choices: null })).toThrow(ComposeError);
    expect(() => planJob(documents, { choices: { soundPath: "tin can" } })).toThrow(/does not offer “tin can”/);
    expect(() => planJob({ ...documents, variant: { ...documents.variant, car: "x" } }, { choices: null })).toThrow(
      /belongs to the car x/,
    );
  });
});

describe("connect", () => {
  const rulesOf = (change: Partial<CheckInput>) =>
    checkConnections({ ...planInput(plan, foldJob([])), ...change }).filter((f) => f.level !== "note");

  it("has nothing to say about the plan as it is meant", () => {
    expect(rulesOf({})).toEqual([]);
  });

  it("finds exchanged video leads by tracing conductors", () => {
    const exchanged = structuredClone(plan.fitted);
    const [i, o] = ["k-in-module", "k-out-module"].map((id) => exchanged.links.find((l) => l.id === id));
    if (i && o) [i.b, o.b] = [o.b, i.b];
    const rules = rulesOf({ system: exchanged }).map((f) => f.rule);
    expect(rules).toContain("two-drivers");
    expect(rules).toContain("direction");
  });

  it("names a forgotten factory plug and what stops without it", () => {
    const forgotten = { ...plan.fitted, links: plan.fitted.links.filter((l) => l.id !== "loom-vents") };
    const [finding] = rulesOf({ system: forgotten });
    expect(finding).toMatchObject({ rule: "factory-plug-open", level: "watch" });
    expect(finding?.text).toContain("Hazard switch");
  });

  it("names the missing supply, ground and bus of the module while its plug is open", () => {
    const open = { openLinks: { "k-module": "not plugged" } };
    const rules = new Set(
      rulesOf({ open })
        .filter((f) => f.where.startsWith("Interface module"))
        .map((f) => f.rule),
    );
    expect(rules).toEqual(new Set(["supply-missing", "ground-missing", "control-missing"]));
  });

  it("refuses two halves that do not mate, and says which rule", () => {
    const port = (family: string, gender: "male" | "female", keying = "", ways = 4) => ({
      id: "x",
      label: "x",
      connector: { family, ways, gender, keying },
      contacts: [],
    });
    expect(mates(port("A", "male"), port("A", "female"))).toBeNull();
    expect(mates(port("A", "male"), port("B", "female"))?.rule).toBe("family");
    expect(mates(port("A", "male"), port("A", "male"))?.rule).toBe("gender");
    expect(mates(port("A", "male", "C"), port("A", "female", "D"))?.rule).toBe("keying");
    expect(mates(port("A", "male", "", 4), port("A", "female", "", 6))?.rule).toBe("ways");
    const wrong = structuredClone(plan.fitted);
    const link = wrong.links.find((l) => l.id === "k-antenna");
    if (link) link.a = "antenna.coax";
    expect(rulesOf({ system: wrong }).some((f) => f.rule === "mating")).toBe(true);
  });

  it("draws a lane with the break at the open lead", () => {
    const fn = plan.fitted.functions.find((f) => f.id === "phonePicture");
    if (!fn) throw new Error("no phone picture");
    const broken = lane(plan.fitted, fn, "wireless", plan.settings, {
      openJoins: { videoOutLead: "Video lead OUT is open." },
    });
    expect(broken.stations.map((s) => s.part)).toEqual([
      "phone",
      "kitAntenna",
      "module",
      "videoOutLead",
      "displayLead",
      "screen",
    ]);
    expect(broken.stations[broken.breakAt]?.part).toBe("videoOutLead");
    expect(broken.reasons).toContain("Video lead OUT is open.");
    expect(lane(plan.fitted, fn, "wireless", plan.settings, {})).toMatchObject({ works: true, breakAt: -1 });
    const hazard = plan.fitted.functions.find((f) => f.id === "hazard") ?? fn;
    expect(lane(plan.fitted, hazard, "key-off", plan.settings, {}).stations.map((s) => s.part)).toEqual([
      "ventPanel",
      "loom",
      "bodyComputer",
    ]);
  });
});

describe("configure", () => {
  const { switches } = plan;

  it("finds the positions and what each wrong switch breaks", () => {
    expect(switches?.switches.map((s) => s.value).join(" ")).toBe("off on on off on off off off");
    expect(switches?.switches[3]?.breaks).toContain("Rear camera");
    expect(switches?.switches[7]).toMatchObject({ free: true, breaks: [] });
  });

  it("agrees with trying every position without any shortcut", () => {
    const bank = documents.kit.switchBank;
    if (!bank || !switches) throw new Error("the kit has a bank");
    let good = 0;
    for (let mask = 0; mask < 256; mask++) {
      const settings = Object.fromEntries(
        bank.switches.map((id, i) => [`${bank.part}.${id}`, mask & (1 << i) ? bank.on : bank.off]),
      );
      const model = new Model(plan.fitted, {}, settings);
      if (plan.tests.every((t) => model.try(t.fn, t.situationId).outcome.kind === "ok")) good++;
    }
    expect(good).toBe(switches.solutions);
  });

  it("lists the wrong switches only", () => {
    const bank = documents.kit.switchBank;
    if (!bank || !switches) throw new Error("the kit has a bank");
    expect(compareSwitches(switches, bank, plan.settings)).toEqual([]);
    expect(compareSwitches(switches, bank, { ...plan.settings, "module.sw4": "on" })).toMatchObject([
      { number: 4, should: "off", is: "on" },
    ]);
  });

  it("says which wish no position can give", () => {
    const dim = structuredClone(documents);
    const screen = dim.variant.parts.find((p) => p.id === "screen");
    if (screen) screen.facts = { format: "640x240" };
    const solved = planJob(dim, { choices: null }).switches;
    expect(solved?.missing).toContain("Phone picture");
    expect(solved?.settings).not.toBeNull();
  });
});

describe("prove", () => {
  it("orders tests with fewer changes than the order of the profiles, and loses none", () => {
    const start = { ...plan.fitted.defaultSituation, key: "off" as const };
    const byProfile = [...plan.tests].sort(
      (a, b) => plan.fitted.functions.indexOf(a.fn) - plan.fitted.functions.indexOf(b.fn),
    );
    expect(orderCost(plan.tests, start)).toBeLessThan(orderCost(byProfile, start));
    expect(new Set(orderTests(byProfile, start).map((t) => t.id))).toEqual(new Set(byProfile.map((t) => t.id)));
  });

  it("reaches the optimum where all orders can be tried", () => {
    const start = { ...plan.fitted.defaultSituation, key: "off" as const };
    const few = plan.tests.filter((_, i) => i % 3 === 0).slice(0, 6);
    let best = Number.POSITIVE_INFINITY;
    const permute = (rest: typeof few, done: typeof few) => {
      if (rest.length === 0) best = Math.min(best, orderCost(done, start));
      rest.forEach((t, i) => void permute([...rest.slice(0, i), ...rest.slice(i + 1)], [...done, t]));
    };
    permute(few, []);
    expect(orderCost(orderTests(few, start), start)).toBeCloseTo(best, 9);
  });
});
