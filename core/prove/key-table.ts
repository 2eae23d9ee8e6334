/**
 * What each key does, short and long, in both pictures, as the model of the fitted car has it: which function it serves
 * there, and what it changes. A key with two meanings at once is told as that.
 */
import { Model } from "../model/outcome";
import { matches } from "../model/signal";
import type { Attributes, Condition, FunctionSpec, Settings, Situation, System } from "../model/types";

export const HOLDS = { short: 0.3, long: 3 } as const;
export type Hold = keyof typeof HOLDS;
const HOLD_IDS = Object.keys(HOLDS) as [Hold, ...Hold[]];
export const MODES = ["factory", "phone"] as const;
export type Mode = (typeof MODES)[number];

export interface KeyUse {
  key: string;
  /** The part that it sits on, as people call it. */
  part: string;
  hold: Hold;
  mode: Mode;
  /** What it does there; more than one: a double meaning. */
  does: string[];
}

/** `volumeUp` as `volume up`. */
export function keyWords(key: string): string {
  return key.replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);
}

/** Touching the screen is measured by itself. */
const NO_KEY = "screen";

/** Every use of every key that does anything. @param shown situation of the phone picture; null: there is none */
export function keyTable(system: System, settings: Settings, shown: Situation | null): KeyUse[] {
  const model = new Model(system, {}, settings);
  return keysOf(system).flatMap(({ key, part }) =>
    MODES.flatMap((mode) =>
      HOLD_IDS.flatMap((hold): KeyUse[] => {
        const base = mode === "factory" ? { ...system.defaultSituation, pictureMode: "factory" as const } : shown;
        if (!base) return [];
        const does = [
          ...servedBy(model, system.functions, base, key, HOLDS[hold]),
          ...changedBy(system, base, key, HOLDS[hold]),
        ];
        return does.length > 0 ? [{ key, part, hold, mode, does }] : [];
      }),
    ),
  );
}

/** Keys that some part sends when they are pressed. */
function keysOf({ parts }: System): { key: string; part: string }[] {
  const keys = new Map<string, string>();
  for (const part of parts)
    for (const source of part.sources ?? [])
      for (const key of pressedIn(source.when)) if (key !== NO_KEY && !keys.has(key)) keys.set(key, part.name);
  return [...keys].map(([key, part]) => ({ key, part }));
}

function pressedIn(condition: Condition | undefined): string[] {
  if (!condition) return [];
  if ("all" in condition) return condition.all.flatMap(pressedIn);
  if ("any" in condition) return condition.any.flatMap(pressedIn);
  if (!("situation" in condition) || condition.situation !== "pressed" || !("is" in condition)) return [];
  return (condition.is as readonly unknown[]).filter((k): k is string => typeof k === "string" && k !== "");
}

/** Functions that are there while the key is pressed and not without it. */
function servedBy(
  model: Model,
  functions: readonly FunctionSpec[],
  base: Situation,
  key: string,
  heldS: number,
): string[] {
  const pressed = model.evaluate({ ...base, pressed: key, heldS });
  const idle = model.evaluate({ ...base, pressed: "", heldS: 0 });
  const plain = (where: FunctionSpec["observe"][number]["where"]): where is Attributes =>
    Object.values(where).every((v) => typeof v !== "object");
  return functions.flatMap((fn) => {
    // What the law asks for is tried by itself.
    if (fn.who === "law") return [];
    const there = (in_: typeof pressed) =>
      fn.observe.every(
        ({ at, where }) => plain(where) && in_.arrivals(at).some((a) => matches(a.signal.attributes, where)),
      );
    return there(pressed) && !there(idle) ? [fn.name] : [];
  });
}

/** Pictures that a held key changes to. */
function changedBy({ actions }: System, base: Situation, key: string, heldS: number): string[] {
  return actions.flatMap(({ press, holdS, set }) => {
    const to = set.pictureMode;
    const fits = press === key && heldS >= holdS.min && heldS <= holdS.max;
    return fits && to && to !== base.pictureMode ? [`changes to the ${to} picture`] : [];
  });
}
