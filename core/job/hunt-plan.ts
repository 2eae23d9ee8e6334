/** What of the car a job has to find on its bus. */
import type { PlannedThing } from "../bus/hunt/plan";
import type { System } from "../model/types";

const WHEEL: Readonly<Record<string, string>> = {
  wheelVolumeUp: "volume up",
  wheelVolumeDown: "volume down",
  wheelNext: "next",
  wheelBack: "back",
};

/** Speeds of a closed yard, and the time to reach them gently. */
const ROLL_KMH = [10, 15, 5];
const ROLL_S = 8;

/**
 * The things whose messages the fitted car sends, and those that its functions are tried with. Steering is always there,
 * for guide lines; speed where moving pictures are to be locked.
 */
export function huntThings(system: System): PlannedThing[] {
  const messages = new Set(system.parts.flatMap((p) => (p.messages ?? []).map((m) => m.name)));
  const usedBy = (field: "selector" | "lights" | "key") =>
    system.functions.find((f) => f.situations.some((s) => field in s.set))?.name ?? null;
  const keys = Object.entries(WHEEL).filter(([message]) => messages.has(message));
  const things: PlannedThing[] = [];
  if (keys.length > 0)
    things.push({
      thing: { id: "wheelKeys", name: "wheel keys", kind: "keys", rest: "none" },
      acts: keys.map(([, label]) => ({ label, say: `Hold ${label}` })),
      why: "keys of the wheel in the phone's picture",
    });
  if (messages.has("reverse") || usedBy("selector"))
    things.push({
      thing: { id: "selector", name: "selector", kind: "positions", rest: "P" },
      acts: ["R", "N", "D"].map((label) => ({ label, say: `Brake on, selector to ${label}` })),
      why: usedBy("selector") ?? "reverse",
    });
  things.push(
    {
      thing: { id: "lights", name: "lights", kind: "positions", rest: "off" },
      acts: [{ label: "on", say: "Lights on" }],
      why: usedBy("lights") ?? "dimming at night",
    },
    {
      thing: { id: "steering", name: "steering angle", kind: "level", rest: "0", unit: "deg" },
      acts: [-360, 360, 180].map((value) => ({
        label: `${value}`,
        value,
        say: `Steering ${Math.abs(value)}° to the ${value < 0 ? "left" : "right"}`,
      })),
      why: "guide lines of the rear picture",
    },
  );
  if (system.functions.some((f) => f.situations.some((s) => (s.set.speedKmh ?? 0) > 0)))
    things.push({
      thing: { id: "speed", name: "speed", kind: "level", rest: "in between", unit: "km/h" },
      acts: ROLL_KMH.map((value) => ({ label: `${value}`, value, say: `Roll steadily at ${value} km/h` })),
      why: "lock of moving pictures",
      rollsS: ROLL_S,
    });
  return things;
}
