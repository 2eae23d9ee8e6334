import { type Kind, refuse } from "../../kind";
import type { CarStand, StripSlice } from "../../strip-journal";

interface StandsData {
  sets: Partial<CarStand>;
  /** The same fields as the job had them. */
  before: Partial<CarStand>;
}

/** The car stands otherwise than the job says, or was brought to stand so: said by whoever sees it. */
export const stands: Kind<
  "strip.stands",
  StandsData,
  StripSlice<"stood">,
  Pick<StandsData, "sets">,
  StripSlice<"stood" | "stepEvents">
> = {
  kind: "strip.stands",
  empty: () => ({ strip: { stood: [] } }),
  fold({ strip }, { data, at, by, entry }) {
    strip.stood.push({ sets: data.sets, after: strip.stepEvents.length, at, by, entry });
  },
  check(job, { sets }) {
    const now = job.stand();
    const same = fieldsOf(sets).every((f) => now[f] === sets[f] && (f !== "key" || now.keyKnown));
    return same ? refuse("state of the car", "The job says so already.", "Load the page again.") : null;
  },
  write(job, { sets }) {
    const now = job.stand();
    return { sets, before: Object.fromEntries(fieldsOf(sets).map((f) => [f, now[f]])) };
  },
  says: ({ sets }) => sets,
  words: ({ sets }) => `The car: ${standWords(sets)}`,
  upgrade: [],
};

function fieldsOf(sets: Partial<CarStand>): (keyof CarStand)[] {
  return Object.keys(sets) as (keyof CarStand)[];
}

const WORDS: { readonly [F in keyof CarStand]: (value: CarStand[F]) => string } = {
  battery: (b) => (b === "isolated" ? "battery is off" : "battery is on"),
  key: (key) =>
    ({
      off: "key is off",
      accessory: "key is on accessory",
      on: "ignition is on",
      cranking: "engine is started",
      running: "engine is running",
    })[key],
  selector: (s) => `selector is in ${s}`,
  parkingBrake: (on) => (on ? "parking brake is set" : "parking brake is off"),
  rolling: (yes) => (yes ? "it is driven on the closed yard" : "it stands"),
  maintainer: (on) => (on ? "maintainer is on" : "maintainer is off"),
  waited: (yes) => (yes ? "waiting time after battery off is over" : "waiting time is not over"),
};

/** How the car stands, in words: “ignition is on, selector is in R”. */
export function standWords(sets: Partial<CarStand>): string {
  return fieldsOf(sets)
    .map((f) => (WORDS[f] as (value: unknown) => string)(sets[f]))
    .join(", ");
}
