/** Module that lets a passenger watch, loaded from a computer before fitting. */

import { z } from "zod";
import { told, toldSettings } from "../../../core/bus/translation/told";
import type { KitProfile } from "../../../core/model/profile";
import { naming, pinContradictions } from "../contradictions";
import { all, busNeeds, during, hears, MALE, set } from "../vocabulary";
import { tool } from "./common";
import { HARNESS_LINKS, HARNESS_UNPLUG, MODULE_LINK, MODULE_PINS, modulePlug, tHarness } from "./harness";
import { emptyKit, harnessShape, kitHead } from "./head";
import { methods } from "./methods";

export const passengerVideoLeaflet = z
  .strictObject({
    archetype: z.literal("passengerVideo"),
    ...kitHead,
    ...harnessShape,
  })
  .superRefine(naming((l) => pinContradictions(l.pins, false)));

/** Module that lets a passenger watch: the lock stays on until the passenger asks, and only for the passenger. */
export function buildPassengerVideo(l: z.infer<typeof passengerVideoLeaflet>): KitProfile {
  const kit = emptyKit(l, "Motion-lock module, loaded before fitting");
  kit.unplug = [HARNESS_UNPLUG];
  kit.parts = [
    {
      id: "module",
      name: "Passenger video module",
      type: "device",
      lamp: "green lamp",
      reachMinutes: 2,
      needs: busNeeds("main", MODULE_PINS),
      buses: [{ id: "car", high: "main.3", low: "main.4" }],
      settings: [
        { id: "data", label: "Data of the car", values: ["blank", "loaded"], initial: "blank" },
        ...toldSettings(["next"]),
      ],
      messages: [
        {
          bus: "car",
          name: "passengerScreen",
          when: all(set("data", "loaded"), told("next", hears("wheelNext")), during("pressed", "next")),
        },
      ],
      ports: [modulePlug(MALE)],
    },
    tHarness(l, false),
  ];
  kit.plug = [...HARNESS_LINKS, MODULE_LINK];
  kit.sets = [
    {
      setting: "module.data",
      value: "loaded",
      means: "programming",
      say: "Load the data of this car into the module on a computer before fitting",
      minutes: 20,
    },
    {
      setting: "radio.autoReturn",
      value: "off",
      means: "menu",
      say: "Automatic return to the home page off",
      minutes: 1,
    },
  ];
  kit.choices = methods("closing");
  const video = { pictureMode: "phone", key: "running", selector: "D", parkingBrake: false, speedKmh: 8 } as const;
  kit.functions = [
    {
      id: "motionLock",
      name: "Video stays locked in motion",
      say: "Without the passenger's request a second person watches the screen while the car rolls on a closed yard; a notice stands there.",
      who: "law",
      observe: [{ at: "screen.glass.picture", where: { picture: "lock notice" } }],
      situations: [{ id: "rolling", label: "rolling on a closed yard", set: video }],
      minutes: 4,
      caution:
        "Closed yard, second person at the screen, the driver only drives. The law of the place decides what may be shown.",
    },
    {
      id: "passengerVideo",
      name: "Passenger video on request",
      say: "The passenger holds the next key; the lock notice goes for as long as the law of the place allows it.",
      who: "customer",
      observe: [
        { at: `radio.main.${l.pins.high}`, where: { message: "passengerScreen", line: "high" } },
        { at: `radio.main.${l.pins.low}`, where: { message: "passengerScreen", line: "low" } },
      ],
      situations: [{ id: "request", label: "passenger holds the key", set: { ...video, pressed: "next" } }],
      minutes: 4,
      caution: "Never in the driver's view. Note who asked for it.",
    },
  ];
  kit.needs = [
    { kind: "programming", say: "Module loaded from a computer before the visit", minutes: 20 },
    { kind: "licence", say: "Check the law of the place; note who asked for it. Passenger use only" },
    tool("Plastic wedges"),
  ];
  return kit;
}
