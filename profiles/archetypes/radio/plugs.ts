import type { Contact } from "../../../core/model/types";
import { gives, takes, wire } from "../vocabulary";

export const KNOB = { family: "Knob 4", ways: 4, colour: "brown" };
export const SPEECH = { family: "Speech 4", ways: 4, colour: "blue" };
export const FRONT_KEYS = { family: "Keys 12", ways: 12 };
export const KEY_INPUT = { family: "Key 3", ways: 3, colour: "grey" };
export const SOCKET = { family: "Socket 5", ways: 5, colour: "white" };
export function pictureContacts(side: "out" | "in" | "wire"): Contact[] {
  if (side === "wire") return [wire("v", "serialVideo", "picture"), wire("t", "touch")];
  return side === "out"
    ? [gives("v", "serialVideo", "picture"), takes("t", "touch")]
    : [takes("v", "serialVideo", "picture"), gives("t", "touch")];
}
