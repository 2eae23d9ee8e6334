import { expose } from "comlink";
import { type Expected, type Sighting, suspects } from "~/core/camera/sight";

const worker = {
  /** Marks that alone would explain why a sighting does not fit; null: none. */
  suspects: (sighting: Sighting, expected: Expected) => suspects(sighting, expected),
};
export type SightWorker = typeof worker;
expose(worker);
