/** What a car plays with balance and fader at one corner, by the model. */
import type { Model } from "../model/outcome";
import type { FunctionSpec, Settings, System } from "../model/types";
import { CORNERS, type Corner, type Heard } from "./corners";

const coneOf = (corner: Corner) => `speakers.cones.${corner}`;

/** What plays while somebody walks with balance and fader; undefined for a car without known loudspeakers. */
export function walkedFunction({ functions }: Pick<System, "functions">): FunctionSpec | undefined {
  return functions.find((f) => CORNERS.every((c) => f.observe.some((o) => o.at === coneOf(c))));
}

/** @param settings as they stand; those of the model where nothing is said */
export function playsAt(car: Model, corner: Corner, settings?: Settings): Heard {
  const set = walkedFunction(car.system)?.situations[0]?.set;
  const evaluation = car.evaluate({ ...car.system.defaultSituation, ...set }, settings);
  const playing = CORNERS.filter((c) => {
    const index = car.compiled.indexOf.get(coneOf(c));
    return index !== undefined && evaluation.has(2 * index, { channel: corner });
  });
  return playing.length > 1 ? "several" : (playing[0] ?? "none");
}
