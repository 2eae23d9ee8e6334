/** A car as built, without its radio. */

import { z } from "zod";
import type { CarProfile } from "../../../core/model/profile";
import { questionSchema } from "../../schema";
import { link, pinsSchema, plugSchema, USUAL_PINS } from "../vocabulary";
import { bodyComputer } from "./body-computer";
import { fittings } from "./fittings";
import { functions } from "./functions";
import { fusePanel } from "./fuse-panel";
import { battery, loom } from "./loom";
import { places, runs } from "./runs";
import { stripPlan } from "./strip-plan";

const words = z.string().trim().min(1).max(600);

/** What a person writes down about a car; the document with its parts and loom follows from it. */
export const carLeaflet = z.strictObject({
  archetype: z.literal("car"),
  id: z.string().regex(/^[a-z0-9-]+$/),
  maker: words,
  model: words,
  years: z.strictObject({ from: z.int(), to: z.int() }),
  driveSide: z.enum(["left", "right"]),
  gearbox: z.enum(["automatic", "manual"]),
  countries: z.array(z.string()),
  radioPlug: plugSchema,
  pins: pinsSchema.default(USUAL_PINS),
  /** How the radio learns that the key is on. */
  key: z.enum(["bus", "wire"]).default("bus"),
  /** A plain old radio plug has no bus; then the pair is tapped at the body computer. */
  busAtRadio: z.boolean().default(true),
  /** Where the loudspeakers hang: on the radio, or on an amplifier on the optical ring. */
  sound: z.enum(["radio", "ring"]).default("radio"),
  rearCamera: z.boolean(),
  wheelKeys: z.boolean().default(true),
  climateZones: z.int().min(0).max(2).default(0),
  satelliteAntenna: z.boolean().default(false),
  identification: z.array(z.strictObject({ pattern: z.string(), says: words })),
  questions: z.array(questionSchema).default([]),
  sourceNote: words.default("Invented for the demonstration."),
});
export type CarLeaflet = z.infer<typeof carLeaflet>;

/** Builds the car as built, without its radio. */
export function buildCar(l: CarLeaflet): CarProfile {
  return {
    document: "car",
    id: l.id,
    version: 1,
    title: `${l.maker} ${l.model}, ${l.years.from} to ${l.years.to}, ${l.gearbox}`,
    sourceNote: l.sourceNote,
    maker: l.maker,
    model: l.model,
    years: l.years,
    driveSide: l.driveSide,
    gearbox: l.gearbox,
    countries: l.countries,
    questions: l.questions,
    identification: l.identification,
    parts: [battery(), loom(l), bodyComputer(l), ...fittings(l)],
    links: [
      link("battery-loom", "loom.posts", "battery.posts"),
      link("loom-body", "loom.body", "bodyComputer.main"),
      link("loom-vents", "loom.vents", "ventPanel.main"),
      link("loom-mic", "loom.mic", "carMic.main"),
      ...(l.wheelKeys ? [link("loom-wheel", "loom.wheel", "wheelKeys.main")] : []),
      ...(l.rearCamera ? [link("loom-camera", "loom.camera", "rearCamera.main")] : []),
      ...(l.sound === "ring"
        ? [
            link("loom-amplifier", "loom.amplifier", "amplifier.main"),
            link("amplifier-speakers", "amplifier.speakers", "speakers.main"),
          ]
        : [link("loom-speakers", "loom.speakers", "speakers.main")]),
      ...(l.climateZones > 0
        ? [
            link("loom-climate-panel", "loom.climatePanel", "climatePanel.main"),
            link("loom-climate", "loom.climate", "climateUnit.main"),
          ]
        : []),
    ],
    functions: functions(l),
    assumed: [],
    usual: { key: "on", selector: "P", parkingBrake: true, paired: true },
    power: { batteryAh: 60, ignitionA: 9 },
    fusePanel: fusePanel(),
    runs: runs(),
    places: places(),
    stripPlan: stripPlan(l),
  };
}
