import { told, toldSettings } from "../../../../core/bus/translation/told";
import type { Choice, KitProfile } from "../../../../core/model/profile";
import type { FunctionSpec, Part } from "../../../../core/model/types";
import { KEY_INPUT } from "../../radio/plugs";
import { all, bare, FEMALE, gives, half, hears, lead, MALE, type Pins, port, set, takes, wire } from "../../vocabulary";
import { ACCESSORY } from "./adapter";
import type { RadioSwapLeaflet } from "./leaflet";

/** The new radio hears accessory, lighting and wheel keys from the bus: two wires run to it, or a small adapter is bought. */
export function addBusWires(l: RadioSwapLeaflet, kit: KitProfile): void {
  const plug = { family: "Bus pair 2", ways: 2 };
  const by = (id: string) => ({ choice: "bus", is: [id] });
  const pair = {
    ...lead(
      "busPair",
      "Twisted bus pair from the body computer",
      3,
      bare("body", "body computer end", "wire", [wire("H", "can"), wire("L", "can")]),
      port("radio", "radio end", half(plug, MALE), [wire("H", "can"), wire("L", "can")]),
    ),
    twisted: true,
  };
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
    default: "wires",
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
  kit.functions.push(...busAlive(l.newPins));
  kit.leads = [{ part: "busPair", from: "knee space", to: "radio shaft", kind: "twisted", when: by("wires") }];
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

/** Two proofs that the bus of the new radio is alive: lighting and clock. */
function busAlive(pins: Pins): FunctionSpec[] {
  const heard = (message: string) => [
    { at: `radio.main.${pins.high}`, where: { message, line: "high" } },
    { at: `radio.main.${pins.low}`, where: { message, line: "low" } },
  ];
  return [
    {
      id: "dimming",
      name: "Radio lighting follows the light switch",
      say: "Switch the lights on; the keys of the radio light up and dim with the cluster.",
      who: "customer",
      observe: heard("lightsOn"),
      situations: [{ id: "lights", label: "lights on", set: { lights: true } }],
      minutes: 0.5,
    },
    {
      id: "clock",
      name: "Clock as in the cluster",
      say: "Compare the clock of the radio with that of the cluster.",
      who: "customer",
      observe: heard("clock"),
      situations: [{ id: "on", label: "ignition on", set: {} }],
      minutes: 0.5,
    },
  ];
}

/** An aftermarket radio wants an accessory wire that a bus car no longer has; the bus module should make one. */
export function addBusModule(l: RadioSwapLeaflet, kit: KitProfile): void {
  const by = (id: string) => ({ choice: "feed", is: [id] });
  const keys = l.features.keyInput;
  // With wheel keys to translate the module is there wherever the accessory feed comes from.
  const there = keys ? {} : { when: by("module") };
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
        ...toldSettings(keys ? ["accessory", "volumeUp"] : ["accessory"]),
      ],
      ports: [
        bare("main", "bus end", "wire", [wire("H", "can"), wire("L", "can")]),
        port("out", "accessory lead", half(ACCESSORY, MALE), [gives("1", "accessory")]),
        ...(keys
          ? [port("keys", "wheel key lead", half(KEY_INPUT, FEMALE), [gives("1", "keyScan", "wheel keys")])]
          : []),
      ],
      // Supplies are evaluated before the bus, so the module is taken to know the key; that it is plugged is checked.
      sources: [
        {
          id: "accessory",
          at: ["out.1"],
          when: all(
            set("data", "updated"),
            told("accessory", { situation: "key", is: ["accessory", "on", "running"] }),
          ),
        },
        ...(keys
          ? [
              {
                id: "wheelVolumeUp",
                at: ["keys.1"],
                attributes: { key: "volumeUp" },
                when: all(set("data", "updated"), told("volumeUp", hears("wheelVolumeUp"))),
              },
            ]
          : []),
      ],
      ...there,
    },
    {
      ...lead(
        "fuseTap",
        "Fuse tap lead",
        1.5,
        port("fuse", "fuse end", half({ family: "Blade fuse", ways: 1 }, MALE), [wire("1", "accessory")]),
        port("radio", "radio end", half(ACCESSORY, MALE), [wire("1", "accessory")]),
      ),
      joins: [{ contacts: ["fuse.1", "radio.1"], mm2: 0.75, fuseA: 5 }],
      when: by("fuse"),
    },
  );
  kit.plug.push(
    {
      id: "k-module-bus",
      a: "busModule.main",
      b: "loom.busTap",
      say: "Bus module to the bus pair",
      ...there,
    },
    ...(keys
      ? [{ id: "k-module-keys", a: "busModule.keys", b: "radio.keyIn", say: "Wheel key lead into the radio" }]
      : []),
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
    default: "module",
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
    ...there,
  });
  kit.needs.push(
    {
      kind: "programming",
      say: "Bus module loaded on a computer before the visit",
      why: "With other data nearly everything translates, only the accessory feed never comes.",
      minutes: 15,
      ...there,
    },
    { kind: "tool", say: "LED tester and the fuse map of the car", when: by("fuse") },
  );
}
