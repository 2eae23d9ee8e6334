/** Which fault codes the control units of a car would store. */
import type { Model } from "./outcome";
import type { FunctionSpec, Monitor, Settings } from "./types";

/** A code that would be stored, and why. */
export interface PredictedCode {
  code: string;
  say: string;
  /** Name of the part that stores it. */
  by: string;
  monitor: string;
}

/**
 * Codes that the armed monitors of a system would store in its usual situation: the part that watches has what it needs
 * to work, and something it expects is not in the car, does not arrive, arrives otherwise or from two sides.
 *
 * @param settings as they stand; those of the model where nothing is said
 */
export function predictedCodes(model: Model, settings: Settings = {}): PredictedCode[] {
  return (model.system.monitors ?? []).flatMap((m) => {
    const part = model.system.parts.find((p) => p.id === m.by);
    if (!part || !isArmed(model, m, settings) || !model.alive(m.by)) return [];
    const there = (m.fitted ?? []).every((id) => model.system.parts.some((p) => p.id === id));
    if (there && model.see(asFunction(m), m.id, settings).kind === "ok") return [];
    return [{ code: m.code, say: m.say, by: part.name, monitor: m.id }];
  });
}

function isArmed(model: Model, { armed }: Monitor, settings: Settings): boolean {
  if (!armed) return true;
  const value = settings[armed.setting] ?? model.system.settings?.[armed.setting] ?? initialOf(model, armed.setting);
  return value !== undefined && armed.is.includes(value);
}

function initialOf({ system }: Model, ref: string): string | undefined {
  const [part, setting] = ref.split(".");
  return system.parts.find((p) => p.id === part)?.settings?.find((s) => s.id === setting)?.initial;
}

/** A monitor is a function that nobody tries. */
function asFunction(m: Monitor): FunctionSpec {
  return {
    id: m.id,
    name: m.say,
    say: m.say,
    who: "shop",
    observe: m.watch ?? [],
    situations: [{ id: m.id, label: "by itself", set: m.situation ?? {} }],
    minutes: 0,
  };
}
