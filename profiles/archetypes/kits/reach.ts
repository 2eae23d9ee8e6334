import type { KitLead, KitProfile } from "../../../core/model/profile";

type Place = NonNullable<KitProfile["reach"]>[number];

/** Where the trade puts module, microphone, feed and cameras; common practice. */
const BY_CHOICE: Record<string, Record<string, Omit<Place, "when">[]>> = {
  micPlace: {
    headlining: [{ place: "headlining edge", why: "The microphone sits beside the factory one" }],
    pillar: [{ place: "A-pillar", why: "The microphone sits at its top" }],
    column: [{ place: "column shroud", why: "The microphone sits on it" }],
    vent: [{ place: "vent space", why: "The microphone sits behind a vent" }],
  },
  feed: { fuse: [{ place: "fuse panel", why: "The switched feed is taken there" }] },
  frontCamera: { fitted: [{ place: "front grille", why: "The front camera sits there" }] },
  rearCameraAdded: {
    fitted: [
      { place: "tailgate", why: "The added camera sits there" },
      { place: "sill", why: "The camera lead runs along it" },
    ],
  },
};

/** Places that a kit asks to be reached, from its module and its choices. */
export function usualReach(kit: KitProfile): Place[] {
  const module = kit.parts.find((p) => p.type === "device" && p.id === "module");
  const own: Place[] = module
    ? [{ place: "glovebox space", why: `${module.name} lies there in moving air`, holds: module.id }]
    : [];
  const chosen = kit.choices.flatMap((c) =>
    c.options.flatMap((o) =>
      (BY_CHOICE[c.id]?.[o.id] ?? []).map((p): Place => ({ ...p, when: { choice: c.id, is: [o.id] } })),
    ),
  );
  return [...own, ...chosen];
}

/** Where the leads of a module in the glovebox space usually run, by the names of their parts. */
const BY_PART: Record<string, Omit<KitLead, "part" | "when">> = {
  videoInLead: { from: "radio shaft", to: "glovebox space" },
  videoOutLead: { from: "glovebox space", to: "radio shaft" },
  audioLead: { from: "radio shaft", to: "glovebox space" },
  kitAntenna: { from: "glovebox space", to: "vent space" },
  usbLead: { from: "glovebox space", to: "console space" },
  frontCamera: { from: "glovebox space", to: "front grille" },
  rearCameraAdded: { from: "glovebox space", to: "tailgate", service: ["sill"] },
};
const MIC_PLACES: Record<string, string> = {
  headlining: "headlining edge",
  pillar: "A-pillar",
  column: "column shroud",
  vent: "vent space",
};

/** Shorter leads stay inside a part. */
const SHORTEST_RUN_M = 0.3;

/** Runs of a kit's leads, for a kit with a module. */
export function usualLeads(kit: KitProfile): KitLead[] {
  if (!kit.parts.some((p) => p.id === "module")) return [];
  const own = kit.parts.flatMap((p): KitLead[] => {
    const run = BY_PART[p.id];
    // A ribbon inside the radio runs nowhere.
    const inside = (p.lengthM ?? 1) < SHORTEST_RUN_M;
    return run && !inside ? [{ part: p.id, ...run, ...(p.when ? { when: p.when } : {}) }] : [];
  });
  const places = kit.choices.find((c) => c.id === "micPlace")?.options ?? [];
  const mic = kit.parts.some((p) => p.id === "kitMic")
    ? places.flatMap((o): KitLead[] => {
        const to = MIC_PLACES[o.id];
        return to ? [{ part: "kitMic", from: "glovebox space", to, when: { choice: "micPlace", is: [o.id] } }] : [];
      })
    : [];
  return [...own, ...mic];
}
