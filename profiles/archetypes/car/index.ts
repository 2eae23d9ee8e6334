/** A car as built, without its radio. */

import type { CarProfile } from "../../../core/model/profile";
import { link } from "../vocabulary";
import { bodyComputer, monitors } from "./body-computer";
import { drawings } from "./drawings";
import { fittings } from "./fittings";
import { functions } from "./functions";
import { fusePanel } from "./fuse-panel";
import type { CarLeaflet } from "./leaflet";
import { battery, hasTweeters, loom } from "./loom";
import { places, runs } from "./runs";
import { stripPlan } from "./strip-plan";

/** Builds the car as built, without its radio. */
export function buildCar(l: CarLeaflet): CarProfile {
  const way = stripPlan(l);
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
      ...(l.handsFreeModule ? [link("loom-hands-free", "loom.handsFree", "handsFreeModule.main")] : []),
      ...(hasTweeters(l) ? [link("loom-tweeters", "loom.tweeters", "tweeters.main")] : []),
      ...(l.climateZones > 0
        ? [
            link("loom-climate-panel", "loom.climatePanel", "climatePanel.main"),
            link("loom-climate", "loom.climate", "climateUnit.main"),
          ]
        : []),
    ],
    functions: functions(l),
    assumed: [],
    monitors: monitors(l),
    ...(l.figures ? { figures: l.figures } : {}),
    defaultSituation: { key: "on", selector: "P", parkingBrake: true, paired: true },
    power: { batteryAh: 60, ignitionA: 9 },
    fusePanel: fusePanel(),
    runs: runs(),
    places: places(),
    drawings: drawings({ ...l, panels: new Set(way.steps.flatMap((s) => s.panel ?? [])), tweeters: hasTweeters(l) }),
    stripPlan: way,
  };
}
