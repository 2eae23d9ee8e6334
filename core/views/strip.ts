/** What Strip shows of a job. */
import { functionsLostWithout } from "../connect/rules/factory";
import { drawnDash } from "../drawing/dash";
import { stopOf } from "../job/decide";
import type { Stop } from "../job/guards/guard";
import type { Job } from "../job/job";
import { stripInput } from "../job/plan";
import { sameEnds } from "../model/compose";
import { describePort } from "../model/labels";
import type { System } from "../model/types";
import { backKey } from "../strip/back-key";
import type { PlugOpen } from "../strip/car-state";
import { outGroups, smallParts, trays } from "../strip/fasteners";
import type { Task } from "../strip/route";
import { stripView } from "../strip/view";

/**
 * @param measured minutes of steps on the shop's closed jobs, by step
 * @param now ISO 8601, UTC
 */
export function stripSurface(job: Job, measured: Record<string, number[]>, now: string) {
  const { plan, state } = job;
  const input = stripInput(plan, state, measured);
  const view = stripView(input, state.strip, now);
  const { steps } = view.route.plan;
  const chosen = new Set(view.route.steps.map((s) => s.id));
  const row =
    (direction: "in" | "back") =>
    <T extends Task>(task: T) => ({
      task,
      stop: stepStop(job, { step: task.id, direction: task.prepStep ? "in" : direction }, now),
      // Somebody looks behind it before it is done.
      behind: task.step?.lasting === "hole" ? state.strip.behind.has(task.id) : null,
    });
  return {
    left: view.left.map(row("in")),
    later: view.later.map(row("in")),
    back: view.back.map(row("back")),
    done: view.done,
    skipped: view.skipped.map((s) => ({ ...s, entry: skippedBy(job, s.id) })),
    gate: { gate: view.gate, bench: input.bench, reason: state.strip.gate?.reason ?? null },
    dash: drawnDash(plan.documents.car, plan.documents.variant),
    panelsOff: view.car.panelsOff,
    tools: view.tools,
    covers: view.covers,
    maintainer: view.car.maintainer,
    time: view.time,
    unreached: view.route.unreached,
    /** Steps of the car that no goal asks for. */
    others: steps.filter((s) => !chosen.has(s.id)).map((s) => ({ id: s.id, title: s.title })),
    trays: trays(view.car, state.strip),
    screwsOut: view.screwsOut,
    notes: state.strip.notes,
    small: smallParts(view.route.plan, state.strip),
    /** The panel that a row is about, on the way in and back. */
    panels: Object.fromEntries(
      steps.flatMap(({ id, panel }) =>
        panel === undefined
          ? []
          : [
              [id, panel],
              [backKey(id), panel],
            ],
      ),
    ),
    out: outGroups(view.route.plan, state.strip),
    plugs: view.car.plugsOpen.map((p) => ({
      ...openPlug(plan.stock, p),
      where: steps.find((s) => s.id === p.step)?.panel ?? "",
      link: plan.connections.find((c) => c.kind === "factory" && sameEnds(c, p))?.link ?? null,
    })),
  };
}

/** What speaks against a tick now, for whoever works at the car. */
function stepStop(job: Job, data: { step: string; direction: "in" | "back" }, now: string): Stop | null {
  const asked = { id: "", command: { kind: "strip.step" as const, data }, at: now };
  return stopOf(job, asked, { name: "", role: "technician" });
}

/** A factory plug that is off: what the car loses while it is. */
function openPlug(stock: System, p: PlugOpen) {
  const link = stock.links.find((l) => sameEnds(l, p));
  return {
    port: p.b,
    name: describePort(stock, p.b),
    lock: p.lock,
    airbag: p.airbag ?? false,
    lost: link ? functionsLostWithout(stock, link.id) : [],
  };
}

/** The entry that left a step out, for undo. */
function skippedBy({ entries }: Job, step: string): string | null {
  return entries.findLast((e) => e.kind === "strip.skip" && e.data.step === step)?.id ?? null;
}
