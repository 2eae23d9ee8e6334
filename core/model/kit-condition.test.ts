import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { kitSchema } from "../../profiles/schema";
import { composeStock, resolveChoices } from "./compose";
import { askedChoices, conditionTest, kitConditionWords, statementsOf } from "./kit-condition";
import { spanWords } from "./labels";
import type { KitCondition } from "./profile";

const { car, variant, kit } = demoDocuments();
const stock = composeStock(car, variant);
const holds = (when: KitCondition, chosen: Record<string, string> = { soundPath: "line" }) =>
  conditionTest(car, stock, chosen)({ when });

const line: KitCondition = { choice: "soundPath", is: ["line"] };
const automatic: KitCondition = { car: "gearbox", is: ["automatic"] };
const camera: KitCondition = { fact: "radio.camera", is: ["yes"] };
const unsaid: KitCondition = { fact: "moon.phase", is: ["full"] };

/** Conditions over statements whose truth on this car is known. */
const conditions = fc.letrec<{ node: [KitCondition, boolean] }>((tie) => {
  const leaf = fc.constantFrom<[KitCondition, boolean]>(
    [line, true],
    [automatic, car.gearbox === "automatic"],
    [unsaid, false],
  );
  const several = (key: "all" | "any") =>
    fc.array(tie("node"), { minLength: 1, maxLength: 3 }).map(([...items]): [KitCondition, boolean] => {
      const parts = items.map(([c]) => c);
      const truths = items.map(([, t]) => t);
      return key === "all" ? [{ all: parts }, truths.every(Boolean)] : [{ any: parts }, truths.some(Boolean)];
    });
  const not = tie("node").map(([c, t]): [KitCondition, boolean] => [{ not: c }, !t]);
  return { node: fc.oneof({ maxDepth: 4 }, leaf, several("all"), several("any"), not) };
}).node;

describe("a condition of a kit", () => {
  it("looks at choices, at the car and at facts of its parts; what a document does not say is not so", () => {
    expect([holds(line), holds(line, { soundPath: "carBluetooth" }), holds(line, {})]).toEqual([true, false, false]);
    expect(holds(automatic)).toBe(car.gearbox === "automatic");
    expect([holds(camera), holds(unsaid), holds({ not: unsaid })]).toEqual([
      stock.parts.find((p) => p.id === "radio")?.facts?.camera === "yes",
      false,
      true,
    ]);
    expect(conditionTest(car, stock, {})({})).toBe(true);
  });

  it("joins as logic does, however deep", () => {
    fc.assert(
      fc.property(conditions, ([when, truth]) => {
        expect(holds(when)).toBe(truth);
        expect(statementsOf(when).length).toBeGreaterThan(0);
      }),
      { numRuns: 300, seed: 8 },
    );
  });

  it("is a clause in the words of kit and car", () => {
    const words = (when: KitCondition) => kitConditionWords(kit, stock.parts, when);
    expect(words(line)).toBe("with sound path: line input");
    expect(words({ all: [line, { not: automatic }] })).toBe(
      "with sound path: line input and not on cars with automatic gearbox",
    );
    expect(words({ any: [camera, automatic] })).toMatch(/^where Radio R2 has camera: yes or on cars with automatic/);
  });

  it("is refused by the door when it says nothing or names what is not there", () => {
    const card = (when: unknown) => kitSchema.safeParse({ ...kit, card: [{ say: "A line", when }] });
    expect(card({ all: [line, automatic] }).success).toBe(true);
    for (const bad of [{ all: [] }, { any: [{}] }, { not: "never" }, { choice: "soundPath", is: [] }])
      expect([bad, card(bad).success]).toEqual([bad, false]);
  });
});

describe("spans of time", () => {
  it("are told in seconds or minutes", () => {
    expect(spanWords({ min: 3, max: 20 })).toBe("3 to 20 s");
    expect(spanWords({ min: 120, max: 900 })).toBe("2 to 15 min");
    expect(spanWords({ min: 30, max: 30 })).toBe("30 s");
  });
});

describe("a choice that hangs on another", () => {
  const options = ["no", "yes"].map((id) => ({ id, label: id, why: "" }));
  const camera = { id: "camera", label: "Camera", kind: "offer" as const, default: "no", options };
  const mode = { ...camera, id: "mode", when: { choice: "camera", is: ["yes"] } };
  const key = {
    ...camera,
    id: "key",
    when: { all: [{ choice: "mode", is: ["yes"] }, { not: { choice: "camera", is: ["no"] } }] },
  };
  const asked = (chosen: Record<string, string>) =>
    askedChoices({ choices: [camera, mode, key] }, chosen).map((c) => c.id);

  it("is asked only when the options before it want it", () => {
    expect(asked({})).toEqual(["camera"]);
    expect(asked({ camera: "yes" })).toEqual(["camera", "mode"]);
    expect(asked({ camera: "yes", mode: "yes" })).toEqual(["camera", "mode", "key"]);
  });

  it("stands at its default when it is not asked, whatever was given", () => {
    expect(asked({ mode: "yes" })).toEqual(["camera"]);
    const several = { ...kit, choices: [camera, mode, key] };
    expect(resolveChoices(several, { mode: "yes", key: "yes" })).toEqual({ camera: "no", mode: "no", key: "no" });
  });
});
