import { type LeadLine, lengthsOf } from "../lengths/job";
import { materialAmount } from "../lengths/material";
import { namesMaterial } from "../lengths/stock";
import { type Choices, conditionTest, resolveChoices } from "../model/compose";
import { describePort, lowerFirst, upperFirst } from "../model/labels";
import type {
  CarProfile,
  KitNeed,
  KitProfile,
  Minutes,
  NeedKind,
  SettingMeans,
  VariantProfile,
} from "../model/profile";
import type { System } from "../model/types";
import { stepsOfKit } from "../strip/base";
import { mediumWords, sideEffectsOf, updatePath } from "./firmware";
import { firmwareOfKit } from "./resolve-fit";

/** One thing to order, load, run, drill or ask for, with its reason. */
export interface NeedLine {
  kind: NeedKind | "firmware" | "coding" | "choice";
  say: string;
  why?: string;
  minutes: number;
  price: number;
  /** It cannot be had: no update path. */
  blocked?: boolean;
}

/** Everything the job needs besides the box, with the work it makes. */
export interface Needs {
  lines: NeedLine[];
  /** Minutes of fitting with the choices taken, before and after the strip plan: low, usual, high. */
  minutes: Minutes;
  price: number;
}

/** A lead that does not reach is known before the dash is open; so is one whose way nobody has measured. */
function leadLines(leads: readonly LeadLine[]): NeedLine[] {
  const part = (say: string, why: string): NeedLine => ({ kind: "part", say, why, minutes: 0, price: 0 });
  const short = leads.flatMap(({ name, check }) =>
    check?.verdict === "short"
      ? [part(`Extension for ${lowerFirst(name)}`, `${check.say} Its price is not in this offer.`)]
      : [],
  );
  const noWay = leads.filter((l) => l.problem);
  const unknown = leads.filter((l) => l.check?.verdict === "unknown");
  const named = (list: readonly LeadLine[]) => list.map((l) => lowerFirst(l.name)).join(", ");
  return [
    ...short,
    ...(noWay.length > 0
      ? [part(`Length not known: ${named(noWay)}`, `${noWay[0]?.problem} Measure with a tape before ordering.`)]
      : []),
    ...unknown.map((l) => part(`Length not known: ${lowerFirst(l.name)}`, l.check?.say ?? "")),
  ];
}

/** What the kit asks for by its name already, a wedge or a driver, is not laid ready twice. */
export function toolLines(tools: readonly string[], lines: readonly NeedLine[]): NeedLine[] {
  const named = lines.filter((l) => l.kind === "tool").map((l) => l.say.toLowerCase());
  const rest = tools.filter((t) => !named.some((n) => n.startsWith(t.toLowerCase())));
  if (rest.length === 0) return [];
  const why = "To open this car and close it again.";
  return [{ kind: "tool", say: upperFirst(rest.join(", ")), why, minutes: 0, price: 0 }];
}

const MEANS_SAY: Record<SettingMeans, string> = {
  coding: "Coded word",
  gateway: "Gateway list",
  menu: "Menu",
  programmingPlug: "Programming plug",
  firmware: "Firmware",
  contacts: "Contacts",
  programming: "Loaded before the visit",
};

/** What the needs of a kit are computed from. */
export interface NeedsInput {
  car: CarProfile;
  variant: VariantProfile;
  kit: KitProfile;
  stock: System;
  fitted: System;
  choices: Choices;
  /** Version found on the car; empty when it is not known yet. */
  firmware: string;
  /** Place by part, where the technician has put it elsewhere than the kit says. */
  placed?: ReadonlyMap<string, string>;
}

/**
 * The needs of a kit on a car: parts, material, tools, wires, drilling, licences, settings to make, and the update
 * path when the radio's firmware is below the floor, an extension where a lead does not reach, a way to be measured. Ties and tape are
 * counted from the ways of the leads, where the car says how long they are.
 */
export function needsOf(input: NeedsInput): Needs {
  const { car, variant, kit, stock, fitted, choices, firmware, placed } = input;
  const chosen = resolveChoices(kit, choices);
  const applies = conditionTest(car, stock, chosen);
  const { leads, material } = lengthsOf(car, kit, fitted, applies, placed ?? new Map());
  const counted = (n: KitNeed) => n.kind === "material" && material.some((m) => namesMaterial(n.say, m.what));
  const lines: NeedLine[] = [
    ...kit.needs
      .filter(applies)
      .filter((n) => !counted(n))
      .map((n: KitNeed) => ({
        kind: n.kind,
        say: n.say,
        ...(n.why ? { why: n.why } : {}),
        minutes: n.minutes ?? 0,
        price: n.price ?? 0,
      })),
    ...leadLines(leads),
    ...stepsOfKit(kit, stock, applies).kept.map((s) => ({
      kind: "person" as const,
      say: `Not done: ${lowerFirst(s.title)}`,
      why: `${describePort(stock, s.frees ?? "")} is needed: something plugs into it. Find the leads another way.`,
      minutes: 0,
      price: 0,
    })),
    ...material.map((m) => ({
      kind: "material" as const,
      say: `${m.what}, ${materialAmount(m)}`,
      minutes: 0,
      price: 0,
    })),
    ...kit.firmwareFloors.filter(applies).flatMap((f) => firmwareLines(variant, firmware, f.atLeast, f.why)),
    ...[...kit.sets.filter(applies), ...firmwareOfKit({ car, variant, kit }, stock, choices, firmware).cures]
      .filter((s) => s.means !== "firmware")
      .map((s) => ({
        kind: "coding" as const,
        say: `${MEANS_SAY[s.means]}: ${s.say}`,
        minutes: s.minutes,
        price: 0,
      })),
  ];
  const options = kit.choices.flatMap((c) => c.options.filter((o) => o.id === chosen[c.id]));
  const extra = sum(lines.map((l) => l.minutes)) + sum(options.map((o) => o.minutes ?? 0));
  return {
    lines,
    minutes: {
      low: Math.max(0, kit.fitMinutes.low + extra),
      likely: Math.max(0, kit.fitMinutes.likely + extra),
      high: Math.max(0, kit.fitMinutes.high + extra),
    },
    price: kit.price + sum(lines.map((l) => l.price)) + sum(options.map((o) => o.price ?? 0)),
  };
}

function firmwareLines(variant: VariantProfile, firmware: string, floor: string, why: string): NeedLine[] {
  const none = { kind: "firmware" as const, minutes: 0, price: 0, why };
  if (firmware === "")
    return [
      { ...none, say: `Firmware ${floor} or newer. Read the version screen before ordering: it is not known yet` },
    ];
  const path = updatePath(variant.firmware?.updates ?? [], firmware, floor);
  if (!path)
    return [
      { ...none, blocked: true, say: `Firmware ${floor} or newer; no allowed update leads there from ${firmware}` },
    ];
  return path.steps.map((u) => {
    const effects = sideEffectsOf(variant, u);
    return {
      ...none,
      say: `Firmware ${u.from} → ${u.to}: ${mediumWords(u)}`,
      ...(effects.length > 0 ? { why: `Side effect: ${effects.join("; ")}` } : {}),
      minutes: u.minutes,
    };
  });
}

function sum(numbers: readonly number[]): number {
  return numbers.reduce((a, b) => a + b, 0);
}
