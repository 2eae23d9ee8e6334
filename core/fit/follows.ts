import type { KitCondition, KitProfile } from "../model/profile";

/**
 * What follows from an option of a choice: parts that come in, connections to make, needs and settings that only
 * this option brings, read from the conditions of the kit.
 */
export function followsFrom(kit: KitProfile, choice: string, option: string): string[] {
  const only = (item: { when?: KitCondition }) =>
    item.when !== undefined && "choice" in item.when && item.when.choice === choice && item.when.is.includes(option);
  return [
    ...kit.parts.filter(only).map((p) => `Brings ${p.name}`),
    ...kit.needs.filter(only).map((n) => `Needs ${n.say}`),
    ...kit.sets.filter(only).map((s) => s.say),
  ];
}
