/** How the module hears the key that changes the picture: from the bus, or from a board in the ribbon of the front keys. */
import type { KitProfile } from "../../../../core/model/profile";
import type { Action, PortRef } from "../../../../core/model/types";
import { FRONT_KEYS } from "../../radio/plugs";
import { FEMALE, half, hears, MALE, port, wire } from "../../vocabulary";
import { heardAs } from "./data";
import type { InterfaceLeaflet } from "./leaflet";

const READER = { family: "Keys 4", ways: 4 };
/** The factory connection that a key board opens. */
export const KEY_RIBBON: [PortRef, PortRef] = ["keyRibbon.board", "radio.front"];

export const READER_PORT = port("keys", "key board socket", half(READER, MALE), [wire("1", "keyScan", "front keys")]);

interface Toggle {
  /** The key as a person calls it. */
  name: string;
  press: string;
  when: Action["when"];
}

export function toggleOf(l: InterfaceLeaflet): Toggle {
  return l.keyReader === "bus"
    ? { name: "back key on the wheel", press: "back", when: heardAs(l, "back", hears("wheelBack")) }
    : { name: "menu key on the radio's front", press: "menu", when: { present: "keys.1", where: { key: "menu" } } };
}

/**
 * The board between front and main board. It passes the keys on to the radio, or keeps them: then the radio no longer
 * does with them what it did.
 */
export function addKeyBoard(l: InterfaceLeaflet, kit: KitProfile): void {
  const [a, b] = KEY_RIBBON;
  const key = [wire("1", "keyScan")];
  kit.unplug.push({ a, b, why: "The key board goes between." });
  kit.parts.push({
    id: "keyBoard",
    name: "Key board",
    type: "lead",
    lengthM: 0.1,
    reachMinutes: 12,
    ports: [
      port("ribbon", "ribbon socket", half(FRONT_KEYS, MALE), key),
      port("radio", "radio end", half(FRONT_KEYS, FEMALE), key),
      port("module", "module end", half(READER, FEMALE), key),
    ],
    joins: [{ contacts: l.takesKeys ? ["ribbon.1", "module.1"] : ["ribbon.1", "radio.1", "module.1"] }],
  });
  kit.plug.push(
    { id: "k-keys-ribbon", a, b: "keyBoard.ribbon", say: "Ribbon of the front keys into the key board" },
    { id: "k-keys-radio", a: "keyBoard.radio", b, say: "Key board into the socket of the front keys" },
    { id: "k-keys-module", a: "keyBoard.module", b: "module.keys", say: "Lead of the key board into the module" },
  );
}
