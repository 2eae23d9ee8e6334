/** Another radio in the place of the old one: from a sister car, of a higher level, aftermarket, or with a bigger screen. */

import type { KitLink, KitProfile } from "../../../../core/model/profile";
import type { NormalState } from "../../../../core/model/types";
import { EMERGENCY } from "../../car/plugs";
import { buildRadio } from "../../radio";
import type { RadioFeatures } from "../../radio/features";
import { gives, half, MALE, port } from "../../vocabulary";
import { material, tool } from "../common";
import { emptyKit } from "../head";
import { methods } from "../methods";
import { addAdapter, addPassThrough } from "./adapter";
import { addBusModule, addBusWires } from "./bus";
import type { RadioSwapLeaflet } from "./leaflet";
import { addKnob, addPanel } from "./panel";

const WORK = {
  "higher level": "Factory radio of a higher level",
  "sister car": "Radio from a sister car",
  aftermarket: "Aftermarket radio with a bus module",
  "bigger module and screen": "Bigger factory module and screen",
} as const;

export function buildRadioSwap(l: RadioSwapLeaflet): KitProfile {
  const kit = emptyKit(l, WORK[l.from]);
  const aftermarket = l.from === "aftermarket";
  const adapter = Boolean(l.newPlug);
  const built = buildRadio(l.features, {
    plug: l.newPlug ?? l.radioPlug,
    pins: l.newPlug ? l.newPins : l.pins,
    key: aftermarket ? "wire" : "bus",
    sound: "radio",
    rearCamera: l.keepsCamera,
    wheelKeys: l.wheelKeys,
    satelliteAntenna: l.satellite,
    bus: !aftermarket,
    endsBus: l.from === "higher level" || l.from === "bigger module and screen",
    reverseWire: false,
    emergencyCall: false,
    watchesTweeters: true,
  });
  kit.replaces = [
    { part: "radio", why: "The new radio takes its place." },
    ...(l.oldScreen || l.from === "higher level"
      ? ["screen", "displayLead"].map((part) => ({ part, why: "It leaves with the old radio.", ifPresent: true }))
      : []),
    ...(l.features.usb
      ? ["usbPanel", "usbCable", "usbStick"].map((part) => ({
          part,
          why: "The new radio brings its own socket.",
          ifPresent: true,
        }))
      : []),
    ...(l.climateZones > 0 ? [{ part: "climatePanel", why: "The bezel changes with the screen." }] : []),
  ];
  kit.parts = [...built.parts];
  kit.functions = built.functions.map((f) => (f.id === "rearView" ? { ...f, when: HAS_CAMERA } : f));
  kit.monitors = built.monitors;
  kit.plug = built.links
    .filter((x) => !(adapter && x.id === "loom-radio"))
    .map(
      (x): KitLink => ({
        ...x,
        id: `k-${x.id}`,
        say: SAY[x.id] ?? "Plug of the new radio",
        ...(x.id === "camera-radio" ? { when: HAS_CAMERA } : {}),
      }),
    );
  if (adapter && l.from === "bigger module and screen") addPassThrough(l, kit);
  else if (adapter) addAdapter(l, kit, aftermarket);
  if (l.from === "sister car") addBusWires(l, kit);
  if (aftermarket) addBusModule(l, kit);
  if (l.climateZones > 0) addPanel(l, kit);
  if (l.features.knobInput) addKnob(kit);
  if (l.features.bluetooth)
    kit.plug.push({
      id: "k-phone-car",
      a: "phone.bluetooth",
      b: "radio.bluetooth",
      say: "Phone paired with the new radio",
      air: true,
    });
  addEmergencyDummy(kit);
  if (l.features.coded === "by programming plug") {
    kit.normal = [...(kit.normal ?? []), REST];
    kit.programmingPlug = l.programmingPlug;
  }
  kit.sets.push(...settings(l.features));
  kit.choices.push(...methods("battery", "closing"));
  if (l.features.coded === "by programming plug")
    kit.needs.push({
      kind: "programming",
      say: "Module ordered by the identification number of this car; it comes coded to it",
      why: "The car still has to be told, by the programming plug.",
    });
  if (l.oldScreen) kit.tiesBack = [{ say: "Old display lead, where it stays in the car", lengthM: 0.3 }];
  if (l.bezel) kit.needs.push({ kind: "part", say: l.bezel });
  if (l.consequence) kit.needs.push({ kind: "person", say: l.consequence });
  kit.needs.push(tool("Plastic wedges"), material("Fabric tape"), {
    kind: "licence",
    say: "Proof that the radio is not locked to another car",
    why: "Theft protection: maker's procedure and licensed people.",
  });
  return kit;
}

/** A document that does not say whether it has one is taken to have it. */
const HAS_CAMERA = { not: { fact: "bodyComputer.rearCamera", is: ["no"] } };

const SAY: Record<string, string> = {
  "loom-radio": "Car's radio plug into the new radio",
  "antenna-radio": "Roof antenna into the new radio",
  "loom-screen": "Supply plug into the new screen",
  "display-radio": "Display lead into the new radio",
  "display-screen": "Display lead into the new screen",
  "camera-radio": "Camera plug into the new radio",
  "satellite-radio": "Satellite antenna into the new radio, by its colour",
  "usb-panel": "USB lead into the socket panel",
  "usb-radio": "USB lead into the new radio",
  "usb-stick": "Stick with music for the try",
};

const REST: NormalState = {
  id: "restAfterPlug",
  title: "The car rests after the programming plug",
  seen: "The new screen stays dark or asks for the code.",
  shows: ["black", "message", "silent"],
  why: "Some control units take what the plug wrote only after a sleep.",
  remedy: "Key off, doors shut, wait 30 s, key on; common practice.",
  lastsS: { min: 30, max: 60 },
  functions: ["factoryPicture", "tunerSound"],
};

/** The new radio does not close the emergency loop; without the dummy the car stores a fault. */
function addEmergencyDummy(kit: KitProfile): void {
  const when = { fact: "bodyComputer.emergencyCall", is: ["yes"] };
  kit.parts.push({
    id: "emergencyDummy",
    name: "Dummy of the emergency call",
    type: "device",
    reachMinutes: 2,
    ports: [port("main", "plug", half(EMERGENCY, MALE), [gives("1", "trigger")])],
    sources: [{ id: "loop", at: ["main.1"] }],
    when,
  });
  kit.plug.push({
    id: "k-emergency",
    a: "emergencyDummy.main",
    b: "loom.emergency",
    say: "Dummy into the emergency call plug, or the car stores a fault",
    when,
  });
  kit.needs.push({
    kind: "part",
    say: "Dummy plug of the emergency call",
    why: "The emergency call itself stays as the maker built it; licensed people change it, nobody else.",
    price: 12,
    when,
  });
}

/** In the order of working: a radio that the gateway does not list cannot be coded. */
function settings(f: RadioFeatures): KitProfile["sets"] {
  return [
    ...(f.listed === "to be listed"
      ? [
          {
            setting: "radio.listed",
            value: "yes",
            means: "gateway" as const,
            say: "Add the new radio to the gateway's list, then scan again",
            minutes: 12,
          },
        ]
      : []),
    ...(f.watchesTweeters
      ? [
          {
            setting: "radio.tweeters",
            value: "not watched",
            means: "coding" as const,
            say: "Code the tweeters as not watched: this car has none, and watching them stores a fault at once",
            minutes: 6,
            when: { fact: "bodyComputer.tweeters", is: ["no"] },
          },
        ]
      : []),
    ...(f.sided
      ? [
          {
            setting: "radio.side",
            value: "right",
            means: "coding" as const,
            say: "Code the menu for right-hand drive",
            minutes: 4,
            when: { car: "driveSide" as const, is: ["right"] },
          },
        ]
      : []),
    ...(f.coded === "by programming plug"
      ? [
          {
            setting: "radio.coded",
            value: "yes",
            means: "programmingPlug" as const,
            say: "Tell the car of the new module with the programming plug",
            minutes: 8,
          },
        ]
      : []),
  ];
}
