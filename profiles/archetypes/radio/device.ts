import type { Condition, Contact, Part, Port, Route, Source } from "../../../core/model/types";
import { ANTENNA, EMERGENCY, SATELLITE } from "../car/plugs";
import {
  all,
  busNeeds,
  during,
  FEMALE,
  gives,
  half,
  has,
  inside,
  MALE,
  not,
  port,
  SPEAKER_BLOCK,
  set,
  speakerContacts,
  supplyNeeds,
  takes,
  wire,
} from "../vocabulary";
import { alive } from "./alive";
import type { RadioFeatures, RadioPlace } from "./features";
import { addPicture } from "./picture";
import { FRONT_KEYS, KEY_INPUT, KNOB, SOCKET, SPEECH } from "./plugs";

/** The radio mutes its own sound while a guidance speaks. */
const GUIDANCE = during("pressed", "guidance");

const SIDES = ["left", "right"] as const;

/** Values of the settings that exchange the loudspeakers, and which one then plays for which. */
const STRAIGHT = "as built";
const EXCHANGED = "left and right exchanged";
const OTHER_SIDE = { LF: "RF", RF: "LF", LR: "RR", RR: "LR" } as const;

type Sound = {
  id: string;
  when: Condition;
  from?: string;
  attributes: { sound?: string };
  /** Left goes to the right and the other way round. */
  exchanged?: boolean;
};

export function radio(f: RadioFeatures, place: RadioPlace, camera: boolean): Part {
  const { pins } = place;
  const ports: Port[] = [
    port("main", "main plug", half(place.plug, MALE), mainContacts(place)),
    port("antenna", "antenna socket", half(ANTENNA, FEMALE), [takes("1", "radioFrequency")]),
    inside("heard", "what the radio understands", [
      gives("mic", "microphone", "microphone heard"),
      gives("touch", "touch", "touch heard"),
      ...(f.navigation ? [gives("navigation", "trigger", "navigation in the menu")] : []),
      gives("volume", "trigger", "volume bar"),
      ...(f.frontKeys ? [gives("menu", "trigger", "menu opens")] : []),
      ...(f.sided ? [gives("side", "trigger", "menu on the driver's side")] : []),
    ]),
  ];
  const sources: Source[] = f.navigation ? [{ id: "navigation", at: ["heard.navigation"], when: alive(f) }] : [];
  const routes: Route[] = [];
  const sounds: Sound[] = [
    {
      id: "tuner",
      when: all(during("source", "radio"), ...(f.speechIn ? [not(GUIDANCE)] : []), has("antenna.1"), alive(f)),
      attributes: { sound: "tuner" },
    },
  ];
  if (f.knob) sources.push({ id: "knob", at: ["heard.volume"], when: all(during("pressed", "knob"), alive(f)) });
  if (place.emergencyCall) {
    ports.push(port("emergency", "emergency call plug", half(EMERGENCY, MALE), [gives("1", "trigger")]));
    sources.push({ id: "emergencyLoop", at: ["emergency.1"] });
  }
  if (f.frontKeys) {
    ports.push(port("front", "socket of the front keys", half(FRONT_KEYS, MALE), [takes("1", "keyScan")]));
    sources.push({ id: "menu", at: ["heard.menu"], when: all(has("front.1", { key: "menu" }), alive(f)) });
  }
  if (f.keyInput) {
    ports.push(port("keyIn", "wheel key input", half(KEY_INPUT, MALE), [takes("1", "keyScan")]));
    sources.push({ id: "wheelVolume", at: ["heard.volume"], when: all(has("keyIn.1", { key: "volumeUp" }), alive(f)) });
  }
  if (f.sided)
    for (const side of SIDES)
      sources.push({
        id: `side-${side}`,
        at: ["heard.side"],
        attributes: { side },
        when: all(set("side", side), alive(f)),
      });
  if (f.knobInput) {
    ports.push(port("knob", "knob input", half(KNOB, FEMALE), [takes("1", "keyScan")]));
    sources.push({ id: "separateKnob", at: ["heard.volume"], when: all(has("knob.1"), alive(f)) });
  }
  if (f.speechIn) {
    ports.push(
      port("speech", "speech input", half(SPEECH, MALE), [
        takes("std", "lineAudio", "speech, standard amplifier"),
        takes("prem", "lineAudio", "speech, premium amplifier"),
      ]),
    );
    sounds.push({
      id: "speech",
      from: f.amplifier === "premium" ? "speech.prem" : "speech.std",
      when: GUIDANCE,
      attributes: { sound: "guidance" },
    });
  }
  if (f.lineIn) {
    ports.push(
      port("aux", "line input", half({ family: "Line 3", ways: 3, colour: "green" }, MALE), [
        takes("L", "lineAudio"),
        takes("R", "lineAudio"),
        wire("G", "ground"),
      ]),
    );
    sounds.push({ id: "line", from: "aux.L", when: during("source", "lineIn"), attributes: { sound: "phone" } });
  }
  if (f.bluetooth) {
    ports.push(port("bluetooth", "Bluetooth", null, [takes("1", "wireless")]));
    sounds.push({
      id: "bluetooth",
      from: "bluetooth.1",
      when: during("source", "bluetooth"),
      attributes: { sound: "phone" },
    });
    routes.push({
      id: "microphone",
      from: `main.${pins.mic}`,
      to: "heard.mic",
      when: all({ situation: "paired", is: [true] }, has("bluetooth.1")),
    });
  }
  if (f.usb) {
    ports.push(port("usb", "USB input", half(SOCKET, MALE), [takes("1", "usb")]));
    sounds.push({ id: "usb", from: "usb.1", when: during("source", "usb"), attributes: {} });
  }
  if (f.satellite)
    ports.push(port("satellite", "satellite antenna socket", half(SATELLITE, FEMALE), [takes("1", "radioFrequency")]));
  if (f.screen) addPicture(f, f.screen, place, camera, { ports, sources, routes });
  for (const s of sounds.flatMap((x) => (f.exchangesSides ? bothSides(x) : [x]))) addSound(place, s, sources, routes);
  if (place.sound === "ring") sources.push({ id: "light", at: ["main.ro"], attributes: { ring: "light" } });
  return {
    id: "radio",
    name: f.name,
    type: "device",
    reachMinutes: 1,
    facts: {
      phoneKey: f.phoneKey ? "yes" : "no",
      amplifier: f.amplifier,
      screen: f.screen?.place ?? "text line",
      camera: camera ? "yes" : "no",
      knob: f.knob ? "yes" : "no",
      lineIn: f.lineIn ? "yes" : "no",
      mirroring: f.mirroring,
    },
    needs:
      place.key === "bus"
        ? busNeeds("main", pins)
        : [...supplyNeeds("main", pins), { at: `main.${pins.accessory}`, say: "the accessory feed" }],
    ...(place.bus
      ? {
          buses: [
            {
              id: "car",
              high: `main.${pins.high}`,
              low: `main.${pins.low}`,
              ...(place.endsBus ? { terminatorOhm: 120 } : {}),
            },
          ],
        }
      : {}),
    settings: [
      ...(f.mirroring === "after update"
        ? [{ id: "mirroring", label: "Mirroring in the firmware", values: ["locked", "open"], initial: "locked" }]
        : []),
      ...(f.listed === "to be listed"
        ? [{ id: "listed", label: "In the gateway's list of modules", values: ["no", "yes"], initial: "no" }]
        : []),
      ...(f.coded === "by programming plug"
        ? [{ id: "coded", label: "Told to the car by the programming plug", values: ["no", "yes"], initial: "no" }]
        : []),
      ...(f.exchangesSides
        ? [
            { id: "channels", label: "Loudspeakers by the firmware", values: [STRAIGHT, EXCHANGED], initial: STRAIGHT },
            {
              id: "speakerPins",
              label: "Contacts of the speaker plug",
              values: [STRAIGHT, EXCHANGED],
              initial: STRAIGHT,
            },
          ]
        : []),
      ...(f.sided ? [{ id: "side", label: "Menu for which drive", values: [...SIDES], initial: "left" }] : []),
      ...(f.watchesTweeters
        ? [
            {
              id: "tweeters",
              label: "Tweeters",
              values: ["watched", "not watched"],
              initial: place.watchesTweeters ? "watched" : "not watched",
            },
          ]
        : []),
      ...(f.videoIn
        ? [
            {
              id: "videoFormat",
              label: "Format of the video input",
              values: ["original", "wide"],
              initial: "original",
            },
            { id: "autoReturn", label: "Automatic return to the home page", values: ["on", "off"], initial: "on" },
          ]
        : []),
    ],
    ports,
    sources,
    routes,
  };
}

function mainContacts(place: RadioPlace): Contact[] {
  const { pins } = place;
  return [
    ...(place.sound === "ring"
      ? [
          gives("ro", "opticalRing", "ring, out"),
          takes("ri", "opticalRing", "ring, back"),
          gives("s", "lineAudio", "sound on the ring"),
        ]
      : speakerContacts("out")),
    ...(place.bus ? [wire(pins.high, "can", "bus high"), wire(pins.low, "can", "bus low")] : []),
    takes(pins.mic, "microphone"),
    takes(pins.battery, "battery"),
    takes(pins.ground, "ground"),
    ...(place.key === "wire" ? [takes(pins.accessory, "accessory")] : []),
    ...(place.reverseWire ? [takes(pins.reverse, "reverse")] : []),
  ];
}

/** Firmware and the contacts in the plug each may exchange the sides; both together are as if neither did. */
function bothSides(s: Sound): Sound[] {
  const asWired: Condition = {
    any: [STRAIGHT, EXCHANGED].map((value) => all(set("channels", value), set("speakerPins", value))),
  };
  return [
    { ...s, when: all(s.when, asWired) },
    { ...s, id: `${s.id}X`, when: all(s.when, not(asWired)), exchanged: true },
  ];
}

/** Sound leaves over eight speaker contacts, or over the ring as long as its light comes back. */
function addSound(place: RadioPlace, s: Sound, sources: Source[], routes: Route[]): void {
  const outs: [string, Record<string, string>][] =
    place.sound === "ring"
      ? [["main.s", {}]]
      : SPEAKER_BLOCK.map(([id, channel, pole]) => [
          `main.${id}`,
          { channel: s.exchanged ? OTHER_SIDE[channel] : channel, pole },
        ]);
  const when = place.sound === "ring" ? all(s.when, has("main.ri", { ring: "light" })) : s.when;
  for (const [at, attributes] of outs) {
    const id = `${s.id}-${at.slice(5)}`;
    if (s.from) {
      // The right-hand loudspeakers of a line input follow its right contact.
      const from = s.from === "aux.L" && attributes.channel?.startsWith("R") ? "aux.R" : s.from;
      routes.push({ id, from, to: at, when, set: { ...s.attributes, ...attributes } });
    } else sources.push({ id, at: [at], when, attributes: { ...s.attributes, ...attributes } });
  }
}
