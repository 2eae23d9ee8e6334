/** The loudspeaker walk of a job: at which plug its contacts sit, and what follows from what was heard. */
import type { JobState } from "../log/entry";
import { describePort } from "../model/labels";
import type { Port, System } from "../model/types";
import { CORNER_NAMES, CORNERS, type Corner } from "../prove/corners";
import { type SpeakerContact, type WalkOutcome, walkOutcome } from "../prove/speaker-walk";
import { polarityOutcome } from "../sound/polarity";
import type { JobPlan } from "./plan";

/** The plug whose contacts carry the loudspeakers, at the end of the loom. */
export interface SpeakerPlug {
  name: string;
  port: Port;
  contacts: SpeakerContact[];
}

/**
 * The plug that sits in the radio's or amplifier's socket of the loudspeakers; null when the documents do not say which
 * of its contacts carry which.
 */
export function speakerPlug({ fitted }: Pick<JobPlan, "fitted">): SpeakerPlug | null {
  for (const part of fitted.parts) {
    if (part.type !== "device") continue;
    for (const socket of part.ports) {
      const contacts = socket.contacts.flatMap((c) =>
        c.direction === "out" ? (speakerContact(c.id, c.label) ?? []) : [],
      );
      if (contacts.length < 2 * CORNERS.length) continue;
      const mated = plugIn(fitted, `${part.id}.${socket.id}`);
      return { ...(mated ?? { name: `${part.name}, ${socket.label}`, port: socket }), contacts };
    }
  }
  return null;
}

/** `right rear plus`, as the standard block labels its contacts. */
function speakerContact(cavity: string, label: string | undefined): SpeakerContact | null {
  const [, words, pole] = /^((?:left|right) (?:front|rear)) (plus|minus)$/.exec(label ?? "") ?? [];
  const corner = CORNERS.find((c) => CORNER_NAMES[c] === words);
  return corner ? { cavity, corner, pole: pole === "plus" ? "+" : "-" } : null;
}

function plugIn(system: System, socket: string): { name: string; port: Port } | null {
  const link = system.links.find((l) => !l.air && (l.a === socket || l.b === socket));
  if (!link) return null;
  const [partId, portId] = (link.a === socket ? link.b : link.a).split(".");
  const port = system.parts.find((p) => p.id === partId)?.ports.find((p) => p.id === portId);
  return port ? { name: describePort(system, `${partId}.${portId}`), port } : null;
}

/** What follows from what was heard; null where the contacts are not known. */
export function jobWalk(
  plan: Pick<JobPlan, "fitted">,
  state: Pick<JobState, "walk" | "ear" | "microphone">,
): WalkOutcome | null {
  const plug = speakerPlug(plan);
  if (!plug) return null;
  const heard = new Map([...state.walk].map(([c, n]): [Corner, typeof n.value] => [c, n.value]));
  const polarity = polarityOutcome(state.ear, state.microphone);
  return walkOutcome(heard, plug.contacts, new Set(polarity.kind === "reversed" ? polarity.corners : []));
}
