/** Rules about where things lie: antenna, warm module, airbags, the end that the customer uses. */

import { movable, type Placement, placement } from "../../lengths/placement";
import { findRun, nearestPlace } from "../../lengths/run";
import type { CarPlace } from "../../model/profile";
import type { Part, Port, System } from "../../model/types";
import { isCarried } from "../carried";
import type { CheckContext } from "./context";
import type { Finding, RuleId } from "./finding";

/** What depends on where the parts of the kit lie. */
export const PLACE_RULES: ReadonlySet<RuleId> = new Set([
  "antenna-on-metal",
  "vents-covered",
  "too-hot",
  "usb-unreachable",
  "airbag-zone",
]);

export function placeFindings(context: CheckContext): Finding[] {
  const { car, kit, applies, placed, system } = context;
  const placing = placement(kit, applies, placed);
  return [
    ...movable(system, placing).flatMap((part) => badPlace(context, placing, part)),
    ...placing.leads.flatMap((lead): Finding[] => {
      const part = system.parts.find((p) => p.id === lead.part);
      return part && car.runs ? airbagFindings(car.runs, lead, part) : [];
    }),
  ];
}

interface PlaceRule {
  rule: RuleId;
  concerns(part: Part, system: System): boolean;
  bad(place: CarPlace): boolean;
  text: string;
  remedy: string;
}

const RULES: readonly PlaceRule[] = [
  {
    rule: "antenna-on-metal",
    concerns: (part) => part.ports.some((p) => p.contacts.some((c) => c.kind === "wireless" && c.direction === "in")),
    bad: (place) => place.surface === "metal",
    text: "The antenna lies on metal: the wireless link is weak and breaks off.",
    remedy: "On plastic, a hand's breadth from metal, not behind the module.",
  },
  {
    rule: "vents-covered",
    concerns: isBox,
    bad: (place) => !place.airy && !place.hot,
    text: "No air moves there and the module gets hot. Its vents are never covered, with foam or by what lies on it.",
    remedy: "Place it where air moves, vents free on every side.",
  },
  {
    rule: "too-hot",
    concerns: isBox,
    bad: (place) => place.hot ?? false,
    text: "It is hot there.",
    remedy: "Electronics stay inside of the bulkhead.",
  },
  {
    rule: "usb-unreachable",
    concerns: (part, system) =>
      part.type === "lead" &&
      part.ports.some((p) => p.contacts.some((c) => c.kind === "usb") && isForHands(system, part, p)),
    bad: (place) => !place.byHand,
    text: "With the panels closed nobody reaches the end of the USB lead: no wired use, no charging, no update.",
    remedy: "Lead it to a hidden place that a hand reaches.",
  },
];

/** An end that stays for a person: nothing is plugged there, or the phone is. */
function isForHands(system: System, part: Part, port: Port): boolean {
  const here = `${part.id}.${port.id}`;
  const others = system.links.flatMap((l) => (l.a === here ? [l.b] : l.b === here ? [l.a] : []));
  return others.every(isCarried);
}

/** A box of the kit that takes a feed and gets warm. */
function isBox(part: Part, system: System): boolean {
  return part.type === "device" && system.parts.includes(part) && part.lamp !== undefined;
}

function badPlace({ car, system }: CheckContext, placing: Placement, part: Part): Finding[] {
  const here = car.places?.find((p) => p.name === placing.places.get(part.id));
  if (!here) return [];
  return RULES.filter((r) => r.concerns(part, system) && r.bad(here)).map((r): Finding => {
    const better = nearest(car, placing, part, (p) => RULES.every((x) => !x.concerns(part, system) || !x.bad(p)));
    return {
      rule: r.rule,
      level: "watch",
      where: `${part.name}, ${here.name}`,
      text: r.text,
      remedy: better ? `${r.remedy} The nearest: ${better}.` : r.remedy,
      ...(better
        ? {
            fix: {
              say: `It lies at the ${better}`,
              press: [{ kind: "connect.place" as const, data: { part: part.id, place: better } }],
            },
          }
        : {}),
    };
  });
}

/** The nearest good place by the way of the part's own lead. */
function nearest(
  car: CheckContext["car"],
  { places, leads }: Placement,
  part: Part,
  good: (place: CarPlace) => boolean,
): string | null {
  const from = leads.find((l) => l.part === part.id)?.from ?? places.get(part.id);
  if (!from) return null;
  return nearestPlace(car, from, good)?.place ?? null;
}

/** A lead whose direct way crosses an airbag: it goes behind, or there is no way for it yet. */
function airbagFindings(
  runs: NonNullable<CheckContext["car"]["runs"]>,
  lead: Placement["leads"][number],
  part: Part,
): Finding[] {
  const heedless = runs.map((r) => (r.zone === "airbag" ? { ...r, zone: undefined } : r));
  const direct = findRun(heedless, lead);
  const crossed = direct?.segments.find((s) => runs.some((r) => r.id === s.id && r.zone === "airbag"));
  if (!crossed) return [];
  const allowed = findRun(runs, lead);
  const around = allowed?.segments.find((s) => !direct?.segments.some((d) => d.id === s.id));
  const where = `${part.name}, ${crossed.from} – ${crossed.to}`;
  return [
    allowed
      ? {
          rule: "airbag-zone",
          level: "note",
          where,
          text: "The direct way crosses an airbag.",
          remedy: `It goes ${around?.say ?? `by ${around?.from} – ${around?.to}`}, ${(allowed.lengthM - (direct?.lengthM ?? 0)).toFixed(2)} m longer. Battery isolated and the maker's waiting time over before the trim comes off.`,
        }
      : {
          rule: "airbag-zone",
          level: "stop",
          where,
          text: "The only way that is known crosses an airbag.",
          remedy:
            "Never in front of an airbag. Choose another place for this part, or enter the way behind it in the car.",
          damages: "the airbag throws the lead at whoever sits there",
        },
  ];
}
