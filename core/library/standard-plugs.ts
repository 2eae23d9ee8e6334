/** Plugs whose contacts are the same on every car that has them. */
import type { Contact } from "../model/types";

const CHANNEL_NAMES = { RR: "right rear", RF: "right front", LF: "left front", LR: "left rear" } as const;
type Channel = keyof typeof CHANNEL_NAMES;
export type Pole = "+" | "-";

/** Contacts of the 8-way speaker block in a radio's plug: number, channel, pole. Common practice. */
export const SPEAKER_BLOCK = [
  ["1", "RR", "+"],
  ["2", "RF", "+"],
  ["3", "LF", "+"],
  ["4", "LR", "+"],
  ["5", "RR", "-"],
  ["6", "RF", "-"],
  ["7", "LF", "-"],
  ["8", "LR", "-"],
] as const satisfies readonly [string, Channel, Pole][];

/** Radio connector B. ISO 10487 (from memory). */
const CONNECTOR_B = [
  ["1", "RR", "+"],
  ["2", "RR", "-"],
  ["3", "RF", "+"],
  ["4", "RF", "-"],
  ["5", "LF", "+"],
  ["6", "LF", "-"],
  ["7", "LR", "+"],
  ["8", "LR", "-"],
] as const satisfies readonly [string, Channel, Pole][];

/** Radio connector A, the contacts in use. ISO 10487 (from memory); some makers exchange 4 and 7. */
const CONNECTOR_A: readonly Contact[] = [
  { id: "4", kind: "battery", direction: "wire", label: "steady supply (at 7 by some makers)" },
  { id: "5", kind: "trigger", direction: "wire", label: "antenna control" },
  { id: "6", kind: "lighting", direction: "wire" },
  { id: "7", kind: "accessory", direction: "wire", label: "switched supply (at 4 by some makers)" },
  { id: "8", kind: "ground", direction: "wire" },
];

/** The eight contacts of a speaker plug in one direction. */
export function speakerContacts(
  direction: Contact["direction"],
  plug: readonly (readonly [string, Channel, Pole])[] = SPEAKER_BLOCK,
): Contact[] {
  return plug.map(([id, channel, pole]) => ({
    id,
    kind: "speaker",
    direction,
    label: `${CHANNEL_NAMES[channel]} ${pole === "+" ? "plus" : "minus"}`,
  }));
}

/** Standard plugs by name, as wires of a loom or lead. */
export const STANDARD_PLUGS: readonly { id: string; name: string; contacts: Contact[] }[] = [
  { id: "A", name: "Radio connector A", contacts: [...CONNECTOR_A] },
  { id: "B", name: "Radio connector B", contacts: speakerContacts("wire", CONNECTOR_B) },
  { id: "block", name: "8-way speaker block", contacts: speakerContacts("wire") },
];
