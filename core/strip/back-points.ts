import { lowerFirst } from "../model/labels";
import type { StripStep } from "../model/profile";

/** What to mind when a step goes back, in the order of the hands. */
export function backPoints(step: StripStep): string[] {
  return [
    step.transfer?.length && `Move over from the old part first: ${step.transfer.join(", ")}.`,
    step.blanks?.length && `Blanks into open places: ${step.blanks.join(", ")}.`,
    step.opens?.length && `Plugs on, each lock shut: ${step.opens.map((o) => lockWord(o.lock)).join(", ")}.`,
    step.hooks && `Hooks first: ${lowerFirst(step.hooks)}.`,
    step.clips?.stay === "dash" && `${step.clips.count} clips stayed in the dash: put them back on the panel.`,
    step.clips && step.clips.stay !== "dash" && `${step.clips.count} clips: look whether one is broken.`,
    ...(step.fasteners ?? []).map(
      (f) => `${f.count} × ${f.kind}${f.lengthMm ? ` ${f.lengthMm} mm` : ""} from tray ${f.tray}.`,
    ),
  ].filter((p) => typeof p === "string");
}

/** How a lock is called. */
export function lockWord(lock: string | undefined): string {
  return lock === undefined || lock === "none" ? "no lock" : lock;
}
