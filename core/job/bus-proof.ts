/** What a proof of the translation of a job follows from. */

import type { Frames } from "../bus/frames";
import { messagesOf } from "../bus/hunt/found";
import { type OutputProof, proveTranslation } from "../bus/translation/proof";
import type { JobState } from "../log/entry";

type Of = Pick<JobState, "signals" | "translation" | "cues">;

/** Names the state of signals, translation and cues under which a log is replayed. */
export function proofKey({ signals, translation, cues }: Of, file: string): string {
  return JSON.stringify([file, signals, translation?.rules ?? null, cues[file]?.cues ?? null]);
}

/** How the translation of a job does on a log. */
export function proofOf({ signals, translation, cues }: Of, file: string, frames: Frames): OutputProof[] {
  const messages = messagesOf(signals, () => "");
  const rules = translation?.rules ?? [];
  return proveTranslation(frames, { rules }, { messages }, cues[file]?.cues ?? []).outputs;
}

/** The last proof, while signals and translation are those that were proven; else null. */
export function standingProof({ proof, translation, signals }: Pick<JobState, "proof" | "translation" | "signals">) {
  if (!proof || proof.translation !== translation?.entry) return null;
  return signals.some((s) => s.at > proof.at) ? null : proof;
}
