import { type Choices, type Conditional, conditionTest } from "../model/kit-condition";
import type { CarProfile, KitProfile } from "../model/profile";
import type { System } from "../model/types";

/**
 * What follows from an option of a choice on this car: parts that come in, needs and settings that apply with it and
 * not with some other option, everything else chosen as it is.
 *
 * @param stock the car as built, of which conditions may ask facts
 */
export function followsFrom(
  { car, kit, stock }: { car: CarProfile; kit: KitProfile; stock: System },
  chosen: Choices,
  choice: string,
  option: string,
): string[] {
  const others = kit.choices.find((c) => c.id === choice)?.options.filter((o) => o.id !== option) ?? [];
  const applies = (id: string) => conditionTest(car, stock, { ...chosen, [choice]: id });
  const withIt = applies(option);
  const without = others.map((o) => applies(o.id));
  const only = (item: Conditional) => withIt(item) && without.some((test) => !test(item));
  return [
    ...kit.parts.filter(only).map((p) => `Brings ${p.name}`),
    ...kit.needs.filter(only).map((n) => `Needs ${n.say}`),
    ...kit.sets.filter(only).map((s) => s.say),
  ];
}
