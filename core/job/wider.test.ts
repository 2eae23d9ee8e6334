import { describe, expect, it } from "vitest";
import { jobOf, logOf, named } from "../../tests/support/jobs";
import type { Command } from "../log/entry";
import { proveView } from "../views/prove";
import { orderOf } from "./order/order";
import { widerNow } from "./wider";

const NOW = "2026-01-05T12:00:00Z";
const opened = named("hollinby-marrow-17", "hollinby-marrow-17-m1", "pellimar-inlay-5");
const atVent: Command = { kind: "fit.confirm", data: { choices: { micPlace: "vent" } } };
const voice = jobOf(opened, logOf(atVent)).plan.tests.find((t) => t.fn.id === "assistant")?.id ?? "";
const says = (test: string, answer: "pass" | "nothing") =>
  ({ kind: "prove.result", data: { test, answer, note: "" } }) as Command;
const job = (...more: Command[]) => jobOf(opened, logOf(atVent, ...more));

describe("a way with more work", () => {
  it("comes behind the search for the cause, once what it is for has failed, and only then", () => {
    const planned = (j: ReturnType<typeof job>) =>
      orderOf(j, NOW).flatMap((a) => (a.action.startsWith("If nothing is found") ? [a] : []));
    expect(planned(job())).toEqual([]);
    expect(planned(job(says(voice, "pass")))).toEqual([]);
    const failed = job(says(voice, "nothing"));
    const [act, ...rest] = planned(failed);
    expect([act?.stage, rest]).toEqual(["prove", []]);
    expect(act?.minutes).toBeGreaterThan(1);
    const acts = orderOf(failed, NOW);
    expect(acts.findIndex((a) => a === act || a.action === act?.action)).toBe(
      acts.findIndex((a) => a.action === "Find the cause and note the repair") + 1,
    );
  });

  it("is taken with one tap, opens what it needs and is left then", () => {
    const [way] = proveView(job(says(voice, "nothing")), NOW).wider;
    if (!way) throw new Error("no way");
    const taken = job(says(voice, "nothing"), { kind: "fit.confirm", data: { choices: way.choices } });
    expect(taken.plan.chosen[way.choice]).toBe(way.option);
    const steps = (j: ReturnType<typeof job>) => j.strip(NOW).left.map((t) => t.title);
    expect(steps(taken)).toEqual(expect.arrayContaining([...way.opens]));
    expect(steps(job())).not.toEqual(expect.arrayContaining([...way.opens]));
    expect(widerNow(taken).some((w) => w.option === way.option)).toBe(false);
  });

  it("stands in what the customer signs", () => {
    const terms = job().facts(NOW).offer()?.terms ?? [];
    expect(terms.filter((t) => t.includes("Only if that fails"))).toHaveLength(1);
  });
});
