import { checkPlan } from "../../core/job/connect";
import { type JobPlan, planJob } from "../../core/job/plan";
import { foldJob } from "../../core/log/fold";
import { CoreError } from "../../core/model/errors";
import { shippedLibrary } from "../../profiles/library";

const library = shippedLibrary();
const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
const variants = library.flatMap((p) => (p.document === "variant" ? [p] : []));
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));

let jobs: readonly JobPlan[] | null = null;

/** Every shipped job whose kit fits the car; planned once. */
export function fittingJobs(): readonly JobPlan[] {
  jobs ??= planned();
  return jobs;
}

function planned(): JobPlan[] {
  return variants.flatMap((variant) =>
    cars
      .filter((car) => car.id === variant.car)
      .flatMap((car) =>
        kits.flatMap((kit) => {
          try {
            const plan = planJob({ car, variant, kit }, { choices: null });
            return checkPlan(plan, foldJob([]), []).every((f) => f.level !== "stop") ? [plan] : [];
          } catch (error) {
            // A kit for another car is no case.
            if (!(error instanceof CoreError)) throw error;
            return [];
          }
        }),
      ),
  );
}
