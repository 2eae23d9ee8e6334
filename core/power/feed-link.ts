/** The feed taken at the fuse panel, as a connection of the model. */

import type { Lit } from "../log/kinds/connect/feed-test";
import type { FusePosition } from "../model/profile";
import type { KeyState, Link, System } from "../model/types";

/** Where the loom of a car offers its fuse positions; a common name of the profiles. */
const PANEL = "loom.fusePanel";
const [PART, PORT] = PANEL.split(".") as [string, string];

/** True for a connection that ends at the fuse panel. */
export function isFeedLink({ a, b }: Pick<Link, "a" | "b">): boolean {
  return a === PANEL || b === PANEL;
}

/** Key states in which a position is live: as the tester said, else as the fuse map says. */
export function liveStates(position: FusePosition, lit: Lit): KeyState[] {
  const tested: [KeyState, boolean | undefined][] = [
    ["off", lit.off],
    ["accessory", lit.accessory],
    ["on", lit.on],
    ["cranking", lit.start],
    ["running", lit.on],
  ];
  return tested.flatMap(([key, answer]) => ((answer ?? position.live.includes(key)) ? [key] : []));
}

/** The system in which the fuse panel feeds what the chosen position feeds, and nothing else. */
export function withFeed(system: System, position: FusePosition, lit: Lit): System {
  return {
    ...system,
    parts: system.parts.map((part) => {
      if (part.id !== PART) return part;
      const own = new Set(
        part.ports
          .find((p) => p.id === PORT)
          ?.contacts.flatMap((c) => (c.kind === "ground" ? [] : [`${PORT}.${c.id}`])),
      );
      return {
        ...part,
        joins: (part.joins ?? []).map((j) => ({ ...j, contacts: j.contacts.filter((c) => !own.has(c)) })),
        sources: [
          ...(part.sources ?? []),
          { id: "takenFeed", at: [...own], when: { situation: "key" as const, is: liveStates(position, lit) } },
        ],
      };
    }),
  };
}
