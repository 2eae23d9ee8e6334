/** The ways in which a kit is offered, and whether what it brings mates with this car. */
import { type Choices, composeFitted, kitPartIds } from "../model/compose";
import { CoreError } from "../model/errors";
import { askedChoices, type Conditional, statementsOf } from "../model/kit-condition";
import { describeContact, describePort, locate } from "../model/labels";
import { mates } from "../model/mating";
import { findPort } from "../model/ports";
import type { KitProfile } from "../model/profile";
import type { System } from "../model/types";
import type { RankRequest } from "./rank";
import type { ResolvedFit } from "./resolve-fit";

/** A kit with more offers than this is cut; no leaflet comes near it. */
const MAX_OFFERS = 64;

/** True when what the kit does whichever options are taken does not go with this car. */
export function fitsNever({ car, variant }: RankRequest, kit: KitProfile, stock: System): boolean {
  const always = (item: Conditional) => !item.when || statementsOf(item.when).every((s) => !("choice" in s));
  const optional = new Set(kit.parts.filter((p) => !always(p)).map((p) => p.id));
  const onOption = (end: string) => optional.has(end.slice(0, end.indexOf(".")));
  const bare: KitProfile = {
    ...kit,
    fits: kit.fits.filter((f) => always({ when: f.condition })),
    parts: kit.parts.filter((p) => always(p)),
    unplug: kit.unplug.filter(always),
    plug: kit.plug.filter((l) => always(l) && !onOption(l.a) && !onOption(l.b)),
    sets: [],
  };
  try {
    return matingClash(composeFitted(car, variant, bare, {}, stock), bare) !== null;
  } catch (error) {
    if (error instanceof CoreError) return true;
    throw error;
  }
}

/** All combinations of the options that make up an offer; methods stay at their default option. */
export function offersOf(kit: KitProfile): Choices[] {
  let offers: Choices[] = [{}];
  for (const choice of kit.choices.filter((c) => c.kind === "offer")) {
    offers = offers.flatMap((o) =>
      askedChoices(kit, o).includes(choice) ? choice.options.map((option) => ({ ...o, [choice.id]: option.id })) : [o],
    );
    if (offers.length > MAX_OFFERS) offers = offers.slice(0, MAX_OFFERS);
  }
  return offers;
}

export function optionWords(kit: KitProfile, choices: Choices): string[] {
  return askedChoices(kit, choices)
    .filter((c) => c.kind === "offer")
    .flatMap((c) => {
      const option = c.options.find((o) => o.id === (choices[c.id] ?? c.default));
      return option ? [`${c.label}: ${option.label}`] : [];
    });
}

/**
 * The first device of the kit that gets no battery feed or ground although everything is plugged: the contacts of its
 * plug are not those of this car. Null when all get theirs.
 */
export function supplyClash(
  { model, fitted, settings }: Pick<ResolvedFit, "model" | "fitted" | "settings">,
  kit: KitProfile,
): string | null {
  const own = kitPartIds(kit);
  const evaluation = model.evaluate({ ...fitted.defaultSituation, key: "on" }, settings);
  for (const part of fitted.parts.filter((p) => p.type === "device" && own.has(p.id)))
    for (const need of part.needs ?? []) {
      const ref = `${part.id}.${need.at}`;
      const kind = locate(fitted, ref).contact?.kind;
      if ((kind === "battery" || kind === "ground") && evaluation.arrivals(ref).length === 0)
        return `${part.name} does not get ${need.say} at ${describeContact(fitted, ref)}: the contacts of its plug are not those of this car.`;
    }
  return null;
}

/** The first connection of the kit whose halves do not mate, in words; null when all do. */
export function matingClash(fitted: System, kit: KitProfile): string | null {
  for (const link of kit.plug) {
    if (link.air || !fitted.links.some((l) => l.id === link.id)) continue;
    const [a, b] = [findPort(fitted, link.a), findPort(fitted, link.b)];
    if (!a || !b || (!a.connector && !b.connector)) continue;
    const problem = mates(a, b);
    if (problem)
      return `${describePort(fitted, link.a)} does not go into ${describePort(fitted, link.b)}: ${problem.text}`;
  }
  return null;
}
