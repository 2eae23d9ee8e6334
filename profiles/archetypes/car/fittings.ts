import type { Condition, Part } from "../../../core/model/types";
import {
  all,
  gives,
  half,
  has,
  inside,
  MALE,
  port,
  SPEAKER_BLOCK,
  speakerContacts,
  supplyNeeds,
  takes,
} from "../vocabulary";
import type { CarLeaflet } from "./leaflet";
import { frontPairs, hasTweeters } from "./loom";
import { AMPLIFIER, ANTENNA, CAMERA, CLIMATE, HANDS_FREE, MIC, SATELLITE, SWITCH, WHEEL, ZONES } from "./plugs";

/** Everything that hangs on the loom beside the body computer. */
export function fittings(l: CarLeaflet): Part[] {
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
      looks: "back",
      ...(l.cameraFigures ? { figures: l.cameraFigures } : {}),
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
  if (hasTweeters(l)) parts.push(tweeters());
  if (l.sound === "ring") parts.push(ringAmplifier());
  if (l.handsFreeModule) parts.push(handsFreeModule());
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
      when: playsBetween(`main.${id}`, `main.${SPEAKER_BLOCK[i + 4]?.[0]}`),
    })),
  };
}

/** A loudspeaker plays whatever channel comes on both of its leads, the right way round. */
function playsBetween(plus: string, minus: string): Condition {
  return {
    any: ["LF", "RF", "LR", "RR"].map((channel) => all(has(plus, { channel }), has(minus, { channel, pole: "-" }))),
  };
}

/** Two named sinks on the front pairs; a radio may watch that they are there. */
function tweeters(): Part {
  const pairs = SPEAKER_BLOCK.slice(0, 4).flatMap(([id, channel], i) =>
    channel.endsWith("F") ? [{ plus: id, minus: SPEAKER_BLOCK[i + 4]?.[0] ?? "", channel }] : [],
  );
  return {
    id: "tweeters",
    name: "Tweeters",
    type: "device",
    reachMinutes: 15,
    ports: [
      port("main", "leads", null, frontPairs("in")),
      inside(
        "cones",
        "cones",
        pairs.map(({ channel }) => gives(`T${channel}`, "speaker", `${channel} tweeter`)),
      ),
    ],
    routes: pairs.map(({ plus, minus, channel }) => ({
      id: channel,
      from: `main.${plus}`,
      to: `cones.T${channel}`,
      when: playsBetween(`main.${plus}`, `main.${minus}`),
    })),
  };
}

/** The microphone goes through it; two contacts beside its own are where a branch is set. */
function handsFreeModule(): Part {
  return {
    id: "handsFreeModule",
    name: "Hands-free module of the car",
    type: "device",
    reachMinutes: 2,
    facts: { place: "console" },
    needs: supplyNeeds("main", { battery: "3", ground: "4" }),
    ports: [
      port("main", "plug", half(HANDS_FREE, MALE), [
        takes("1", "microphone"),
        gives("2", "microphone", "microphone, to the radio"),
        takes("3", "battery"),
        takes("4", "ground"),
      ]),
    ],
    routes: [{ id: "voice", from: "main.1", to: "main.2" }],
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
