/** The programming plug of a stand-in car: what its lamp shows at a moment. */
import type { PlugEvent, PlugState, ProgrammingPlug } from "../core/configure/programming-plug";

/** It has no supply; it belongs to another car. */
export type PlugFault = "dead" | "otherCar";

/** Seconds until its lamp shows anything. */
const LIGHTS_S = 2;

/** What is seen now; null while nothing is otherwise than it was noted last. @param at ISO 8601, UTC */
export function plugSeen(
  plug: ProgrammingPlug,
  state: PlugState,
  fault: PlugFault | null,
  at: string,
): PlugEvent | null {
  const passedS = state.since === null ? 0 : (Date.parse(at) - Date.parse(state.since)) / 1000;
  if (state.phase === "in") {
    if (passedS < LIGHTS_S) return null;
    return fault === "dead" ? "dark" : fault === "otherCar" ? "refused" : "writing";
  }
  return state.phase === "writing" && passedS >= plug.writesS.min ? "finished" : null;
}
