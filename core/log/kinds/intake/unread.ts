import { asAsked, type Kind } from "../../kind";

/** What is read on the car before the work, and what its missing means for the job. */
export const UNREAD = {
  identification: "Identification number",
  firmware: "Firmware version",
  faultCodes: "Fault codes before the work",
} as const;
export type Unread = keyof typeof UNREAD;

export interface UnreadSlice {
  /** What could not be read, and why. */
  unread: Map<Unread, { reason: string; by: string; entry: string }>;
}

/** Something of the car was looked for and cannot be read. */
export const unread: Kind<"intake.unread", { what: Unread; reason: string }, UnreadSlice> = {
  kind: "intake.unread",
  empty: () => ({ unread: new Map() }),
  fold(state, { data, by, entry }) {
    state.unread.set(data.what, { reason: data.reason, by, entry });
  },
  check: () => null,
  write: asAsked,
  words: ({ what, reason }) => `${UNREAD[what]}: not readable, ${reason}`,
  upgrade: [],
};
