import type { FunctionSpec } from "../../../core/model/types";
import { fourSpeakers, REVERSE_CAUTION } from "../vocabulary";
import type { RadioFeatures, RadioPlace } from "./features";

export function functions(f: RadioFeatures, place: RadioPlace, camera: boolean): FunctionSpec[] {
  const { pins } = place;
  const list: FunctionSpec[] = [];
  if (f.screen) {
    list.push({
      id: "factoryPicture",
      name: "Factory picture",
      say: "Ignition on; the radio menu appears on the screen.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "factory" } }],
      situations: [
        { id: "on", label: "ignition on", set: {} },
        { id: "running", label: "engine running", set: { key: "running" } },
      ],
      withinMs: 3000,
      minutes: 0.5,
    });
    if (f.screen.touch)
      list.push({
        id: "factoryTouch",
        name: "Touch in the factory picture",
        say: "Touch a menu field; the menu follows.",
        who: "customer",
        observe: [{ at: "radio.heard.touch", where: { touch: "finger" } }],
        situations: [{ id: "on", label: "ignition on", set: { pressed: "screen" } }],
        minutes: 0.5,
      });
  }
  list.push({
    id: "tunerSound",
    name: "Radio sound on four speakers",
    say: "Play the tuner; move balance and fader to each corner.",
    who: "customer",
    observe: fourSpeakers("tuner"),
    situations: [{ id: "on", label: "tuner playing", set: { source: "radio" } }],
    minutes: 1,
  });
  if (f.usb)
    list.push({
      id: "usbMusic",
      name: "Music from the USB socket",
      say: "Put a stick with music into the socket and choose it; it plays from all four corners.",
      who: "customer",
      observe: fourSpeakers("stick"),
      situations: [{ id: "stick", label: "stick in the socket", set: { source: "usb" } }],
      minutes: 1,
    });
  if (f.bluetooth)
    list.push({
      id: "handsFree",
      name: "Calls on the car's hands-free",
      say: "Call over the paired phone; the far end hears you.",
      who: "customer",
      observe: [{ at: "radio.heard.mic", where: { voice: "factory" } }],
      situations: [{ id: "call", label: "phone paired with the car", set: {} }],
      minutes: 2,
    });
  if (camera)
    list.push({
      id: "rearView",
      name: "Rear camera",
      say: "Select reverse; the rear picture appears within two seconds and goes when reverse is left.",
      who: "law",
      observe: [{ at: "screen.glass.picture", where: { picture: "rear camera" } }],
      situations: [{ id: "factory", label: "factory picture", set: { selector: "R" } }],
      withinMs: 2000,
      minutes: 1,
      caution: REVERSE_CAUTION,
    });
  if (f.knob || f.knobInput)
    list.push({
      id: "volumeKnob",
      name: "Volume knob",
      say: "Turn the volume knob; the volume bar moves.",
      who: "customer",
      observe: [{ at: "radio.heard.volume", where: {} }],
      situations: [{ id: "turn", label: "turned", set: { pressed: "knob" } }],
      minutes: 0.5,
    });
  if (f.frontKeys)
    list.push({
      id: "frontMenuKey",
      name: "Menu key on the front",
      say: "Press the menu key on the radio's front; the menu opens.",
      who: "customer",
      observe: [{ at: "radio.heard.menu", where: {} }],
      situations: [{ id: "short", label: "short press", set: { pressed: "menu" } }],
      minutes: 0.5,
    });
  if (f.sided)
    list.push({
      id: "menuSide",
      name: "Menu on the driver's side",
      say: "Open the menu; it stands towards the driver.",
      who: "customer",
      observe: [{ at: "radio.heard.side", where: { side: { fact: "bodyComputer.driveSide" } } }],
      situations: [{ id: "on", label: "ignition on", set: {} }],
      minutes: 0.5,
    });
  if (f.keyInput && place.wheelKeys)
    list.push({
      id: "wheelVolume",
      name: "Wheel volume keys",
      say: "Press volume up on the wheel; the volume bar moves.",
      who: "customer",
      observe: [{ at: "radio.heard.volume", where: {} }],
      situations: [{ id: "short", label: "short press", set: { pressed: "volumeUp" } }],
      minutes: 0.5,
    });
  else if (place.wheelKeys && place.bus)
    list.push({
      id: "wheelVolume",
      name: "Wheel volume keys",
      say: "Press volume up on the wheel; the volume bar moves.",
      who: "customer",
      observe: [
        { at: `radio.main.${pins.high}`, where: { message: "wheelVolumeUp", line: "high" } },
        { at: `radio.main.${pins.low}`, where: { message: "wheelVolumeUp", line: "low" } },
      ],
      situations: [{ id: "short", label: "short press", set: { pressed: "volumeUp" } }],
      minutes: 0.5,
    });
  if (f.navigation)
    list.push({
      id: "navigation",
      name: "Navigation",
      say: "Choose a destination; the guidance starts.",
      who: "customer",
      observe: [
        { at: "radio.heard.navigation", where: {} },
        // One antenna serves both receivers where there is a satellite radio.
        ...(f.satellite && place.satelliteAntenna ? [{ at: "radio.satellite.1", where: { band: "satellite" } }] : []),
      ],
      situations: [{ id: "on", label: "navigation running", set: {} }],
      minutes: 2,
    });
  if (f.satellite)
    list.push({
      id: "satelliteRadio",
      name: "Satellite radio",
      say: "Choose a satellite channel; it plays.",
      who: "customer",
      observe: [{ at: "radio.satellite.1", where: { band: "satellite" } }],
      situations: [{ id: "on", label: "car outside", set: {} }],
      minutes: 1,
    });
  return list;
}
