/** A radio with or without a screen, as a car leaves the factory with it or as a kit brings it. */
import type { Monitor } from "../../../core/model/types";
import { pressed } from "../car/fittings";
import { FEMALE, half, lead, link, port, wire } from "../vocabulary";
import { radio } from "./device";
import type { BuiltRadio, RadioFeatures, RadioPlace } from "./features";
import { functions } from "./functions";
import { FRONT_KEYS } from "./plugs";
import { displayLead, screen } from "./screen";
import { usbEnd, usbPanel, usbStick } from "./usb";

/** Builds radio, screen and what lies between them, with the links to the car's loom. */
export function buildRadio(f: RadioFeatures, place: RadioPlace): BuiltRadio {
  const camera = place.rearCamera && place.bus && Boolean(f.screen);
  const parts = [radio(f, place, camera)];
  const links = [
    link("loom-radio", "loom.radio", "radio.main"),
    link("antenna-radio", "antenna.coax", "radio.antenna"),
  ];
  if (f.screen) {
    parts.push(screen(f.screen), displayLead(f.screen));
    links.push(
      link("loom-screen", "loom.screen", "screen.supply"),
      link("display-radio", "displayLead.radioEnd", "radio.video"),
      link("display-screen", "displayLead.screenEnd", "screen.video"),
    );
  }
  if (camera) links.push(link("camera-radio", "loom.cameraRadio", "radio.camera"));
  if (f.satellite && place.satelliteAntenna)
    links.push(link("satellite-radio", "satelliteAntenna.coax", "radio.satellite"));
  if (f.usb) {
    parts.push(
      usbPanel(),
      usbStick(),
      lead("usbCable", "Lead of the USB socket", 1.4, usbEnd("panel"), usbEnd("radio")),
    );
    links.push(
      link("usb-panel", "usbCable.panel", "usbPanel.back"),
      link("usb-radio", "usbCable.radio", "radio.usb"),
      link("usb-stick", "usbStick.plug", "usbPanel.front"),
    );
  }
  if (f.frontKeys) {
    const ribbonEnd = (id: string, label: string) => port(id, label, half(FRONT_KEYS, FEMALE), [wire("1", "keyScan")]);
    parts.push(
      pressed("radioFront", "Front with keys", FRONT_KEYS, 2, [["1", "menu"]]),
      lead(
        "keyRibbon",
        "Ribbon of the front keys",
        0.12,
        ribbonEnd("front", "front end"),
        ribbonEnd("board", "board end"),
      ),
    );
    links.push(
      link("key-front", "keyRibbon.front", "radioFront.main"),
      link("key-board", "keyRibbon.board", "radio.front"),
    );
  }
  if (place.emergencyCall) links.push(link("emergency-radio", "loom.emergency", "radio.emergency"));
  return { parts, links, functions: functions(f, place, camera), monitors: monitors(f) };
}

/** A radio that is coded to watch tweeters stores a code where the car has none: the cure is coding, not wiring. */
function monitors(f: RadioFeatures): Monitor[] {
  if (!f.watchesTweeters) return [];
  return [
    {
      id: "tweeterWatch",
      by: "radio",
      code: "B1A15",
      say: "Front tweeter, open circuit",
      fitted: ["tweeters"],
      armed: { setting: "radio.tweeters", is: ["watched"] },
    },
  ];
}
