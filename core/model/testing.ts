/** Small systems for tests. */

import type { SignalKind } from "./kinds";
import type { Contact, Part, System } from "./types";
import { DEFAULT_SITUATION } from "./types";

export const contact = (id: string, kind: SignalKind, direction: Contact["direction"] = "wire"): Contact => ({
  id,
  kind,
  direction,
});

/** battery – lead – lamp module – screen: the smallest car with supply, control and content. */
export function smallSystem(): System {
  const parts: Part[] = [
    {
      id: "battery",
      name: "Battery",
      type: "device",
      ports: [{ id: "p", label: "posts", contacts: [contact("1", "battery", "out"), contact("2", "trigger", "out")] }],
      sources: [
        { id: "feed", at: ["p.1"] },
        { id: "reverse", at: ["p.2"], when: { situation: "selector", is: ["R"] } },
      ],
    },
    {
      id: "lead",
      name: "Lead",
      type: "lead",
      ports: [
        { id: "a", label: "battery end", contacts: [contact("1", "battery"), contact("2", "trigger")] },
        { id: "b", label: "camera end", contacts: [contact("1", "battery"), contact("2", "trigger")] },
      ],
      joins: [{ contacts: ["a.1", "b.1"] }, { contacts: ["a.2", "b.2"] }],
    },
    {
      id: "camera",
      name: "Camera",
      type: "device",
      ports: [
        { id: "p", label: "supply", contacts: [contact("1", "battery", "in"), contact("2", "trigger", "in")] },
        { id: "v", label: "picture", contacts: [contact("1", "compositeVideo", "out")] },
      ],
      needs: [{ at: "p.1", say: "battery feed" }],
      sources: [{ id: "view", at: ["v.1"], attributes: { picture: "rear" }, when: { present: "p.2" }, settleMs: 300 }],
    },
    {
      id: "screen",
      name: "Screen",
      type: "device",
      ports: [
        { id: "v", label: "picture", contacts: [contact("1", "compositeVideo", "in")] },
        { id: "glass", label: "glass", inside: true, contacts: [contact("1", "compositeVideo", "out")] },
      ],
      routes: [{ id: "show", from: "v.1", to: "glass.1", settleMs: 200 }],
    },
  ];
  return {
    parts,
    links: [
      { id: "battery-lead", a: "lead.a", b: "battery.p" },
      { id: "lead-camera", a: "lead.b", b: "camera.p" },
      { id: "camera-screen", a: "camera.v", b: "screen.v" },
    ],
    functions: [
      {
        id: "rear",
        name: "Rear camera",
        say: "Select reverse.",
        who: "law",
        observe: [{ at: "screen.glass.1", where: { picture: "rear" } }],
        situations: [{ id: "r", label: "reverse", set: { selector: "R" } }],
        minutes: 1,
      },
    ],
    actions: [],
    assumed: [],
    defaultSituation: DEFAULT_SITUATION,
  };
}
