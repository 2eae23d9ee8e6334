/** Parts that people bring for the try and take away again. */
import type { PortRef } from "../model/types";

const CARRIED: ReadonlySet<string> = new Set(["phone", "usbStick"]);

/** The end belongs to something that is not of the car: a phone, a stick with music. */
export function isCarried(end: PortRef): boolean {
  return CARRIED.has(end.split(".")[0] ?? "");
}
