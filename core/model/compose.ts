import { ComposeError } from "./errors";
import type { CarProfile, ChoiceCondition, KitProfile, VariantProfile } from "./profile";
import { type Link, type Part, type Situation, type System, USUAL_SITUATION } from "./types";
import { describePort } from "./words";

export type Choices = Readonly<Record<string, string>>;

/** The car with its radio, as built. @throws {ComposeError} when the variant belongs to another car. */
export function composeStock(car: CarProfile, variant: VariantProfile): System {
  if (variant.car !== car.id) {
    throw new ComposeError(
      `variant ${variant.id}`,
      `it belongs to the car ${variant.car}, not ${car.id}.`,
      "Choose a radio variant of this car.",
    );
  }
  return {
    parts: [...car.parts, ...variant.parts],
    links: [...car.links, ...variant.links],
    functions: [...car.functions, ...variant.functions],
    actions: [],
    assumed: car.assumed,
    usual: { ...USUAL_SITUATION, ...car.usual },
  };
}

/**
 * The car with the kit fitted as the choices say: factory connections of the kit's unplug list are gone,
 * parts and connections of the kit are there.
 *
 * @throws {ComposeError} when the kit names a connection, part or port that this car does not have.
 */
export function composeFitted(
  car: CarProfile,
  variant: VariantProfile,
  kit: KitProfile,
  choices: Choices = {},
): System {
  const stock = composeStock(car, variant);
  const chosen = resolveChoices(kit, choices);
  const applies = (item: { when?: ChoiceCondition }) =>
    !item.when || item.when.is.includes(chosen[item.when.choice] ?? "");
  const parts: Part[] = [...stock.parts, ...kit.parts.filter(applies)];
  const links: Link[] = stock.links.filter((l) => !kit.unplug.some((u) => sameEnds(l, u)));
  for (const u of kit.unplug) {
    if (!stock.links.some((l) => sameEnds(l, u))) {
      throw new ComposeError(
        `kit ${kit.id}`,
        `it opens the connection ${describePort(stock, u.a)} – ${describePort(stock, u.b)}, which this car does not have.`,
        "Choose another kit or correct the profile.",
      );
    }
  }
  for (const link of kit.plug.filter(applies)) {
    for (const end of [link.a, link.b]) {
      if (!parts.some((p) => p.ports.some((port) => `${p.id}.${port.id}` === end))) {
        throw new ComposeError(
          `kit ${kit.id}, connection ${link.id}`,
          `the car has no ${end}.`,
          "Choose another kit or correct the profile.",
        );
      }
    }
    links.push(link);
  }
  return {
    parts,
    links,
    functions: [...stock.functions, ...kit.functions.filter(applies)],
    actions: kit.actions,
    assumed: [...stock.assumed, ...kit.assumed],
    usual: { ...stock.usual, ...assumptions(kit, chosen) },
  };
}

/** Every choice of the kit with the option taken. @throws {ComposeError} for an option the kit does not offer. */
export function resolveChoices(kit: KitProfile, choices: Choices): Choices {
  const chosen: Record<string, string> = {};
  for (const choice of kit.choices) {
    const option = choices[choice.id] ?? choice.usual;
    if (!choice.options.some((o) => o.id === option)) {
      throw new ComposeError(
        `${choice.label}`,
        `the kit does not offer “${option}”.`,
        `Choose one of ${choice.options.map((o) => o.label).join(", ")}.`,
      );
    }
    chosen[choice.id] = option;
  }
  return chosen;
}

function assumptions(kit: KitProfile, chosen: Choices): Partial<Situation> {
  return Object.assign({}, ...kit.choices.map((c) => c.options.find((o) => o.id === chosen[c.id])?.assume ?? {}));
}

/** True when both name the same two ports, in either order. */
export function sameEnds(x: { a: string; b: string }, y: { a: string; b: string }): boolean {
  return (x.a === y.a && x.b === y.b) || (x.a === y.b && x.b === y.a);
}

/** Identifiers of the parts that the kit brings. */
export function kitPartIds(kit: KitProfile): ReadonlySet<string> {
  return new Set(kit.parts.map((p) => p.id));
}
