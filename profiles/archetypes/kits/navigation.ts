/** Navigation module in the picture link. */

import { z } from "zod";
import type { KitProfile } from "../../../core/model/profile";
import type { NormalState, Part } from "../../../core/model/types";
import { MIC, SATELLITE } from "../car/plugs";
import { naming, pinContradictions } from "../contradictions";
import { pictureContacts, SPEECH } from "../radio/plugs";
import {
  all,
  bare,
  busNeeds,
  during,
  FEMALE,
  fourSpeakers,
  gives,
  half,
  IN_REVERSE,
  lead,
  MALE,
  not,
  plugSchema,
  port,
  set,
  takes,
  wire,
} from "../vocabulary";
import { material, tool } from "./common";
import { HARNESS_LINKS, HARNESS_UNPLUG, MODULE_LINK, MODULE_PINS, modulePlug, tHarness } from "./harness";
import { emptyKit, harnessShape, kitHead } from "./head";
import { methods } from "./methods";

export const navigationLeaflet = z
  .strictObject({
    archetype: z.literal("navigation"),
    ...kitHead,
    ...harnessShape,
    pictureLink: plugSchema.describe("Plug of the picture link"),
  })
  .superRefine(naming((l) => pinContradictions(l.pins, false)));

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
        port("mic", "microphone plug", half(MIC, MALE), [takes("1", "microphone")]),
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
    withMicrophoneLead(tHarness(l, false), l.pins.mic),
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
      moves: [{ from: "speechLead.radio.std", to: "speechLead.radio.prem", cut: true }],
      when: premium,
    },
  ];
  addMicrophoneBranch(kit);
  kit.choices.push(...methods("foam", "battery", "trying", "closing"));
  const shown = { pictureMode: "phone" } as const;
  kit.functions.push(
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
  );
  kit.needs.push(
    material("Ties, 10 pieces"),
    tool("Plastic wedges"),
    { kind: "tool", say: "Extraction tool and two contacts for the premium cavities", when: premium },
    { kind: "person", say: "Drive outside for some minutes until the position is right" },
  );
  kit.normal = [OUTSIDE];
  return kit;
}

const OUTSIDE: NormalState = {
  id: "positionOutside",
  title: "The position is being found",
  seen: "The map stands at another place, or the arrow points the wrong way.",
  shows: ["otherThing", "late"],
  why: "After fitting, the receiver looks for its satellites and learns wheel and direction.",
  remedy: "Drive outside under open sky for some minutes.",
  lastsS: { min: 120, max: 900 },
  functions: ["navigation"],
};

/** The harness with a lead beside the microphone contact of the radio's plug. */
function withMicrophoneLead(harness: Part, pin: string): Part {
  const through = `car.${pin}`;
  return {
    ...harness,
    ports: [...harness.ports, port("mic", "microphone lead", half(MIC, FEMALE), [wire("1", "microphone")])],
    joins: harness.joins?.map((j) => (j.contacts.includes(through) ? { ...j, contacts: [...j.contacts, "mic.1"] } : j)),
  };
}

/**
 * Opened only where the microphone is not heard: two contacts at the hands-free module, where the car has one, else
 * between the factory microphone and its plug.
 */
function addMicrophoneBranch(kit: KitProfile): void {
  const branch = { choice: "microphone", is: ["branch"] };
  const hasModule = { fact: "handsFreeModule.place", is: ["console"] };
  const pair = { when: { all: [branch, hasModule] } };
  const between = { when: { all: [branch, { not: hasModule }] } };
  kit.choices.push({
    id: "microphone",
    label: "Voice control of the navigation",
    kind: "offer",
    default: "none",
    options: [
      { id: "none", label: "Without", why: "Destinations are typed; nothing is opened for the microphone." },
      {
        id: "plug",
        label: "From the car's radio plug",
        why: "Nothing is opened for it; a hands-free module of the car may keep the voice to itself.",
        minutes: 1,
      },
      {
        id: "branch",
        label: "Branch of the factory microphone",
        why: "Two contacts at the car's hands-free module, console out; without such a module between microphone and plug.",
        price: 24,
        minutes: 25,
      },
    ],
  });
  const moduleEnd = port("module", "module end", half(MIC, FEMALE), [wire("1", "microphone")]);
  kit.parts.push(
    {
      ...lead(
        "micPair",
        "Microphone branch with two contacts",
        1.6,
        bare("car", "two contacts", "cavity", [wire("1", "microphone"), wire("2", "ground")]),
        moduleEnd,
      ),
      joins: [{ contacts: ["car.1", "module.1"] }],
      ...pair,
    },
    {
      ...lead(
        "micBranch",
        "Microphone branch",
        1.6,
        port("mic", "microphone end", half(MIC, MALE), [wire("1", "microphone")]),
        port("car", "factory microphone end", half(MIC, FEMALE), [wire("1", "microphone")]),
        moduleEnd,
      ),
      ...between,
    },
  );
  kit.unplug.push({ a: "loom.mic", b: "carMic.main", why: "The branch goes between.", ...between });
  kit.plug.push(
    {
      id: "k-mic-pair",
      a: "micPair.car",
      b: "loom.micTap",
      say: "Two contacts of the branch into the plug of the hands-free module",
      ...pair,
    },
    { id: "k-pair-module", a: "micPair.module", b: "module.mic", say: "Branch into the navigation module", ...pair },
    {
      id: "k-mic-loom",
      a: "micBranch.mic",
      b: "loom.mic",
      say: "Branch into the plug of the factory microphone",
      ...between,
    },
    { id: "k-mic-car", a: "carMic.main", b: "micBranch.car", say: "Factory microphone into the branch", ...between },
    {
      id: "k-mic-module",
      a: "micBranch.module",
      b: "module.mic",
      say: "Branch into the navigation module",
      ...between,
    },
  );
  kit.plug.push({
    id: "k-mic-harness",
    a: "harness.mic",
    b: "module.mic",
    say: "Microphone lead of the T-harness into the navigation module",
    when: { choice: "microphone", is: ["plug"] },
  });
  kit.needs.push({ kind: "tool", say: "Two contacts for the plug of the hands-free module", ...pair });
  kit.functions.push({
    id: "navigationVoice",
    name: "Voice control of the navigation",
    say: "Ask for a destination; the navigation understands.",
    who: "customer",
    observe: [{ at: "module.mic.1", where: { voice: "factory" } }],
    situations: [{ id: "on", label: "map shown", set: { pictureMode: "phone" } }],
    minutes: 1,
    when: { choice: "microphone", is: ["plug", "branch"] },
  });
}
