/** Another radio in the place of the old one: from a sister car, of a higher level, aftermarket, or with a bigger screen. */

import type { KitLink, KitProfile } from "../../../../core/model/profile";
import { buildRadio } from "../../radio";
import type { RadioFeatures } from "../../radio/features";
import { material, tool } from "../common";
import { emptyKit } from "../head";
import { methods } from "../methods";
import { addAdapter } from "./adapter";
import { addBusModule, addBusWires } from "./bus";
import type { RadioSwapLeaflet } from "./leaflet";
import { addKnob, addPanel } from "./panel";

const WORK = {
  "higher level": "Factory radio of a higher level",
  "sister car": "Radio from a sister car",
  aftermarket: "Aftermarket radio with a bus module",
  "bigger module and screen": "Bigger factory module and screen",
} as const;

export function buildRadioSwap(l: RadioSwapLeaflet): KitProfile {
  const kit = emptyKit(l, WORK[l.from]);
  const aftermarket = l.from === "aftermarket";
  const adapter = Boolean(l.newPlug);
  const built = buildRadio(l.features, {
    plug: l.newPlug ?? l.radioPlug,
    pins: l.newPlug ? l.newPins : l.pins,
    key: aftermarket ? "wire" : "bus",
    sound: "radio",
    rearCamera: l.keepsCamera,
    wheelKeys: l.wheelKeys,
    satelliteAntenna: l.satellite,
    bus: !aftermarket,
    endsBus: l.from === "higher level" || l.from === "bigger module and screen",
    reverseWire: false,
  });
  kit.replaces = [
    { part: "radio", why: "The new radio takes its place." },
    ...(l.oldScreen || l.from === "higher level"
      ? ["screen", "displayLead"].map((part) => ({ part, why: "It leaves with the old radio.", ifPresent: true }))
      : []),
    ...(l.features.usb
      ? ["usbPanel", "usbCable"].map((part) => ({ part, why: "The new radio brings its own socket.", ifPresent: true }))
      : []),
    ...(l.climateZones > 0 ? [{ part: "climatePanel", why: "The bezel changes with the screen." }] : []),
  ];
  kit.parts = [...built.parts];
  kit.functions = built.functions;
  kit.plug = built.links
    .filter((x) => !(adapter && x.id === "loom-radio"))
    .map((x): KitLink => ({ ...x, id: `k-${x.id}`, say: SAY[x.id] ?? "Plug of the new radio" }));
  if (adapter) addAdapter(l, kit, aftermarket);
  if (l.from === "sister car") addBusWires(l, kit);
  if (aftermarket) addBusModule(kit);
  if (l.climateZones > 0) addPanel(l.climateZones, kit);
  if (l.features.knobInput) addKnob(kit);
  if (l.features.bluetooth)
    kit.plug.push({
      id: "k-phone-car",
      a: "phone.bluetooth",
      b: "radio.bluetooth",
      say: "Phone paired with the new radio",
      air: true,
    });
  kit.sets.push(...settings(l.features));
  kit.choices.push(...methods("closing"));
  kit.needs.push(tool("Plastic wedges"), material("Fabric tape"), {
    kind: "licence",
    say: "Proof that the radio is not locked to another car",
    why: "Theft protection: maker's procedure and licensed people.",
  });
  return kit;
}

const SAY: Record<string, string> = {
  "loom-radio": "Car's radio plug into the new radio",
  "antenna-radio": "Roof antenna into the new radio",
  "loom-screen": "Supply plug into the new screen",
  "display-radio": "Display lead into the new radio",
  "display-screen": "Display lead into the new screen",
  "camera-radio": "Camera plug into the new radio",
  "satellite-radio": "Satellite antenna into the new radio, by its colour",
  "usb-panel": "USB lead into the socket panel",
  "usb-radio": "USB lead into the new radio",
};

function settings(f: RadioFeatures): KitProfile["sets"] {
  return [
    ...(f.listed === "to be listed"
      ? [
          {
            setting: "radio.listed",
            value: "yes",
            means: "gateway" as const,
            say: "Add the new radio to the gateway's list, then scan again",
            minutes: 12,
          },
        ]
      : []),
    ...(f.coded === "by programming plug"
      ? [
          {
            setting: "radio.coded",
            value: "yes",
            means: "programmingPlug" as const,
            say: "Programming plug: ignition on, wait 10 to 15 s, plug in, lamp blinks while writing; steady in the other colour means finished. Battery maintainer on; never pull it while it blinks, never leave it in",
            minutes: 8,
          },
        ]
      : []),
  ];
}
