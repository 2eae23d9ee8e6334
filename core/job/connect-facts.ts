/** What the kinds of entries ask of the connections, places, feed and settings of a job. */
import { plugState } from "../configure/programming-plug";
import { placesFor } from "../connect/as-plugged";
import { connectionPlan } from "../connect/connection-plan";
import { jointOf } from "../connect/joints";
import { isReversible } from "../connect/rules/plugs";
import { movable, placement } from "../lengths/placement";
import type { JobFacts, PositionFact } from "../log/facts";
import { findPort } from "../model/ports";
import { forbidden, rankFeeds } from "../power/feed";
import { feedNeed } from "./feed-need";
import type { Job } from "./job";
import { ribbons } from "./locks";
import { phonesOf } from "./phones";
import { awaitsFeed } from "./plan";
import { deliveredValue, saidByFirmware } from "./set-state";
import { toldOutputs } from "./translated-modules";

type ConnectFacts = Pick<
  JobFacts,
  | "connection"
  | "task"
  | "movable"
  | "places"
  | "noFeedNeeded"
  | "position"
  | "setting"
  | "isKnown"
  | "programmingPlug"
  | "phones"
  | "nextUpdate"
  | "bank"
>;

export function connectFacts(job: Job): ConnectFacts {
  const { state, plan } = job;
  const { car, kit } = plan.documents;
  return {
    connection(link) {
      const found = plan.connections.find((c) => c.link === link);
      if (!found) return null;
      return {
        id: link,
        name: found.say,
        places: placesFor(plan.fitted, found),
        reversible: isReversible(plan.fitted, found),
        joint: jointOf([findPort(plan.fitted, found.a), findPort(plan.fitted, found.b)]),
        ribbon: ribbons(plan).has(link),
        awaitsFeed: awaitsFeed(plan, state, found),
      };
    },
    task: (id) => connectionPlan(plan.base, plan.connections).find((t) => t.id === id)?.say ?? null,
    movable(part) {
      const now = placement(kit, plan.applies, state.placed);
      const found = movable(plan.fitted, now).find((p) => p.id === part);
      return found ? { id: part, name: found.name, place: now.places.get(part) ?? "" } : null;
    },
    places: () => [
      ...new Set([...(car.places ?? []).map((p) => p.name), ...(car.runs ?? []).flatMap((r) => [r.from, r.to])]),
    ],
    noFeedNeeded() {
      const need = feedNeed(job);
      return need.kind === "none" ? need.say : null;
    },
    position: (id) => positionFact(job, id),

    setting(ref) {
      const found = plan.sets.find((s) => s.setting === ref);
      if (!found) return null;
      return {
        id: ref,
        name: found.say,
        delivered: deliveredValue(plan.fitted, ref) ?? "",
        planned: found.value,
        means: found.means,
        told: toldOutputs(plan, ref),
      };
    },
    isKnown: (ref) =>
      ref === kit.programmingPlug?.setting ||
      ref === kit.phone?.setting ||
      state.loads.has(ref) ||
      state.coded.has(ref) ||
      saidByFirmware(plan, ref) !== undefined,
    programmingPlug: () =>
      kit.programmingPlug
        ? { plug: kit.programmingPlug, state: plugState(state.plugEvents, kit.programmingPlug) }
        : null,
    phones() {
      const phones = phonesOf(plan, state);
      return phones && { families: kit.phone?.families ?? [], phones };
    },
    nextUpdate() {
      const [step] = plan.firmware.steps;
      return step ? { from: step.from, to: step.to } : null;
    },
    bank() {
      const bank = kit.switchBank;
      return bank ? { switches: bank.switches.map((s) => `${bank.part}.${s}`), on: bank.on, off: bank.off } : null;
    },
  };
}

function positionFact({ plan, state }: Job, id: string): PositionFact | null {
  const position = plan.documents.car.fusePanel?.find((p) => p.id === id);
  if (!position) return null;
  const [judged] = rankFeeds([position], { steadyA: 0.1, peakA: 0.1 }, state.feedTests);
  return {
    id,
    name: `${position.id} ${position.circuit}`,
    used: position.used,
    forbidden: forbidden(position),
    notYet: judged?.verdict === "good" ? null : (judged?.reasons.at(-1) ?? ""),
  };
}
