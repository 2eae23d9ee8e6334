import { checkPlan } from "../../core/job/connect";
import { planJob } from "../../core/job/plan";
import { foldJob } from "../../core/log/fold";
import { CoreError } from "../../core/model/errors";
import { shippedLibrary } from "../../profiles/library";

const library = shippedLibrary();
const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
const variants = library.flatMap((p) => (p.document === "variant" ? [p] : []));
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));

/** The job with most contacts of all whose kit fits the car. */
export function largest() {
  let best: { plan: ReturnType<typeof planJob>; contacts: number } | null = null;
  for (const car of cars)
    for (const variant of variants.filter((v) => v.car === car.id))
      for (const kit of kits) {
        try {
          const plan = planJob({ car, variant, kit }, { choices: null });
          const contacts = plan.fitted.parts.flatMap((p) => p.ports.flatMap((x) => x.contacts)).length;
          const fits = () => checkPlan(plan, foldJob([]), []).every((f) => f.level !== "stop");
          if ((!best || contacts > best.contacts) && fits()) best = { plan, contacts };
        } catch (error) {
          // A kit for another car is no case.
          if (!(error instanceof CoreError)) throw error;
        }
      }
  if (!best) throw new Error("no job can be planned");
  return best;
}
