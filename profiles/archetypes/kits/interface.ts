/**
 * Interfaces that sit in the picture link: one box between radio and screen, a board inside the radio or behind the
 * upper screen, two boxes with a digital lead between them, cameras only.
 */
import { z } from "zod";
import type { Choice, KitLink, KitProfile, KitSetting } from "../../../core/model/profile";
import type { Condition, Part, Port, Route, Setting, Source } from "../../../core/model/types";
import { pictureContacts } from "../radio";
import {
  all,
  busNeeds,
  during,
  FEMALE,
  gives,
  half,
  has,
  IN_REVERSE,
  inside,
  lead,
  MALE,
  not,
  plugSchema,
  port,
  REVERSE_CAUTION,
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
  REMEMBERS_CABLE,
  RING_SETTING,
  rearViewPhone,
  SHORT_HOLD,
  SOUND_FUNCTION,
  schools,
  tHarness,
  tool,
  words,
} from "./base";

const place = z.int().min(1).max(10).optional();

export const interfaceLeaflet = z.strictObject({
  archetype: z.literal("interface"),
  ...kitHead,
  build: z.enum(["one box", "board inside the radio", "board behind the upper screen", "two boxes"]).describe("Build"),
  ...harnessShape,
  ring: z.boolean().default(false).describe("The car has an optical ring: contacts are moved"),
  pictureLink: plugSchema.describe("Plug of the picture link"),
  reversible: z.boolean().default(false).describe("The picture plug goes in both ways round"),
  mirroring: z.boolean().default(true).describe("Shows the phone"),
  formats: z
    .array(z.string().regex(/^\d{3,4}x\d{3,4}$/))
    .min(1)
    .max(4)
    .describe("Screen formats, in the order of the switch table"),
  touch: z.boolean().describe("Reads the touch panel"),
  soundPaths: z.array(z.enum(["line", "carBluetooth", "usbSound"])).describe("Sound paths"),
  deletesPairing: z.boolean().default(false).describe("With the line input the pairing with the car is deleted"),
  frontCamera: z.boolean().describe("Front camera as an option"),
  rearCamera: z.boolean().describe("Added rear camera as an option"),
  switches: z
    .strictObject({
      count: z.int().min(4).max(10).describe("Switches in the bank"),
      format: z.tuple([z.int(), z.int()]).default([1, 2]).describe("The two switches of the format"),
      front: place.describe("Front camera"),
      rear: place.describe("Added rear camera"),
      touch: place.describe("Touch reader"),
      olderKeys: place.describe("Older wheel key messages"),
    })
    .describe("Switch table"),
  firmwareFloor: z.string().optional().describe("Lowest firmware of the radio"),
  wires: z
    .array(z.strictObject({ job: z.enum(["cameraFeed", "reverseTrigger"]), base: words, tracer: words.optional() }))
    .default([])
    .describe("Colours of the loose wires"),
});
export type InterfaceLeaflet = z.infer<typeof interfaceLeaflet>;

const WORK = {
  "one box": "Interface between a separate radio and screen",
  "board inside the radio": "Board fitted inside the radio",
  "board behind the upper screen": "Board behind the upper of two screens",
  "two boxes": "Two-box interface with a digital picture lead",
} as const;

/** Reverse as the module learns it: from the bus or from the wire to the reverse lamp. */
const REVERSING: Condition = { any: [IN_REVERSE, has("wires.rev")] };
const PHONE = during("pictureMode", "phone");
const HAS_CAMERA = { fact: "radio.camera", is: ["yes"] };
const ROLLING_VIDEO: Condition = all({ situation: "speedKmh", atLeast: 6 }, during("pressed", "playVideo"));

export function buildInterface(l: InterfaceLeaflet): KitProfile {
  const work = !l.mirroring
    ? "Camera interface, rear and front"
    : l.ring
      ? "Interface on a car with an optical ring"
      : WORK[l.build];
  const kit = emptyKit(l, work);
  const manual = { car: "gearbox" as const, is: ["manual"] };
  kit.parts = [
    module(l),
    tHarness(l, l.ring),
    pictureLead(l, "videoInLead", "IN"),
    pictureLead(l, "videoOutLead", "OUT"),
  ];
  kit.unplug = [
    HARNESS_UNPLUG,
    { a: "displayLead.radioEnd", b: "radio.video", why: "The picture goes through the module." },
  ];
  kit.choices = choices(l);
  kit.plug = [...HARNESS_LINKS, ...pictureLinks(l)];
  if (l.build === "two boxes") addBox(l, kit);
  kit.parts.push({ ...reverseWire(l), when: manual });
  kit.plug.push(
    {
      id: "k-reverse-lamp",
      a: "reverseWire.lamp",
      b: "loom.reverseLamp",
      say: "Reverse wire to the reverse lamp plug",
      when: manual,
    },
    { id: "k-reverse", a: "reverseWire.module", b: "module.wires", say: "Reverse wire into the module", when: manual },
  );
  addSound(l, kit);
  addCameras(l, kit);
  if (l.mirroring) addPhone(kit);
  kit.plug.push(MODULE_LINK, ...(l.mirroring ? phoneLinks() : []));
  kit.functions.push(...functions(l));
  kit.actions = [
    {
      id: "toggle",
      say: "Hold the back key on the wheel for 2 to 4 s",
      part: "module",
      press: "back",
      holdS: { min: 2, max: 4 },
      when: { hears: "wheelBack", bus: "car" },
      set: { pictureMode: "phone" },
    },
  ];
  kit.assumed = l.mirroring ? [REMEMBERS_CABLE, SHORT_HOLD("back")] : [];
  kit.switchBank = {
    part: "module",
    label: "Switch bank, 1 at the plug",
    switches: bank(l).map((s) => s.id),
    off: "off",
    on: "on",
  };
  kit.sets = ringSetting(l);
  if (l.firmwareFloor)
    kit.firmwareFloors = [
      { part: "radio", atLeast: l.firmwareFloor, why: "Older firmware does not show the picture of the module." },
    ];
  kit.needs = needs(l, manual);
  return kit;
}

function ringSetting(l: InterfaceLeaflet): KitSetting[] {
  return l.ring ? [RING_SETTING] : [];
}

/** The two-valued settings of the switch bank; places without a role are “not used”. */
function bank(l: InterfaceLeaflet): Setting[] {
  const roles: Record<number, string> = {
    [l.switches.format[0]]: "Screen format, first",
    [l.switches.format[1]]: "Screen format, second",
  };
  if (l.switches.front) roles[l.switches.front] = "Front camera after reverse";
  if (l.switches.rear) roles[l.switches.rear] = "Rear camera added by the shop";
  if (l.switches.touch) roles[l.switches.touch] = "Touch reader";
  if (l.switches.olderKeys) roles[l.switches.olderKeys] = "Older wheel key messages";
  return Array.from({ length: l.switches.count }, (_, i) => ({
    id: `sw${i + 1}`,
    label: roles[i + 1] ?? "Not used, leave off",
    values: ["off", "on"],
    initial: "off",
  }));
}

/** Condition of a role's switch; a role without a switch is always given. */
function role(place: number | undefined, value: "on" | "off"): Condition[] {
  return place === undefined ? [] : [set(`sw${place}`, value)];
}

function formatSwitches(l: InterfaceLeaflet, index: number): Condition[] {
  const [first, second] = l.switches.format;
  return [set(`sw${first}`, index & 1 ? "on" : "off"), set(`sw${second}`, index & 2 ? "on" : "off")];
}

function module(l: InterfaceLeaflet): Part {
  const two = l.build === "two boxes";
  const out = two ? "digital.v" : "videoOut.v";
  const frontOn: Condition = all(...role(l.switches.front, "on"), { situation: "leftReverse", is: [true] });
  const ports: Port[] = [
    modulePlug(MALE),
    port("wires", "loose wires", half({ family: "Wires 4", ways: 4 }, MALE), [
      { ...takes("rev", "reverse", "reverse trigger"), ...wireLook(l, "reverseTrigger") },
    ]),
  ];
  const sources: Source[] = [];
  const routes: Route[] = [];
  if (two)
    ports.push(
      port("digital", "digital picture socket", half(DIGITAL, FEMALE), [
        ...pictureContacts("out"),
        gives("f", "trigger", "factory picture wanted"),
        gives("p", "trigger", "feed of the box"),
        wire("g", "ground"),
      ]),
    );
  else ports.push(...videoPorts(l));
  const showFactory: Condition = {
    any: [
      all(during("pictureMode", "factory"), not(REVERSING), not(frontOn)),
      all(...role(l.switches.rear, "off"), REVERSING),
    ],
  };
  if (two) {
    sources.push(
      { id: "factoryWanted", at: ["digital.f"], when: during("pictureMode", "factory") },
      { id: "reverseWanted", at: ["digital.f"], when: REVERSING },
      { id: "boxFeed", at: ["digital.p"] },
    );
  } else {
    routes.push({
      id: "factoryPass",
      from: "videoIn.v",
      to: "videoOut.v",
      when: l.rearCamera ? showFactory : factoryAlways(frontOn),
      settleMs: 100,
    });
    routes.push({ id: "factoryTouch", from: "videoOut.t", to: "videoIn.t", when: during("pictureMode", "factory") });
  }
  if (l.mirroring) addSession(l, out, frontOn, ports, sources, routes);
  if (l.frontCamera) {
    ports.push(cameraSocket("camera", "front camera plug", l));
    sources.push({ id: "frontFeed", at: ["camera.1"], when: frontOn });
    routes.push({
      id: "frontView",
      from: "camera.3",
      to: out,
      when: all(frontOn, not(REVERSING)),
      set: { format: "native" },
      settleMs: 300,
    });
  }
  if (l.rearCamera) {
    ports.push(cameraSocket("rear", "rear camera plug", l));
    sources.push({ id: "rearFeed", at: ["rear.1"], when: REVERSING });
    routes.push({
      id: "rearAdded",
      from: "rear.3",
      to: out,
      when: all(...role(l.switches.rear, "on"), REVERSING),
      set: { format: "native" },
      settleMs: 300,
    });
  }
  return {
    id: "module",
    name: l.build.startsWith("board") ? "Interface board" : "Interface module",
    type: "device",
    lamp: "green lamp",
    reachMinutes: l.build === "board inside the radio" ? 12 : 1,
    needs: busNeeds("main", MODULE_PINS),
    buses: [{ id: "car", high: "main.3", low: "main.4" }],
    joins: [
      {
        contacts: [
          "main.2",
          ...(l.frontCamera ? ["camera.2"] : []),
          ...(l.rearCamera ? ["rear.2"] : []),
          ...(two ? ["digital.g"] : []),
        ],
      },
    ].filter((j) => j.contacts.length > 1),
    settings: bank(l),
    ports,
    sources,
    routes,
  };
}

/** Without an own rear camera input the factory picture always comes through in reverse. */
function factoryAlways(frontOn: Condition): Condition {
  return { any: [all(during("pictureMode", "factory"), not(frontOn)), REVERSING] };
}

const DIGITAL = { family: "Digital picture 19", ways: 19 };
const CAMERA_PLUG = { family: "Camera 4", ways: 4, keying: "C" };

function videoPorts(l: InterfaceLeaflet): Port[] {
  return [
    port("videoIn", "VIDEO IN", half({ ...l.pictureLink, colour: "green" }, MALE), pictureContacts("in")),
    port("videoOut", "VIDEO OUT", half({ ...l.pictureLink, colour: "violet" }, MALE), pictureContacts("out")),
  ];
}

function wireLook(l: InterfaceLeaflet, job: "cameraFeed" | "reverseTrigger") {
  const found = l.wires.find((w) => w.job === job);
  return found ? { wire: found.tracer ? { base: found.base, tracer: found.tracer } : { base: found.base } } : {};
}

function cameraSocket(id: string, label: string, l: InterfaceLeaflet): Port {
  return port(id, label, half({ ...CAMERA_PLUG, keying: id === "rear" ? "D" : "C" }, FEMALE), [
    { ...gives("1", "trigger", "camera feed"), ...wireLook(l, "cameraFeed") },
    wire("2", "ground"),
    takes("3", "compositeVideo"),
  ]);
}

/** The phone's session inside the module and what comes of it: picture, lock notice, touch, sound, voice, keys. */
function addSession(
  l: InterfaceLeaflet,
  out: string,
  frontOn: Condition,
  ports: Port[],
  sources: Source[],
  routes: Route[],
): void {
  ports.push(
    port("usb", "USB socket", half({ family: "USB A", ways: 4 }, FEMALE), [wire("1", "usb")]),
    port("antenna", "antenna socket", half({ family: "Screw coax", ways: 1 }, FEMALE), [takes("1", "radioFrequency")]),
    port("mic", "MIC jack", half(JACK, FEMALE), [takes("T", "microphone"), wire("S", "ground")]),
    inside("core", "phone session", [
      gives("session", "usb", "phone session"),
      gives("touch", "touch", "touch for the phone"),
      gives("voice", "microphone", "voice for the phone"),
      gives("skip", "trigger", "skip of the phone"),
    ]),
  );
  const showing = all(PHONE, not(REVERSING), not(frontOn));
  routes.push(
    { id: "cable", from: "usb.1", to: "core.session", settleMs: 1500 },
    {
      id: "wireless",
      from: "antenna.1",
      to: "core.session",
      when: has("antenna.1", { strength: "good" }),
      settleMs: 2500,
    },
    { id: "voice", from: "mic.T", to: "core.voice" },
  );
  l.formats.forEach((format, i) => {
    routes.push({
      id: `phone-${format}`,
      from: "core.session",
      to: out,
      when: all(showing, ...formatSwitches(l, i), not(ROLLING_VIDEO)),
      set: { picture: "phone", format },
      settleMs: 500,
    });
    sources.push({
      id: `lock-${format}`,
      at: [out],
      attributes: { picture: "lock notice", format },
      when: all(showing, ...formatSwitches(l, i), ROLLING_VIDEO),
    });
  });
  if (l.touch)
    routes.push({
      id: "phoneTouch",
      from: l.build === "two boxes" ? "digital.t" : "videoOut.t",
      to: "core.touch",
      when: all(PHONE, ...role(l.switches.touch, "on")),
    });
  sources.push({
    id: "skip",
    at: ["core.skip"],
    when: all(PHONE, ...role(l.switches.olderKeys, "off"), { hears: "wheelNext", bus: "car" }),
  });
  if (l.soundPaths.includes("line")) {
    ports.push(
      port("audio", "AUDIO jack", half(JACK, FEMALE), [
        gives("T", "lineAudio"),
        gives("R", "lineAudio"),
        wire("S", "ground"),
      ]),
    );
    routes.push(
      { id: "left", from: "core.session", to: "audio.T", set: { sound: "phone", channel: "left" } },
      { id: "right", from: "core.session", to: "audio.R", set: { sound: "phone", channel: "right" } },
    );
  }
  if (l.soundPaths.includes("usbSound")) {
    ports.push(port("sound", "USB sound lead", half({ family: "USB A", ways: 4 }, MALE), [gives("1", "usb")]));
    routes.push({ id: "usbSound", from: "core.session", to: "sound.1", set: { sound: "phone" }, settleMs: 6000 });
  }
}

const JACK = { family: "Jack 3.5", ways: 3 };

function pictureLead(l: InterfaceLeaflet, id: string, which: "IN" | "OUT"): Part {
  const ribbon = l.build.startsWith("board");
  const colour = which === "IN" ? "green" : "violet";
  const turned = l.reversible ? { reversible: true } : {};
  const far =
    which === "IN" ? half({ ...l.pictureLink, colour }, FEMALE, turned) : half({ ...l.pictureLink, colour }, MALE);
  return lead(
    id,
    `${ribbon ? "Ribbon" : "Video lead"} ${which}`,
    ribbon ? 0.15 : 0.6,
    port("module", "module end", half({ ...l.pictureLink, colour }, FEMALE, turned), pictureContacts("wire")),
    port(
      which === "IN" ? "radio" : "display",
      which === "IN" ? "radio end" : "display end",
      far,
      pictureContacts("wire"),
    ),
  );
}

function pictureLinks(l: InterfaceLeaflet): KitLink[] {
  const at = l.build === "two boxes" ? "videoBox" : "module";
  const name = l.build.startsWith("board") ? "Ribbon" : "Video lead";
  return [
    { id: "k-in-radio", a: "videoInLead.radio", b: "radio.video", say: `${name} IN into the radio` },
    { id: "k-in-module", a: "videoInLead.module", b: `${at}.videoIn`, say: `${name} IN into VIDEO IN` },
    { id: "k-out-module", a: "videoOutLead.module", b: `${at}.videoOut`, say: `${name} OUT into VIDEO OUT` },
    {
      id: "k-out-display",
      a: "displayLead.radioEnd",
      b: "videoOutLead.display",
      say: `Factory display lead into ${name.toLowerCase()} OUT`,
    },
  ];
}

/** The second box: takes the digital picture and lets the factory picture through when the first box asks for it. */
function addBox(l: InterfaceLeaflet, kit: KitProfile): void {
  const contacts = (side: "in" | "wire") => [
    ...pictureContacts(side),
    side === "in" ? takes("f", "trigger") : wire("f", "trigger"),
    side === "in" ? takes("p", "trigger") : wire("p", "trigger"),
    wire("g", "ground"),
  ];
  const factory = has("digital.f");
  kit.parts.push(
    {
      id: "videoBox",
      name: "Picture box",
      type: "device",
      lamp: "blue lamp",
      reachMinutes: 2,
      needs: [
        { at: "digital.p", say: "the feed of the first box" },
        { at: "digital.g", say: "ground" },
      ],
      ports: [...videoPorts(l), port("digital", "digital picture socket", half(DIGITAL, FEMALE), contacts("in"))],
      routes: [
        { id: "factoryPass", from: "videoIn.v", to: "videoOut.v", when: factory, settleMs: 100 },
        { id: "digital", from: "digital.v", to: "videoOut.v", when: not(factory), settleMs: 200 },
        { id: "factoryTouch", from: "videoOut.t", to: "videoIn.t", when: during("pictureMode", "factory") },
        { id: "phoneTouch", from: "videoOut.t", to: "digital.t", when: PHONE },
      ],
    },
    lead(
      "digitalLead",
      "Digital picture lead",
      1.5,
      port("first", "first box end", half(DIGITAL, MALE), contacts("wire")),
      port("second", "picture box end", half(DIGITAL, MALE), contacts("wire")),
    ),
  );
  kit.plug.push(
    { id: "k-digital-1", a: "digitalLead.first", b: "module.digital", say: "Digital picture lead into the first box" },
    {
      id: "k-digital-2",
      a: "digitalLead.second",
      b: "videoBox.digital",
      say: "Digital picture lead into the picture box",
    },
  );
}

function reverseWire(l: InterfaceLeaflet): Part {
  const look = wireLook(l, "reverseTrigger");
  return {
    ...lead(
      "reverseWire",
      "Reverse wire",
      5,
      port("lamp", "lamp end", half({ family: "Lamp 2", ways: 2 }, MALE), [
        { ...wire("1", "reverse", "reverse trigger"), ...look },
      ]),
      port("module", "module end", half({ family: "Wires 4", ways: 4 }, FEMALE), [
        { ...wire("rev", "reverse", "reverse trigger"), ...look },
      ]),
    ),
    joins: [{ contacts: ["lamp.1", "module.rev"] }],
  };
}

function addSound(l: InterfaceLeaflet, kit: KitProfile): void {
  if (!l.mirroring) return;
  const on = (id: string) => ({ choice: "soundPath", is: [id] });
  if (l.soundPaths.includes("line")) {
    kit.parts.push({
      ...lead(
        "audioLead",
        "Line audio lead",
        0.8,
        port("module", "module end", half(JACK, MALE), [
          wire("T", "lineAudio"),
          wire("R", "lineAudio"),
          wire("S", "ground"),
        ]),
        port("radio", "radio end", half({ family: "Line 3", ways: 3, colour: "green" }, FEMALE), [
          wire("L", "lineAudio"),
          wire("R", "lineAudio"),
          wire("G", "ground"),
        ]),
      ),
      joins: [
        { contacts: ["module.T", "radio.L"] },
        { contacts: ["module.R", "radio.R"] },
        { contacts: ["module.S", "radio.G"] },
      ],
      when: on("line"),
    });
    kit.plug.push(
      {
        id: "k-audio-module",
        a: "audioLead.module",
        b: "module.audio",
        say: "Line audio lead into the AUDIO jack",
        when: on("line"),
      },
      {
        id: "k-audio-radio",
        a: "audioLead.radio",
        b: "radio.aux",
        say: "Line audio lead into the line input of the radio",
        when: on("line"),
      },
    );
    kit.functions.push({ ...SOUND_FUNCTION("lineIn", "the line input"), when: on("line") });
  }
  if (l.soundPaths.includes("carBluetooth"))
    kit.functions.push({ ...SOUND_FUNCTION("bluetooth", "Bluetooth audio"), when: on("carBluetooth") });
  if (l.soundPaths.includes("usbSound")) {
    kit.plug.push({
      id: "k-usb-sound",
      a: "module.sound",
      b: "usbPanel.front",
      say: "USB sound lead into the car's USB socket",
      when: on("usbSound"),
    });
    kit.functions.push({ ...SOUND_FUNCTION("usb", "the USB player"), when: on("usbSound") });
  }
}

function addCameras(l: InterfaceLeaflet, kit: KitProfile): void {
  const added = (id: "frontCamera" | "rearCameraAdded", socket: "camera" | "rear", name: string, picture: string) => {
    const when = { choice: id, is: ["fitted"] };
    const plug = { ...CAMERA_PLUG, keying: socket === "rear" ? "D" : "C" };
    kit.parts.push({
      id,
      name,
      type: "device",
      lengthM: socket === "rear" ? 6 : 4,
      reachMinutes: 8,
      needs: [
        { at: "main.1", say: "the switched camera feed" },
        { at: "main.2", say: "ground" },
      ],
      ports: [
        port("main", "plug", half(plug, MALE), [
          takes("1", "trigger"),
          takes("2", "ground"),
          gives("3", "compositeVideo"),
        ]),
      ],
      sources: [{ id: "view", at: ["main.3"], attributes: { picture }, settleMs: 500 }],
      when,
    });
    kit.plug.push({ id: `k-${id}`, a: `${id}.main`, b: `module.${socket}`, say: `${name} into its plug`, when });
  };
  if (l.frontCamera) added("frontCamera", "camera", "Front camera", "front camera");
  if (l.rearCamera) added("rearCameraAdded", "rear", "Added rear camera", "added rear camera");
}

function addPhone(kit: KitProfile): void {
  kit.parts.push(
    {
      id: "kitMic",
      name: "Added microphone",
      type: "device",
      lengthM: 3,
      reachMinutes: 4,
      ports: [port("jack", "plug", half(JACK, MALE), [gives("T", "microphone"), wire("S", "ground")])],
      sources: [{ id: "voice", at: ["jack.T"], attributes: { voice: "added" } }],
    },
    {
      id: "kitAntenna",
      name: "Module antenna",
      type: "device",
      lengthM: 1.5,
      reachMinutes: 2,
      settings: [{ id: "place", label: "Antenna place", values: ["on plastic", "on metal"], initial: "on plastic" }],
      ports: [
        port("air", "air", null, [takes("1", "wireless")]),
        port("coax", "plug", half({ family: "Screw coax", ways: 1 }, MALE), [gives("1", "radioFrequency")]),
      ],
      routes: [
        { id: "good", from: "air.1", to: "coax.1", when: set("place", "on plastic"), set: { strength: "good" } },
        { id: "weak", from: "air.1", to: "coax.1", when: set("place", "on metal"), set: { strength: "weak" } },
      ],
    },
    lead(
      "usbLead",
      "USB lead",
      1,
      port("module", "module end", half({ family: "USB A", ways: 4 }, MALE), [wire("1", "usb")]),
      port("phone", "phone end", half({ family: "USB C", ways: 24 }, MALE), [wire("1", "usb")]),
    ),
  );
  kit.plug.push(
    { id: "k-mic", a: "kitMic.jack", b: "module.mic", say: "Added microphone into the MIC jack" },
    { id: "k-antenna", a: "kitAntenna.coax", b: "module.antenna", say: "Module antenna, hand-tight" },
    {
      id: "k-usb",
      a: "usbLead.module",
      b: "module.usb",
      say: "USB lead into the module, other end to its reachable place",
    },
  );
}

function phoneLinks(): KitLink[] {
  return [
    { id: "k-phone-air", a: "phone.air", b: "kitAntenna.air", say: "Phone meets the module by wireless", air: true },
    { id: "k-phone-usb", a: "usbLead.phone", b: "phone.usb", say: "Phone on the USB lead for the wired try" },
  ];
}

const SOUND_OPTIONS = {
  line: { id: "line", label: "Line input", why: "Always works; one more lead, and the source must be chosen." },
  carBluetooth: {
    id: "carBluetooth",
    label: "The car's own Bluetooth",
    why: "No lead and no source to explain; the phone must stay paired with the car.",
    assume: { paired: true },
    minutes: -10,
  },
  usbSound: {
    id: "usbSound",
    label: "USB sound adapter",
    why: "The car sees a player; slow to be recognised in some cars.",
  },
};

function choices(l: InterfaceLeaflet): Choice[] {
  const list: Choice[] = [];
  if (l.mirroring && l.soundPaths.length > 0)
    list.push({
      id: "soundPath",
      label: "Sound path",
      kind: "offer",
      usual: l.soundPaths[0] ?? "line",
      options: l.soundPaths.map((p) =>
        p === "line" && l.deletesPairing
          ? {
              ...SOUND_OPTIONS.line,
              why: `${SOUND_OPTIONS.line.why} The phone's pairing with the car is deleted, calls then run through the module.`,
              assume: { paired: false },
            }
          : SOUND_OPTIONS[p],
      ),
    });
  const camera = (id: string, label: string, price: number, minutes: number): Choice => ({
    id,
    label,
    kind: "offer",
    usual: "none",
    options: [
      { id: "none", label: "Without", why: "Nothing to run to the end of the car." },
      { id: "fitted", label: "Fitted", why: "One lead to run, one place for the camera.", price, minutes },
    ],
  });
  if (l.frontCamera) list.push(camera("frontCamera", "Front camera", 95, 50));
  if (l.rearCamera) list.push(camera("rearCameraAdded", "Added rear camera", 110, 80));
  return [
    ...list,
    ...(l.mirroring ? schools("pairing", "micPlace", "feed", "foam", "closing") : schools("feed", "foam", "closing")),
  ];
}

function functions(l: InterfaceLeaflet): KitProfile["functions"] {
  const list: KitProfile["functions"] = [];
  const shown = { pictureMode: "phone", phone: "wireless" } as const;
  if (l.mirroring) {
    list.push(
      {
        id: "phonePicture",
        name: "Phone picture",
        say: "Change to the phone picture; it fills the screen without distortion.",
        who: "customer",
        observe: [{ at: "screen.glass.picture", where: { picture: "phone", format: { fact: "screen.format" } } }],
        situations: [
          { id: "wireless", label: "phone by wireless", set: shown, actions: ["toggle"] },
          { id: "wired", label: "phone by cable", set: { pictureMode: "phone", phone: "wired" }, actions: ["toggle"] },
        ],
        withinMs: 15000,
        minutes: 1.5,
      },
      {
        id: "assistant",
        name: "Voice assistant",
        say: "Ask the phone's assistant for the time; it answers.",
        who: "customer",
        observe: [{ at: "module.core.voice", where: { voice: "added" } }],
        situations: [{ id: "on", label: "phone by wireless", set: shown, actions: ["toggle"] }],
        minutes: 1,
      },
      {
        id: "nextKey",
        name: "Next-track wheel key",
        say: "Press next on the wheel; the phone skips a track.",
        who: "customer",
        observe: [{ at: "module.core.skip", where: {} }],
        situations: [{ id: "short", label: "short press", set: { ...shown, pressed: "next" } }],
        minutes: 0.5,
      },
      { ...rearViewPhone(["toggle"]), when: HAS_CAMERA },
      {
        id: "motionLock",
        name: "Video stays locked in motion",
        say: "A second person tries to start a video while the car rolls at walking pace on a closed yard; a notice appears instead.",
        who: "law",
        observe: [{ at: "screen.glass.picture", where: { picture: "lock notice" } }],
        situations: [
          {
            id: "rolling",
            label: "rolling on a closed yard",
            set: { ...shown, key: "running", selector: "D", parkingBrake: false, speedKmh: 8, pressed: "playVideo" },
            actions: ["toggle"],
          },
        ],
        minutes: 4,
        caution:
          "Closed yard, second person at the screen, the driver only drives. The law of the place decides what may be shown.",
      },
    );
    if (l.touch)
      list.push({
        id: "phoneTouch",
        name: "Touch in the phone picture",
        say: "Touch a field on the phone picture; the phone follows.",
        who: "customer",
        observe: [{ at: "module.core.touch", where: { touch: "finger" } }],
        situations: [{ id: "on", label: "phone by wireless", set: { ...shown, pressed: "screen" } }],
        minutes: 0.5,
      });
  }
  if (l.frontCamera)
    list.push({
      id: "frontView",
      name: "Front camera",
      say: "From reverse select drive with the foot on the brake; the front picture appears for some seconds.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "front camera" } }],
      situations: [{ id: "drive", label: "after reverse", set: { selector: "D", leftReverse: true } }],
      withinMs: 2000,
      minutes: 1,
      caution: "Foot on the brake, nobody in front of or behind the car.",
      when: { choice: "frontCamera", is: ["fitted"] },
    });
  if (l.rearCamera)
    list.push({
      id: "addedRearView",
      name: "Added rear camera",
      say: "Select reverse; the picture of the added camera appears within two seconds.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "added rear camera" } }],
      situations: [{ id: "reverse", label: "reverse", set: { selector: "R" } }],
      withinMs: 2000,
      minutes: 1,
      caution: REVERSE_CAUTION,
      when: { choice: "rearCameraAdded", is: ["fitted"] },
    });
  return list;
}

function needs(l: InterfaceLeaflet, manual: { car: "gearbox"; is: string[] }): KitProfile["needs"] {
  const fitted = (id: string) => ({ choice: id, is: ["fitted"] });
  return [
    material("Foam tape, 2 m"),
    material("Ties, 12 pieces"),
    material("Double-sided tape for the module"),
    tool("Plastic wedges"),
    ...(l.build === "board inside the radio" ? [tool("Anti-static mat and wrist strap"), tool("T8 driver")] : []),
    ...(l.ring ? [tool("Extraction tool for optical contacts")] : []),
    {
      kind: "wire",
      say: "Reverse wire from the reverse lamp to the module, 5 m",
      why: "A manual gearbox does not report reverse on the bus.",
      minutes: 35,
      when: manual,
    },
    ...(l.frontCamera
      ? [
          {
            kind: "wire" as const,
            say: "Camera lead through the bulkhead to the front, 4 m",
            minutes: 15,
            when: fitted("frontCamera"),
          },
          {
            kind: "part" as const,
            say: "Bracket for the front camera, no drilling",
            price: 18,
            when: fitted("frontCamera"),
          },
        ]
      : []),
    ...(l.rearCamera
      ? [
          {
            kind: "wire" as const,
            say: "Camera lead through the hinge grommet to the tailgate, 6 m",
            minutes: 25,
            when: fitted("rearCameraAdded"),
          },
          {
            kind: "drilling" as const,
            say: "Hole for the rear camera in the handle strip, unless a bracket serves",
            why: "Only where nothing is behind; prefer the bracket, note it and tell the customer.",
            when: fitted("rearCameraAdded"),
          },
        ]
      : []),
    {
      kind: "tool",
      say: "LED tester and the fuse map of the car",
      why: "To find a switched circuit that may carry the added load.",
      when: { choice: "feed", is: ["fuse"] },
    },
    { kind: "part", say: "Fuse tap with fuse for the added load", price: 9, when: { choice: "feed", is: ["fuse"] } },
  ];
}
