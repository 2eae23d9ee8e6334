/** Ends of a lead without a housing: what is done with them and how it holds. Common practice. */
import { contactWords, stampOf } from "../model/labels";
import { matedContacts } from "../model/mating";
import { findPort } from "../model/ports";
import type { Contact, JointKind, Link, Port, System } from "../model/types";

interface JointWords {
  /** What such an end is. */
  end: string;
  /** On the button that says it is made. */
  done: string;
  /** As the log says it. */
  logged: string;
  points: readonly string[];
}

/** By what the ends are joined to. */
export const JOINTS: Readonly<Record<JointKind, JointWords>> = {
  wire: {
    end: "bare ends: joined to the wires there, whose plug stays in",
    done: "Joined and insulated",
    logged: "joined",
    points: [
      "Prove each wire with the meter before it is opened: it does what it must do.",
      "Open the insulation without cutting strands; crimp or solder the branch on.",
      "Pull at each joint, then insulate: nothing bare, nothing loose. Tie the branch to the loom.",
    ],
  },
  cavity: {
    end: "contacts without a housing: each into its cavity of the plug there",
    done: "In their cavities",
    logged: "in its cavities",
    points: [
      "Secondary lock of that plug open; each contact in until it clicks.",
      "Pull at each wire: it holds. Then shut the lock and plug it in again.",
    ],
  },
};

/** How the first joint of two ends is made; null where a plug goes in. */
export function jointOf(ends: readonly (Pick<Port, "joint"> | undefined)[]): JointKind | null {
  return ends.map((e) => e?.joint).find((j) => j !== undefined) ?? null;
}

/** A wire of the far end and the one that is joined to it. */
export interface JointWire {
  id: string;
  /** The wire that is there, and the one that comes to it. */
  there: JointEnd;
  branch: JointEnd;
}

/** One of the two wires of a joint. */
export interface JointEnd {
  /** Number of its cavity, as stamped. */
  stamp: string;
  words: string;
  /** How it looks; null where no document says it. */
  wire: NonNullable<Contact["wire"]> | null;
}

/** Which wire comes to which; none where a plug goes in. */
export function jointWires(system: System, link: Pick<Link, "a" | "b">): JointWire[] {
  const [a, b] = [findPort(system, link.a), findPort(system, link.b)];
  if (!a || !b || !jointOf([a, b])) return [];
  const [branch, there] = a.joint ? [a, b] : [b, a];
  return matedContacts(branch, there, false).flatMap(([x, y]) =>
    y ? [{ id: x.id, there: endOf(y), branch: endOf(x) }] : [],
  );
}

function endOf(contact: Contact): JointEnd {
  return {
    stamp: stampOf(contact),
    words: contactWords(contact),
    wire: contact.wire ?? null,
  };
}
