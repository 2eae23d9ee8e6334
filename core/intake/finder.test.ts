import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import type { VariantQuestion } from "../model/profile";
import { entropy, type FinderVariant, findVariant, informationGain } from "./finder";

describe("expected information", () => {
  // Source: Quinlan, Induction of Decision Trees, Machine Learning 1 (1986), the fourteen days of the weather example.
  const days = [
    "sunny hot high false N",
    "sunny hot high true N",
    "overcast hot high false P",
    "rain mild high false P",
    "rain cool normal false P",
    "rain cool normal true N",
    "overcast cool normal true P",
    "sunny mild high false N",
    "sunny cool normal false P",
    "rain mild normal false P",
    "sunny mild normal true P",
    "overcast mild high true P",
    "overcast hot normal false P",
    "rain mild high true N",
  ].map((d) => d.split(" "));
  const gain = (column: number) => {
    const values = [...new Set(days.map((d) => d[column]))];
    return informationGain(
      values.map((v) => ["P", "N"].map((c) => days.filter((d) => d[column] === v && d[4] === c).length)),
    );
  };

  it.each([
    ["outlook", 0, 0.246, 0.247],
    ["temperature", 1, 0.029, 0.03],
    ["humidity", 2, 0.151, 0.152],
    ["wind", 3, 0.048, 0.049],
  ])("of %s is the published one", (_, column, low, high) => {
    expect(gain(column)).toBeGreaterThanOrEqual(low);
    expect(gain(column)).toBeLessThan(high);
  });

  it("of the whole example is 0.940 bits", () => {
    expect(entropy([9, 5])).toBeCloseTo(0.94, 3);
    expect(entropy([])).toBe(0);
    expect(entropy([7])).toBe(0);
  });
});

const question = (id: string, more: Partial<VariantQuestion> = {}): VariantQuestion => ({
  id,
  ask: id,
  where: id,
  effortS: 10,
  answers: [
    { id: "yes", label: "Yes" },
    { id: "no", label: "No" },
  ],
  ...more,
});
const variant = (id: string, answers: Record<string, string[]>, weight = 1): FinderVariant => ({
  id,
  title: id,
  answers,
  weight,
});

describe("variant finder", () => {
  const variants = [
    variant("a", { knob: ["yes"], label: ["yes"] }),
    variant("b", { knob: ["yes"], label: ["no"] }),
    variant("c", { knob: ["no"], label: ["yes"] }, 2),
  ];
  const questions = [question("knob"), question("label", { radioOut: true })];

  it("asks first what separates best and ends with one", () => {
    const start = findVariant(variants, questions, {});
    expect(start.next?.question.id).toBe("knob");
    expect(start.remaining[0]).toMatchObject({ id: "c", share: 0.5 });
    const end = findVariant(variants, questions, { knob: "no" });
    expect(end.remaining.map((r) => r.id)).toEqual(["c"]);
    expect(end.next).toBeNull();
  });

  it("says what to look at with the radio out when the seat cannot tell", () => {
    const state = findVariant(variants, questions, { knob: "yes" });
    expect(state.next).toBeNull();
    expect(state.later.map((l) => l.question.id)).toEqual(["label"]);
    expect(state.remaining.map((r) => r.id)).toEqual(["a", "b"]);
  });

  it("takes “cannot tell” as no answer and does not ask again", () => {
    const state = findVariant(variants, questions, { knob: null });
    expect(state.remaining).toHaveLength(3);
    expect(state.questions.map((q) => q.question.id)).toEqual(["label"]);
  });

  it("names answers that no variant gives together", () => {
    expect(findVariant(variants, questions, { knob: "no", label: "no" }).contradiction).toBe(true);
    const { nearest } = findVariant(variants, questions, { knob: "no", label: "no" });
    expect(nearest.length).toBeGreaterThan(0);
    for (const near of nearest) {
      expect(near.against).toHaveLength(1);
      const without = Object.fromEntries(
        Object.entries({ knob: "no", label: "no" }).filter(([id]) => id !== near.against[0]?.id),
      );
      expect(findVariant(variants, questions, without).remaining.map((r) => r.id)).toContain(near.id);
    }
    expect(findVariant(variants, questions, {}).nearest).toEqual([]);
  });

  it("prefers the quick question of two that say the same", () => {
    const both = [question("slow", { effortS: 90 }), question("quick", { effortS: 4 })];
    const two = [variant("a", { slow: ["yes"], quick: ["yes"] }), variant("b", { slow: ["no"], quick: ["no"] })];
    expect(findVariant(two, both, {}).next?.question.id).toBe("quick");
  });

  it("never promises less than nothing and never more than is open", () => {
    const answers = fc.constantFrom<string[]>(["yes"], ["no"], ["yes", "no"]);
    const some = fc.array(fc.record({ weight: fc.integer({ min: 1, max: 9 }), p: answers, q: answers }), {
      minLength: 1,
      maxLength: 8,
    });
    fc.assert(
      fc.property(some, (list) => {
        const state = findVariant(
          list.map((x, i) => variant(`v${i}`, { p: x.p, q: x.q }, x.weight)),
          [question("p"), question("q")],
          {},
        );
        const open = entropy(state.remaining.map((r) => r.share));
        for (const q of state.questions) {
          expect(q.gainBits).toBeGreaterThan(0);
          expect(q.gainBits).toBeLessThanOrEqual(open + 1e-9);
        }
      }),
    );
  });

  it("leads from every shipped car to each of its variants, or says where to look with the radio out", () => {
    const library = shippedLibrary();
    const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
    let walked = 0;
    for (const car of cars) {
      const own = library.flatMap((p) => (p.document === "variant" && p.car === car.id ? [p] : []));
      for (const target of own) {
        const answers: Record<string, string | null> = {};
        const all = own.map((v) => ({ id: v.id, title: v.title, answers: v.answers ?? {}, weight: v.share ?? 1 }));
        let state = findVariant(all, car.questions ?? [], answers);
        for (let asked = 0; state.next && asked < 9; asked++) {
          const { id } = state.next.question;
          answers[id] = target.answers?.[id]?.[0] ?? null;
          state = findVariant(all, car.questions ?? [], answers);
        }
        expect(state.remaining.map((r) => r.id)).toContain(target.id);
        if (state.remaining.length > 1) expect(state.later.length, target.id).toBeGreaterThan(0);
        expect(Object.keys(answers).length).toBeLessThanOrEqual(3);
        walked++;
      }
    }
    expect(walked).toBeGreaterThanOrEqual(12);
  });
});
