import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { rankKits } from "../fit/rank";
import { planJob } from "../job/plan";
import { leadAt } from "./lead";

const library = shippedLibrary();
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const plan = planJob(demoDocuments(), { choices: null });
const connection = (say: RegExp) => {
  const found = plan.connections.find((c) => say.test(c.say));
  if (!found) throw new Error(`no ${say} among ${plan.connections.map((c) => c.say)}`);
  return found;
};

describe("the lead of a connection", () => {
  it("is the lead of the kit, not the loom of the car, with all its ends", () => {
    const { a, b } = connection(/^T-harness into the car's radio plug/);
    const route = leadAt(plan.fitted, [a, b]);
    expect(route?.name).toBe("T-harness");
    expect(route?.ends.map((e) => e.part)).toEqual(expect.arrayContaining(["loom", "radio", "module"]));
  });

  it("tells IN from OUT by where each end goes", () => {
    const into = (say: RegExp) => {
      const { a, b } = connection(say);
      return leadAt(plan.fitted, [a, b])?.ends.map((e) => `${e.name}, ${e.into}`) ?? [];
    };
    const [input, output] = [into(/IN into VIDEO IN/i), into(/OUT into VIDEO OUT/i)];
    expect(input.some((e) => e.endsWith("VIDEO IN"))).toBe(true);
    expect(input.some((e) => e.endsWith("VIDEO OUT"))).toBe(false);
    expect(output.some((e) => e.endsWith("VIDEO OUT"))).toBe(true);
    expect(output.some((e) => e.endsWith("VIDEO IN"))).toBe(false);
  });

  it("shows of a loom with many ends only the one in hand, and none where devices sit in each other", () => {
    expect(leadAt(plan.stock, ["loom.radio", "radio.main"])).toMatchObject({
      ends: [{ part: "radio", port: "radio.main" }],
    });
    expect(leadAt(plan.fitted, ["radio.main", "module.main"])).toBeNull();
  });

  it("has the end in hand on every job of the library", () => {
    let seen = 0;
    for (const variant of library.flatMap((p) => (p.document === "variant" ? [p] : []))) {
      const car = library.find((p) => p.document === "car" && p.id === variant.car);
      if (car?.document !== "car") throw new Error(variant.id);
      for (const offer of rankKits({ car, variant, kits, wishes: [], firmware: "" })) {
        const kit = kits.find((k) => k.id === offer.kit);
        if (!kit || offer.verdict.level === "impossible") continue;
        const { fitted, connections } = planJob({ car, variant, kit }, { choices: offer.choices });
        for (const { link, a, b } of connections) {
          const route = leadAt(fitted, [a, b]);
          if (route) expect(route.ends.map((e) => e.link)).toContain(link);
          seen++;
        }
      }
    }
    expect(seen).toBeGreaterThan(500);
  });
});
