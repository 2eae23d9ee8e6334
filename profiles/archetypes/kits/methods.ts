import type { Choice } from "../../../core/model/profile";

/** Choices that change nothing in the parts, only the way of working. */
export function methods(...which: Method[]): Choice[] {
  return which.map((id) => METHODS[id]);
}

type Method = "trying" | "micPlace" | "feed" | "foam" | "closing" | "pairing" | "battery";

const METHODS: Record<Method, Choice> = {
  micPlace: {
    id: "micPlace",
    label: "Place of the added microphone",
    kind: "method",
    default: "headlining",
    options: [
      {
        id: "headlining",
        label: "Beside the factory microphone, behind the mesh",
        why: "Best pickup; longest lead, headlining edge down.",
        minutes: 15,
      },
      {
        id: "pillar",
        label: "Top of the A-pillar",
        why: "Good pickup; the lead goes behind the airbag, never across its front.",
        minutes: 10,
      },
      {
        id: "column",
        label: "Column shroud",
        why: "Short lead; hears the driver well, the passenger badly.",
        minutes: 0,
      },
      { id: "vent", label: "Behind a vent", why: "Best hidden; hears the fan.", minutes: -3 },
      {
        id: "mirror",
        label: "At the foot of the mirror",
        why: "Good pickup; a short piece of the lead is seen.",
        minutes: 12,
      },
      {
        id: "module",
        label: "Beside the module",
        why: "No lead to run; hears badly, for speech keys only.",
        minutes: -8,
      },
    ],
  },
  feed: {
    id: "feed",
    label: "Accessory feed",
    kind: "method",
    default: "bus",
    options: [
      {
        id: "bus",
        label: "From the bus, through the module",
        why: "No wire to find; works only when the module understands the car's messages.",
      },
      {
        id: "fuse",
        label: "From a switched position of the fuse panel",
        why: "Works on every car; a live, switched, unimportant circuit must be found and fused.",
        minutes: 20,
      },
    ],
  },
  foam: {
    id: "foam",
    label: "Module against rattle",
    kind: "method",
    default: "bare",
    options: [
      { id: "bare", label: "Tied down bare", why: "Runs coolest." },
      {
        id: "foam",
        label: "Wrapped in foam, vents free",
        why: "Quiet on rough roads; the vents are never covered.",
        minutes: 5,
      },
    ],
  },
  trying: {
    id: "trying",
    label: "Trying the kit",
    kind: "method",
    default: "inPlace",
    options: [
      { id: "inPlace", label: "Led and fixed in its place, then tried", why: "Every lead is laid once." },
      {
        id: "loose",
        label: "Laid loosely and tried before more trim comes off",
        why: "What does not work is found before the leads are led and anything is drilled; they are laid twice.",
        minutes: 8,
      },
    ],
  },
  closing: {
    id: "closing",
    label: "Order of closing",
    kind: "method",
    default: "proveFirst",
    options: [
      { id: "proveFirst", label: "Prove first, then close from top to bottom", why: "Nothing is opened twice." },
      {
        id: "upperEarly",
        label: "Close the upper dash as soon as its leads are through",
        why: "Fewer loose parts; a fault found later opens it again.",
        minutes: -10,
      },
    ],
  },
  battery: {
    id: "battery",
    label: "Battery while plugs are opened",
    kind: "method",
    default: "asPlanned",
    options: [
      {
        id: "asPlanned",
        label: "Off only where an airbag is near",
        why: "Clock, windows and stored faults stay as they are.",
      },
      {
        id: "off",
        label: "Off before the first plug",
        why: "No fault is stored by an open plug and no short is possible; clock and windows are taught again after.",
        minutes: 6,
      },
    ],
  },
  pairing: {
    id: "pairing",
    label: "First pairing",
    kind: "method",
    default: "wireless",
    options: [
      {
        id: "wireless",
        label: "Wireless from the start",
        why: "A phone first used by cable may remember it and refuse wireless.",
      },
      {
        id: "cable",
        label: "First by cable, then wireless",
        why: "Some phones take the wireless profile only after a first meeting by cable.",
      },
    ],
  },
};
