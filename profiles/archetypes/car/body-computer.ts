import type { Condition, Message, Monitor, Part } from "../../../core/model/types";
import { gives, half, has, inside, MALE, port, supplyNeeds, takes, wire } from "../vocabulary";
import type { CarLeaflet } from "./leaflet";
import { hasTweeters } from "./loom";
import { BODY } from "./plugs";

export function bodyComputer(l: CarLeaflet): Part {
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
    facts: {
      wheelKeys: l.wheelKeys ? "yes" : "no",
      climateZones: String(l.climateZones),
      emergencyCall: l.emergencyCall ? "yes" : "no",
      tweeters: hasTweeters(l) ? "yes" : "no",
      driveSide: l.driveSide,
      rearCamera: l.rearCamera ? "yes" : "no",
    },
    needs: supplyNeeds("main", { battery: "1", ground: "2" }),
    // An older car without the bus at the radio has a slow one, with both ends inside: two of 120 ohm side by side.
    buses: [
      {
        id: "comfort",
        high: "main.3",
        low: "main.4",
        kbit: l.busAtRadio ? 125 : 50,
        terminatorOhm: l.busAtRadio ? 120 : 60,
      },
    ],
    messages: [
      { bus: "comfort", name: "keyOn", when: awake },
      { bus: "comfort", name: "clock", when: awake },
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
        ...(l.emergencyCall ? [takes("9", "trigger", "emergency call loop")] : []),
      ]),
      inside("flashers", "hazard flashers", [gives("1", "trigger", "hazard flashers")]),
    ],
  };
}

/** What the body computer watches by itself. */
export function monitors(l: CarLeaflet): Monitor[] {
  if (!l.emergencyCall) return [];
  return [
    {
      id: "emergencyLoop",
      by: "bodyComputer",
      code: "B1A45",
      say: "Emergency call, loop open",
      watch: [{ at: "bodyComputer.main.9", where: {} }],
    },
  ];
}
