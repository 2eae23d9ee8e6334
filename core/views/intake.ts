/** What Intake shows of a job. */

import { drawnDash } from "../drawing/dash";
import { wishesOf } from "../fit/wishes";
import { isBlank } from "../job/blank";
import type { Job } from "../job/job";
import type { KitProfile } from "../model/profile";
import { alikeWith } from "../prove/alike";
import { observedAt, testHead } from "../prove/tests";
import { usualOdometerUnit } from "../vehicle/identification";
import { scannedCodes } from "./coding";
import { baselineStop } from "./test-stop";

/**
 * @param kits of the shop's library: what can be wished for
 * @param now ISO 8601, UTC
 */
export function intakeView(job: Job, kits: readonly KitProfile[], now: string) {
  const { state, plan } = job;
  const { car, variant } = plan.documents;
  return {
    form: {
      sheet: state.car,
      scanned: scannedCodes(job),
      begun: state.carFields.size > 0,
      /** What could not be read, each with its reason. */
      unread: [...state.unread].map(([what, u]) => ({ what, reason: u.reason, entry: u.entry })),
      patterns: car.identification,
      years: car.years,
      usualUnit: usualOdometerUnit(car.countries ?? []),
      written: variant.firmware?.written ?? [],
      versions: (variant.firmware?.updates ?? []).flatMap((u) => [u.from, u.to]),
    },
    baseline: plan.baseline.map((t) => ({
      ...testHead(t),
      /** Parts at which a person looks or listens. */
      at: observedAt(t),
      noted: state.baseline.get(t.id) ?? null,
      stop: state.baseline.has(t.id) ? null : baselineStop(job, t, now),
      /** Others that are not tried yet and want the car just so. */
      alike: state.baseline.has(t.id)
        ? []
        : alikeWith(
            t,
            plan.baseline.filter((o) => !state.baseline.has(o.id)),
          ).map((o) => ({ id: o.id, name: o.fn.name })),
    })),
    dash: isBlank(variant) ? null : drawnDash(car, variant),
    /** The radio of the job, once it is known. */
    found: isBlank(variant) ? null : { title: variant.title, identifyingFeatures: variant.identifyingFeatures },
    wishesAsked: state.wishes !== null,
    wishes: isBlank(variant)
      ? []
      : wishesOf(kits, plan.stock.functions).map((w) => ({
          ...w,
          // Before anybody was asked nothing is wished for.
          wanted: state.wishes?.includes(w.id) ?? false,
        })),
  };
}
