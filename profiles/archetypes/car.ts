import { z } from "zod";
import type { CarProfile, StripStep } from "../../core/model/profile";
import type { Condition, FunctionSpec, Message, Part, Port } from "../../core/model/types";
import { questionSchema } from "../schema";
import {
  FEMALE,
  gives,
  half,
  has,
  inside,
  link,
  MALE,
  type Pins,
  pinsSchema,
  plugSchema,
  port,
  SPEAKER_BLOCK,
  speakerContacts,
  supplyNeeds,
  takes,
  USUAL_PINS,
  wire,
} from "./vocabulary";

const words = z.string().trim().min(1).max(600);

/** What a person writes down about a car; the document with its parts and loom follows from it. */
export const carLeaflet = z.strictObject({
  archetype: z.literal("car"),
  id: z.string().regex(/^[a-z0-9-]+$/),
  maker: words,
  model: words,
  years: z.strictObject({ from: z.int(), to: z.int() }),
  driveSide: z.enum(["left", "right"]),
  gearbox: z.enum(["automatic", "manual"]),
  countries: z.array(z.string()),
  radioPlug: plugSchema,
  pins: pinsSchema.default(USUAL_PINS),
  /** How the radio learns that the key is on. */
  key: z.enum(["bus", "wire"]).default("bus"),
  /** A plain old radio plug has no bus; then the pair is tapped at the body computer. */
  busAtRadio: z.boolean().default(true),
  /** Where the loudspeakers hang: on the radio, or on an amplifier on the optical ring. */
  sound: z.enum(["radio", "ring"]).default("radio"),
  rearCamera: z.boolean(),
  wheelKeys: z.boolean().default(true),
  climateZones: z.int().min(0).max(2).default(0),
  satelliteAntenna: z.boolean().default(false),
  identification: z.array(z.strictObject({ pattern: z.string(), says: words })),
  questions: z.array(questionSchema).default([]),
  sourceNote: words.default("Invented for the demonstration."),
});
export type CarLeaflet = z.infer<typeof carLeaflet>;

/** Builds the car as built, without its radio. */
export function buildCar(l: CarLeaflet): CarProfile {
  return {
    document: "car",
    id: l.id,
    version: 1,
    title: `${l.maker} ${l.model}, ${l.years.from} to ${l.years.to}, ${l.gearbox}`,
    sourceNote: l.sourceNote,
    maker: l.maker,
    model: l.model,
    years: l.years,
    driveSide: l.driveSide,
    gearbox: l.gearbox,
    countries: l.countries,
    questions: l.questions,
    identification: l.identification,
    parts: [battery(), loom(l), bodyComputer(l), ...fittings(l)],
    links: [
      link("battery-loom", "loom.posts", "battery.posts"),
      link("loom-body", "loom.body", "bodyComputer.main"),
      link("loom-vents", "loom.vents", "ventPanel.main"),
      link("loom-mic", "loom.mic", "carMic.main"),
      ...(l.wheelKeys ? [link("loom-wheel", "loom.wheel", "wheelKeys.main")] : []),
      ...(l.rearCamera ? [link("loom-camera", "loom.camera", "rearCamera.main")] : []),
      ...(l.sound === "ring"
        ? [
            link("loom-amplifier", "loom.amplifier", "amplifier.main"),
            link("amplifier-speakers", "amplifier.speakers", "speakers.main"),
          ]
        : [link("loom-speakers", "loom.speakers", "speakers.main")]),
      ...(l.climateZones > 0
        ? [
            link("loom-climate-panel", "loom.climatePanel", "climatePanel.main"),
            link("loom-climate", "loom.climate", "climateUnit.main"),
          ]
        : []),
    ],
    functions: functions(l),
    assumed: [],
    usual: { key: "on", selector: "P", parkingBrake: true, paired: true },
    stripPlan: { steps: stripSteps(l) },
  };
}

function battery(): Part {
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

function loom(l: CarLeaflet): Part {
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
    port("radio", "radio plug", half(l.radioPlug, FEMALE), [
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
    port("busTap", "bus pair at the body computer", half(BUS_TAP, FEMALE), [
      wire("H", "can", "bus high"),
      wire("L", "can", "bus low"),
    ]),
  ];
  const joins = [
    { contacts: ["posts.30", "body.1", `radio.${pins.battery}`, "screen.1"] },
    { contacts: ["posts.31", "body.2", `radio.${pins.ground}`, "screen.2", "reverseLamp.2", "socket12.2"] },
    { contacts: ["body.3", "busTap.H", ...(l.busAtRadio ? [`radio.${pins.high}`] : [])] },
    { contacts: ["body.4", "busTap.L", ...(l.busAtRadio ? [`radio.${pins.low}`] : [])] },
    { contacts: ["body.6", "reverseLamp.1", ...(l.gearbox === "manual" ? [`radio.${pins.reverse}`] : [])] },
    { contacts: ["body.7", "vents.1"] },
    { contacts: ["mic.1", `radio.${pins.mic}`] },
    { contacts: ["body.8", "socket12.1", "fusePanel.1", ...(l.key === "wire" ? [`radio.${pins.accessory}`] : [])] },
  ];
  const add = (p: Port, ...more: string[][]) => {
    ports.push(p);
    for (const contacts of more) joins.push({ contacts });
  };
  if (l.wheelKeys)
    add(port("wheel", "wheel key plug", half(WHEEL, FEMALE), [wire("1", "keyScan")]), ["body.5", "wheel.1"]);
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

/** Ring contacts: light out of the radio, light back into it, and the sound that travels with the light. */
export const RING_WIRES = () => [
  wire("ro", "opticalRing", "ring, from the radio"),
  wire("ri", "opticalRing", "ring, back to the radio"),
  wire("s", "lineAudio", "sound on the ring"),
];

export const BUS_TAP = { family: "Bus pair 2", ways: 2 };
const BODY = { family: "Body 8", ways: 8 };
const SUPPLY = { family: "Supply 4", ways: 4, colour: "white" };
const MIC = { family: "Mic 2", ways: 2 };
const SWITCH = { family: "Switch 6", ways: 6, colour: "grey" };
const WHEEL = { family: "Wheel 4", ways: 4 };
export const CAMERA = { family: "Camera 4", ways: 4, keying: "B" };
export const PICTURE = { family: "Picture 2", ways: 2, colour: "yellow" };
const AMPLIFIER = { family: "Ring 8", ways: 8, keying: "O" };
export const CLIMATE = { family: "Climate 10", ways: 10 };
export const ZONES = [
  { id: "L", label: "left zone", press: "warmerLeft" },
  { id: "R", label: "right zone", press: "warmerRight" },
];

function bodyComputer(l: CarLeaflet): Part {
  const awake: Condition = { situation: "key", is: ["accessory", "on", "running"] };
  const reversing: Condition = {
    all: [
      { situation: "selector", is: ["R"] },
      { situation: "key", is: ["on", "running"] },
    ],
  };
  const key = (name: string, pressed: string): Message => ({
    bus: "comfort",
    name,
    when: { all: [awake, has("main.5", { key: pressed })] },
  });
  return {
    id: "bodyComputer",
    name: "Body computer",
    type: "device",
    reachMinutes: 10,
    needs: supplyNeeds("main", { battery: "1", ground: "2" }),
    buses: [{ id: "comfort", high: "main.3", low: "main.4" }],
    messages: [
      { bus: "comfort", name: "keyOn", when: awake },
      // A manual gearbox does not report reverse on the bus; the reverse lamp does.
      ...(l.gearbox === "automatic" ? [{ bus: "comfort", name: "reverse", when: reversing }] : []),
      { bus: "comfort", name: "lightsOn", when: { situation: "lights", is: [true] } },
      ...(l.wheelKeys
        ? [
            key("wheelVolumeUp", "volumeUp"),
            key("wheelVolumeDown", "volumeDown"),
            key("wheelNext", "next"),
            key("wheelBack", "back"),
          ]
        : []),
    ],
    sources: [
      { id: "reverseFeed", at: ["main.6"], when: reversing },
      { id: "accessoryFeed", at: ["main.8"], when: awake },
      { id: "flash", at: ["flashers.1"], when: has("main.7", { key: "hazard" }) },
    ],
    ports: [
      port("main", "main plug", half(BODY, MALE), [
        takes("1", "battery"),
        takes("2", "ground"),
        wire("3", "can"),
        wire("4", "can"),
        takes("5", "keyScan", "wheel keys"),
        gives("6", "reverse"),
        takes("7", "keyScan", "hazard switch"),
        gives("8", "accessory"),
      ]),
      inside("flashers", "hazard flashers", [gives("1", "trigger", "hazard flashers")]),
    ],
  };
}

/** Everything that hangs on the loom beside the body computer. */
function fittings(l: CarLeaflet): Part[] {
  const parts: Part[] = [
    pressed("ventPanel", "Vent panel with hazard switch", SWITCH, 2, [["1", "hazard"]]),
    {
      id: "carMic",
      name: "Factory microphone",
      type: "device",
      reachMinutes: 6,
      ports: [port("main", "plug", half(MIC, MALE), [gives("1", "microphone")])],
      sources: [{ id: "voice", at: ["main.1"], attributes: { voice: "factory" } }],
    },
    speakers(),
    antenna("antenna", "Roof antenna", ANTENNA, "broadcast"),
  ];
  if (l.wheelKeys)
    parts.push(
      pressed(
        "wheelKeys",
        "Wheel keys",
        WHEEL,
        15,
        ["volumeUp", "volumeDown", "next", "back"].map((k) => ["1", k]),
      ),
    );
  if (l.rearCamera)
    parts.push({
      id: "rearCamera",
      name: "Rear camera",
      type: "device",
      reachMinutes: 12,
      needs: [
        { at: "main.1", say: "the reverse feed" },
        { at: "main.2", say: "ground" },
      ],
      ports: [
        port("main", "plug", half(CAMERA, MALE), [
          takes("1", "reverse"),
          takes("2", "ground"),
          gives("3", "compositeVideo"),
        ]),
      ],
      sources: [
        { id: "view", at: ["main.3"], attributes: { picture: "rear camera", format: "native" }, settleMs: 600 },
      ],
    });
  if (l.sound === "ring") parts.push(ringAmplifier());
  if (l.satelliteAntenna) parts.push(antenna("satelliteAntenna", "Satellite antenna", SATELLITE, "satellite"));
  if (l.climateZones > 0) {
    const zones = ZONES.slice(0, l.climateZones);
    parts.push(
      pressed(
        "climatePanel",
        "Climate panel",
        CLIMATE,
        3,
        zones.map((z) => [z.id, z.press]),
      ),
      {
        id: "climateUnit",
        name: "Climate unit",
        type: "device",
        reachMinutes: 25,
        ports: [
          port(
            "main",
            "plug",
            half(CLIMATE, MALE),
            zones.map((z) => takes(z.id, "keyScan", z.label)),
          ),
          inside(
            "flaps",
            "air flaps",
            zones.map((z) => gives(z.id, "keyScan", `air of the ${z.label}`)),
          ),
        ],
        routes: zones.map((z) => ({ id: `air${z.id}`, from: `main.${z.id}`, to: `flaps.${z.id}` })),
      },
    );
  }
  return parts;
}

/** A device that sends one key signal for each key pressed. */
export function pressed(
  id: string,
  name: string,
  plug: { family: string; ways: number },
  reachMinutes: number,
  keys: string[][],
): Part {
  return {
    id,
    name,
    type: "device",
    reachMinutes,
    ports: [
      port(
        "main",
        "plug",
        half(plug, MALE),
        [...new Set(keys.map(([at]) => at ?? ""))].map((at) => gives(at, "keyScan")),
      ),
    ],
    sources: keys.map(([at, key]) => ({
      id: key ?? "",
      at: [`main.${at}`],
      attributes: { key: key ?? "" },
      when: { situation: "pressed" as const, is: [key ?? ""] },
    })),
  };
}

export const ANTENNA = { family: "Antenna coax", ways: 1, colour: "black" };
export const SATELLITE = { family: "Coded coax", ways: 1, keying: "S", colour: "pink" };

function antenna(id: string, name: string, plug: { family: string; ways: number }, band: string): Part {
  return {
    id,
    name,
    type: "device",
    reachMinutes: 20,
    ports: [port("coax", "plug", half(plug, MALE), [gives("1", "radioFrequency")])],
    sources: [{ id: band, at: ["coax.1"], attributes: { band } }],
  };
}

function speakers(): Part {
  const plus = SPEAKER_BLOCK.slice(0, 4);
  return {
    id: "speakers",
    name: "Loudspeakers",
    type: "device",
    reachMinutes: 20,
    ports: [
      port("main", "leads", null, speakerContacts("in")),
      inside(
        "cones",
        "cones",
        plus.map(([, channel]) => gives(channel, "speaker", `${channel} loudspeaker`)),
      ),
    ],
    routes: plus.map(([id, channel], i) => ({
      id: channel,
      from: `main.${id}`,
      to: `cones.${channel}`,
      when: has(`main.${SPEAKER_BLOCK[i + 4]?.[0]}`, { channel, pole: "-" }),
    })),
  };
}

/** The amplifier plays what comes over the ring, as long as the light goes round. */
function ringAmplifier(): Part {
  return {
    id: "amplifier",
    name: "Amplifier on the optical ring",
    type: "device",
    reachMinutes: 15,
    facts: { kind: "ring" },
    needs: supplyNeeds("main", { battery: "1", ground: "2" }),
    ports: [
      port("main", "ring plug", half(AMPLIFIER, MALE), [
        takes("ri", "opticalRing"),
        gives("ro", "opticalRing"),
        takes("s", "lineAudio"),
        takes("1", "battery"),
        takes("2", "ground"),
      ]),
      port("speakers", "speaker leads", null, speakerContacts("out")),
    ],
    routes: [
      { id: "light", from: "main.ri", to: "main.ro" },
      ...SPEAKER_BLOCK.map(([id, channel, pole]) => ({
        id: `sound-${channel}${pole}`,
        from: "main.s",
        to: `speakers.${id}`,
        when: has("main.ri", { ring: "light" }),
        set: { channel, pole },
      })),
    ],
  };
}

function functions(l: CarLeaflet): FunctionSpec[] {
  const list: FunctionSpec[] = [
    {
      id: "hazard",
      name: "Hazard switch",
      say: "Press the hazard switch; all indicators flash.",
      who: "law",
      observe: [{ at: "bodyComputer.flashers.1", where: {} }],
      situations: [{ id: "key-off", label: "key off", set: { key: "off", pressed: "hazard" } }],
      minutes: 0.5,
    },
  ];
  for (const zone of ZONES.slice(0, l.climateZones))
    list.push({
      id: zone.press === "warmerLeft" ? "climateLeft" : "climateRight",
      name: `Climate, ${zone.label}`,
      say: `Ask for more warmth on the ${zone.label}; warm air comes there.`,
      who: "customer",
      observe: [{ at: `climateUnit.flaps.${zone.id}`, where: {} }],
      situations: [{ id: "on", label: "ignition on", set: { pressed: zone.press } }],
      minutes: 1,
    });
  return list;
}

/** A plain way into the dash; the shop replaces it by what it finds on the car. */
function stripSteps(l: CarLeaflet): StripStep[] {
  const ritual: StripStep[] =
    l.gearbox === "automatic"
      ? [
          step("key-on", "Ignition on", "Engine stays off.", ["brake"], 0.5, { sets: { key: "on" } }),
          step(
            "selector-out",
            "Foot on the brake, selector to neutral",
            "The console panel passes the lever only in neutral.",
            ["key-on"],
            0.5,
            {
              sets: { selector: "N" },
              requires: { parkingBrake: true, key: "on" },
            },
          ),
          step("console", "Console panel out", "Lift at the rear edge, then pull back.", ["selector-out"], 3, {
            tool: "plastic wedge",
            panel: "console panel",
            requires: { selector: ["N", "D"], parkingBrake: true },
          }),
          step("selector-in", "Selector back to park", "Listen for the chime to stop.", ["console"], 0.5, {
            sets: { selector: "P" },
          }),
          step(
            "key-off",
            "Ignition off, key out of the car",
            "Close the doors and let the car go to sleep.",
            ["selector-in"],
            1,
            { sets: { key: "off" } },
          ),
        ]
      : [
          step("console", "Gaiter and console panel out", "Unclip the gaiter, lift at the rear edge.", ["brake"], 3, {
            tool: "plastic wedge",
            panel: "console panel",
          }),
        ];
  const last = ritual.at(-1)?.id ?? "brake";
  return [
    step("cover", "Cover the console and the dash edges", "Cloth on the console, tape along the trim edges.", [], 4, {
      tool: "cloth and tape",
    }),
    step("brake", "Set the parking brake and chock a wheel", "Before anything else.", ["cover"], 1, {
      sets: { parkingBrake: true },
      caution: "On a slope without a parking brake the car rolls.",
    }),
    ...ritual,
    step(
      "battery-off",
      "Battery negative off, then wait as the maker says",
      "The waiting time stands in the maker's procedure.",
      [last],
      10,
      {
        tool: "10 mm spanner",
        sets: { battery: "isolated" },
        ...(l.gearbox === "automatic" ? { requires: { key: "off" } } : {}),
        caution:
          "Needed before any plug near an airbag. Hybrid or electric: the maker's procedure, licensed people only.",
        back: { title: "Battery negative on again", detail: "Key off, nobody near open airbag plugs, doors closed." },
      },
    ),
    step("vents", "Vent panel out", "Wedge at the top edge.", ["battery-off"], 4, {
      tool: "plastic wedge",
      panel: "vent panel",
      opens: [{ a: "loom.vents", b: "ventPanel.main" }],
      airbagZone: true,
      requires: { battery: "isolated" },
    }),
    step("radio-screws", "Radio screws out", "Four screws at the corners.", ["vents"], 4, {
      tool: "T20",
      fasteners: { kind: "T20 screw", count: 4, lengthMm: 16, tray: "A" },
    }),
    step("radio-out", "Radio out, main plug off", "Lever of the main plug up, then pull.", ["radio-screws"], 4, {
      panel: "radio",
      opens: [{ a: "loom.radio", b: "radio.main" }],
    }),
  ];
}

function step(
  id: string,
  title: string,
  detail: string,
  after: string[],
  minutes: number,
  more: Partial<StripStep> = {},
): StripStep {
  return { id, title, detail, after, minutes, ...more };
}

/** Pins of the radio plug of a car document, read back from the labels and kinds of its contacts. */
export function pinsOf(car: CarProfile): Pins {
  const contacts = car.parts.find((p) => p.id === "loom")?.ports.find((p) => p.id === "radio")?.contacts ?? [];
  const kind = (k: string, n = 0) => contacts.filter((c) => c.kind === k)[n]?.id;
  return {
    high: kind("can") ?? USUAL_PINS.high,
    low: kind("can", 1) ?? USUAL_PINS.low,
    mic: kind("microphone") ?? USUAL_PINS.mic,
    battery: kind("battery") ?? USUAL_PINS.battery,
    ground: kind("ground") ?? USUAL_PINS.ground,
    accessory: kind("accessory") ?? USUAL_PINS.accessory,
    reverse: kind("reverse") ?? USUAL_PINS.reverse,
  };
}
