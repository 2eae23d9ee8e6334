/** What the model knows of the messages of a car: which it sends, and how each reads on the bus. */
import type { System } from "../model/types";
import { type FoundSignal, messagesOf } from "./hunt/found";
import { draftRules } from "./translation/draft";
import { outputOf } from "./translation/told";
import { OUTPUTS, type OutputId, type Rule } from "./translation/translation";

/** Messages of the model by the output that they are for. */
const SENT: Partial<Record<OutputId, string>> = {
  accessory: "keyOn",
  reverse: "reverse",
  lights: "lightsOn",
  volumeUp: "wheelVolumeUp",
  volumeDown: "wheelVolumeDown",
  next: "wheelNext",
  back: "wheelBack",
};

export interface CarMessage {
  output: OutputId;
  name: string;
  /** How it reads on the bus of this car; null while nobody has found it. */
  rule: Rule | null;
  /** A module of the job is told it by the translation. */
  needed: boolean;
}

/**
 * Messages that the car sends by its model or that a module of the kit wants to be told, and how they read on the bus.
 *
 * @param rules of the translation; without one for a message, what the names of the signals tell
 */
export function carMessages(system: System, signals: readonly FoundSignal[], rules: readonly Rule[]): CarMessage[] {
  const sent = new Set(system.parts.flatMap((p) => (p.messages ?? []).map((m) => m.name)));
  const needed = new Set(system.parts.flatMap((p) => (p.settings ?? []).flatMap((s) => outputOf(s) ?? [])));
  const drafted = draftRules(messagesOf(signals, () => ""));
  return (Object.keys(OUTPUTS) as OutputId[])
    .filter((o) => needed.has(o) || sent.has(SENT[o] ?? ""))
    .map((output) => ({
      output,
      name: OUTPUTS[output].name,
      rule: [...rules, ...drafted].find((r) => r.output === output) ?? null,
      needed: needed.has(output),
    }));
}

/** How known signals stand to a log: which of their messages it has, which it lacks, which have another length. */
export function signalsOnLog(
  signals: readonly FoundSignal[],
  rows: readonly { id: number; extended: boolean; lengths: readonly number[] }[],
): { there: number; missing: string[]; otherLength: string[] } {
  const messages = messagesOf(signals, () => "");
  const missing: string[] = [];
  const otherLength: string[] = [];
  for (const m of messages) {
    const row = rows.find((r) => r.id === m.id && r.extended === m.extended);
    if (!row) missing.push(m.name);
    else if (!row.lengths.includes(m.length)) otherLength.push(m.name);
  }
  return { there: messages.length - missing.length - otherLength.length, missing, otherLength };
}
