/** Housings and contacts that every car has in common here. */
import { wire } from "../vocabulary";

const TONGUE = "tongue" as const;

/** Ring contacts: light out of the radio, light back into it, and the sound that travels with the light. */
export const RING_WIRES = () => [
  wire("ro", "opticalRing", "ring, from the radio"),
  wire("ri", "opticalRing", "ring, back to the radio"),
  wire("s", "lineAudio", "sound on the ring"),
];

export const BODY = { family: "Body 12", ways: 12, lock: TONGUE };
export const EMERGENCY = { family: "Emergency 2", ways: 2, colour: "orange", lock: TONGUE };
export const SUPPLY = { family: "Supply 4", ways: 4, colour: "white", lock: TONGUE };
export const HANDS_FREE = { family: "Hands-free 8", ways: 8, lock: TONGUE };
export const MIC = { family: "Mic 2", ways: 2, lock: TONGUE };
export const SWITCH = { family: "Switch 6", ways: 6, colour: "grey", lock: TONGUE };
export const WHEEL = { family: "Wheel 4", ways: 4, lock: TONGUE };
export const CAMERA = { family: "Camera 4", ways: 4, keying: "B", lock: TONGUE };
export const PICTURE = { family: "Picture 2", ways: 2, colour: "yellow", lock: TONGUE };
export const AMPLIFIER = { family: "Ring 8", ways: 8, keying: "O", lock: "slide" as const };
export const CLIMATE = { family: "Climate 10", ways: 10, lock: TONGUE };
export const ZONES = [
  { id: "L", label: "left zone", press: "warmerLeft" },
  { id: "R", label: "right zone", press: "warmerRight" },
];

export const ANTENNA = { family: "Antenna coax", ways: 1, colour: "black" };
export const SATELLITE = { family: "Coded coax", ways: 1, keying: "S", colour: "pink" };
