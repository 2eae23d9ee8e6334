import type { FloorPlace } from "./sighting";

/** A place on the floor for a tape: `1.00 m, 0.75 m left`, left and right of the car. */
export function placeWords({ x, y }: FloorPlace, looks: "back" | "ahead"): string {
  const right = looks === "back" ? -x : x;
  const side = Math.abs(right) < 0.005 ? "middle" : `${Math.abs(right).toFixed(2)} m ${right < 0 ? "left" : "right"}`;
  return `${y.toFixed(2)} m, ${side}`;
}
