/** Rules about conductors: one sender on directed kinds, at least one where somebody listens, no short circuit. */
import { KIND_NAMES, layerOf, oneDriverOnly } from "../../model/kinds";
import { describeContact } from "../../model/labels";
import type { CheckContext } from "./context";
import type { Finding } from "./finding";

export function driverFindings({ system, nets }: CheckContext): Finding[] {
  const findings: Finding[] = [];
  for (const net of nets) {
    const kind = net[0]?.kind;
    if (!kind || !oneDriverOnly(kind) || layerOf(kind) === 0) continue;
    const senders = net.filter((c) => c.direction === "out");
    const listeners = net.filter((c) => c.direction === "in");
    if (senders.length > 1) {
      findings.push({
        rule: "two-drivers",
        level: "stop",
        where: senders.map((s) => describeContact(system, s.ref)).join(" and "),
        text: `Two outputs of ${KIND_NAMES[kind]} are joined.`,
        remedy: "One of the leads is in the wrong place: an output goes to an input.",
        damages: "one output drives into the other",
      });
    } else if (senders.length === 0 && listeners.length > 1) {
      findings.push({
        rule: "direction",
        level: "stop",
        where: listeners.map((s) => describeContact(system, s.ref)).join(" and "),
        text: `Two inputs of ${KIND_NAMES[kind]} are joined and nothing sends.`,
        remedy: "One of the leads is in the wrong place: an input needs an output.",
      });
    }
  }
  return findings;
}

/** A feed and a ground on one conductor. */
export function shortFindings({ system, nets }: CheckContext): Finding[] {
  return nets.flatMap((net): Finding[] => {
    const feed = net.find((c) => c.direction === "out" && (c.kind === "battery" || c.kind === "accessory"));
    const ground = net.find((c) => c.kind === "ground" && (c.direction === "out" || c.direction === "in"));
    if (!feed || !ground) return [];
    return [
      {
        rule: "short-circuit",
        level: "stop",
        where: `${describeContact(system, feed.ref)} and ${describeContact(system, ground.ref)}`,
        text: "The feed and the ground are on one conductor.",
        remedy: "Battery off. Pull the plug that was last plugged and compare both halves contact by contact.",
        damages: "fuse, lead and contacts: a dead short",
      },
    ];
  });
}
