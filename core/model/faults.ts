import { NEVER } from "../bus/translation/told";
import { describePort } from "./labels";
import { mates } from "./mating";
import type { SwitchBank } from "./profile";
import type { AssumedState, Disturbance, Link, Part, Port, Setting, System } from "./types";

/** One thing that can be wrong, as a change of the system. */
export interface Fault {
  id: string;
  kind: "leadOpen" | "notPlugged" | "exchanged" | "reversed" | "dead" | "setting" | "assumed";
  title: string;
  cause: string;
  remedy: string;
  /** Parts and links it concerns; checks look at these. */
  parts: string[];
  links: string[];
  /** Normal behaviour that only looks like a fault. */
  normal: boolean;
  /** Relative frequency before anything was tried. Our assumption, not measured. */
  weight: number;
  disturbance: Disturbance;
}

/**
 * Relative frequencies before any result. Assumed from the order in which domain experience ranks mistakes
 * (connections before settings before broken parts); no published source. Only their ratios matter.
 */
const WEIGHTS = {
  notPlugged: 8,
  untouchedPlug: 0.3,
  exchanged: 6,
  reversed: 6,
  setting: 5,
  leadOpen: 3,
  deadKit: 1.5,
  deadCar: 0.2,
} as const;

/** What a job changes on the car; the faults of what nobody touched weigh little. */
export interface Touched {
  /** Identifiers of the parts that the kit brings. */
  parts: ReadonlySet<string>;
  /** Identifiers of the links that were made or opened. */
  links: ReadonlySet<string>;
  bank?: SwitchBank;
  /** Values of the settings as they should stand, by `part.setting`. */
  planned: Readonly<Record<string, string>>;
}

/**
 * All single faults of a system: every lead open (whole and by conductor), every plug not home, every two mateable
 * plugs exchanged, every reversible plug reversed, every device dead, every switch of the bank at its other value,
 * every assumed state of the profiles. The car's own loom is taken as sound.
 */
export function singleFaults(system: System, touched: Touched): Fault[] {
  return [
    ...system.parts.flatMap(leadFaults),
    ...system.links.filter((l) => !l.air).flatMap((l) => plugFaults(system, l, touched)),
    ...exchangeFaults(system),
    ...system.parts.filter((p) => p.type === "device").map((p) => deadFault(p, touched.parts)),
    ...settingFaults(system, touched),
    ...system.assumed.map(assumedFault),
  ];
}

function leadFaults(part: Part): Fault[] {
  if (part.type !== "lead") return [];
  const joins = part.joins ?? [];
  const whole: Fault = {
    id: `open:${part.id}`,
    kind: "leadOpen",
    title: `${part.name} is open`,
    cause: "The lead is broken or a crimp has no contact.",
    remedy: `Replace or repair ${part.name}.`,
    parts: [part.id],
    links: [],
    normal: false,
    weight: WEIGHTS.leadOpen,
    // A lead whose conductors go by a setting has no plain joins; open, it passes nothing on.
    disturbance:
      joins.length > 0
        ? { openJoins: { [part.id]: `${part.name} is open.` } }
        : { deadParts: { [part.id]: `${part.name} is open.` } },
  };
  if (joins.length < 2) return [whole];
  const single = joins.map((join, i): Fault => {
    const [contact] = join.contacts;
    return {
      ...whole,
      id: `open:${part.id}/${i}`,
      title: `${part.name}: conductor at ${contact} is open`,
      cause: "One conductor is broken or its contact is pushed back in the housing.",
      remedy: `Repair the conductor at ${contact} of ${part.name}.`,
      weight: WEIGHTS.leadOpen / joins.length,
      disturbance: { openJoins: { [`${part.id}/${i}`]: `${part.name}: the conductor at ${contact} is open.` } },
    };
  });
  return [whole, ...single];
}

function plugFaults(system: System, link: Link, touched: Touched): Fault[] {
  const ends = `${describePort(system, link.a)} – ${describePort(system, link.b)}`;
  const partsOf = [link.a, link.b].map((p) => p.split(".")[0] as string);
  const faults: Fault[] = [
    {
      id: `loose:${link.id}`,
      kind: "notPlugged",
      title: `Plug not home: ${ends}`,
      cause: "The plug is not pushed in until it clicks, or was pulled out when a panel went back.",
      remedy: `Plug in ${ends} until it clicks.`,
      parts: partsOf,
      links: [link.id],
      normal: false,
      weight: touched.links.has(link.id) ? WEIGHTS.notPlugged : WEIGHTS.untouchedPlug,
      disturbance: { openLinks: { [link.id]: `${ends} is not plugged.` } },
    },
  ];
  const port = findPort(system, link.a);
  if (port?.connector?.reversible) {
    faults.push({
      ...(faults[0] as Fault),
      id: `reversed:${link.id}`,
      kind: "reversed",
      title: `Inserted the wrong way round: ${ends}`,
      cause: "This connector accepts the plug both ways round.",
      remedy: `Turn the plug of ${ends} over.`,
      weight: WEIGHTS.reversed,
      disturbance: { reversedLinks: [link.id] },
    });
  }
  return faults;
}

function exchangeFaults(system: System): Fault[] {
  const links = system.links.filter((l) => !l.air);
  const faults: Fault[] = [];
  for (const [i, one] of links.entries()) {
    for (const two of links.slice(i + 1)) {
      if (!exchangeable(system, one, two)) continue;
      faults.push(exchangeFault(system, one, two));
    }
  }
  return faults;
}

/** Two connections can be exchanged when they sit on one part and each lead end also mates with the other's place. */
export function exchangeable(system: System, one: Link, two: Link): boolean {
  const [a1, b1, a2, b2] = [one.a, one.b, two.a, two.b].map((p) => findPort(system, p));
  if (!a1 || !b1 || !a2 || !b2) return false;
  const samePart = one.b.split(".")[0] === two.b.split(".")[0];
  return samePart && mates(a1, b2) === null && mates(a2, b1) === null && one.a.split(".")[0] !== two.a.split(".")[0];
}

function exchangeFault(system: System, one: Link, two: Link): Fault {
  const [x, y] = [describePort(system, one.b), describePort(system, two.b)];
  return {
    id: `exchanged:${one.id}+${two.id}`,
    kind: "exchanged",
    title: `Exchanged: ${x} and ${y}`,
    cause: "The two plugs fit in each other's place.",
    remedy: `Exchange the plugs at ${x} and ${y}.`,
    parts: [one, two].flatMap((l) => [l.a, l.b]).map((p) => p.split(".")[0] as string),
    links: [one.id, two.id],
    normal: false,
    weight: WEIGHTS.exchanged,
    disturbance: { exchangedLinks: [[one.id, two.id]] },
  };
}

function deadFault(part: Part, kitParts: ReadonlySet<string>): Fault {
  return {
    id: `dead:${part.id}`,
    kind: "dead",
    title: `${part.name} is dead`,
    cause: "The part has its supply and does nothing.",
    remedy: `Replace ${part.name}, or try it on another car first.`,
    parts: [part.id],
    links: [],
    normal: false,
    weight: kitParts.has(part.id) ? WEIGHTS.deadKit : WEIGHTS.deadCar,
    disturbance: { deadParts: { [part.id]: `${part.name} does nothing though it has its supply.` } },
  };
}

/** Every setting of the kit's parts at each of its other values. */
function settingFaults(system: System, touched: Touched): Fault[] {
  return system.parts
    .filter((p) => touched.parts.has(p.id))
    .flatMap((part) =>
      (part.settings ?? []).flatMap((setting) => {
        if (setting.follows === "messages") return [messageFault(part, setting)];
        const should = touched.planned[`${part.id}.${setting.id}`] ?? setting.initial;
        return setting.values
          .filter((v) => v !== should)
          .map((value) => settingFault(part, setting, should, value, touched.bank));
      }),
    );
}

function settingFault(
  part: Part,
  setting: Setting,
  should: string,
  value: string,
  bank: SwitchBank | undefined,
): Fault {
  const number = bank?.part === part.id ? bank.switches.indexOf(setting.id) + 1 : 0;
  const name = number > 0 ? `Switch ${number}` : setting.label;
  return {
    id: `setting:${part.id}.${setting.id}=${value}`,
    kind: "setting",
    title: `${name} stands ${value}, not ${should}`,
    cause:
      number > 0
        ? "It was set wrongly, or changed while the module had power."
        : `${part.name} is set or placed differently from the plan.`,
    remedy:
      number > 0
        ? `Unplug the module, set switch ${number} to ${should}, plug it in again.`
        : `Change ${setting.label.toLowerCase()} to ${should}.`,
    parts: [part.id],
    links: [],
    normal: false,
    weight: WEIGHTS.setting / (number > 0 ? (bank?.switches.length ?? 1) : 1),
    disturbance: { settings: { [`${part.id}.${setting.id}`]: value } },
  };
}

/**
 * The data in a module do not know a message of the car. That they take something as given at all times is left to the
 * proof of the translation: hardly any test would show it.
 */
function messageFault(part: Part, setting: Setting): Fault {
  const ref = `${part.id}.${setting.id}`;
  const others = (part.settings ?? []).filter((s) => s.follows === "messages").length;
  return {
    id: `setting:${ref}=${NEVER}`,
    kind: "setting",
    title: `${part.name} does not understand the car: ${setting.label}`,
    cause: "The data in it are for another car or version, or its translation has no rule for this.",
    remedy: `Load the data of just this car, or mend the translation: ${setting.label}.`,
    parts: [part.id],
    links: [],
    normal: false,
    weight: WEIGHTS.setting / others,
    disturbance: { settings: { [ref]: NEVER } },
  };
}

function assumedFault(assumed: AssumedState): Fault {
  return {
    id: `state:${assumed.id}`,
    kind: "assumed",
    title: assumed.title,
    cause: assumed.cause,
    remedy: assumed.remedy,
    parts: [],
    links: [],
    normal: assumed.normal,
    weight: assumed.weight,
    disturbance: { assumed: [assumed] },
  };
}

/** Finds a port by `part.port`. */
export function findPort(system: System, ref: string): Port | undefined {
  const [partId, portId] = ref.split(".");
  return system.parts.find((p) => p.id === partId)?.ports.find((p) => p.id === portId);
}
