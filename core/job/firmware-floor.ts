import { meetsFloor } from "../fit/firmware";
import type { JobPlan } from "./plan";

/** The version that the kit needs, where the radio is not known to have it. */
export function firmwareBelow({ documents, applies, firmware }: JobPlan): string | undefined {
  const floors = documents.kit.firmwareFloors.filter(applies).map((f) => f.atLeast);
  return floors.find((floor) => !meetsFloor(firmware.present, floor));
}
