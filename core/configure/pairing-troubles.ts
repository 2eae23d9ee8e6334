/** What goes wrong when a phone is paired, and what to do. */
import type { PairingStepId } from "./pairing";

export const PAIRING_TROUBLES = [
  "wasOnCable",
  "chargesOnly",
  "notListed",
  "pinRefused",
  "notOffered",
  "noWireless",
  "silent",
  "notHeard",
] as const;

export type PairingTrouble = (typeof PAIRING_TROUBLES)[number];

/** What to do when something else is seen. */
export interface TroubleAdvice {
  /** As it is seen, for the button. */
  seen: string;
  title: string;
  steps: string[];
  /** Where it goes on afterwards; at the same step when left out. */
  backTo?: PairingStepId;
}

export const TROUBLES: Readonly<Record<PairingTrouble, TroubleAdvice>> = {
  wasOnCable: {
    seen: "It was, or nobody knows",
    title: "A phone that was on the cable may remember it and refuse wireless.",
    steps: ["Cable out.", "Forget the module in the phone's lists.", "Restart the phone."],
    backTo: "add",
  },
  chargesOnly: {
    seen: "It charges and nothing else",
    title: "The cable or the phone passes no data.",
    steps: [
      "Another cable: many charge only.",
      "Unlock the phone and allow the connection.",
      "Is the USB lead of the module home?",
    ],
  },
  notListed: {
    seen: "It is not in the list",
    title: "The two do not see each other.",
    steps: [
      "Bluetooth of the phone on, the module in its own Bluetooth page.",
      "Forget old entries of this module in the phone and of this phone in the module.",
      "Other phones that were paired here: their Bluetooth off for so long.",
    ],
  },
  pinRefused: {
    seen: "The number is refused",
    title: "One of the two remembers an older pairing.",
    steps: ["Forget the entry on both sides.", "Add the phone again and answer within half a minute."],
    backTo: "add",
  },
  notOffered: {
    seen: "The phone does not ask",
    title: "Mirroring is off in the phone, or locked while its screen is.",
    steps: [
      "Unlock the phone.",
      "Its settings: mirroring in cars on, also while locked.",
      "WLAN of the phone on: the picture comes over it, not over Bluetooth.",
    ],
  },
  noWireless: {
    seen: "No picture",
    title: "The phone is paired and refuses wireless.",
    steps: ["Cable out.", "Forget the module in the phone's lists.", "Restart the phone.", "Add it again."],
    backTo: "add",
  },
  silent: {
    seen: "No sound",
    title: "Another source plays, or the sound goes elsewhere.",
    steps: [
      "Choose the source on the radio.",
      "Volume of the phone up.",
      "Still silent: try the sound test in Prove, it looks for the cause.",
    ],
  },
  notHeard: {
    seen: "One side hears nothing",
    title: "The call runs over the other microphone, or over the other pairing.",
    steps: [
      "Where does the phone say that the call is? Choose the car or the module there.",
      "Is the microphone in the MIC jack and not in the line jack?",
    ],
  },
};
