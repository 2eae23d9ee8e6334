/** What Connect shows of a job. */

import { type ConnectTask, staysInBox } from "../connect/connection-plan";
import { lane } from "../connect/lane";
import { type Back, backOf } from "../drawing/back";
import { leadAt } from "../drawing/lead";
import { doNotSwitchOn } from "../job/car-state";
import { checkPlan } from "../job/connect";
import type { Job } from "../job/job";
import { modelNow } from "../job/model-now";
import { inOrder } from "../job/order/order";
import { type JobPlan, openNow } from "../job/plan";
import { connectTasks } from "../job/tasks";
import { lengthsOf } from "../lengths/job";
import { isFailure } from "../log/kinds/prove/result";
import type { KitProfile } from "../model/profile";
import type { FunctionSpec, Situation } from "../model/types";
import { connectionRows, madeNow, tasksBefore } from "./plugs";

/** Fields of the situation that can be changed under a lane; the others follow from the function. */
export type Asked = Partial<
  Pick<Situation, "key" | "selector" | "lights" | "source" | "pictureMode" | "phone" | "paired">
>;

/**
 * @param kits of the shop's library, for the remedies of findings
 * @param now ISO 8601, UTC
 * @param wanted test whose lane is drawn; the first that does not work when empty
 * @param asked situation in which it is drawn, where that is not the one of the test
 */
export function connectView(job: Job, kits: readonly KitProfile[], now: string, wanted: string | null, asked: Asked) {
  const { state, plan } = job;
  const { battery } = job.strip(now).car;
  const stops = doNotSwitchOn(job);
  const open = openNow(plan, state);
  const { system, model } = modelNow(job);
  const works = plan.tests.map((t) => ({
    id: t.id,
    name: t.fn.name,
    label: t.label,
    // Nothing is lit, and nothing can be tried, with the battery off.
    works: battery === "connected" && model.sight(t.fn, t.situationId) === "works",
  }));
  const failing = plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value));
  const test =
    plan.tests.find((t) => t.id === wanted) ??
    failing[0] ??
    plan.tests.find((t) => works.some((w) => w.id === t.id && !w.works)) ??
    plan.tests[0];
  const made = madeNow(job);
  const fn = test && inSituation(test.fn, test.situationId, asked);
  return {
    before: inOrder(job, now, tasksBefore(job), (t) => ({ at: t.setting ?? t.id, done: t.done })),
    connections: inOrder(job, now, connectionRows(job), (c) => ({ at: c.link, done: c.marked })),
    /** The parts of each connection from the side of their sockets. */
    backs: job.once("backs", () => backs(plan, connectTasks(job))),
    /** Connections that are made, and the ports in which a plug sits. */
    made: made.map((l) => l.id),
    filled: made.flatMap((l) => [l.a, l.b]),
    stays: staysInBox(plan.base),
    planFindings: job.once(`plan findings ${kits.map((k) => `${k.id}@${k.version}`).join()}`, () =>
      checkPlan(plan, state, kits),
    ),
    nowFindings: job.findings,
    stops,
    works,
    /** What comes before the key is turned at all. */
    beforeSwitchingOn: [
      ...stops.map((f) => `${f.where}: ${f.text} ${f.remedy}`),
      ...(battery === "isolated" ? ["The battery is off. Connect it first, nobody near open airbag plugs."] : []),
    ],
    lane:
      test && fn
        ? job.once(`lane ${test.id} ${JSON.stringify(asked)}`, () =>
            lane(system, fn, test.situationId, plan.settings, open),
          )
        : null,
    chosen: test?.id ?? "",
    situation: test && fn ? model.try(fn, test.situationId).situation : null,
    short: job.once("short leads", () => shortLeads(job)),
    failing: failing.length,
  };
}

/** Devices that something is plugged into or comes out of, by their identifier. */
function backs(plan: JobPlan, tasks: readonly ConnectTask[]): Back[] {
  const ports = [...plan.connections.flatMap((c) => [c.a, c.b]), ...tasks.flatMap((t) => t.ports)];
  const routed = [plan.fitted, plan.stock].flatMap((system) =>
    tasks.flatMap((t) => leadAt(system, t.ports)?.ends.map((e) => e.part) ?? []),
  );
  const parts = new Set([...ports.map((port) => port.slice(0, port.indexOf("."))), ...routed]);
  // A device that leaves the car is in the car as built only.
  const gone = plan.stock.parts.filter((p) => !plan.fitted.parts.some((f) => f.id === p.id));
  const systems = [
    { system: plan.fitted, devices: plan.fitted.parts },
    { system: plan.stock, devices: gone },
  ];
  return systems.flatMap(({ system, devices }) =>
    devices.filter((p) => p.type === "device" && parts.has(p.id)).flatMap((p) => backOf(system, p.id) ?? []),
  );
}

/** Leads of the kit that do not reach, known before the dash is open. */
function shortLeads({ plan, state }: Job): number {
  const { car, kit } = plan.documents;
  const { leads } = lengthsOf(car, kit, plan.fitted, plan.applies, state.placed);
  return leads.filter((l) => l.check?.verdict === "short").length;
}

/** A function as it would be tried in a situation of one's own. */
function inSituation(fn: FunctionSpec, situationId: string, asked: Asked): FunctionSpec {
  return {
    ...fn,
    situations: fn.situations.map((s) => (s.id === situationId ? { ...s, set: { ...s.set, ...asked } } : s)),
  };
}
