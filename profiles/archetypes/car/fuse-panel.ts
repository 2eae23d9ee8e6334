import type { FusePosition } from "../../../core/model/profile";

const KEY_ON: FusePosition["live"] = ["on", "running"];
const ALWAYS: FusePosition["live"] = ["off", "accessory", "on", "cranking", "running"];

/** A fuse map as such cars usually have it; the shop replaces it by the one in the car. */
export function fusePanel(): FusePosition[] {
  const at = (id: string, circuit: string, ratingA: number, live: FusePosition["live"], used = true): FusePosition => ({
    id,
    circuit,
    ratingA,
    family: "mini",
    live,
    used,
    // Four columns, counted along the rows.
    at: [((Number(id.slice(1)) - 1) % 4) + 1, Math.ceil(Number(id.slice(1)) / 4)],
  });
  return [
    at("F1", "Airbag unit", 10, KEY_ON),
    at("F2", "ABS unit", 25, ALWAYS),
    at("F3", "Rear wiper", 15, ["accessory", ...KEY_ON]),
    at("F4", "12 V socket", 20, ["accessory", ...KEY_ON]),
    at("F5", "Radio memory", 10, ALWAYS),
    at("F6", "Engine control", 15, ["on", "cranking", "running"]),
    at("F7", "free", 10, [], false),
    at("F8", "Headlamp range", 5, KEY_ON),
  ];
}
