/** A phone of a stand-in car: what it shows at a step of its first pairing. */
import type { PairingAct, PairingState } from "../core/configure/pairing";
import type { PairingTrouble } from "../core/configure/pairing-troubles";

export const PHONE_FAULTS = {
  remembersCable: "it remembers the cable",
  mirroringOff: "mirroring is off in it",
  otherNumber: "it knows an older pairing",
} as const;
export type PhoneFault = keyof typeof PHONE_FAULTS;

/**
 * What is seen at the step in hand; null while a trouble waits for its remedy, or nothing is left.
 *
 * @param unconnected why nothing can come by wireless with what is connected, as the model of the car says; else null
 */
export function phoneSeen(
  { step, trouble, met, steps }: Pick<PairingState, "step" | "trouble" | "met" | "steps">,
  fault: PhoneFault | null,
  unconnected: string | null,
): PairingAct | null {
  if (!step || trouble) return null;
  const seen = (instead: PairingTrouble | null): PairingAct =>
    instead ? { act: "trouble", step: step.id, trouble: instead } : { act: "seen", step: step.id };
  // A remedy cures it once it was done.
  const shows = (what: PhoneFault, as: PairingTrouble) => (fault === what && !met.includes(as) ? as : null);
  switch (step.id) {
    case "pin":
      return seen(shows("otherNumber", "pinRefused"));
    case "allow":
      return seen(shows("mirroringOff", "notOffered"));
    case "session": {
      if (unconnected !== null) return seen("noWireless");
      // Only a module that wants wireless first is refused for an old cable.
      const minds = steps.some((s) => s.id === "fresh") && !met.includes("wasOnCable");
      return seen(minds ? shows("remembersCable", "noWireless") : null);
    }
    default:
      return seen(null);
  }
}
