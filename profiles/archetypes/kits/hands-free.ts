/** Hands-free module beside the radio. */

import { z } from "zod";
import type { KitProfile } from "../../../core/model/profile";
import type { NormalState, Part } from "../../../core/model/types";
import { naming, pinContradictions } from "../contradictions";
import { all, busNeeds, FEMALE, gives, half, has, inside, MALE, port, set, takes } from "../vocabulary";
import { material, tool } from "./common";
import { HARNESS_LINKS, HARNESS_UNPLUG, MODULE_LINK, MODULE_PINS, modulePlug, tHarness } from "./harness";
import { emptyKit, harnessShape, kitHead } from "./head";
import { methods } from "./methods";
import { phoneRules, phonesLeaflet } from "./phones";

const JACK = { family: "Jack 3.5", ways: 3 };

export const handsFreeLeaflet = z
  .strictObject({
    archetype: z.literal("handsFree"),
    ...kitHead,
    ...harnessShape,
    phoneKey: z.boolean().describe("For radios with a phone key"),
    phones: phonesLeaflet.optional().describe("Phones, as far as the leaflet speaks of them"),
  })
  .superRefine(naming((l) => pinContradictions(l.pins, false)));

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
      settings: [
        { id: "car", label: "Radio chosen with the programmer", values: ["none", "this car"], initial: "none" },
        { id: "pin", label: "PIN of the first phone", values: ["as delivered", "entered"], initial: "as delivered" },
      ],
      routes: [
        {
          id: "call",
          from: "mic.T",
          to: "core.call",
          when: all(set("car", "this car"), set("pin", "entered"), has("air.1")),
        },
      ],
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
  kit.sets = [
    {
      setting: "module.car",
      value: "this car",
      means: "programming",
      say: "Choose the radio of this car with the programmer, then leave the module without power for 30 s",
      minutes: 4,
    },
    {
      setting: "module.pin",
      value: "entered",
      means: "menu",
      say: "Enter the module's PIN in the first phone",
      minutes: 2,
    },
  ];
  if (l.phones) kit.phone = { ...phoneRules({ ...l.phones, first: "wireless" }, "calls"), setting: "module.pin" };
  kit.normal = [REST];
  kit.card = [
    ...kit.card,
    l.phoneKey ? "Take and end calls with the phone key of the radio." : "Take and end calls with the added button.",
    ...(l.phones ? [] : ["A new phone asks for the PIN of the module; the phone that was chosen comes first."]),
  ];
  kit.choices = methods("micPlace", "foam", "battery", "trying", "closing");
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
    { kind: "person", say: "Ask which phone comes first where two people use the car" },
    ...(l.phoneKey ? [] : [{ kind: "drilling" as const, say: "Place for the added button, glued, no hole" }]),
  ];
  return kit;
}

const REST: NormalState = {
  id: "rest30",
  title: "The module rests after it was programmed",
  seen: "No lamp, the phone does not find it.",
  shows: ["unheard"],
  why: "It takes its new data only after half a minute without power.",
  remedy: "Leave the plug out for 30 s, then in; common practice.",
  lastsS: { min: 30, max: 40 },
  functions: ["handsFree"],
};

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
