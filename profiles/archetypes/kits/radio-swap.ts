/** Another radio in the place of the old one: from a sister car, of a higher level, aftermarket, or with a bigger screen. */
import { z } from "zod";
import type { Choice, KitLink, KitProfile } from "../../../core/model/profile";
import type { FunctionSpec, Part } from "../../../core/model/types";
import { CLIMATE, pressed, ZONES } from "../car";
import { radioPort } from "../plugs";
import { buildRadio, KNOB, type RadioFeatures, radioFeatures } from "../radio";
import {
  all,
  FEMALE,
  gives,
  half,
  lead,
  MALE,
  type Pins,
  pinsSchema,
  plugSchema,
  port,
  set,
  takes,
  USUAL_PINS,
  wire,
} from "../vocabulary";
import { emptyKit, harnessShape, kitHead, material, schools, tool } from "./base";

export const radioSwapLeaflet = z.strictObject({
  archetype: z.literal("radioSwap"),
  ...kitHead,
  from: z.enum(["higher level", "sister car", "aftermarket", "bigger module and screen"]).describe("What comes in"),
  features: radioFeatures.describe("The new radio"),
  ...harnessShape,
  newPlug: plugSchema.optional().describe("Plug of the new radio, where it differs"),
  newPins: pinsSchema.default(USUAL_PINS).describe("Contacts of the new plug"),
  oldScreen: z.boolean().default(false).describe("The old screen and its lead leave the car"),
  climateZones: z.int().min(0).max(2).default(0).describe("Climate zones of the new panel, 0 when the panel stays"),
  keepsCamera: z.boolean().default(false).describe("Takes the factory camera"),
  wheelKeys: z.boolean().default(true).describe("Understands the wheel keys"),
  satellite: z.boolean().default(false).describe("The car has a satellite antenna"),
});
export type RadioSwapLeaflet = z.infer<typeof radioSwapLeaflet>;

const WORK = {
  "higher level": "Factory radio of a higher level",
  "sister car": "Radio from a sister car",
  aftermarket: "Aftermarket radio with a bus module",
  "bigger module and screen": "Bigger factory module and screen",
} as const;

const ADAPTER_PORTS = { car: "loom.radio", radio: "radio.main" };

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
    reverseWire: false,
  });
  kit.replaces = [
    { part: "radio", why: "The new radio takes its place." },
    ...(l.oldScreen || l.from === "higher level"
      ? ["screen", "displayLead"].map((part) => ({ part, why: "It leaves with the old radio.", ifPresent: true }))
      : []),
    ...(l.features.usb
      ? ["usbPanel", "usbCable"].map((part) => ({ part, why: "The new radio brings its own socket.", ifPresent: true }))
      : []),
    ...(l.climateZones > 0 ? [{ part: "climatePanel", why: "The bezel changes with the screen." }] : []),
  ];
  kit.parts = [...built.parts];
  kit.functions = built.functions;
  kit.plug = built.links
    .filter((x) => !(adapter && x.id === "loom-radio"))
    .map((x): KitLink => ({ ...x, id: `k-${x.id}`, say: SAY[x.id] ?? "Plug of the new radio" }));
  if (adapter) addAdapter(l, kit, aftermarket);
  if (l.from === "sister car") addBusWires(l, kit);
  if (aftermarket) addBusModule(kit);
  if (l.climateZones > 0) addPanel(l.climateZones, kit);
  if (l.features.knobInput) addKnob(kit);
  if (l.features.bluetooth)
    kit.plug.push({
      id: "k-phone-car",
      a: "phone.bluetooth",
      b: "radio.bluetooth",
      say: "Phone paired with the new radio",
      air: true,
    });
  kit.sets.push(...settings(l.features));
  kit.choices.push(...schools("closing"));
  kit.needs.push(tool("Plastic wedges"), material("Fabric tape"), {
    kind: "licence",
    say: "Proof that the radio is not locked to another car",
    why: "Theft protection: maker's procedure and licensed people.",
  });
  return kit;
}

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
};

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
    ...(f.coded === "by programming plug"
      ? [
          {
            setting: "radio.coded",
            value: "yes",
            means: "programmingPlug" as const,
            say: "Programming plug: ignition on, wait 10 to 15 s, plug in, lamp blinks while writing; steady in the other colour means finished. Battery maintainer on; never pull it while it blinks, never leave it in",
            minutes: 8,
          },
        ]
      : []),
  ];
}

/** Lead from the older plug to the newer one: supply, loudspeakers and microphone straight through by function. */
function addAdapter(l: RadioSwapLeaflet, kit: KitProfile, aftermarket: boolean): void {
  const car = port(
    "car",
    "car end",
    half(l.radioPlug, MALE),
    radioPort(l.pins, false, false).filter((c) => c.kind !== "can"),
  );
  const radio = port("radio", "radio end", half(l.newPlug ?? l.radioPlug, FEMALE), [
    ...radioPort(l.newPins, false, aftermarket).filter((c) => !aftermarket || c.kind !== "can"),
  ]);
  const pairs: [keyof Pins, boolean][] = [
    ["mic", true],
    ["battery", true],
    ["ground", true],
  ];
  kit.parts.push({
    id: "adapter",
    name: "Adapter lead, old plug to new plug",
    type: "lead",
    lengthM: 0.25,
    reachMinutes: 1,
    ports: [
      car,
      radio,
      port(
        "bus",
        aftermarket ? "accessory lead" : "bus pair",
        half(aftermarket ? ACCESSORY : { family: "Bus pair 2", ways: 2 }, FEMALE),
        [...(aftermarket ? [wire("1", "accessory")] : [wire("H", "can", "bus high"), wire("L", "can", "bus low")])],
      ),
    ],
    joins: [
      ...["1", "2", "3", "4", "5", "6", "7", "8"].map((c) => ({ contacts: [`car.${c}`, `radio.${c}`] })),
      ...pairs.map(([p]) => ({ contacts: [`car.${l.pins[p]}`, `radio.${l.newPins[p]}`] })),
      ...(aftermarket
        ? [{ contacts: ["bus.1", `radio.${l.newPins.accessory}`] }]
        : [{ contacts: ["bus.H", `radio.${l.newPins.high}`] }, { contacts: ["bus.L", `radio.${l.newPins.low}`] }]),
    ],
  });
  kit.plug.push(
    { id: "k-adapter-car", a: "adapter.car", b: ADAPTER_PORTS.car, say: "Adapter lead into the car's old plug" },
    { id: "k-adapter-radio", a: "adapter.radio", b: ADAPTER_PORTS.radio, say: "Adapter lead into the new radio" },
  );
}

const ACCESSORY = { family: "Accessory 1", ways: 1, colour: "red" };

/** The new radio hears accessory, lighting and wheel keys from the bus: two wires run to it, or a small adapter is bought. */
function addBusWires(l: RadioSwapLeaflet, kit: KitProfile): void {
  const plug = { family: "Bus pair 2", ways: 2 };
  const by = (id: string) => ({ choice: "bus", is: [id] });
  const pair = lead(
    "busPair",
    "Twisted bus pair from the body computer",
    3,
    port("body", "body computer end", half(plug, MALE), [wire("H", "can"), wire("L", "can")]),
    port("radio", "radio end", half(plug, MALE), [wire("H", "can"), wire("L", "can")]),
  );
  const adapter: Part = {
    id: "busAdapter",
    name: "Small bus adapter",
    type: "device",
    reachMinutes: 3,
    needs: [{ at: "feed.1", say: "the switched feed" }],
    buses: [{ id: "radio", high: "radio.H", low: "radio.L" }],
    messages: [{ bus: "radio", name: "keyOn" }],
    ports: [
      port("feed", "feed", half({ family: "Blade fuse", ways: 1 }, MALE), [takes("1", "accessory")]),
      port("radio", "radio end", half(plug, MALE), [wire("H", "can"), wire("L", "can")]),
    ],
  };
  kit.choices.push({
    id: "bus",
    label: "Bus of the new radio",
    kind: "offer",
    usual: "wires",
    options: [
      {
        id: "wires",
        label: "Two wires run from the body computer",
        why: "Everything works: lighting, clock, wheel keys, drive side.",
        minutes: 45,
      },
      {
        id: "adapter",
        label: "Small bus adapter",
        why: "No wires to run; the radio only hears that the key is on.",
        price: 60,
        minutes: 10,
      },
    ],
  } satisfies Choice);
  kit.parts.push({ ...pair, when: by("wires") }, { ...adapter, when: by("adapter") });
  kit.plug.push(
    { id: "k-bus-body", a: "busPair.body", b: "loom.busTap", say: "Bus pair at the body computer", when: by("wires") },
    {
      id: "k-bus-radio",
      a: "busPair.radio",
      b: "adapter.bus",
      say: "Bus pair into the adapter lead",
      when: by("wires"),
    },
    {
      id: "k-bus-feed",
      a: "busAdapter.feed",
      b: "loom.fusePanel",
      say: "Bus adapter to a switched fuse position",
      when: by("adapter"),
    },
    {
      id: "k-bus-adapter",
      a: "busAdapter.radio",
      b: "adapter.bus",
      say: "Bus adapter into the adapter lead",
      when: by("adapter"),
    },
  );
  kit.functions.push(busAlive(l.newPins));
  kit.needs.push(
    {
      kind: "wire",
      say: "Twisted pair from the body computer to the radio, 3 m",
      why: "Accessory and lighting come over the bus.",
      when: by("wires"),
    },
    { kind: "tool", say: "Scanner that codes the gateway" },
  );
}

function busAlive(pins: Pins): FunctionSpec {
  return {
    id: "dimming",
    name: "Radio lighting follows the light switch",
    say: "Switch the lights on; the keys of the radio light up and dim with the cluster.",
    who: "customer",
    observe: [
      { at: `radio.main.${pins.high}`, where: { message: "lightsOn", line: "high" } },
      { at: `radio.main.${pins.low}`, where: { message: "lightsOn", line: "low" } },
    ],
    situations: [{ id: "lights", label: "lights on", set: { lights: true } }],
    minutes: 0.5,
  };
}

/** An aftermarket radio wants an accessory wire that a bus car no longer has; the bus module should make one. */
function addBusModule(kit: KitProfile): void {
  const by = (id: string) => ({ choice: "feed", is: [id] });
  const plug = { family: "Bus pair 2", ways: 2 };
  kit.parts.push(
    {
      id: "busModule",
      name: "Steering-key and bus module",
      type: "device",
      lamp: "red lamp",
      reachMinutes: 2,
      buses: [{ id: "car", high: "main.H", low: "main.L" }],
      settings: [
        { id: "data", label: "Data of the car", values: ["as delivered", "updated"], initial: "as delivered" },
      ],
      ports: [
        port("main", "bus end", half(plug, MALE), [wire("H", "can"), wire("L", "can")]),
        port("out", "accessory lead", half(ACCESSORY, MALE), [gives("1", "accessory")]),
      ],
      // Supplies are evaluated before the bus, so the module is taken to know the key; that it is plugged is checked.
      sources: [
        {
          id: "accessory",
          at: ["out.1"],
          when: all(set("data", "updated"), { situation: "key", is: ["accessory", "on", "running"] }),
        },
      ],
      when: by("module"),
    },
    {
      ...lead(
        "fuseTap",
        "Fuse tap lead",
        1.5,
        port("fuse", "fuse end", half({ family: "Blade fuse", ways: 1 }, MALE), [wire("1", "accessory")]),
        port("radio", "radio end", half(ACCESSORY, MALE), [wire("1", "accessory")]),
      ),
      when: by("fuse"),
    },
  );
  kit.plug.push(
    {
      id: "k-module-bus",
      a: "busModule.main",
      b: "loom.busTap",
      say: "Bus module to the bus pair",
      when: by("module"),
    },
    {
      id: "k-module-out",
      a: "busModule.out",
      b: "adapter.bus",
      say: "Accessory lead of the bus module into the adapter lead",
      when: by("module"),
    },
    {
      id: "k-tap-fuse",
      a: "fuseTap.fuse",
      b: "loom.fusePanel",
      say: "Fuse tap into a switched, unimportant position",
      when: by("fuse"),
    },
    {
      id: "k-tap-radio",
      a: "fuseTap.radio",
      b: "adapter.bus",
      say: "Fuse tap lead into the adapter lead",
      when: by("fuse"),
    },
  );
  kit.choices.push({
    id: "feed",
    label: "Accessory feed",
    kind: "offer",
    usual: "module",
    options: [
      {
        id: "module",
        label: "From the bus module",
        why: "Nothing to tap; the module must carry the data of just this car.",
      },
      {
        id: "fuse",
        label: "From a fuse tap",
        why: "Always works; a switched, unimportant circuit must be found.",
        price: 9,
        minutes: 25,
      },
    ],
  });
  kit.sets.push({
    setting: "busModule.data",
    value: "updated",
    means: "programming",
    say: "Load the data of this car into the bus module on a computer",
    minutes: 15,
    when: by("module"),
  });
  kit.needs.push(
    { kind: "programming", say: "Bus module loaded on a computer before the visit", minutes: 15, when: by("module") },
    { kind: "tool", say: "LED tester and the fuse map of the car", when: by("fuse") },
  );
}

/** The new bezel brings its own climate panel: what it has no key for is lost, what the car has no flap for is dead. */
function addPanel(zones: number, kit: KitProfile): void {
  kit.parts.push(
    pressed(
      "climatePanel",
      "Climate panel in the new bezel",
      CLIMATE,
      3,
      ZONES.slice(0, zones).map((z) => [z.id, z.press]),
    ),
  );
  kit.plug.push({
    id: "k-climate",
    a: "climatePanel.main",
    b: "loom.climatePanel",
    say: "Climate plug into the new bezel",
  });
  kit.needs.push(
    { kind: "part", say: "Blank for the mode key without hardware", price: 6 },
    { kind: "part", say: "Hazard switch, vents and lighter socket move over from the old panel" },
    { kind: "person", say: "Tell the customer: a two-zone panel on a single-zone car sets one temperature" },
  );
}

function addKnob(kit: KitProfile): void {
  const when = { choice: "knob", is: ["knob"] };
  kit.parts.push({ ...pressed("volumeKnob", "Volume knob with its harness", KNOB, 2, [["1", "knob"]]), when });
  kit.plug.push({
    id: "k-knob",
    a: "volumeKnob.main",
    b: "radio.knob",
    say: "Small harness of the volume knob into the new module",
    when,
  });
  kit.choices.push({
    id: "knob",
    label: "Volume knob",
    kind: "offer",
    usual: "none",
    options: [
      { id: "none", label: "Panel without knob", why: "Volume only by the wheel keys." },
      {
        id: "knob",
        label: "Panel with knob and small harness",
        why: "Needed where the wheel has no volume keys.",
        price: 85,
        minutes: 10,
      },
    ],
  });
}
