/** What a module understands of the car's messages, as settings of its model: each at one value for each output. */
import type { Condition, Setting } from "../../model/types";
import { OUTPUTS, type OutputId } from "./translation";

/** The output is on when the car says so; the other values are what wrong data make of it. */
export const AS_THE_CAR = "as the car";
export const NEVER = "never";
export const ALWAYS = "always";

const PREFIX = "told-";

export const toldSetting = (output: OutputId) => PREFIX + output;

/** Settings of a part that is told these outputs by the data loaded into it. */
export function toldSettings(outputs: readonly OutputId[]): Setting[] {
  return outputs.map((o) => ({
    id: toldSetting(o),
    label: OUTPUTS[o].name,
    values: [...TOLD_VALUES],
    initial: AS_THE_CAR,
    follows: "messages",
  }));
}

/** Holds while the part is told an output. @param car what the car must send or be for it */
export function told(output: OutputId, car: Condition): Condition {
  return {
    any: [
      { all: [{ setting: toldSetting(output), is: [AS_THE_CAR] }, car] },
      { setting: toldSetting(output), is: [ALWAYS] },
    ],
  };
}

export const TOLD_VALUES = [AS_THE_CAR, NEVER, ALWAYS];

/** True for a setting as `toldSettings` makes it. */
export function isToldSetting(setting: Setting): boolean {
  return outputOf(setting) !== null && setting.values.join() === TOLD_VALUES.join() && setting.initial === AS_THE_CAR;
}

/** The output that a setting stands for; null for a setting of another kind. */
export function outputOf({ id, follows }: Pick<Setting, "id" | "follows">): OutputId | null {
  const output = id.slice(PREFIX.length);
  return follows === "messages" && output in OUTPUTS ? (output as OutputId) : null;
}
