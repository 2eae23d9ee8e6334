/** Modules beside the radio: hands-free, navigation, passenger video. */
import { z } from "zod";
import type { KitProfile } from "../../../core/model/profile";
import type { Part } from "../../../core/model/types";
import { SATELLITE } from "../car";
import { pictureContacts, SPEECH } from "../radio";
import {
  all,
  busNeeds,
  during,
  FEMALE,
  fourSpeakers,
  gives,
  half,
  has,
  hears,
  IN_REVERSE,
  inside,
  lead,
  MALE,
  not,
  plugSchema,
  port,
  set,
  takes,
  wire,
} from "../vocabulary";
import {
  emptyKit,
  HARNESS_LINKS,
  HARNESS_UNPLUG,
  harnessShape,
  kitHead,
  MODULE_LINK,
  MODULE_PINS,
  material,
  modulePlug,
  schools,
  tHarness,
  tool,
} from "./base";

const JACK = { family: "Jack 3.5", ways: 3 };

export const handsFreeLeaflet = z.strictObject({
  archetype: z.literal("handsFree"),
  ...kitHead,
  ...harnessShape,
  phoneKey: z.boolean().describe("For radios with a phone key"),
});

/** Hands-free module on a pass-through harness; radios with and without a phone key need different kits. */
export function buildHandsFree(l: z.infer<typeof handsFreeLeaflet>): KitProfile {
  const kit = emptyKit(l, "Hands-free module");
  kit.fits = [
    {
      condition: { fact: "radio.phoneKey", is: [l.phoneKey ? "yes" : "no"] },
      why: l.phoneKey
        ? "This version listens to the phone key, which this radio does not have."
        : "This version brings its own button; a radio with a phone key needs the other version.",
    },
  ];
  kit.unplug = [HARNESS_UNPLUG];
  kit.parts = [
    {
      id: "module",
      name: "Hands-free module",
      type: "device",
      lamp: "blue lamp",
      reachMinutes: 2,
      needs: busNeeds("main", MODULE_PINS),
      buses: [{ id: "car", high: "main.3", low: "main.4" }],
      ports: [
        modulePlug(MALE),
        port("mic", "MIC jack", half(JACK, FEMALE), [takes("T", "microphone")]),
        port("air", "Bluetooth", null, [takes("1", "wireless")]),
        inside("core", "call", [gives("call", "microphone", "voice to the far end")]),
      ],
      routes: [{ id: "call", from: "mic.T", to: "core.call", when: has("air.1") }],
    },
    tHarness(l, false),
    microphone(),
  ];
  kit.plug = [
    ...HARNESS_LINKS,
    { id: "k-mic", a: "kitMic.jack", b: "module.mic", say: "Microphone into the MIC jack" },
    MODULE_LINK,
    { id: "k-phone", a: "phone.air", b: "module.air", say: "Phone paired with the module", air: true },
  ];
  kit.choices = schools("micPlace", "foam", "closing");
  kit.functions = [
    {
      id: "handsFree",
      name: "Calls on the car's hands-free",
      say: "Call over the paired phone; the far end hears you.",
      who: "customer",
      observe: [{ at: "module.core.call", where: { voice: "added" } }],
      situations: [{ id: "call", label: "phone paired with the module", set: { phone: "wireless" } }],
      minutes: 2,
    },
  ];
  kit.needs = [
    material("Ties, 8 pieces"),
    tool("Plastic wedges"),
    ...(l.phoneKey ? [] : [{ kind: "drilling" as const, say: "Place for the added button, glued, no hole" }]),
  ];
  return kit;
}

function microphone(): Part {
  return {
    id: "kitMic",
    name: "Added microphone",
    type: "device",
    lengthM: 3,
    reachMinutes: 4,
    ports: [port("jack", "plug", half(JACK, MALE), [gives("T", "microphone")])],
    sources: [{ id: "voice", at: ["jack.T"], attributes: { voice: "added" } }],
  };
}

export const navigationLeaflet = z.strictObject({
  archetype: z.literal("navigation"),
  ...kitHead,
  ...harnessShape,
  pictureLink: plugSchema.describe("Plug of the picture link"),
});

/** Navigation module in the picture link; its speech enters the radio by amplifier. */
export function buildNavigation(l: z.infer<typeof navigationLeaflet>): KitProfile {
  const kit = emptyKit(l, "Navigation module");
  const navigating = all(during("pictureMode", "phone"), not(IN_REVERSE));
  const video = (id: string, label: string, side: "in" | "out", colour: string) =>
    port(id, label, half({ ...l.pictureLink, colour }, MALE), pictureContacts(side));
  kit.unplug = [
    HARNESS_UNPLUG,
    { a: "displayLead.radioEnd", b: "radio.video", why: "The picture goes through the module." },
    { a: "satelliteAntenna.coax", b: "radio.satellite", why: "The satellite antenna also serves positioning." },
  ];
  const coaxEnd = (id: string, label: string, gender: "male" | "female") =>
    port(id, label, half(SATELLITE, gender), [wire("1", "radioFrequency")]);
  const end = (id: string, label: string, colour: string, gender: "male" | "female") =>
    port(id, label, half({ ...l.pictureLink, colour }, gender), pictureContacts("wire"));
  kit.parts = [
    {
      id: "module",
      name: "Navigation module",
      type: "device",
      lamp: "green lamp",
      reachMinutes: 2,
      needs: busNeeds("main", MODULE_PINS),
      buses: [{ id: "car", high: "main.3", low: "main.4" }],
      ports: [
        modulePlug(MALE),
        video("videoIn", "VIDEO IN", "in", "green"),
        video("videoOut", "VIDEO OUT", "out", "violet"),
        port("position", "antenna socket", half(SATELLITE, FEMALE), [takes("1", "radioFrequency")]),
        port("speech", "speech plug", half(SPEECH, MALE), [gives("1", "lineAudio")]),
      ],
      sources: [
        {
          id: "map",
          at: ["videoOut.v"],
          attributes: { picture: "navigation", format: "native" },
          when: navigating,
          settleMs: 3000,
        },
        { id: "speech", at: ["speech.1"], attributes: { sound: "guidance" }, when: during("pressed", "guidance") },
      ],
      routes: [
        {
          id: "factoryPass",
          from: "videoIn.v",
          to: "videoOut.v",
          when: { any: [during("pictureMode", "factory"), IN_REVERSE] },
          settleMs: 100,
        },
        { id: "touch", from: "videoOut.t", to: "videoIn.t" },
      ],
    },
    tHarness(l, false),
    lead(
      "videoInLead",
      "Video lead IN",
      0.6,
      end("radio", "radio end", "green", FEMALE),
      end("module", "module end", "green", FEMALE),
    ),
    lead(
      "videoOutLead",
      "Video lead OUT",
      0.6,
      end("module", "module end", "violet", FEMALE),
      end("display", "display end", "violet", MALE),
    ),
    {
      ...lead(
        "splitter",
        "Antenna splitter",
        0.4,
        coaxEnd("antenna", "antenna end", FEMALE),
        coaxEnd("radio", "radio end", MALE),
        coaxEnd("module", "module end", MALE),
      ),
    },
    {
      ...lead(
        "speechLead",
        "Speech lead",
        0.5,
        port("module", "module end", half(SPEECH, FEMALE), [wire("1", "lineAudio")]),
        port("radio", "radio end", half(SPEECH, FEMALE), [
          wire("std", "lineAudio", "as delivered"),
          wire("prem", "lineAudio", "premium cavities"),
        ]),
      ),
      joins: undefined,
      settings: [
        { id: "pins", label: "Speech wires", values: ["as delivered", "pinned over"], initial: "as delivered" },
      ],
      routes: [
        { id: "std", from: "module.1", to: "radio.std", when: set("pins", "as delivered") },
        { id: "prem", from: "module.1", to: "radio.prem", when: set("pins", "pinned over") },
      ],
    },
  ];
  kit.plug = [
    ...HARNESS_LINKS,
    { id: "k-in-radio", a: "videoInLead.radio", b: "radio.video", say: "Video lead IN into the radio" },
    { id: "k-in-module", a: "videoInLead.module", b: "module.videoIn", say: "Video lead IN into VIDEO IN" },
    { id: "k-out-module", a: "videoOutLead.module", b: "module.videoOut", say: "Video lead OUT into VIDEO OUT" },
    {
      id: "k-out-display",
      a: "displayLead.radioEnd",
      b: "videoOutLead.display",
      say: "Factory display lead into video lead OUT",
    },
    { id: "k-antenna", a: "satelliteAntenna.coax", b: "splitter.antenna", say: "Satellite antenna into the splitter" },
    { id: "k-antenna-radio", a: "splitter.radio", b: "radio.satellite", say: "Splitter into the radio" },
    { id: "k-antenna-module", a: "splitter.module", b: "module.position", say: "Splitter into the module" },
    { id: "k-speech", a: "speechLead.module", b: "module.speech", say: "Speech lead into the module" },
    { id: "k-speech-radio", a: "speechLead.radio", b: "radio.speech", say: "Speech lead into the radio" },
    MODULE_LINK,
  ];
  const premium = { fact: "radio.amplifier", is: ["premium"] };
  kit.sets = [
    {
      setting: "speechLead.pins",
      value: "pinned over",
      means: "contacts",
      say: "Premium amplifier: cut the two speech wires and pin them into the premium cavities of the radio plug",
      minutes: 20,
      when: premium,
    },
  ];
  kit.choices = schools("foam", "closing");
  const shown = { pictureMode: "phone" } as const;
  kit.functions = [
    {
      id: "navigation",
      name: "Navigation",
      say: "Choose a destination; the map appears and the position is right after some minutes outside.",
      who: "customer",
      observe: [
        { at: "screen.glass.picture", where: { picture: "navigation" } },
        { at: "module.position.1", where: { band: "satellite" } },
      ],
      situations: [{ id: "on", label: "map shown", set: shown }],
      minutes: 3,
    },
    {
      id: "guidanceVoice",
      name: "Spoken guidance",
      say: "Start a guidance; the voice comes from the loudspeakers.",
      who: "customer",
      observe: fourSpeakers("guidance").slice(0, 1),
      situations: [{ id: "on", label: "guidance speaking", set: { ...shown, pressed: "guidance" } }],
      minutes: 2,
    },
  ];
  kit.needs = [
    material("Ties, 10 pieces"),
    tool("Plastic wedges"),
    { kind: "tool", say: "Extraction tool and two contacts for the premium cavities", when: premium },
    { kind: "person", say: "Drive outside for some minutes until the position is right" },
  ];
  return kit;
}

export const passengerVideoLeaflet = z.strictObject({
  archetype: z.literal("passengerVideo"),
  ...kitHead,
  ...harnessShape,
});

/** Module that lets a passenger watch: the lock stays on until the passenger asks, and only for the passenger. */
export function buildPassengerVideo(l: z.infer<typeof passengerVideoLeaflet>): KitProfile {
  const kit = emptyKit(l, "Motion-lock module, loaded before fitting");
  kit.unplug = [HARNESS_UNPLUG];
  kit.parts = [
    {
      id: "module",
      name: "Passenger video module",
      type: "device",
      lamp: "green lamp",
      reachMinutes: 2,
      needs: busNeeds("main", MODULE_PINS),
      buses: [{ id: "car", high: "main.3", low: "main.4" }],
      settings: [{ id: "data", label: "Data of the car", values: ["blank", "loaded"], initial: "blank" }],
      messages: [
        {
          bus: "car",
          name: "passengerScreen",
          when: all(set("data", "loaded"), hears("wheelNext"), during("pressed", "next")),
        },
      ],
      ports: [modulePlug(MALE)],
    },
    tHarness(l, false),
  ];
  kit.plug = [...HARNESS_LINKS, MODULE_LINK];
  kit.sets = [
    {
      setting: "module.data",
      value: "loaded",
      means: "programming",
      say: "Load the data of this car into the module on a computer before fitting",
      minutes: 20,
    },
    {
      setting: "radio.autoReturn",
      value: "off",
      means: "menu",
      say: "Automatic return to the home page off",
      minutes: 1,
    },
  ];
  kit.choices = schools("closing");
  const video = { pictureMode: "phone", key: "running", selector: "D", parkingBrake: false, speedKmh: 8 } as const;
  kit.functions = [
    {
      id: "motionLock",
      name: "Video stays locked in motion",
      say: "Without the passenger's request a second person watches the screen while the car rolls on a closed yard; a notice stands there.",
      who: "law",
      observe: [{ at: "screen.glass.picture", where: { picture: "lock notice" } }],
      situations: [{ id: "rolling", label: "rolling on a closed yard", set: video }],
      minutes: 4,
      caution:
        "Closed yard, second person at the screen, the driver only drives. The law of the place decides what may be shown.",
    },
    {
      id: "passengerVideo",
      name: "Passenger video on request",
      say: "The passenger holds the next key; the lock notice goes for as long as the law of the place allows it.",
      who: "customer",
      observe: [
        { at: `radio.main.${l.pins.high}`, where: { message: "passengerScreen", line: "high" } },
        { at: `radio.main.${l.pins.low}`, where: { message: "passengerScreen", line: "low" } },
      ],
      situations: [{ id: "request", label: "passenger holds the key", set: { ...video, pressed: "next" } }],
      minutes: 4,
      caution: "Never in the driver's view. Note who asked for it.",
    },
  ];
  kit.needs = [
    { kind: "programming", say: "Module loaded from a computer before the visit", minutes: 20 },
    { kind: "licence", say: "Check the law of the place; note who asked for it. Passenger use only" },
    tool("Plastic wedges"),
  ];
  return kit;
}
