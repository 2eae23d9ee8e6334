import { expose } from "comlink";
import { suspects } from "~/core/camera/sight";
import type { Expected, Sighting } from "~/core/camera/sighting";

const worker = {
  /** Marks that alone would explain why a sighting does not fit; null: none. */
  suspects: (sighting: Sighting, expected: Expected) => suspects(sighting, expected),
};
export type SightWorker = typeof worker;
expose(worker);
