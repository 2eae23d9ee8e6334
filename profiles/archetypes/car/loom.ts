import type { Contact, Join, Part, Port } from "../../../core/model/types";
import { FEMALE, gives, half, port, SPEAKER_BLOCK, speakerContacts, wire } from "../vocabulary";
import type { CarLeaflet } from "./leaflet";
import {
  AMPLIFIER,
  BODY,
  CAMERA,
  CLIMATE,
  EMERGENCY,
  HANDS_FREE,
  MIC,
  PICTURE,
  RING_WIRES,
  SUPPLY,
  SWITCH,
  WHEEL,
  ZONES,
} from "./plugs";

export function battery(): Part {
  return {
    id: "battery",
    name: "Battery",
    type: "device",
    reachMinutes: 3,
    ports: [port("posts", "posts", null, [gives("30", "battery"), gives("31", "ground")])],
    sources: [
      { id: "supply", at: ["posts.30"] },
      { id: "ground", at: ["posts.31"] },
    ],
  };
}

/** Tweeters hang on the radio's front pairs; an amplifier on the ring has its own. */
export function hasTweeters(l: CarLeaflet): boolean {
  return l.tweeters && l.sound === "radio";
}

/** Contacts of the two front loudspeakers in the block. */
export function frontPairs(direction: Parameters<typeof speakerContacts>[0]): Contact[] {
  const front: ReadonlySet<string> = new Set(
    SPEAKER_BLOCK.filter(([, channel]) => channel.endsWith("F")).map(([id]) => id),
  );
  return speakerContacts(direction).filter((c) => front.has(c.id));
}

export function loom(l: CarLeaflet): Part {
  const { pins } = l;
  const ports: Port[] = [
    port("posts", "battery leads", null, [wire("30", "battery"), wire("31", "ground")]),
    port("body", "body computer plug", half(BODY, FEMALE), [
      wire("1", "battery"),
      wire("2", "ground"),
      wire("3", "can"),
      wire("4", "can"),
      wire("5", "keyScan", "wheel keys"),
      wire("6", "reverse"),
      wire("7", "keyScan", "hazard switch"),
      wire("8", "accessory"),
    ]),
    port("radio", "radio plug", half({ lock: "lever", ...l.radioPlug }, FEMALE), [
      ...(l.sound === "ring" ? RING_WIRES() : speakerContacts("wire")),
      ...(l.busAtRadio ? [wire(pins.high, "can", "bus high"), wire(pins.low, "can", "bus low")] : []),
      wire(pins.mic, "microphone"),
      wire(pins.battery, "battery"),
      wire(pins.ground, "ground"),
      ...(l.key === "wire" ? [wire(pins.accessory, "accessory")] : []),
      ...(l.gearbox === "manual" ? [wire(pins.reverse, "reverse")] : []),
    ]),
    port("screen", "screen supply plug", half(SUPPLY, FEMALE), [wire("1", "battery"), wire("2", "ground")]),
    port("mic", "microphone plug", half(MIC, FEMALE), [wire("1", "microphone")]),
    port("vents", "vent panel plug", half(SWITCH, FEMALE), [wire("1", "keyScan", "hazard switch")]),
    port("reverseLamp", "reverse lamp plug", half({ family: "Lamp 2", ways: 2 }, FEMALE), [
      wire("1", "reverse"),
      wire("2", "ground"),
    ]),
    port("socket12", "12 V socket", half({ family: "Socket 12 V", ways: 2 }, FEMALE), [
      wire("1", "accessory"),
      wire("2", "ground"),
    ]),
    port("fusePanel", "switched fuse position", half({ family: "Blade fuse", ways: 1 }, FEMALE), [
      wire("1", "accessory"),
    ]),
    port("busTap", "bus pair at the body computer", null, [wire("H", "can", "bus high"), wire("L", "can", "bus low")]),
  ];
  const joins: Join[] = [
    { contacts: ["posts.30", "body.1", `radio.${pins.battery}`, "screen.1"], mm2: 1.5, fuseA: 15 },
    { contacts: ["posts.31", "body.2", `radio.${pins.ground}`, "screen.2", "reverseLamp.2", "socket12.2"], mm2: 1.5 },
    { contacts: ["body.3", "busTap.H", ...(l.busAtRadio ? [`radio.${pins.high}`] : [])] },
    { contacts: ["body.4", "busTap.L", ...(l.busAtRadio ? [`radio.${pins.low}`] : [])] },
    { contacts: ["body.6", "reverseLamp.1", ...(l.gearbox === "manual" ? [`radio.${pins.reverse}`] : [])] },
    { contacts: ["body.7", "vents.1"] },
    ...(l.handsFreeModule ? [] : [{ contacts: ["mic.1", `radio.${pins.mic}`] }]),
    {
      contacts: ["body.8", "socket12.1", "fusePanel.1", ...(l.key === "wire" ? [`radio.${pins.accessory}`] : [])],
      mm2: 1.5,
      fuseA: 15,
    },
  ];
  const add = (p: Port, ...more: string[][]) => {
    ports.push(p);
    for (const contacts of more) joins.push({ contacts });
  };
  if (l.wheelKeys)
    add(port("wheel", "wheel key plug", half(WHEEL, FEMALE), [wire("1", "keyScan")]), ["body.5", "wheel.1"]);
  if (l.emergencyCall) {
    add(
      port("emergency", "emergency call plug", half(EMERGENCY, FEMALE), [wire("1", "trigger", "emergency call loop")]),
      ["body.9", "emergency.1"],
    );
    ports.find((p) => p.id === "body")?.contacts.push(wire("9", "trigger", "emergency call loop"));
  }
  if (hasTweeters(l)) {
    add(port("tweeters", "tweeter leads", null, frontPairs("wire")));
    for (const { id } of frontPairs("wire")) joins.push({ contacts: [`tweeters.${id}`, `radio.${id}`] });
  }
  if (l.rearCamera) {
    add(
      port("camera", "rear camera plug", half(CAMERA, FEMALE), [
        wire("1", "reverse"),
        wire("2", "ground"),
        wire("3", "compositeVideo"),
      ]),
      ["camera.3", "cameraRadio.1"],
    );
    add(port("cameraRadio", "camera plug at the radio", half(PICTURE, FEMALE), [wire("1", "compositeVideo")]));
    joins[1]?.contacts.push("camera.2");
    joins[4]?.contacts.push("camera.1");
  }
  if (l.handsFreeModule) {
    add(
      port("handsFree", "hands-free module plug", half(HANDS_FREE, FEMALE), [
        wire("1", "microphone"),
        wire("2", "microphone", "microphone, to the radio"),
        wire("3", "battery"),
        wire("4", "ground"),
      ]),
      ["mic.1", "handsFree.1", "micTap.1"],
      ["handsFree.2", `radio.${pins.mic}`],
    );
    add(port("micTap", "hands-free module, two cavities", null, [wire("1", "microphone"), wire("2", "ground")]));
    joins[0]?.contacts.push("handsFree.3");
    joins[1]?.contacts.push("handsFree.4", "micTap.2");
  }
  if (l.sound === "ring")
    add(
      port("amplifier", "amplifier plug", half(AMPLIFIER, FEMALE), [
        ...RING_WIRES(),
        wire("1", "battery"),
        wire("2", "ground"),
      ]),
      ["radio.ro", "amplifier.ri"],
      ["amplifier.ro", "radio.ri"],
      ["radio.s", "amplifier.s"],
    );
  else
    add(
      port("speakers", "speaker leads", null, speakerContacts("wire")),
      ...SPEAKER_BLOCK.map(([id]) => [`radio.${id}`, `speakers.${id}`]),
    );
  if (l.sound === "ring") {
    joins[0]?.contacts.push("amplifier.1");
    joins[1]?.contacts.push("amplifier.2");
  }
  if (l.climateZones > 0) {
    const zones = ZONES.slice(0, l.climateZones);
    add(
      port(
        "climatePanel",
        "climate panel plug",
        half(CLIMATE, FEMALE),
        zones.map((z) => wire(z.id, "keyScan", z.label)),
      ),
      ...zones.map((z) => [`climatePanel.${z.id}`, `climate.${z.id}`]),
    );
    add(
      port(
        "climate",
        "climate unit plug",
        half(CLIMATE, FEMALE),
        zones.map((z) => wire(z.id, "keyScan", z.label)),
      ),
    );
  }
  return { id: "loom", name: "Car loom", type: "loom", ports, joins };
}
