/** A radio with or without a screen, as a car leaves the factory with it or as a kit brings it. */
import { lead, link } from "../vocabulary";
import { radio } from "./device";
import type { BuiltRadio, RadioFeatures, RadioPlace } from "./features";
import { functions } from "./functions";
import { displayLead, screen } from "./screen";
import { usbEnd, usbPanel } from "./usb";

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
    parts.push(usbPanel(), lead("usbCable", "Lead of the USB socket", 1.4, usbEnd("panel"), usbEnd("radio")));
    links.push(link("usb-panel", "usbCable.panel", "usbPanel.back"), link("usb-radio", "usbCable.radio", "radio.usb"));
  }
  return { parts, links, functions: functions(f, place, camera) };
}
