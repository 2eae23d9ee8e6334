/** Tests that passed on a car that was another one then: something they depend on was changed afterwards. */
import type { JobEntry } from "../log/entry";
import { effective } from "../log/fold";
import { Model } from "../model/outcome";
import type { Settings } from "../model/types";
import type { Test } from "../prove/tests";
import type { Job } from "./job";
import { carriedBy, type JobPlan } from "./plan";

/** The tests that are to be tried again, because a plug that they need was moved or a setting that they show was changed. */
export function changedSince(job: Job): Test[] {
  const { plan, state } = job;
  const passed = plan.tests.filter((t) => state.results.get(t.id)?.value === "pass");
  const [first] = passed.map((t) => state.results.get(t.id)?.at ?? "").sort();
  if (first === undefined) return [];
  const later = effective(job.entries).filter((e) => e.at > first);
  const shown = later.flatMap((e) => {
    const shows = shownBy(plan, e);
    return shows ? [{ at: e.at, shows }] : [];
  });
  return passed.filter((t) => shown.some(({ at, shows }) => at > (state.results.get(t.id)?.at ?? "") && shows(t)));
}

/** Which tests show what an entry changed; null for one that changes nothing that a test shows. */
function shownBy(plan: JobPlan, { kind, data }: JobEntry): ((test: Test) => boolean) | null {
  switch (kind) {
    case "connect.plug":
      return (t) => carriedBy(plan).get(data.link)?.includes(t) ?? false;
    case "configure.switches":
      return data.before ? differsFrom(plan, data.before) : null;
    case "configure.set":
      return data.done && data.before ? differsFrom(plan, { [data.setting]: data.before }) : null;
    default:
      return null;
  }
}

/** Tests that look different with settings as they stood before. */
function differsFrom({ fitted, settings }: JobPlan, before: Settings): (test: Test) => boolean {
  const sound = new Model(fitted, {}, settings);
  const then = new Model(fitted, {}, { ...settings, ...before });
  return (t) => then.sight(t.fn, t.situationId) !== sound.sight(t.fn, t.situationId);
}
