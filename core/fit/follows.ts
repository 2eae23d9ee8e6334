import { type Conditional, statementsOf } from "../model/kit-condition";
import type { KitProfile } from "../model/profile";

/**
 * What follows from an option of a choice: parts that come in, connections to make, needs and settings that only
 * this option brings, read from the conditions of the kit.
 */
export function followsFrom(kit: KitProfile, choice: string, option: string): string[] {
  const only = ({ when }: Conditional) =>
    when !== undefined &&
    !("not" in when) &&
    statementsOf(when).some((s) => "choice" in s && s.choice === choice && s.is.includes(option));
  return [
    ...kit.parts.filter(only).map((p) => `Brings ${p.name}`),
    ...kit.needs.filter(only).map((n) => `Needs ${n.say}`),
    ...kit.sets.filter(only).map((s) => s.say),
  ];
}
