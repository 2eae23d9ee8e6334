/** Factory socket upgrade: the radio stays, its firmware is raised, the USB panel is replaced. */
import { z } from "zod";
import type { KitProfile } from "../../../core/model/profile";
import { FEMALE, fourSpeakers, gives, half, lead, MALE, port, takes, wire } from "../vocabulary";
import { CRANKS, rearViewPhone, SLOW_USB_SOUND, tool } from "./common";
import { emptyKit, kitHead } from "./head";
import { methods } from "./methods";

export const socketLeaflet = z.strictObject({
  archetype: z.literal("socketUpgrade"),
  ...kitHead,
  firmwareFloor: z.string().describe("Lowest firmware of the radio"),
});
export type SocketLeaflet = z.infer<typeof socketLeaflet>;

const first = { family: "Socket 5", ways: 5, colour: "white" };
const second = { family: "Socket 5", ways: 5, colour: "green" };
const usbA = { family: "USB A", ways: 4 };

export function buildSocket(l: SocketLeaflet): KitProfile {
  const kit = emptyKit(l, "Factory socket upgrade");
  const shown = { pictureMode: "phone", phone: "wired", source: "usb" } as const;
  kit.replaces = [
    { part: "usbPanel", why: "The new panel supports mirroring." },
    { part: "usbCable", why: "The old lead is tied back with foam." },
  ];
  kit.parts = [
    {
      id: "usbPanel",
      name: "New USB panel",
      type: "device",
      reachMinutes: 4,
      ports: [
        port("front", "socket", half(usbA, FEMALE), [takes("1", "usb")]),
        // The same opening: one contact of the model takes one plug, and a stick goes in where the phone's cable was.
        port("stick", "socket, a stick in place of the cable", half(usbA, FEMALE), [takes("1", "usb")]),
        port("first", "first plug behind, white", half(first, MALE), [gives("1", "usb")]),
        port("second", "second plug behind, green", half(second, MALE), [gives("1", "usb")]),
      ],
      routes: [
        { id: "first", from: "front.1", to: "first.1", set: { lane: "first", sound: "phone" } },
        { id: "second", from: "front.1", to: "second.1", set: { lane: "second" } },
        { id: "stick", from: "stick.1", to: "first.1", when: { not: { situation: "phone", is: ["wired"] } } },
      ],
    },
    lead("firstLead", "First socket lead, white", 1.5, end("panel", first), end("radio", first)),
    lead("secondLead", "Second socket lead, green", 1.5, end("panel", second), end("radio", second)),
    lead(
      "phoneCable",
      "Phone's own cable",
      1,
      port("socket", "socket end", half(usbA, MALE), [wire("1", "usb")]),
      port("phone", "phone end", half({ family: "USB C", ways: 24 }, MALE), [wire("1", "usb")]),
    ),
  ];
  kit.plug = [
    {
      id: "k-first-panel",
      a: "firstLead.panel",
      b: "usbPanel.first",
      say: "White lead into the left plug of the new panel",
    },
    {
      id: "k-second-panel",
      a: "secondLead.panel",
      b: "usbPanel.second",
      say: "Green lead into the right plug of the new panel",
    },
    {
      id: "k-first-radio",
      a: "firstLead.radio",
      b: "radio.usb",
      say: "White lead into the first socket input of the radio",
    },
    { id: "k-second-radio", a: "secondLead.radio", b: "radio.usb2", say: "Green lead into the second socket input" },
    { id: "k-cable-socket", a: "phoneCable.socket", b: "usbPanel.front", say: "Phone cable into the new socket" },
    {
      id: "k-stick",
      a: "usbStick.plug",
      b: "usbPanel.stick",
      say: "Stick with music into the new socket for the try, in place of the phone cable",
    },
    { id: "k-cable-phone", a: "phoneCable.phone", b: "phone.usb", say: "Phone on its cable for the try" },
  ];
  kit.sets = [
    {
      setting: "radio.mirroring",
      value: "open",
      means: "firmware",
      say: "Mirroring is open from the firmware floor upwards",
      minutes: 0,
    },
  ];
  kit.firmwareFloors = [{ part: "radio", atLeast: l.firmwareFloor, why: "Older firmware does not offer mirroring." }];
  kit.leads = ["firstLead", "secondLead"].map((part) => ({ part, from: "console space", to: "radio shaft" }));
  kit.tiesBack = [{ say: "Old lead of the socket", lengthM: 0.3 }];
  kit.normal = [CRANKS, { ...SLOW_USB_SOUND, id: "slowSocket", title: "The socket is being recognised" }];
  kit.card = [...kit.card, "Plug the phone into the new socket and choose mirroring; nothing is paired."];
  kit.choices = methods("battery", "closing");
  kit.functions = [
    {
      id: "phonePicture",
      name: "Phone picture",
      say: "Plug the phone in, choose mirroring; the picture fills the screen.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "phone", format: { fact: "screen.format" } } }],
      situations: [
        { id: "wired", label: "phone by cable", set: shown },
        { id: "started", label: "after the engine start", set: { ...shown, key: "running" } },
      ],
      withinMs: 15000,
      minutes: 1.5,
    },
    {
      id: "phoneSound",
      name: "Phone sound on four speakers",
      say: "Play music on the phone; move balance and fader to each corner.",
      who: "customer",
      observe: fourSpeakers("phone"),
      situations: [{ id: "on", label: "phone by cable", set: shown }],
      minutes: 1.5,
    },
    { ...rearViewPhone([]), when: { fact: "radio.camera", is: ["yes"] } },
  ];
  kit.needs = [
    { kind: "person", say: "The old lead of the socket stays in the car, wrapped and tied back" },
    tool("Plastic wedges"),
    { kind: "programming", say: "Firmware medium loaded on a computer before the visit", minutes: 15 },
    {
      kind: "person",
      say: "Battery maintainer on while the firmware is written",
      why: "A drop of voltage while writing can end the radio.",
    },
  ];
  return kit;
}

function end(id: "panel" | "radio", plug: typeof first) {
  return port(id, `${id} end`, half(plug, FEMALE), [wire("1", "usb")]);
}
