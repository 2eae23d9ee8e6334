/** Mirroring adapter on a video input: the phone's picture as composite video, sound over the line input. */
import { z } from "zod";
import type { KitProfile } from "../../../core/model/profile";
import { FEMALE, gives, half, lead, MALE, port, supplyNeeds, takes, wire } from "../vocabulary";
import { material, rearViewPhone, SOUND_FUNCTION } from "./common";
import { emptyKit, kitHead } from "./head";
import { methods } from "./methods";

export const videoInputLeaflet = z.strictObject({ archetype: z.literal("videoInput"), ...kitHead });
export type VideoInputLeaflet = z.infer<typeof videoInputLeaflet>;

const JACK = { family: "Jack 3.5", ways: 3 };
const ROUND = { family: "Round plug", ways: 1, colour: "yellow" };

export function buildVideoInput(l: VideoInputLeaflet): KitProfile {
  const kit = emptyKit(l, "Mirroring adapter on a video input");
  const shown = { pictureMode: "phone", phone: "wired" } as const;
  kit.parts = [
    {
      id: "module",
      name: "Picture adapter",
      type: "device",
      lamp: "white lamp",
      reachMinutes: 1,
      needs: supplyNeeds("supply", { battery: "1", ground: "2" }),
      settings: [
        // Behind a lock; nobody but the law of the place says whether it may be opened, and no plan opens it.
        { id: "motion", label: "Picture in motion, behind the seal", values: ["locked", "open"], initial: "locked" },
      ],
      ports: [
        port("supply", "12 V plug", half({ family: "Socket 12 V", ways: 2 }, MALE), [
          takes("1", "accessory"),
          takes("2", "ground"),
        ]),
        port("usb", "USB socket", half({ family: "USB A", ways: 4 }, FEMALE), [takes("1", "usb")]),
        port("picture", "yellow socket", half(ROUND, FEMALE), [gives("1", "compositeVideo")]),
        port("audio", "AUDIO jack", half(JACK, FEMALE), [gives("T", "lineAudio"), gives("R", "lineAudio")]),
      ],
      routes: [
        {
          id: "picture",
          from: "usb.1",
          to: "picture.1",
          set: { picture: "phone", format: "with bars" },
          settleMs: 2500,
        },
        { id: "left", from: "usb.1", to: "audio.T", set: { sound: "phone", channel: "left" } },
        { id: "right", from: "usb.1", to: "audio.R", set: { sound: "phone", channel: "right" } },
      ],
    },
    lead(
      "pictureLead",
      "Picture lead",
      1.5,
      port("adapter", "adapter end", half(ROUND, MALE), [wire("1", "compositeVideo")]),
      port("radio", "radio end", half(ROUND, MALE), [wire("1", "compositeVideo")]),
    ),
    {
      ...lead(
        "audioLead",
        "Line audio lead",
        1.2,
        port("adapter", "adapter end", half(JACK, MALE), [wire("T", "lineAudio"), wire("R", "lineAudio")]),
        port("radio", "radio end", half({ family: "Line 3", ways: 3, colour: "green" }, FEMALE), [
          wire("L", "lineAudio"),
          wire("R", "lineAudio"),
        ]),
      ),
      joins: [{ contacts: ["adapter.T", "radio.L"] }, { contacts: ["adapter.R", "radio.R"] }],
    },
    lead(
      "usbLead",
      "Phone cable",
      1,
      port("adapter", "adapter end", half({ family: "USB A", ways: 4 }, MALE), [wire("1", "usb")]),
      port("phone", "phone end", half({ family: "USB C", ways: 24 }, MALE), [wire("1", "usb")]),
    ),
  ];
  kit.plug = [
    {
      id: "k-picture-radio",
      a: "pictureLead.radio",
      b: "radio.videoIn",
      say: "Picture lead into the yellow video input",
    },
    { id: "k-picture", a: "pictureLead.adapter", b: "module.picture", say: "Picture lead into the adapter" },
    { id: "k-audio-radio", a: "audioLead.radio", b: "radio.aux", say: "Line audio lead into the line input" },
    { id: "k-audio", a: "audioLead.adapter", b: "module.audio", say: "Line audio lead into the AUDIO jack" },
    { id: "k-usb", a: "usbLead.adapter", b: "module.usb", say: "Phone cable into the adapter" },
    { id: "k-usb-phone", a: "usbLead.phone", b: "phone.usb", say: "Phone on its cable" },
    { id: "k-supply", a: "module.supply", b: "loom.socket12", say: "Adapter into the 12 V socket, last" },
  ];
  kit.sets = [
    {
      setting: "module.motion",
      value: "locked",
      means: "menu",
      say: "Leave the motion switch locked under its seal",
      minutes: 0,
    },
    {
      setting: "radio.videoFormat",
      value: "wide",
      means: "menu",
      say: "Display format of the video input to wide, or bars stay at the sides",
      minutes: 1,
    },
    {
      setting: "radio.autoReturn",
      value: "off",
      means: "menu",
      say: "Automatic return to the home page off",
      minutes: 1,
    },
  ];
  kit.choices = methods("foam", "trying", "closing");
  kit.functions = [
    {
      id: "phonePicture",
      name: "Phone picture",
      say: "Choose the video input; the phone's picture fills the screen.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "phone", format: { fact: "screen.format" } } }],
      situations: [{ id: "wired", label: "phone by cable, car standing", set: shown }],
      withinMs: 8000,
      minutes: 1.5,
    },
    {
      ...SOUND_FUNCTION("lineIn", "the line input"),
      situations: [{ id: "on", label: "line input chosen", set: { ...shown, source: "lineIn" } }],
    },
    { ...rearViewPhone([]), when: { fact: "radio.camera", is: ["yes"] } },
    {
      id: "motionLock",
      name: "Video stays locked in motion",
      say: "A second person watches the screen while the car rolls at walking pace on a closed yard; a notice replaces the picture.",
      who: "law",
      observe: [{ at: "screen.glass.picture", where: { picture: "lock notice" } }],
      situations: [
        {
          id: "rolling",
          label: "rolling on a closed yard",
          set: { ...shown, key: "running", selector: "D", parkingBrake: false, speedKmh: 8 },
        },
      ],
      minutes: 4,
      caution:
        "Closed yard, second person at the screen, the driver only drives. The law of the place decides what may be shown.",
    },
  ];
  kit.needs = [
    material("Double-sided tape for the adapter"),
    material("Ties, 6 pieces"),
    {
      kind: "tool",
      say: "Ground point: bare metal behind the radio, one point, tight",
      why: "A second ground at the picture lead cures hum and bars that run through the picture.",
    },
    {
      kind: "person",
      say: "The motion switch stays locked under its seal",
      why: "Video in the driver's view while driving is for the law of the place to decide; it is locked as delivered.",
    },
  ];
  kit.card = [...kit.card, "Choose the video input for the picture and the line input for the sound."];
  return kit;
}
