import type { z } from "zod";
import type { Part } from "../../../core/model/types";
import { radioPort } from "../plugs";
import { FEMALE, half, MALE, type Pins, type plugSchema, port, takes, wire } from "../vocabulary";

/** Plug of a small module: battery, ground, bus. */
const MODULE_PLUG = { family: "Module 12", ways: 12, keying: "M" };
export const MODULE_PINS = { battery: "1", ground: "2", high: "3", low: "4" };

/** Contacts of the module's own plug; `more` for triggers and feeds of the kit. */
export function modulePlug(gender: "male" | "female", more: ReturnType<typeof wire>[] = []) {
  const isModule = gender === MALE;
  return port("main", isModule ? "main plug" : "module end", half(MODULE_PLUG, gender), [
    isModule ? takes("1", "battery") : wire("1", "battery"),
    isModule ? takes("2", "ground") : wire("2", "ground"),
    wire("3", "can", "bus high"),
    wire("4", "can", "bus low"),
    ...more,
  ]);
}

/**
 * T-harness between the car's radio plug and the radio: every contact straight through, supply and bus also to the
 * module. With a ring its contacts pass only when they were moved into the harness plug.
 */
export function tHarness(l: { radioPlug: z.infer<typeof plugSchema>; pins: Pins }, ring: boolean): Part {
  const { pins } = l;
  const contacts = radioPort(pins, ring, true);
  const straight = contacts
    .filter((c) => !["can", "battery", "ground", "opticalRing"].includes(c.kind) && c.id !== "s")
    .map((c) => ({ contacts: [`car.${c.id}`, `radio.${c.id}`] }));
  const moved = { setting: "ring", is: ["moved"] };
  return {
    id: "harness",
    name: "T-harness",
    type: "lead",
    lengthM: 0.35,
    twisted: true,
    reachMinutes: 1,
    ports: [
      port("car", "car end", half(l.radioPlug, MALE), contacts),
      port("radio", "radio end", half(l.radioPlug, FEMALE), contacts),
      port("module", "module end", half(MODULE_PLUG, FEMALE), [
        wire("1", "battery"),
        wire("2", "ground"),
        wire("3", "can", "bus high"),
        wire("4", "can", "bus low"),
      ]),
    ],
    joins: [
      ...straight,
      { contacts: [`car.${pins.high}`, `radio.${pins.high}`, "module.3"] },
      { contacts: [`car.${pins.low}`, `radio.${pins.low}`, "module.4"] },
      { contacts: [`car.${pins.battery}`, `radio.${pins.battery}`, "module.1"], mm2: 1.5 },
      { contacts: [`car.${pins.ground}`, `radio.${pins.ground}`, "module.2"], mm2: 1.5 },
    ],
    ...(ring
      ? {
          settings: [
            { id: "ring", label: "Optical contacts", values: ["in the old plug", "moved"], initial: "in the old plug" },
          ],
          routes: [
            { id: "ringOut", from: "radio.ro", to: "car.ro", when: moved },
            { id: "ringBack", from: "car.ri", to: "radio.ri", when: moved },
            { id: "ringSound", from: "radio.s", to: "car.s", when: moved },
          ],
        }
      : {}),
  };
}

/** The two links and the opened plug that put a T-harness in place. */
export const HARNESS_UNPLUG = { a: "loom.radio", b: "radio.main", why: "The T-harness goes between." };
export const HARNESS_LINKS = [
  { id: "k-car", a: "harness.car", b: "loom.radio", say: "T-harness into the car's radio plug" },
  { id: "k-radio", a: "harness.radio", b: "radio.main", say: "T-harness into the radio" },
];
export const MODULE_LINK = {
  id: "k-module",
  a: "harness.module",
  b: "module.main",
  say: "T-harness into the module, last: this gives it power",
};

export const RING_SETTING = {
  setting: "harness.ring",
  value: "moved",
  means: "contacts" as const,
  say: "Move the two optical contacts from the car's plug into the harness plug; fibre not tighter than 25 mm radius",
  minutes: 6,
  moves: ["ro", "ri"].map((c) => ({ from: `loom.radio.${c}`, to: `harness.car.${c}` })),
};
