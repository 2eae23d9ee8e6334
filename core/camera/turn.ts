/** How far a camera must be turned to look as it should. */
import type { Pose } from "./pose";
import type { Measured } from "./sight";

export type Axis = "pitchDeg" | "yawDeg" | "rollDeg";
export const AXES = ["pitchDeg", "yawDeg", "rollDeg"] as const satisfies Axis[];

export interface Turn {
  axis: Axis;
  /** To turn by, in degrees: down, to the right as the camera looks, clockwise as seen from behind it. */
  byDeg: number;
  /** Uncertainty, one standard deviation. */
  sigmaDeg: number;
  /** `unsure`: too uncertain to say whether it is straight enough. */
  say: "straight" | "turn" | "unsure";
}

/**
 * A camera is straight enough within half a degree: at 3 m the ground then moves by about a hand, from a camera at usual
 * height (our judgement).
 */
const STRAIGHT_DEG = 0.5;

export function turns({ camera: { pose }, sigma }: Measured, wanted: Pose): Turn[] {
  return AXES.map((axis) => {
    const byDeg = wanted[axis] - pose[axis];
    const sigmaDeg = sigma[axis];
    const say =
      2 * sigmaDeg > Math.max(STRAIGHT_DEG, Math.abs(byDeg))
        ? "unsure"
        : Math.abs(byDeg) > STRAIGHT_DEG
          ? "turn"
          : "straight";
    return { axis, byDeg, sigmaDeg, say };
  });
}

/** A turn as a person who stands before the camera does it. */
export function turnWords({ axis, byDeg }: Pick<Turn, "axis" | "byDeg">, looks: "back" | "ahead"): string {
  const by = `${Math.abs(byDeg).toFixed(1)}°`;
  if (axis === "pitchDeg") return `${byDeg > 0 ? "down" : "up"} ${by}`;
  // Facing the lens, one sees its clockwise the other way round.
  if (axis === "rollDeg") return `${byDeg > 0 ? "anticlockwise" : "clockwise"} ${by}, as you face it`;
  return `to the ${byDeg > 0 === (looks === "back") ? "left" : "right"} of the car ${by}`;
}
