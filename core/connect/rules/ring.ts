import { explainAbsence } from "../../model/explain";
import { describeContact } from "../../model/labels";
import type { CheckContext } from "./context";
import type { Finding } from "./finding";

/** The optical ring must come back to where it started, or there is no sound at all. */
export function ringFindings({ system, evaluations: [usual] }: CheckContext): Finding[] {
  if (!usual) return [];
  const open = system.parts.flatMap((part) =>
    part.type !== "device"
      ? []
      : part.ports.flatMap((port) =>
          port.contacts
            .filter((c) => c.kind === "opticalRing" && c.direction === "in")
            .map((c) => `${part.id}.${port.id}.${c.id}`)
            .filter((ref) => usual.arrivals(ref).length === 0),
        ),
  );
  const [first] = open;
  if (!first) return [];
  return [
    {
      rule: "ring-open",
      level: "stop",
      where: open.map((ref) => describeContact(system, ref)).join(" and "),
      text: `The optical ring is open: no light comes back. ${explainAbsence(usual, first, undefined).reasons.at(-1) ?? ""}`.trim(),
      remedy:
        "Both optical contacts go into the plug that sits in the radio. Fibre in a curve of 25 mm radius or more, never kinked or pulled.",
    },
  ];
}
