/** What Connect shows of a job. */

import { asPlugged } from "../connect/as-plugged";
import { type ConnectTask, connectionPlan, staysInBox } from "../connect/connection-plan";
import { lane } from "../connect/lane";
import { type Back, backOf } from "../drawing/back";
import { checkPlan } from "../job/connect";
import type { Job } from "../job/job";
import { doNotSwitchOn } from "../job/next";
import { isMade, type JobPlan, openNow } from "../job/plan";
import { lengthsOf } from "../lengths/job";
import { isFailure } from "../log/kinds/prove/result";
import { Model } from "../model/outcome";
import type { KitProfile } from "../model/profile";
import type { FunctionSpec, Situation } from "../model/types";
import { connectionRow } from "./connection-row";

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
  const { system, model } = job.once("as plugged", () => {
    const plugged = asPlugged(plan.fitted, state);
    return { system: plugged, model: new Model(plugged, open, plan.settings) };
  });
  const works = plan.tests.map((t) => ({
    id: t.id,
    name: t.fn.name,
    label: t.label,
    // Nothing is lit, and nothing can be tried, with the battery off.
    works: battery === "connected" && model.key(t.fn, t.situationId) === "ok",
  }));
  const failing = plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value));
  const test =
    plan.tests.find((t) => t.id === wanted) ??
    failing[0] ??
    plan.tests.find((t) => works.some((w) => w.id === t.id && !w.works)) ??
    plan.tests[0];
  const tasks = job.once("tasks", () => connectionPlan(plan.base, plan.connections));
  const fn = test && inSituation(test.fn, test.situationId, asked);
  return {
    before: tasks.filter((t) => t.kind !== "plug").map((t) => ({ ...t, done: isDone(job, t) })),
    connections: plan.connections.map((c) =>
      connectionRow(
        job,
        c,
        tasks.find((t) => t.link === c.link),
      ),
    ),
    /** The parts of each connection from the side of their sockets. */
    backs: job.once("backs", () => backs(plan)),
    filled: filledPorts(job),
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

/** Devices that something is plugged into, by their identifier. */
function backs(plan: JobPlan): Back[] {
  const parts = new Set(plan.connections.flatMap((c) => [c.a, c.b]).map((port) => port.split(".")[0] ?? ""));
  const devices = plan.fitted.parts.filter((p) => p.type === "device" && parts.has(p.id));
  return devices.flatMap((p) => backOf(plan.fitted, p.id) ?? []);
}

/** Ports in which a plug sits now, as it is marked. */
function filledPorts({ plan, state }: Job): string[] {
  const planned = new Set(plan.connections.map((c) => c.link));
  const made = plan.connections.filter((c) => isMade(plan, state, c));
  return [
    ...made.flatMap((c) => [c.a, state.plugAt.get(c.link) ?? c.b]),
    ...plan.fitted.links.filter((l) => !planned.has(l.id)).flatMap((l) => [l.a, l.b]),
  ];
}

function isDone({ plan, state }: Job, t: ConnectTask): boolean {
  if (t.setting) return state.made.has(t.setting);
  if (t.kind === "park") return state.tasks.has(t.id);
  const [, a, b] = t.id.split(" ");
  // Off is what a step of Strip took off, or what something else is plugged into already.
  const taken = plan.connections.some((c) => state.plugged.has(c.link) && [c.a, c.b].some((p) => p === a || p === b));
  const step = plan.steps.find((s) => s.opens?.some((o) => (o.a === a && o.b === b) || (o.a === b && o.b === a)));
  const event = step && state.strip.stepEvents.some((d) => d.step === step.id && d.direction === "in");
  return taken || Boolean(event) || state.tasks.has(t.id);
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
