/** Which fault codes the control units of a car would store. */
import { settingReader } from "./evaluate";
import type { Model } from "./outcome";
import type { FunctionSpec, Monitor, Settings } from "./types";

/** A code that would be stored, and why. */
export interface PredictedCode {
  code: string;
  say: string;
  /** Part that stores it, and its name. */
  part: string;
  by: string;
  monitor: string;
}

/**
 * Codes that the armed monitors of a system would store in its usual situation: the part that watches has what it needs
 * to work, and something it expects is not in the car, does not arrive, arrives otherwise or from two sides.
 *
 * @param model under the disturbance that is asked about
 * @param settings as they stand beside those of the disturbance
 */
export function predictedCodes(model: Model, settings: Settings): PredictedCode[] {
  const read = settingReader(model.compiled, settings);
  return (model.system.monitors ?? []).flatMap((m) => {
    const part = model.system.parts.find((p) => p.id === m.by);
    const armed = !m.armed || m.armed.is.includes(read(m.armed.setting) ?? "");
    if (!part || !armed || !model.alive(m.by)) return [];
    const fitted = (m.fitted ?? []).every((id) => model.system.parts.some((p) => p.id === id));
    if (fitted && model.see(asFunction(m), m.id, settings).kind === "ok") return [];
    return [{ code: m.code, say: m.say, part: m.by, by: part.name, monitor: m.id }];
  });
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
