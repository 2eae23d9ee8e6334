/** Conditions of a kit: on its choices, on the car document, on facts of the parts of the car as built. */
import type { CarProfile, Choice, KitCondition, KitProfile } from "./profile";
import type { System } from "./types";

export type Choices = Readonly<Record<string, string>>;

/** An item of a kit that may depend on a condition; without one it always applies. */
export interface Conditional {
  when?: KitCondition;
}

/** Whether an item of the kit applies to this car with these choices. */
export function conditionTest(car: CarProfile, stock: System, chosen: Choices): (item: Conditional) => boolean {
  const holds = (when: KitCondition): boolean => {
    if ("all" in when) return when.all.every(holds);
    if ("any" in when) return when.any.some(holds);
    if ("not" in when) return !holds(when.not);
    if ("choice" in when) return when.is.includes(chosen[when.choice] ?? "");
    if ("car" in when) return when.is.includes(car[when.car]);
    return when.is.includes(factOf(stock, when.fact));
  };
  return ({ when }) => when === undefined || holds(when);
}

/** The choices of a kit that are asked: those whose own condition the options taken before them meet. */
export function askedChoices({ choices }: Pick<KitProfile, "choices">, chosen: Choices): Choice[] {
  const standing: Record<string, string> = {};
  const holds = (when: KitCondition): boolean => {
    if ("all" in when) return when.all.every(holds);
    if ("any" in when) return when.any.some(holds);
    if ("not" in when) return !holds(when.not);
    return "choice" in when && when.is.includes(standing[when.choice] ?? "");
  };
  return choices.filter((c) => {
    const asked = !c.when || holds(c.when);
    standing[c.id] = (asked ? chosen[c.id] : undefined) ?? c.default;
    return asked;
  });
}

const facts = new WeakMap<System, Map<string, string>>();

/** A fact of a part by `part.fact`; empty when the part or the fact is not there. A kit asks for few of them often. */
function factOf(system: System, ref: string): string {
  const known = facts.get(system) ?? new Map<string, string>();
  facts.set(system, known);
  let value = known.get(ref);
  if (value === undefined) {
    const [partId, fact] = ref.split(".");
    value = system.parts.find((p) => p.id === partId)?.facts?.[fact ?? ""] ?? "";
    known.set(ref, value);
  }
  return value;
}

/** The single statements of which a condition is made. */
export function statementsOf(
  when: KitCondition,
): Exclude<KitCondition, { all: unknown } | { any: unknown } | { not: unknown }>[] {
  if ("all" in when) return when.all.flatMap(statementsOf);
  if ("any" in when) return when.any.flatMap(statementsOf);
  if ("not" in when) return statementsOf(when.not);
  return [when];
}

/** A condition as a clause: `with the sound path line input and on cars with manual gearbox`. */
export function kitConditionWords(
  kit: Pick<KitProfile, "choices">,
  parts: System["parts"],
  when: KitCondition,
): string {
  const words = (c: KitCondition): string => kitConditionWords(kit, parts, c);
  if ("all" in when) return when.all.map(words).join(" and ");
  if ("any" in when) return when.any.map(words).join(" or ");
  if ("not" in when) return `not ${words(when.not)}`;
  if ("choice" in when) {
    const choice = kit.choices.find((c) => c.id === when.choice);
    const options = (choice?.options ?? []).filter((o) => when.is.includes(o.id)).map((o) => o.label.toLowerCase());
    return `with ${choice?.label.toLowerCase() ?? when.choice}: ${options.join(" or ")}`;
  }
  if ("car" in when) return `on cars with ${when.is.join(" or ")} ${when.car === "gearbox" ? "gearbox" : "drive"}`;
  const [part, fact] = when.fact.split(".");
  return `where ${parts.find((p) => p.id === part)?.name ?? part} has ${fact}: ${when.is.join(" or ")}`;
}
