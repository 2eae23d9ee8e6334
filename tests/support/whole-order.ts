/** The order of steps with work beside them on random small plans, against the best of all orders. */
import { emptyJournal } from "../../core/log/fold";
import { costOfOrder, orderExactly, orderTasks } from "../../core/strip/order";
import type { Task } from "../../core/strip/order-problem";
import { randomFrom, randomPlan } from "../../core/strip/random-plan";
import { planRoute, tasksLeft } from "../../core/strip/route";
import { PARKED } from "../../core/strip/vehicle-state";
import { weave } from "../../core/strip/weave";

/** Minutes of the woven order, of the best of all, and of steps first and work after. */
export function comparedOrder(seed: number, steps = 7, beside = 4) {
  const { plan } = randomPlan(seed, { steps, before: 2, goals: 0 });
  const random = randomFrom(seed + 500);
  const others = Array.from({ length: beside }, (_, i) => ({
    id: `w${i}`,
    fills: true,
    minutes: 1 + Math.floor(random() * 5),
    after: random() < 0.6 ? [`s${Math.floor(random() * steps)}`] : [],
    behind: i > 0 && random() < 0.3 ? [`w${i - 1}`] : [],
  }));
  const off = steps;
  const stepTasks: Task[] = plan.steps.map((s) => ({
    id: s.id,
    needs: s.airbagZone ? { ...s.requires, battery: "isolated" } : (s.requires ?? {}),
    minutes: s.minutes.likely,
    ...(s.tool ? { tool: s.tool } : {}),
    ...(s.side ? { side: s.side } : {}),
    before: [...s.after.map((a) => plan.steps.findIndex((t) => t.id === a)), ...(s.airbagZone ? [off] : [])],
  }));
  const early: Task = { id: "off", needs: { battery: "isolated" }, minutes: 0, before: [], early: true };
  const setup = { plan, stand: PARKED, end: {} };
  const zones = plan.steps.some((s) => s.airbagZone);
  const list = [...stepTasks, ...(zones ? [early] : [])];
  const at = (id: string) => (id.startsWith("w") ? list.length + Number(id.slice(1)) : Number(id.slice(1)));
  const all: Task[] = [
    ...list,
    ...others.map((o) => ({ id: o.id, needs: {}, minutes: o.minutes, before: [...o.after, ...o.behind].map(at) })),
  ];
  const strip = orderTasks(setup, list)?.order ?? [];
  const journal = emptyJournal();
  const base = { plan, goals: [], closing: "proveFirst" as const, measured: {} };
  const offAt = strip.indexOf(off);
  const ordered = strip.filter((i) => i !== off).map((i) => plan.steps[i] as (typeof plan.steps)[number]);
  const offBefore = new Set(offAt < 0 ? [] : strip.slice(offAt + 1).map((i) => `s${i}`));
  const route = { ...planRoute(base, journal), plan, offBefore };
  const left = tasksLeft(route, base, journal, PARKED, ordered);
  const woven = weave(left, others, { now: 0, each: plan.batteryWaitMin ?? 0 }).flatMap((w) => {
    if ("beside" in w) return [at(w.beside.id)];
    if (w.task.step) return [at(w.task.id)];
    return w.task.prepStep?.sets.battery === "isolated" && zones ? [off] : [];
  });
  const once = woven.filter((x, i) => woven.indexOf(x) === i);
  const minutes = (order: readonly number[]) => costOfOrder(setup, all, order)?.minutes ?? Number.NaN;
  return {
    woven: minutes(once),
    best: orderExactly(setup, all)?.cost.minutes ?? Number.NaN,
    listed: minutes([...strip, ...others.map((o) => at(o.id))]),
  };
}
