/** Sound path, cameras, and what the phone needs. */
import type { KitLink, KitProfile } from "../../../../core/model/profile";
import { FEMALE, gives, half, lead, MALE, port, set, takes, wire } from "../../vocabulary";
import { SOUND_FUNCTION } from "../common";
import type { InterfaceLeaflet } from "./leaflet";
import { CAMERA_PLUG, JACK } from "./module";

export function addSound(l: InterfaceLeaflet, kit: KitProfile): void {
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
    kit.unplug.push({
      a: "usbStick.plug",
      b: "usbPanel.front",
      why: "The sound adapter takes the socket.",
      when: on("usbSound"),
    });
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

export function addCameras(l: InterfaceLeaflet, kit: KitProfile): void {
  const added = (id: "frontCamera" | "rearCameraAdded", socket: "camera" | "rear", name: string, picture: string) => {
    const when = { choice: id, is: ["fitted"] };
    const plug = { ...CAMERA_PLUG, keying: socket === "rear" ? "D" : "C" };
    kit.parts.push({
      id,
      name,
      type: "device",
      looks: socket === "rear" ? "back" : "ahead",
      ...(l.cameraFigures ? { figures: l.cameraFigures } : {}),
      lengthM: socket === "rear" ? 6 : 4,
      reachMinutes: 8,
      draws: { onA: 0.12, peakA: 0.3, duty: 0.1, minimumV: 8 },
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

export function addPhone(kit: KitProfile): void {
  kit.parts.push(
    {
      id: "kitMic",
      name: "Added microphone",
      type: "device",
      lengthM: 3.5,
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
      settings: [
        {
          id: "place",
          label: "Antenna place",
          values: ["on plastic", "on metal"],
          initial: "on plastic",
          follows: "surface",
        },
      ],
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
      1.4,
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

export function phoneLinks(): KitLink[] {
  return [
    { id: "k-phone-air", a: "phone.air", b: "kitAntenna.air", say: "Phone meets the module by wireless", air: true },
    { id: "k-phone-usb", a: "usbLead.phone", b: "phone.usb", say: "Phone on the USB lead for the wired try" },
  ];
}
