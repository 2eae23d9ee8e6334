import type { Part } from "../../../core/model/types";
import { FEMALE, gives, half, MALE, port, takes, wire } from "../vocabulary";
import { SOCKET } from "./plugs";

export const usbEnd = (id: string) =>
  port(id, id === "panel" ? "socket end" : "radio end", half(SOCKET, FEMALE), [wire("1", "usb")]);

export function usbPanel(): Part {
  return {
    id: "usbPanel",
    name: "USB and card socket",
    type: "device",
    reachMinutes: 6,
    ports: [
      port("back", "plug behind", half(SOCKET, MALE), [gives("1", "usb")]),
      port("front", "socket", half({ family: "USB A", ways: 4 }, FEMALE), [takes("1", "usb")]),
    ],
    routes: [{ id: "through", from: "front.1", to: "back.1" }],
  };
}

/** A stick with music, as a person brings it for the try. */
export function usbStick(): Part {
  return {
    id: "usbStick",
    name: "USB stick with music",
    type: "device",
    reachMinutes: 0,
    ports: [port("plug", "plug", half({ family: "USB A", ways: 4 }, MALE), [gives("1", "usb")])],
    sources: [{ id: "music", at: ["plug.1"], attributes: { sound: "stick" } }],
  };
}
