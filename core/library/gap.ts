/** What a document leaves open, with what is to be entered. */
import type { Model } from "../model/outcome";
import type { Part } from "../model/types";

export interface Gap {
  kind: "function" | "fault" | "place" | "lead" | "setting" | "drawing" | "plug" | "inspection";
  say: string;
  /** What to enter. */
  remedy: string;
  /** Field of the document in which it is mended. */
  field: string;
}

/** Devices with several sockets whose places are not drawn: they are shown in the order of the document. */
export function missingBacks(parts: readonly Part[]): Gap[] {
  return parts.flatMap((p): Gap[] =>
    p.type === "device" && !p.back && p.ports.filter((port) => port.connector).length > 1
      ? [
          {
            kind: "drawing",
            say: `${p.name}: where its sockets are is not drawn.`,
            remedy: "Enter its back: width, height and the middle of each socket.",
            field: "parts",
          },
        ]
      : [],
  );
}

/** Inspections at a place that is not there, and measurements where nothing stands on a sound car. */
export function idleInspections(sound: Model): Gap[] {
  const { system, compiled } = sound;
  return (system.inspections ?? []).flatMap(({ title, kind, at, situation }): Gap[] => {
    const isContact = at.split(".").length === 3;
    const gap = (say: string, remedy: string): Gap[] => [{ kind: "inspection", say, remedy, field: "inspections" }];
    const isThere = isContact
      ? compiled.indexOf.has(at)
      : kind === "look"
        ? system.links.some((l) => l.id === at)
        : system.parts.some((p) => p.id === at);
    if (!isThere)
      return gap(
        `“${title}” names a place that this car does not have (${at}).`,
        "Enter the place as the document calls it.",
      );
    if (isContact && !sound.carries(at, situation))
      return gap(
        `“${title}” tells nothing: in this state of the car nothing stands there when everything is right.`,
        "Enter the state in which it is measured, or another contact.",
      );
    return [];
  });
}
