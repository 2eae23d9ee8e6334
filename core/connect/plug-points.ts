/** What is said once, at the very plug: how it goes in and how one knows that it holds. Common practice. */
import type { Connector, LockKind } from "../model/types";

const HOLDS: Readonly<Record<LockKind, string>> = {
  tongue: "Push until the tongue clicks, then pull at the housing: it holds.",
  lever: "Set it on straight, swing the lever until it clicks, then pull at the housing: it holds.",
  slide: "Push it home, then shut the slide until it lies flush.",
  screw: "Turn it hand tight, then pull at the lead: it holds.",
  none: "It has no lock: push it home, then pull lightly. Tie the lead so that nothing pulls at it.",
};

/**
 * What to mind at a plug as it goes in.
 *
 * @param ribbon it is a ribbon with a lock bar
 */
export function plugPoints(connectors: readonly Connector[], ribbon: boolean): string[] {
  if (ribbon)
    return [
      "Contacts to the side on which the socket has its own: look before it goes in.",
      "Straight in, up to its line on both sides; then shut the lock bar and pull lightly: it holds.",
    ];
  const lock = connectors.map((c) => c.lock).find((l) => l !== undefined);
  const keyed = connectors.some((c) => c.reversible) ? ["It goes in both ways round: look how it must lie."] : [];
  return [...keyed, lock ? HOLDS[lock] : "Push until it holds, then pull at the housing, never at the wires."];
}

/** What to mind where a contact moves or a wire is cut. */
export function wirePoints(cut: boolean): string[] {
  return cut
    ? [
        "Cut where enough is left for a joint on both sides.",
        "Crimp or solder, pull at each wire, then insulate: nothing bare, nothing loose.",
      ]
    : ["Secondary lock open, contact out, into its new place until it clicks; pull at the wire, then shut the lock."];
}
