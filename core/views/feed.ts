/** What the feed page of Connect shows of a job. */
import { feedNeed } from "../job/feed-need";
import type { Job } from "../job/job";
import { rankFeeds } from "../power/feed";
import { groundPoint } from "../power/ground";
import { addedDraws, loadBySituation, unknownDraws, wholeLoad } from "../power/job";

/** Where the car does not say how large its battery is: common practice. */
const USUAL_BATTERY_AH = 60;

export function feedView(job: Job) {
  const { state, plan } = job;
  const { car } = plan.documents;
  const draws = addedDraws(plan.stock, plan.fitted, plan.touched.parts);
  const load = wholeLoad(draws);
  return {
    draws,
    /** Parts that are fed and of which nobody says what they draw. */
    unknown: unknownDraws(plan.stock, plan.fitted, plan.touched.parts),
    load,
    candidates: rankFeeds(car.fusePanel ?? [], load, state.feedTests),
    tests: [...state.feedTests],
    taken: state.feed,
    tapLit: state.tapLit,
    loads: job.once("loads", () => loadBySituation(plan.fitted, draws, plan.settings)),
    ground: groundPoint(car, "fuse panel"),
    need: feedNeed(job),
    readings: state.readings.toReversed(),
    batteryAh: car.power?.batteryAh ?? USUAL_BATTERY_AH,
    car: car.id,
  };
}
