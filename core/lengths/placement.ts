import type { CarProfile, KitLead, KitProfile } from "../model/profile";
import type { Part, Settings, System } from "../model/types";

/** Where the parts of a kit lie in the car. */
export interface Placement {
  /** Place of each part that has one. */
  places: ReadonlyMap<string, string>;
  leads: KitLead[];
}

/**
 * Places and leads of a kit: as its profile says, or where the technician put a part. A lead that starts at a moved
 * part starts at its new place.
 *
 * @param applies which conditions of the kit hold on this job
 * @param moved place by part
 */
export function placement(
  kit: KitProfile,
  applies: (item: Pick<KitLead, "when">) => boolean,
  moved: ReadonlyMap<string, string>,
): Placement {
  const places = new Map<string, string>();
  const renamed = new Map<string, string>();
  for (const { holds, place } of (kit.reach ?? []).filter(applies)) {
    if (!holds) continue;
    const now = moved.get(holds) ?? place;
    places.set(holds, now);
    renamed.set(place, now);
  }
  const at = (place: string) => renamed.get(place) ?? place;
  const leads = (kit.leads ?? []).filter(applies).map((lead) => {
    const to = moved.get(lead.part) ?? at(lead.to);
    places.set(lead.part, to);
    return { ...lead, from: at(lead.from), to };
  });
  return { places, leads };
}

/** Parts of a kit that can lie elsewhere: boxes, microphones, antennas, cameras, and the free end of a USB lead. */
export function movable(system: System, { places }: Placement): Part[] {
  return system.parts.filter(
    (p) =>
      places.has(p.id) && (p.type === "device" || p.ports.some((port) => port.contacts.some((c) => c.kind === "usb"))),
  );
}

/** Settings that follow from where a part lies: the first value on plastic, the second on metal. */
export function settingsByPlace(car: CarProfile, system: System, { places }: Placement): Settings {
  const settings: Record<string, string> = {};
  for (const part of system.parts) {
    const place = car.places?.find((p) => p.name === places.get(part.id));
    if (!place) continue;
    for (const s of part.settings ?? [])
      if (s.follows === "surface")
        settings[`${part.id}.${s.id}`] = s.values[place.surface === "metal" ? 1 : 0] ?? s.initial;
  }
  return settings;
}
