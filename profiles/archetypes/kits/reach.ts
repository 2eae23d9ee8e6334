import type { KitProfile } from "../../../core/model/profile";

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
  const own: Place[] = module ? [{ place: "glovebox space", why: `${module.name} lies there in moving air` }] : [];
  const chosen = kit.choices.flatMap((c) =>
    c.options.flatMap((o) =>
      (BY_CHOICE[c.id]?.[o.id] ?? []).map((p): Place => ({ ...p, when: { choice: c.id, is: [o.id] } })),
    ),
  );
  return [...own, ...chosen];
}
