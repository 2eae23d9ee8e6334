import type { KitLead, KitProfile } from "../../../core/model/profile";

type Place = NonNullable<KitProfile["reach"]>[number];

/** Where the trade puts module, microphone, feed and cameras; common practice. */
const BY_CHOICE: Record<string, Record<string, Omit<Place, "when">[]>> = {
  micPlace: {
    headlining: [{ place: "headlining edge", why: "The microphone sits beside the factory one" }],
    pillar: [{ place: "A-pillar", why: "The microphone sits at its top" }],
    column: [{ place: "column shroud", why: "The microphone sits on it" }],
    vent: [{ place: "vent space", why: "The microphone sits behind a vent" }],
    mirror: [
      { place: "windscreen", why: "The microphone sits at the foot of the mirror" },
      { place: "headlining edge", why: "Its lead goes up behind it" },
    ],
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

/** Where a module usually lies. */
const MODULE_PLACE = "glovebox space";

/** Where a board sits that is fitted inside a unit of the car, as the ends of leads are named. Common practice. */
const INSIDE = { radio: "radio shaft", screen: "vent space" } as const;

/**
 * Places that a kit asks to be reached, from its module and its choices.
 *
 * @param inside whether its module sits inside a unit of the car and needs no place of its own
 */
export function usualReach(kit: KitProfile, inside: boolean): Place[] {
  const module = kit.parts.find((p) => p.type === "device" && p.id === "module");
  const own: Place[] =
    module && !inside
      ? [{ place: MODULE_PLACE, why: `${module.name} lies there in moving air`, holds: module.id }]
      : [];
  const chosen = kit.choices.flatMap((c) =>
    c.options.flatMap((o) =>
      (BY_CHOICE[c.id]?.[o.id] ?? []).map((p): Place => ({ ...p, when: { choice: c.id, is: [o.id] } })),
    ),
  );
  return [...own, ...chosen];
}

/** Stands for the place of the module in the list below. */
const MODULE = "module";
/** Where the leads of a module usually run, by the names of their parts. */
const BY_PART: Record<string, Omit<KitLead, "part" | "when">> = {
  videoInLead: { from: "radio shaft", to: MODULE },
  videoOutLead: { from: MODULE, to: "radio shaft" },
  audioLead: { from: "radio shaft", to: MODULE },
  kitAntenna: { from: MODULE, to: "vent space" },
  usbLead: { from: MODULE, to: "console space" },
  digitalLead: { from: MODULE, to: "radio shaft" },
  pictureLead: { from: "radio shaft", to: MODULE },
  reverseWire: { from: MODULE, to: "tailgate", service: ["sill"] },
  powerLead: { from: MODULE, to: "console space" },
  micBranch: { from: MODULE, to: "headlining edge" },
  micPair: { from: MODULE, to: "console space" },
  usbCable: { from: "radio shaft", to: "console space" },
  displayLead: { from: "radio shaft", to: "vent space" },
  feedLead: { from: MODULE, to: "fuse panel" },
  frontCamera: { from: MODULE, to: "front grille" },
  rearCameraAdded: { from: MODULE, to: "tailgate", service: ["sill"] },
};
const MIC_PLACES: Record<string, string> = {
  headlining: "headlining edge",
  pillar: "A-pillar",
  column: "column shroud",
  vent: "vent space",
  mirror: "windscreen",
};

/** Shorter leads stay inside a part. */
const SHORTEST_RUN_M = 0.3;

/**
 * Runs of a kit's leads.
 *
 * @param inside the unit of the car in which its module sits; null when it lies at `MODULE_PLACE`
 */
export function usualLeads(kit: KitProfile, inside: keyof typeof INSIDE | null): KitLead[] {
  const start = inside ? INSIDE[inside] : MODULE_PLACE;
  const hasModule = kit.parts.some((p) => p.id === "module");
  const at = (place: string) => (place === MODULE ? start : place);
  const own = kit.parts.flatMap((p): KitLead[] => {
    const run = BY_PART[p.id];
    // A ribbon inside the radio runs nowhere.
    const inside = (p.lengthM ?? 1) < SHORTEST_RUN_M;
    const wants = run && [run.from, run.to].includes(MODULE) && !hasModule;
    if (!run || inside || wants || at(run.from) === at(run.to)) return [];
    return [{ part: p.id, ...run, from: at(run.from), to: at(run.to), ...(p.when ? { when: p.when } : {}) }];
  });
  const places = kit.choices.find((c) => c.id === "micPlace")?.options ?? [];
  const mic = kit.parts.some((p) => p.id === "kitMic")
    ? places.flatMap((o): KitLead[] => {
        const to = MIC_PLACES[o.id];
        return to ? [{ part: "kitMic", from: start, to, when: { choice: "micPlace", is: [o.id] } }] : [];
      })
    : [];
  return [...own, ...mic];
}
