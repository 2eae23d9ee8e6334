import { ComposeError } from "./errors";
import { askedChoices, type Choices, conditionTest } from "./kit-condition";
import { oncePer } from "./once";
import type { CarProfile, KitLink, KitPart, KitProfile, VariantProfile } from "./profile";
import { DEFAULT_SITUATION, type Link, type Part, type Settings, type Situation, type System } from "./types";

export { type Choices, conditionTest };

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
    functions: [...car.functions.filter((f) => !variant.functions.some((v) => v.id === f.id)), ...variant.functions],
    actions: [],
    assumed: car.assumed,
    monitors: [...(car.monitors ?? []), ...(variant.monitors ?? [])],
    normal: [...(car.normal ?? []), ...(variant.normal ?? [])],
    inspections: [...(car.inspections ?? []), ...(variant.inspections ?? [])],
    defaultSituation: { ...DEFAULT_SITUATION, ...car.defaultSituation },
  };
}

/**
 * The car with the kit fitted as the choices say: replaced parts and opened factory connections are gone, parts,
 * connections and settings of the kit are there.
 *
 * @param stock the car as built, where it is at hand already
 * @throws {ComposeError} when a condition of the kit is not met or it names a connection, part or port that this car
 * does not have
 */
export function composeFitted(
  car: CarProfile,
  variant: VariantProfile,
  kit: KitProfile,
  choices: Choices = {},
  stock: System = composeStock(car, variant),
): System {
  const chosen = resolveChoices(kit, choices);
  const applies = conditionTest(car, stock, chosen);
  const unmet = kit.fits.find((f) => !applies({ when: f.condition }));
  if (unmet) throw new ComposeError(`kit ${kit.title}`, unmet.why, "Choose another kit.");
  const left = withoutReplaced(stock, kit);
  const unplug = kit.unplug.filter(applies);
  for (const u of unplug) {
    if (stock.links.some((l) => sameEnds(l, u))) continue;
    throw new ComposeError(
      `kit ${kit.title}`,
      `it goes between a plug and its socket that this car with this radio does not have${whyWords(u.why)}`,
      "Choose another kit or correct the profile.",
    );
  }
  const brought = kit.parts.filter(applies).map((p) => withNeeds(p, applies));
  const duplicate = brought.find((p) => left.parts.some((x) => x.id === p.id));
  if (duplicate)
    throw new ComposeError(
      `kit ${kit.title}`,
      `it brings “${duplicate.name}” in a place that this car has filled already.`,
      "Choose another kit, or let the profile replace the part.",
    );
  const parts: Part[] = [...left.parts, ...brought];
  const partOf = new Map(parts.map((p) => [p.id, p]));
  const links = [
    ...left.links.filter((l) => !unplug.some((u) => sameEnds(l, u))),
    ...kit.plug.filter(applies).map((link) => existing(link, partOf, kit)),
  ];
  return {
    parts,
    links,
    functions: withOwn(stock.functions, kit.functions.filter(applies)),
    actions: kit.actions,
    assumed: [...stock.assumed, ...kit.assumed],
    monitors: withOwn(stock.monitors ?? [], (kit.monitors ?? []).filter(applies)),
    normal: withOwn(stock.normal ?? [], (kit.normal ?? []).filter(applies)),
    inspections: withOwn(stock.inspections ?? [], (kit.inspections ?? []).filter(applies)),
    defaultSituation: usualWith(stock.defaultSituation)(assumptions(kit, chosen)),
    settings: plannedSettings(kit, applies, partOf),
  };
}

/** What the car has and what the kit has; the same identifier in the kit takes its place. */
function withOwn<T extends { id: string }>(car: readonly T[], own: readonly T[]): T[] {
  return [...car.filter((c) => !own.some((o) => o.id === c.id)), ...own];
}

const narrowed = new WeakMap<KitPart, Map<string, Part>>();

/** A part of the kit with the needs that it has under these choices; the same part for the same needs. */
function withNeeds(part: KitPart, applies: ReturnType<typeof conditionTest>): Part {
  if (!part.needs?.some((n) => n.when)) return part;
  const needs = part.needs.filter(applies);
  const known = narrowed.get(part) ?? new Map<string, Part>();
  narrowed.set(part, known);
  const key = needs.map((n) => part.needs?.indexOf(n)).join();
  const made = known.get(key) ?? { ...part, needs };
  known.set(key, made);
  return made;
}

function withoutReplaced(stock: System, kit: KitProfile): Pick<System, "parts" | "links"> {
  if (kit.replaces.length === 0) return stock;
  const gone = new Set(kit.replaces.map((r) => r.part));
  for (const { part, why, ifPresent } of kit.replaces) {
    if (!ifPresent && !stock.parts.some((p) => p.id === part))
      throw new ComposeError(
        `kit ${kit.title}`,
        `it replaces something that this car does not have${whyWords(why)}`,
        "Choose another kit or correct the profile.",
      );
  }
  const partAt = (port: string) => port.slice(0, port.indexOf("."));
  const touches = (l: Link) => gone.has(partAt(l.a)) || gone.has(partAt(l.b));
  return { parts: stock.parts.filter((p) => !gone.has(p.id)), links: stock.links.filter((l) => !touches(l)) };
}

/** The reason in the words of the kit, to end a sentence. */
function whyWords(why: string): string {
  return why ? `: “${why.replace(/\.$/, "")}”.` : ".";
}

function existing(link: KitLink, partOf: ReadonlyMap<string, Part>, kit: KitProfile): KitLink {
  for (const end of [link.a, link.b]) {
    const [partId, portId] = end.split(".");
    if (partOf.get(partId ?? "")?.ports.some((port) => port.id === portId)) continue;
    throw new ComposeError(
      `kit ${kit.title}, connection “${link.say}”`,
      "this car with this radio has no place for it.",
      "Choose another kit or correct the profile.",
    );
  }
  return link;
}

function plannedSettings(
  kit: KitProfile,
  applies: ReturnType<typeof conditionTest>,
  partOf: ReadonlyMap<string, Part>,
): Settings {
  const settings: Record<string, string> = {};
  for (const s of kit.sets.filter(applies)) {
    const [partId, settingId] = s.setting.split(".");
    const setting = partOf.get(partId ?? "")?.settings?.find((x) => x.id === settingId);
    if (!setting?.values.includes(s.value))
      throw new ComposeError(
        `kit ${kit.title}, setting “${s.say}”`,
        "neither car nor kit has this setting with the value that is asked for.",
        "Choose another kit or correct the profile.",
      );
    settings[s.setting] = s.value;
  }
  return settings;
}

/**
 * Every choice of the kit with the option taken; one that is not asked stands at its default, whatever was given.
 *
 * @throws {ComposeError} for an option the kit does not offer
 */
export function resolveChoices(kit: KitProfile, choices: Choices): Choices {
  const chosen = Object.fromEntries(kit.choices.map((c) => [c.id, c.default]));
  for (const choice of askedChoices(kit, choices)) {
    const option = choices[choice.id] ?? choice.default;
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

/** The usual situation with what options change of it; the same changes make the same object, as `actions.ts` expects. */
const usualWith = oncePer((usual: Situation) => {
  const known = new Map<string, Situation>();
  return (assumed: Partial<Situation>): Situation => {
    const changed = Object.entries(assumed).filter(([field, value]) => usual[field as keyof Situation] !== value);
    if (changed.length === 0) return usual;
    const key = JSON.stringify(changed.sort());
    const made = known.get(key) ?? { ...usual, ...Object.fromEntries(changed) };
    known.set(key, made);
    return made;
  };
});

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
