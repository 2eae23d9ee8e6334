/**
 * How a phone meets a module for the first time. The order of cable and wireless, from where a phone is added, PIN and
 * priority are in the document of the kit; whether the pairing with the car stays follows from the sound path. What to
 * do when something else is seen is common practice.
 */
import { SOURCE_NAMES } from "../model/labels";
import type { Situation } from "../model/types";
import { type PairingTrouble, TROUBLES } from "./pairing-troubles";

/** Phones that are added in the same way. */
export interface PhoneFamily {
  id: string;
  name: string;
  /** Where the phone is added: in a menu of the module, or in the Bluetooth list of the phone. */
  addedFrom: "module" | "phone";
  /** The way to that menu, where the leaflet says it. */
  where?: string;
}

/** What the leaflet of a kit says about phones. */
export interface PairingRules {
  /** What the phone gives: its picture on the screen, or calls and nothing else. */
  gives: "mirroring" | "calls";
  /** How it must first meet the module, or the choice of the kit that decides it by options of these names. */
  first: "wireless" | "cable" | { choice: string };
  families: PhoneFamily[];
  /** Name of the module in the list of the phone. */
  shownAs?: string;
  /** `compare`: both show the same number; digits: the PIN that the phone asks for. */
  pin?: string;
  /** `part.setting` that stands as it is to once the PIN was accepted. */
  setting?: string;
  /** It asks which phone comes first where two are near. */
  asksPriority?: boolean;
}

/** What the choices of a job make of the rules. */
export interface PairingWay {
  first: "wireless" | "cable";
  /** What becomes of the phone's pairing with the car; null where no choice speaks of it. */
  carPairing: "kept" | "removed" | null;
  /** Source of the radio for the phone's sound; null where none has to be chosen. */
  source: Situation["source"] | null;
}

export const PAIRING_STEPS = [
  "carKept",
  "carRemoved",
  "fresh",
  "cable",
  "add",
  "pin",
  "allow",
  "session",
  "priority",
  "sound",
  "call",
] as const;

export type PairingStepId = (typeof PAIRING_STEPS)[number];

export interface PairingStep {
  id: PairingStepId;
  title: string;
  detail: string;
  /** What is seen when it went well. */
  seen: string;
  /** What can be seen instead. */
  troubles: PairingTrouble[];
}

/** Steps of a first pairing, in order. @param family null for a phone of which the leaflet says nothing */
export function pairingSteps(rules: PairingRules, way: PairingWay, family: PhoneFamily | null): PairingStep[] {
  const mirrors = rules.gives === "mirroring";
  const steps: (PairingStep | false)[] = [
    way.carPairing === "kept" && {
      id: "carKept",
      title: "Pair the phone with the car's own hands-free",
      detail: "The sound runs over it; the pairing stays.",
      seen: "Paired with the car",
      troubles: ["notListed"],
    },
    way.carPairing === "removed" && {
      id: "carRemoved",
      title: "Remove the phone's pairing with the car",
      detail: "In the menu of the car and in the list of the phone. Calls run through the module afterwards.",
      seen: "Removed on both sides, or never there",
      troubles: [],
    },
    mirrors &&
      way.first === "wireless" && {
        id: "fresh",
        title: "Was this phone ever on the cable of such a module?",
        detail: "No cable before the wireless picture has come, not even to charge.",
        seen: "Never",
        troubles: ["wasOnCable"],
      },
    mirrors &&
      way.first === "cable" && {
        id: "cable",
        title: "Phone on the cable of the module, allow mirroring",
        detail: "A data cable. When the phone picture is there, pull the cable out.",
        seen: "The picture came; cable out again",
        troubles: ["chargesOnly"],
      },
    addStep(rules, family),
    rules.pin !== undefined && {
      id: "pin",
      title: rules.pin === "compare" ? "Compare the numbers" : `PIN ${rules.pin}`,
      detail:
        rules.pin === "compare"
          ? "Phone and module show the same number; confirm on both."
          : "The phone asks for the PIN of the module.",
      seen: "Accepted",
      troubles: ["pinRefused"],
    },
    mirrors && {
      id: "allow",
      title: "Allow mirroring on the phone",
      detail: "The phone asks once; contacts and messages are the owner's decision.",
      seen: "Allowed",
      troubles: ["notOffered"],
    },
    mirrors && {
      id: "session",
      title: "Phone picture by wireless",
      detail: "Without a cable. The first time it can take half a minute.",
      seen: "The picture is there",
      troubles: ["noWireless"],
    },
    rules.asksPriority === true && {
      id: "priority",
      title: "Which phone comes first?",
      detail: "Ask where two people use the car; choose it in the module's menu.",
      seen: "Chosen",
      troubles: [],
    },
    mirrors && {
      id: "sound",
      title: way.source ? `Choose ${SOURCE_NAMES[way.source] ?? way.source} on the radio, play music` : "Play music",
      detail: "Heard from the car's loudspeakers.",
      seen: "Heard",
      troubles: ["silent"],
    },
    {
      id: "call",
      title: "Make a call",
      detail:
        way.carPairing === "kept"
          ? "Over the car's own hands-free and its microphone."
          : way.carPairing === "removed" || !mirrors
            ? "Through the module and its microphone."
            : "Both sides hear each other.",
      seen: "Both hear each other",
      troubles: ["notHeard"],
    },
  ];
  return steps.filter((s) => s !== false);
}

function addStep({ shownAs }: PairingRules, family: PhoneFamily | null): PairingStep {
  const name = shownAs ? `“${shownAs}”` : "the module";
  const at = family?.where ? ` ${family.where}.` : "";
  const head = { id: "add" as const, seen: "Added", troubles: ["notListed" as const] };
  if (family?.addedFrom === "module")
    return { ...head, title: "Add the phone on the module's screen", detail: `Not in the phone's list.${at}` };
  if (family?.addedFrom === "phone")
    return {
      ...head,
      title: `Choose ${name} in the phone's Bluetooth list`,
      detail: `Not on the module's screen.${at}`,
    };
  return {
    ...head,
    title: "Add the phone",
    detail: `The leaflet says nothing about such phones: try the module's screen, then ${name} in the phone's Bluetooth list.`,
  };
}

/** What was done with a phone, or seen. */
export type PairingAct =
  | { act: "begin"; family: string | null }
  | { act: "seen"; step: PairingStepId }
  | { act: "trouble"; step: PairingStepId; trouble: PairingTrouble }
  /** What the trouble asked for was done. */
  | { act: "again" }
  /** It is not paired here after all. */
  | { act: "dropped" };

/** Where the first pairing of a phone stands. */
export interface PairingState {
  phone: string;
  family: PhoneFamily | null;
  steps: (PairingStep & { done: boolean })[];
  /** The step in hand; null when all were seen. */
  step: PairingStep | null;
  /** What is seen instead, while nothing was done about it. */
  trouble: PairingTrouble | null;
  /** Troubles that were met on the way. */
  met: PairingTrouble[];
}

/**
 * The phones of a job as their acts leave them, in the order in which they were begun; dropped ones left out. Steps are
 * those of the rules and choices as they are now: a step that a changed choice adds is open.
 */
export function pairings(
  rules: PairingRules,
  way: PairingWay,
  acts: readonly ({ phone: string } & PairingAct)[],
): PairingState[] {
  const phones = new Map<
    string,
    { family: string | null; done: Set<PairingStepId>; at: PairingStepId } & Pick<PairingState, "trouble" | "met">
  >();
  for (const a of acts) {
    if (a.act === "begin")
      phones.set(a.phone, { family: a.family, done: new Set(), at: "add", trouble: null, met: [] });
    const phone = phones.get(a.phone);
    if (a.act === "dropped") phones.delete(a.phone);
    if (!phone) continue;
    if (a.act === "seen") phone.done.add(a.step);
    if (a.act === "trouble") {
      phone.trouble = a.trouble;
      phone.at = a.step;
      phone.met.push(a.trouble);
    }
    if (a.act === "again" && phone.trouble) {
      const back = PAIRING_STEPS.indexOf(TROUBLES[phone.trouble].backTo ?? phone.at);
      // A phone that was restarted and forgot the module is as if it had never been on the cable.
      if (phone.trouble === "wasOnCable") phone.done.add("fresh");
      for (const s of PAIRING_STEPS.slice(back)) phone.done.delete(s);
      phone.trouble = null;
    }
  }
  return [...phones].map(([phone, { family: id, done, trouble, met }]) => {
    const family = rules.families.find((f) => f.id === id) ?? null;
    const steps = pairingSteps(rules, way, family).map((s) => ({ ...s, done: done.has(s.id) }));
    return { phone, family, steps, step: steps.find((s) => !s.done) ?? null, trouble, met };
  });
}

/** First pairing for the customer's card, a line for each family. @param only families that were paired here; all when empty */
export function pairingLines(rules: PairingRules, way: PairingWay, only: ReadonlySet<string>): string[] {
  const families = rules.families.filter((f) => only.size === 0 || only.has(f.id));
  const asked = families.length > 0 ? families : [null];
  const car: Partial<Record<string, string>> = {
    kept: "The phone stays paired with the car: its sound runs over it.",
    removed: "The phone is not paired with the car: calls run through the module while it is connected.",
  };
  return [
    ...asked.map((f) => {
      const told = pairingSteps(rules, way, f)
        .filter((s) => ["cable", "add", "pin", "allow"].includes(s.id))
        .map((s) => s.title);
      return `First pairing${f ? `, ${f.name}` : ""}: ${told.join("; ")}.`;
    }),
    ...(rules.gives === "mirroring" && way.first === "wireless"
      ? [
          "No cable before: a phone that met the module by cable may refuse wireless. Then forget the module in the phone, restart it, pair again.",
        ]
      : []),
    ...(way.carPairing ? [car[way.carPairing] ?? ""] : []),
  ];
}
