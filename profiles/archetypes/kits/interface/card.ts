/** What the customer is told, and what is normal after fitting. */
import type { CardLine, KitProfile } from "../../../../core/model/profile";
import { BOOTS, CRANKS, SLOW_USB_SOUND } from "../common";
import { toggleOf } from "./keys";
import type { InterfaceLeaflet } from "./leaflet";

export function normalStates(l: InterfaceLeaflet): KitProfile["normal"] {
  if (!l.mirroring) return [BOOTS];
  return [
    BOOTS,
    CRANKS,
    ...(l.soundPaths.includes("usbSound")
      ? [{ ...SLOW_USB_SOUND, when: { choice: "soundPath", is: ["usbSound"] } }]
      : []),
  ];
}

/** The card follows the choices: toggle, source, pairing. */
export function cardLines(l: InterfaceLeaflet): CardLine[] {
  if (!l.mirroring) return [];
  const sound = (id: string, say: string) =>
    l.soundPaths.some((p) => p === id) ? [{ say, when: { choice: "soundPath", is: [id] } }] : [];
  return [
    `Hold the ${toggleOf(l).name} for ${l.holdS.min} to ${l.holdS.max} seconds to change between the factory picture and the phone.`,
    ...(l.phones ? [] : FIRST_PAIRING),
    ...sound("line", "Choose the line input for phone sound."),
    ...(l.deletesPairing && !l.phones
      ? sound("line", "The phone is no longer paired with the car: calls run through the module while it is connected.")
      : []),
    ...sound("carBluetooth", "Choose Bluetooth audio for phone sound; the phone stays paired with the car."),
    ...sound("usbSound", "Choose the USB player for phone sound; after the start the car reads it for some seconds."),
  ];
}

/** Where the leaflet says nothing about phones; else the card tells it by kind of phone. */
const FIRST_PAIRING: CardLine[] = [
  {
    say: "First pairing by wireless: add the phone in its Bluetooth menu, then allow mirroring. A phone that met the module by cable first may refuse wireless until it is restarted.",
    when: { choice: "pairing", is: ["wireless"] },
  },
  {
    say: "First pairing by cable: plug the phone in once, allow mirroring, then change to wireless.",
    when: { choice: "pairing", is: ["cable"] },
  },
];
