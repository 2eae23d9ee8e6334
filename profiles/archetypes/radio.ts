/** A radio with or without a screen, as a car leaves the factory with it or as a kit brings it. */
import { z } from "zod";
import type { Condition, Contact, FunctionSpec, Link, Part, Port, Route, Source } from "../../core/model/types";
import { ANTENNA, PICTURE, SATELLITE } from "./car";
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
  link,
  MALE,
  not,
  type Pins,
  type Plug,
  plugSchema,
  port,
  REVERSE_CAUTION,
  SPEAKER_BLOCK,
  set,
  speakerContacts,
  supplyNeeds,
  takes,
  wire,
} from "./vocabulary";

/** Features of a radio as a person can see or try them. */
export const radioFeatures = z.strictObject({
  name: z.string().trim().min(1).max(120).describe("Name, for example Radio R2"),
  screen: z
    .strictObject({
      place: z.enum(["separate", "behind one front", "upper of two"]).describe("Where the screen is"),
      format: z
        .string()
        .regex(/^\d{3,4}x\d{3,4}$/, "pixels, as 1024x600")
        .describe("Pixels"),
      plug: plugSchema.describe("Plug of the picture link"),
      reversible: z.boolean().default(false).describe("The plug goes in both ways round"),
      touch: z.boolean().describe("Touch"),
    })
    .optional()
    .describe("Screen; none for a radio with a text line"),
  lineIn: z.boolean().default(false).describe("Line input"),
  bluetooth: z.boolean().default(false).describe("Hands-free and Bluetooth audio"),
  usb: z.boolean().default(false).describe("USB socket that plays music"),
  videoIn: z.boolean().default(false).describe("Video input"),
  navigation: z.boolean().default(false).describe("Navigation"),
  satellite: z.boolean().default(false).describe("Satellite radio"),
  phoneKey: z.boolean().default(false).describe("Phone key on the front"),
  amplifier: z.enum(["standard", "premium"]).default("standard").describe("Amplifier"),
  mirroring: z.enum(["no", "after update"]).default("no").describe("Mirroring of its own"),
  knob: z.boolean().default(true).describe("Volume knob"),
  knobInput: z.boolean().default(false).describe("Input for a separate volume knob"),
  speechIn: z.boolean().default(false).describe("Input for the speech of a navigation module"),
  coded: z.enum(["as built", "by programming plug"]).default("as built").describe("Coding to the car"),
  /** Must be coded into the gateway before it answers. */
  listed: z.enum(["as built", "to be listed"]).default("as built").describe("Gateway list"),
});
export type RadioFeatures = z.infer<typeof radioFeatures>;

/** What the car gives the radio. */
export interface RadioPlace {
  plug: Plug;
  pins: Pins;
  key: "bus" | "wire";
  sound: "radio" | "ring";
  rearCamera: boolean;
  wheelKeys: boolean;
  satelliteAntenna: boolean;
  /** The plug carries the bus pair. */
  bus: boolean;
  /** The plug carries a reverse wire, as with a manual gearbox. */
  reverseWire: boolean;
}

export interface BuiltRadio {
  parts: Part[];
  links: Link[];
  functions: FunctionSpec[];
}

/** The radio mutes its own sound while a guidance speaks. */
const GUIDANCE = during("pressed", "guidance");

type Sound = { id: string; when: Condition; from?: string; attributes: { sound: string } };

/** Builds radio, screen and what lies between them, with the links to the car's loom. */
export function buildRadio(f: RadioFeatures, place: RadioPlace): BuiltRadio {
  const camera = place.rearCamera && place.bus && Boolean(f.screen);
  const parts = [radio(f, place, camera)];
  const links = [
    link("loom-radio", "loom.radio", "radio.main"),
    link("antenna-radio", "antenna.coax", "radio.antenna"),
  ];
  if (f.screen) {
    parts.push(screen(f.screen), displayLead(f.screen));
    links.push(
      link("loom-screen", "loom.screen", "screen.supply"),
      link("display-radio", "displayLead.radioEnd", "radio.video"),
      link("display-screen", "displayLead.screenEnd", "screen.video"),
    );
  }
  if (camera) links.push(link("camera-radio", "loom.cameraRadio", "radio.camera"));
  if (f.satellite && place.satelliteAntenna)
    links.push(link("satellite-radio", "satelliteAntenna.coax", "radio.satellite"));
  if (f.usb) {
    parts.push(usbPanel(), lead("usbCable", "Lead of the USB socket", 1.4, usbEnd("panel"), usbEnd("radio")));
    links.push(link("usb-panel", "usbCable.panel", "usbPanel.back"), link("usb-radio", "usbCable.radio", "radio.usb"));
  }
  return { parts, links, functions: functions(f, place, camera) };
}

export const KNOB = { family: "Knob 4", ways: 4, colour: "brown" };
export const SPEECH = { family: "Speech 4", ways: 4, colour: "blue" };
const SOCKET = { family: "Socket 5", ways: 5, colour: "white" };
const usbEnd = (id: string) =>
  port(id, id === "panel" ? "socket end" : "radio end", half(SOCKET, FEMALE), [wire("1", "usb")]);

function usbPanel(): Part {
  return {
    id: "usbPanel",
    name: "USB and card socket",
    type: "device",
    reachMinutes: 6,
    ports: [
      port("back", "plug behind", half(SOCKET, MALE), [gives("1", "usb")]),
      port("front", "socket", half({ family: "USB A", ways: 4 }, FEMALE), [takes("1", "usb")]),
    ],
    routes: [{ id: "through", from: "front.1", to: "back.1" }],
  };
}

function radio(f: RadioFeatures, place: RadioPlace, camera: boolean): Part {
  const { pins } = place;
  const ports: Port[] = [
    port("main", "main plug", half(place.plug, MALE), mainContacts(place)),
    port("antenna", "antenna socket", half(ANTENNA, FEMALE), [takes("1", "radioFrequency")]),
    inside("heard", "what the radio understands", [
      gives("mic", "microphone", "microphone heard"),
      gives("touch", "touch", "touch heard"),
      ...(f.navigation ? [gives("navigation", "trigger", "navigation in the menu")] : []),
      gives("volume", "trigger", "volume bar"),
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
    sounds.push({ id: "usb", from: "usb.1", when: during("source", "usb"), attributes: { sound: "phone" } });
  }
  if (f.satellite)
    ports.push(port("satellite", "satellite antenna socket", half(SATELLITE, FEMALE), [takes("1", "radioFrequency")]));
  if (f.screen) addPicture(f, f.screen, place, camera, { ports, sources, routes });
  for (const s of sounds) addSound(place, s, sources, routes);
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
    ...(place.bus ? { buses: [{ id: "car", high: `main.${pins.high}`, low: `main.${pins.low}` }] } : {}),
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

/** A radio that must be listed or coded does nothing before that. */
function alive(f: RadioFeatures): Condition {
  return all(
    { situation: "key", is: ["accessory", "on", "running"] },
    ...(f.listed === "to be listed" ? [set("listed", "yes")] : []),
    ...(f.coded === "by programming plug" ? [set("coded", "yes")] : []),
  );
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

/** Sound leaves over eight speaker contacts, or over the ring as long as its light comes back. */
function addSound(place: RadioPlace, s: Sound, sources: Source[], routes: Route[]): void {
  const outs: [string, Record<string, string>][] =
    place.sound === "ring"
      ? [["main.s", {}]]
      : SPEAKER_BLOCK.map(([id, channel, pole]) => [`main.${id}`, { channel, pole }]);
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

type Draft = { ports: Port[]; sources: Source[]; routes: Route[] };

function addPicture(
  f: RadioFeatures,
  s: NonNullable<RadioFeatures["screen"]>,
  place: RadioPlace,
  camera: boolean,
  to: Draft,
): void {
  to.ports.push(port("video", "picture socket", half(s.plug, MALE), pictureContacts("out")));
  const reversing: Condition = place.reverseWire
    ? { any: [IN_REVERSE, has(`main.${place.pins.reverse}`)] }
    : IN_REVERSE;
  const notReversing = camera ? [not(reversing)] : [];
  const mirrored = all(set("mirroring", "open"), during("source", "usb"), during("pictureMode", "phone"));
  to.sources.push({
    id: "menu",
    at: ["video.v"],
    attributes: { picture: "factory", format: "native" },
    when: all(
      ...notReversing,
      ...(f.mirroring === "after update" ? [not(mirrored)] : []),
      ...(f.videoIn ? [not(all(during("pictureMode", "phone"), set("autoReturn", "off")))] : []),
      alive(f),
    ),
    settleMs: 400,
  });
  to.routes.push({ id: "touch", from: "video.t", to: "heard.touch" });
  if (camera) {
    to.ports.push(port("camera", "camera input", half(PICTURE, MALE), [takes("1", "compositeVideo")]));
    to.routes.push({ id: "camera", from: "camera.1", to: "video.v", when: reversing, settleMs: 300 });
  }
  if (f.videoIn) {
    to.ports.push(
      port("videoIn", "video input", half({ family: "Round plug", ways: 1, colour: "yellow" }, FEMALE), [
        takes("1", "compositeVideo"),
      ]),
    );
    const passenger: Condition[] = place.bus ? [hears("passengerScreen")] : [];
    const still: Condition = { any: [{ situation: "speedKmh", atMost: 5 }, ...passenger] };
    const wanted = all(during("pictureMode", "phone"), set("autoReturn", "off"), ...notReversing);
    for (const [value, format] of [
      ["original", "with bars"],
      ["wide", s.format],
    ] as const)
      to.routes.push({
        id: `external-${value}`,
        from: "videoIn.1",
        to: "video.v",
        when: all(wanted, still, set("videoFormat", value)),
        set: { format },
        settleMs: 800,
      });
    to.sources.push({
      id: "lock",
      at: ["video.v"],
      attributes: { picture: "lock notice", format: "native" },
      when: all(wanted, { situation: "speedKmh", atLeast: 6 }, ...passenger.map(not)),
    });
  }
  if (f.mirroring === "after update") {
    to.ports.push(port("usb2", "second socket input", half({ ...SOCKET, colour: "green" }, MALE), [takes("1", "usb")]));
    to.routes.push({
      id: "mirror",
      from: "usb.1",
      to: "video.v",
      when: all(mirrored, has("usb.1", { lane: "first" }), has("usb2.1", { lane: "second" }), ...notReversing),
      set: { picture: "phone", format: s.format },
      settleMs: 4000,
    });
  }
}

export function pictureContacts(side: "out" | "in" | "wire"): Contact[] {
  if (side === "wire") return [wire("v", "serialVideo", "picture"), wire("t", "touch")];
  return side === "out"
    ? [gives("v", "serialVideo", "picture"), takes("t", "touch")]
    : [takes("v", "serialVideo", "picture"), gives("t", "touch")];
}

function screen(s: NonNullable<RadioFeatures["screen"]>): Part {
  return {
    id: "screen",
    name: `Screen ${s.format}`,
    type: "device",
    reachMinutes: 3,
    facts: { format: s.format, touch: s.touch ? "yes" : "no" },
    needs: supplyNeeds("supply", { battery: "1", ground: "2" }),
    ports: [
      port("supply", "supply plug", half({ family: "Supply 4", ways: 4, colour: "white" }, MALE), [
        takes("1", "battery"),
        takes("2", "ground"),
      ]),
      port("video", "picture socket", half(s.plug, MALE), pictureContacts("in")),
      inside("glass", "glass", [gives("picture", "serialVideo", "picture")]),
    ],
    sources: s.touch
      ? [{ id: "finger", at: ["video.t"], attributes: { touch: "finger" }, when: during("pressed", "screen") }]
      : [],
    routes: [{ id: "show", from: "video.v", to: "glass.picture" }],
  };
}

function displayLead(s: NonNullable<RadioFeatures["screen"]>): Part {
  const end = (id: string, label: string) =>
    port(id, label, half(s.plug, FEMALE, s.reversible ? { reversible: true } : {}), pictureContacts("wire"));
  return s.place === "behind one front"
    ? lead(
        "displayLead",
        "Ribbon between board and glass",
        0.12,
        end("radioEnd", "board end"),
        end("screenEnd", "glass end"),
      )
    : lead("displayLead", "Factory display lead", 1.2, end("radioEnd", "radio end"), end("screenEnd", "screen end"));
}

/** The customer's phone, present in every car with a radio. */
export function phone(): Part {
  return {
    id: "phone",
    name: "Customer's phone",
    type: "device",
    reachMinutes: 0,
    ports: [
      port("usb", "socket", half({ family: "USB C", ways: 24 }, FEMALE), [wire("1", "usb")]),
      port("air", "wireless", null, [gives("1", "wireless")]),
      port("bluetooth", "Bluetooth", null, [gives("1", "wireless")]),
    ],
    sources: [
      { id: "cable", at: ["usb.1"], attributes: { session: "mirroring" }, when: { situation: "phone", is: ["wired"] } },
      {
        id: "wireless",
        at: ["air.1"],
        attributes: { session: "mirroring" },
        when: { situation: "phone", is: ["wireless"] },
      },
      { id: "carLink", at: ["bluetooth.1"], attributes: { sound: "phone" }, when: { situation: "paired", is: [true] } },
    ],
  };
}

function functions(f: RadioFeatures, place: RadioPlace, camera: boolean): FunctionSpec[] {
  const { pins } = place;
  const list: FunctionSpec[] = [];
  if (f.screen) {
    list.push({
      id: "factoryPicture",
      name: "Factory picture",
      say: "Ignition on; the radio menu appears on the screen.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "factory" } }],
      situations: [
        { id: "on", label: "ignition on", set: {} },
        { id: "running", label: "engine running", set: { key: "running" } },
      ],
      withinMs: 3000,
      minutes: 0.5,
    });
    if (f.screen.touch)
      list.push({
        id: "factoryTouch",
        name: "Touch in the factory picture",
        say: "Touch a menu field; the menu follows.",
        who: "customer",
        observe: [{ at: "radio.heard.touch", where: { touch: "finger" } }],
        situations: [{ id: "on", label: "ignition on", set: { pressed: "screen" } }],
        minutes: 0.5,
      });
  }
  list.push({
    id: "tunerSound",
    name: "Radio sound on four speakers",
    say: "Play the tuner; move balance and fader to each corner.",
    who: "customer",
    observe: fourSpeakers("tuner"),
    situations: [{ id: "on", label: "tuner playing", set: { source: "radio" } }],
    minutes: 1,
  });
  if (f.bluetooth)
    list.push({
      id: "handsFree",
      name: "Calls on the car's hands-free",
      say: "Call over the paired phone; the far end hears you.",
      who: "customer",
      observe: [{ at: "radio.heard.mic", where: { voice: "factory" } }],
      situations: [{ id: "call", label: "phone paired with the car", set: {} }],
      minutes: 2,
    });
  if (camera)
    list.push({
      id: "rearView",
      name: "Rear camera",
      say: "Select reverse; the rear picture appears within two seconds and goes when reverse is left.",
      who: "law",
      observe: [{ at: "screen.glass.picture", where: { picture: "rear camera" } }],
      situations: [{ id: "factory", label: "factory picture", set: { selector: "R" } }],
      withinMs: 2000,
      minutes: 1,
      caution: REVERSE_CAUTION,
    });
  if (f.knob || f.knobInput)
    list.push({
      id: "volumeKnob",
      name: "Volume knob",
      say: "Turn the volume knob; the volume bar moves.",
      who: "customer",
      observe: [{ at: "radio.heard.volume", where: {} }],
      situations: [{ id: "turn", label: "turned", set: { pressed: "knob" } }],
      minutes: 0.5,
    });
  if (place.wheelKeys && place.bus)
    list.push({
      id: "wheelVolume",
      name: "Wheel volume keys",
      say: "Press volume up on the wheel; the volume bar moves.",
      who: "customer",
      observe: [
        { at: `radio.main.${pins.high}`, where: { message: "wheelVolumeUp", line: "high" } },
        { at: `radio.main.${pins.low}`, where: { message: "wheelVolumeUp", line: "low" } },
      ],
      situations: [{ id: "short", label: "short press", set: { pressed: "volumeUp" } }],
      minutes: 0.5,
    });
  if (f.navigation)
    list.push({
      id: "navigation",
      name: "Navigation",
      say: "Choose a destination; the guidance starts.",
      who: "customer",
      observe: [{ at: "radio.heard.navigation", where: {} }],
      situations: [{ id: "on", label: "navigation running", set: {} }],
      minutes: 2,
    });
  if (f.satellite)
    list.push({
      id: "satelliteRadio",
      name: "Satellite radio",
      say: "Choose a satellite channel; it plays.",
      who: "customer",
      observe: [{ at: "radio.satellite.1", where: { band: "satellite" } }],
      situations: [{ id: "on", label: "car outside", set: {} }],
      minutes: 1,
    });
  return list;
}
