import { type BusMap, checkBusMap } from "../core/bus/bus-map";
import { isToldSetting, TOLD_VALUES } from "../core/bus/translation/told";
import { checkCodingMap } from "../core/coding/check";
import type { CodingMap } from "../core/coding/map";
import { crossing, type Outline } from "../core/drawing/drawing";
import { checkUpdates } from "../core/fit/firmware";
import { compile } from "../core/model/compile";

import { CoreError } from "../core/model/errors";
import { statementsOf } from "../core/model/kit-condition";
import type { CarProfile, KitCondition, KitProfile, VariantProfile } from "../core/model/profile";
import { DEFAULT_SITUATION, type Inspection, type Link, type Part } from "../core/model/types";
import { checkPlan } from "../core/strip/graph";

/** A document that cannot be used: where, what was expected, what came. */
export class ProfileError extends CoreError {
  /** @param fields every place that the schema refuses, as its path with dots, with what is wrong there */
  constructor(
    where: string,
    problem: string,
    remedy: string,
    readonly fields: readonly FieldProblem[] = [],
  ) {
    super(where, problem, remedy);
  }
}

export interface FieldProblem {
  path: string;
  say: string;
}

const REMEDY = "Correct the place; nothing was stored.";

/**
 * What a schema cannot say: housings with more contacts than ways, a plug that is used twice, conditions on choices
 * that do not exist, updates and steps in a circle, parts the model cannot compile.
 *
 * @throws {CoreError} with place and remedy
 */
export function checkSense(profile: CarProfile | VariantProfile | KitProfile | CodingMap | BusMap): void {
  if (profile.document === "coding") return checkCodingMap(profile);
  if (profile.document === "busMap") return checkBusMap(profile);
  unique(
    profile.parts.map((p) => p.id),
    (id) => `part “${id}”`,
  );
  for (const part of profile.parts) checkPart(part);
  checkDrawings(profile);
  // Parts must make sense on their own; what they are joined to is known only when a job composes the documents.
  compile({
    parts: profile.parts,
    links: [],
    functions: [],
    actions: [],
    assumed: [],
    defaultSituation: DEFAULT_SITUATION,
  });
  if (profile.document === "car") {
    checkLinks(profile.links);
    checkPlan(profile.stripPlan);
    unique(
      (profile.fusePanel ?? []).map((p) => p.id),
      (id) => `fuse position “${id}”`,
    );
    unique(
      (profile.questions ?? []).map((q) => q.id),
      (id) => `question “${id}”`,
    );
    unique(
      (profile.places ?? []).map((p) => p.name),
      (name) => `place “${name}”`,
    );
    const loop = profile.runs?.find((r) => r.from === r.to);
    if (loop) throw new ProfileError(`way “${loop.id}”`, `it begins and ends at “${loop.from}”.`, REMEDY);
  }
  if (profile.document === "variant") {
    checkLinks(profile.links);
    checkUpdates(profile.firmware?.updates ?? [], `${profile.title}, firmware`);
    checkEffects(profile);
  }
  if (profile.document === "kit") checkKit(profile);
  unique(
    (profile.monitors ?? []).map((m) => m.id),
    (id) => `monitor “${id}”`,
  );
  const blind = profile.monitors?.find((m) => !m.watch && !m.fitted);
  if (blind)
    throw new ProfileError(
      `monitor “${blind.id}”`,
      "it says neither what must arrive nor which part must be fitted.",
      "Say what it watches; nothing was stored.",
    );
  unique(
    (profile.normal ?? []).map((n) => n.id),
    (id) => `normal state “${id}”`,
  );
  checkInspections(profile.inspections ?? []);
}

function checkInspections(inspections: readonly Inspection[]): void {
  unique(
    inspections.map((i) => i.id),
    (id) => `inspection “${id}”`,
  );
  for (const { title, kind, at, window } of inspections) {
    const where = `inspection “${title}”`;
    const isContact = at.split(".").length === 3;
    if (isContact && kind !== "measure")
      throw new ProfileError(where, `“${at}” is a contact, which can only be measured at.`, REMEDY);
    if (isContact && !window)
      throw new ProfileError(
        where,
        "it does not say what is measured there on a sound car.",
        `Enter a window. ${REMEDY}`,
      );
    if (window && kind !== "measure")
      throw new ProfileError(where, "a window belongs to a measurement.", `Leave the window out. ${REMEDY}`);
  }
}

/** Outlines do not cross themselves, and drawings name only what the document has. */
function checkDrawings(profile: CarProfile | VariantProfile | KitProfile): void {
  const shapes =
    profile.document === "car" ? profile.drawings?.dash?.shapes : profile.document === "variant" ? profile.dash : [];
  unique(
    (shapes ?? []).map((s) => s.id),
    (id) => `shape “${id}” of the dash`,
  );
  for (const { id, outline } of shapes ?? []) checkOutline(`shape “${id}” of the dash`, outline);
  for (const part of profile.parts) {
    const stranger = part.back?.sockets.find((s) => !part.ports.some((p) => p.id === s.port));
    if (stranger) throw new ProfileError(`${part.name}, sockets drawn`, `it has no plug “${stranger.port}”.`, REMEDY);
  }
  if (profile.document !== "car") return;
  const panels = new Set(profile.stripPlan.steps.flatMap((s) => s.panel ?? []));
  const unknown = profile.drawings?.dash?.shapes.find((s) => s.panel !== undefined && !panels.has(s.panel));
  if (unknown)
    throw new ProfileError(
      `shape “${unknown.id}” of the dash`,
      `the strip plan has no panel “${unknown.panel}”.`,
      REMEDY,
    );
  const plan = profile.drawings?.plan;
  if (!plan) return;
  checkOutline("outline of the car from above", plan.body);
  for (const zone of plan.zones) checkOutline(`zone “${zone.name}” of the car from above`, zone.outline);
  unique(
    plan.places.map((p) => p.name),
    (name) => `place “${name}” of the car from above`,
  );
  const contacts = new Set(
    profile.parts.flatMap((p) => p.ports.flatMap((x) => x.contacts.map((c) => `${p.id}.${x.id}.${c.id}`))),
  );
  const silent = plan.speakers?.find((s) => !contacts.has(s.contact));
  if (silent)
    throw new ProfileError(
      "loudspeakers of the car from above",
      `the car has no contact “${silent.contact}”.`,
      "Name the contact at which it is heard as part.port.contact.",
    );
}

function checkOutline(where: string, outline: Outline): void {
  const sides = crossing(outline);
  if (sides)
    throw new ProfileError(
      where,
      `its sides ${sides[0] + 1} and ${sides[1] + 1} cross each other.`,
      "Name its corners in order round it; nothing was stored.",
    );
}

function checkPart(part: Part): void {
  for (const port of part.ports) {
    if (port.joint && port.connector)
      throw new ProfileError(
        `${part.name}, ${port.label}`,
        "it is an end without a housing and has a connector as well.",
        REMEDY,
      );
    if (port.connector && port.contacts.length > port.connector.ways)
      throw new ProfileError(
        `${part.name}, ${port.label}`,
        `it has ${port.contacts.length} contacts in a housing of ${port.connector.ways} ways.`,
        REMEDY,
      );
  }
  const follows = part.settings?.find((s) => s.follows === "surface" && s.values.length !== 2);
  if (follows)
    throw new ProfileError(
      `${part.name}, ${follows.label}`,
      `it follows the ground under it and has ${follows.values.length} values; on plastic and on metal are two.`,
      REMEDY,
    );
  const told = part.settings?.find((s) => s.follows === "messages" && !isToldSetting(s));
  if (told)
    throw new ProfileError(
      `${part.name}, ${told.label}`,
      `it follows the messages of the car and is no output of a translation; its values are ${TOLD_VALUES.join(", ")}.`,
      REMEDY,
    );
}

/** Contacts that are moved go from one cavity into another of the same kind, and leads are parts of the kit. */
function checkMoves(kit: KitProfile): void {
  for (const set of kit.sets) {
    for (const move of set.moves ?? []) {
      const own = [move.from, move.to].filter((ref) => kit.parts.some((p) => ref.startsWith(`${p.id}.`)));
      const gone = own.find((ref) => !contactAt(kit.parts, ref));
      if (move.from === move.to || gone)
        throw new ProfileError(
          `setting “${set.say}”`,
          gone ? `the kit has no contact ${gone} to move.` : `it moves ${move.from} to where it is.`,
          REMEDY,
        );
    }
  }
  const strange = [...(kit.leads ?? []).map((l) => l.part), ...(kit.reach ?? []).flatMap((r) => r.holds ?? [])].find(
    (id) => !kit.parts.some((p) => p.id === id),
  );
  if (strange) throw new ProfileError(`leads and places of ${kit.title}`, `the kit has no part “${strange}”.`, REMEDY);
}

function contactAt(parts: readonly Part[], ref: string): boolean {
  const [partId, portId, contactId] = ref.split(".");
  const port = parts.find((p) => p.id === partId)?.ports.find((p) => p.id === portId);
  return port?.contacts.some((c) => c.id === contactId) ?? false;
}

function checkLinks(links: readonly (Link & { when?: KitCondition })[]): void {
  unique(
    links.map((l) => l.id),
    (id) => `connection “${id}”`,
  );
  const used = new Map<string, { id: string; when: string }[]>();
  for (const link of links) {
    if (link.air) continue;
    const when = JSON.stringify(link.when ?? null);
    for (const end of [link.a, link.b]) {
      const others = used.get(end) ?? [];
      const clash = others.find((o) => o.when === when || o.when === "null" || when === "null");
      if (clash)
        throw new ProfileError(
          `connections “${clash.id}” and “${link.id}”`,
          `both use the plug ${end}; a plug goes into one place.`,
          REMEDY,
        );
      used.set(end, [...others, { id: link.id, when }]);
    }
  }
}

function checkKit(kit: KitProfile): void {
  checkLinks(kit.plug);
  checkMoves(kit);
  checkPlan({ steps: kit.steps ?? [] });
  unique(
    kit.choices.map((c) => c.id),
    (id) => `choice “${id}”`,
  );
  for (const choice of kit.choices) {
    if (!choice.options.some((o) => o.id === choice.default))
      throw new ProfileError(
        `choice “${choice.label}”`,
        `its default option “${choice.default}” is none of its options.`,
        REMEDY,
      );
  }
  for (const [i, { label, when }] of kit.choices.entries()) {
    const before = kit.choices.slice(0, i).map((c) => c.id);
    if (!when || statementsOf(when).every((s) => "choice" in s && before.includes(s.choice))) continue;
    throw new ProfileError(
      `choice “${label}”`,
      "its condition names something else than a choice that stands before it.",
      "Let it depend on choices that are asked before it, or leave the condition out.",
    );
  }
  for (const when of conditionsOf(kit).flatMap(statementsOf)) {
    if (!("choice" in when)) continue;
    const choice = kit.choices.find((c) => c.id === when.choice);
    const unknown = when.is.find((o) => !choice?.options.some((x) => x.id === o));
    if (!choice || unknown)
      throw new ProfileError(
        `condition on “${when.choice}”`,
        choice ? `the choice has no option “${unknown}”.` : "the kit has no such choice.",
        REMEDY,
      );
  }
  const told = kit.programmingPlug?.setting;
  if (told && !kit.sets.some((s) => s.setting === told))
    throw new ProfileError("programming plug", `it sets “${told}”, which is none of the settings of the kit.`, REMEDY);
  checkPhones(kit);
  const bank = kit.switchBank;
  const part = bank && kit.parts.find((p) => p.id === bank.part);
  const missing = bank?.switches.find((s) => !part?.settings?.some((x) => x.id === s));
  if (bank && missing)
    throw new ProfileError(`switch bank “${bank.label}”`, `${bank.part} has no setting “${missing}”.`, REMEDY);
}

/** What the leaflet says about phones names a choice and a setting of the kit. */
function checkPhones({ phone, choices, sets }: KitProfile): void {
  if (!phone) return;
  unique(
    phone.families.map((f) => f.id),
    (id) => `phone family “${id}”`,
  );
  const { first, setting } = phone;
  const options = typeof first === "string" ? null : choices.find((c) => c.id === first.choice)?.options;
  if (typeof first !== "string" && !["wireless", "cable"].every((o) => options?.some((x) => x.id === o)))
    throw new ProfileError(
      "phone, first meeting",
      `the kit has no choice “${first.choice}” with the options “wireless” and “cable”.`,
      REMEDY,
    );
  if (setting && !sets.some((s) => s.setting === setting))
    throw new ProfileError("phone, PIN", `it sets “${setting}”, which is none of the settings of the kit.`, REMEDY);
}

/** What a version of the firmware changes is a setting of the radio, with a value that it can have. */
function checkEffects({ firmware, parts, title }: VariantProfile): void {
  const values = new Map<string, string[]>(
    parts.flatMap((p) => (p.settings ?? []).map((s) => [`${p.id}.${s.id}`, s.values] as const)),
  );
  for (const { from, setting, value, cure } of firmware?.effects ?? [])
    for (const named of [{ setting, value }, ...(cure ? [cure] : [])])
      if (!values.get(named.setting)?.includes(named.value))
        throw new ProfileError(
          `${title}, firmware from ${from}`,
          values.has(named.setting)
            ? `“${named.setting}” cannot be “${named.value}”.`
            : `the radio has no setting “${named.setting}”.`,
          REMEDY,
        );
}

function conditionsOf(kit: KitProfile): KitCondition[] {
  const items: { when?: KitCondition }[] = [
    ...kit.choices,
    ...kit.parts,
    ...kit.parts.flatMap((p) => p.needs ?? []),
    ...(kit.steps ?? []),
    ...(kit.reach ?? []),
    ...(kit.leads ?? []),
    ...(kit.tiesBack ?? []),
    ...(kit.monitors ?? []),
    ...(kit.normal ?? []),
    ...(kit.inspections ?? []),
    ...kit.card.flatMap((line) => (typeof line === "string" ? [] : [line])),
    ...kit.unplug,
    ...kit.plug,
    ...kit.functions,
    ...kit.sets,
    ...kit.firmwareFloors,
    ...kit.needs,
  ];
  return [...items.flatMap((i) => (i.when ? [i.when] : [])), ...kit.fits.map((f) => f.condition)];
}

function unique(ids: readonly string[], say: (id: string) => string): void {
  const twice = ids.find((id, i) => ids.indexOf(id) !== i);
  if (twice !== undefined)
    throw new ProfileError(say(twice), "it is listed twice.", `Give each one its own identifier. ${REMEDY}`);
}
