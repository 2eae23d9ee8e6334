/** What Intake shows of a job. */
import { wishesOf } from "../fit/wishes";
import { isBlank } from "../job/blank";
import type { Job } from "../job/job";
import type { KitProfile } from "../model/profile";

/** @param kits of the shop's library: what can be wished for */
export function intakeView({ state, plan }: Job, kits: readonly KitProfile[]) {
  const { car, variant, kit } = plan.documents;
  const own = new Set(kit.functions.map((f) => f.id));
  return {
    form: {
      sheet: state.car,
      begun: state.carFields.size > 0,
      patterns: car.identification,
      years: car.years,
      written: variant.firmware?.written ?? [],
      versions: (variant.firmware?.updates ?? []).flatMap((u) => [u.from, u.to]),
    },
    baseline: plan.baseline.map((t) => ({
      id: t.id,
      name: t.fn.name,
      label: t.label,
      say: t.fn.say,
      caution: t.fn.caution,
      law: t.fn.who === "law",
      noted: state.baseline.get(t.id) ?? null,
    })),
    wishes: isBlank(variant)
      ? []
      : wishesOf(kits, plan.stock.functions).map((w) => ({
          ...w,
          wanted: state.wishes ? state.wishes.includes(w.id) : own.has(w.id),
        })),
  };
}
