/** What a contact can carry. The words are those of the trade; a profile may use no others. */
export const SIGNAL_KINDS = [
  "battery",
  "accessory",
  "ground",
  "can",
  "bus",
  "trigger",
  "reverse",
  "lighting",
  "keyScan",
  "touch",
  "opticalRing",
  "serialVideo",
  "compositeVideo",
  "ribbon",
  "usb",
  "radioFrequency",
  "wireless",
  "microphone",
  "lineAudio",
  "speaker",
] as const;
export type SignalKind = (typeof SIGNAL_KINDS)[number];

const SUPPLY: ReadonlySet<SignalKind> = new Set(["battery", "accessory", "ground"]);
const CONTROL: ReadonlySet<SignalKind> = new Set([
  "can",
  "bus",
  "trigger",
  "reverse",
  "lighting",
  "keyScan",
  "touch",
  "opticalRing",
]);

/**
 * The layer (0 supply, 1 control, 2 content) in which contacts of a kind are evaluated. A condition may look at its
 * own layer (positively) and at earlier ones, never at later ones.
 */
export function layerOf(kind: SignalKind): number {
  if (SUPPLY.has(kind)) return 0;
  return CONTROL.has(kind) ? 1 : 2;
}

/** Kinds on which several senders are normal: shared supplies and buses. Everywhere else two drivers are a fault. */
const SHARED: ReadonlySet<SignalKind> = new Set(["battery", "accessory", "ground", "can", "bus", "usb", "wireless"]);

/** True when a contact of this kind must have exactly one driver. */
export function oneDriverOnly(kind: SignalKind): boolean {
  return !SHARED.has(kind);
}

/** Plain trade name of each kind, for sentences and labels. */
export const KIND_NAMES: Readonly<Record<SignalKind, string>> = {
  battery: "battery feed",
  accessory: "accessory feed",
  ground: "ground",
  can: "CAN bus",
  bus: "bus",
  trigger: "trigger",
  reverse: "reverse feed",
  lighting: "lighting feed",
  keyScan: "key scan",
  touch: "touch",
  opticalRing: "optical ring",
  serialVideo: "serial video",
  compositeVideo: "composite video",
  ribbon: "ribbon",
  usb: "USB",
  radioFrequency: "radio frequency",
  wireless: "wireless link",
  microphone: "microphone",
  lineAudio: "line audio",
  speaker: "speaker",
};

/** Short letters of each kind, for drawings; the word stands beside them. */
export const KIND_TAGS: Readonly<Record<SignalKind, string>> = {
  battery: "B+",
  accessory: "ACC",
  ground: "GND",
  can: "CAN",
  bus: "BUS",
  trigger: "TRG",
  reverse: "REV",
  lighting: "ILL",
  keyScan: "KEY",
  touch: "TCH",
  opticalRing: "OPT",
  serialVideo: "VID",
  compositeVideo: "CVB",
  ribbon: "RIB",
  usb: "USB",
  radioFrequency: "RF",
  wireless: "AIR",
  microphone: "MIC",
  lineAudio: "AUX",
  speaker: "SPK",
};
