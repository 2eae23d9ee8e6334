/** Where the module takes its supply and its knowledge of the car: harness and bus, a splitter at the screen, a lead of its own. */
import type { KitPart, KitProfile } from "../../../../core/model/profile";
import type { Condition, Port } from "../../../../core/model/types";
import { SUPPLY as SCREEN_SUPPLY } from "../../car/plugs";
import { busNeeds, FEMALE, half, has, IN_REVERSE, lead, MALE, port, supplyNeeds, takes, wire } from "../../vocabulary";
import { MODULE_PINS, modulePlug } from "../harness";
import { heardAs } from "./data";
import type { InterfaceLeaflet } from "./leaflet";

/** Where the module learns that the key is on: from the bus, or from its feed lead at the fuse panel. */
const FEED_BY_BUS = { choice: "feed", is: ["bus"] };
const FEED_BY_FUSE = { choice: "feed", is: ["fuse"] };
const MODULE_SUPPLY = { family: "Supply 2", ways: 2, colour: "black" };
const FEED = { family: "Feed 1", ways: 1, colour: "red" };
const SOCKET_12 = { family: "Socket 12 V", ways: 2 };
const TAP = { family: "Blade fuse", ways: 1 };

/** Plugs, needs and ground of the module. */
export function moduleSupply(l: InterfaceLeaflet): { ports: Port[]; needs: KitPart["needs"]; ground: string } {
  const feed = port("feed", "feed plug", half(FEED, MALE), [takes("1", "accessory", "accessory feed")]);
  if (!l.harness)
    return {
      ports: [
        port("power", "power plug", half(MODULE_SUPPLY, MALE), [
          takes("1", "accessory", "switched feed"),
          takes("2", "ground"),
        ]),
      ],
      needs: [
        { at: "power.1", say: "the switched feed" },
        { at: "power.2", say: "ground" },
      ],
      ground: "power.2",
    };
  const keyOn = busNeeds("main", MODULE_PINS).flatMap((n) => (n.where ? { ...n, when: FEED_BY_BUS } : []));
  const byFeed = { at: "feed.1", say: "the accessory feed", when: FEED_BY_FUSE };
  if (!l.splitter)
    return {
      ports: [modulePlug(MALE), feed],
      needs: [...supplyNeeds("main", MODULE_PINS), ...keyOn, byFeed],
      ground: "main.2",
    };
  return {
    ports: [
      modulePlug(MALE),
      port("supply", "supply plug", half(MODULE_SUPPLY, MALE), [takes("1", "battery"), takes("2", "ground")]),
      feed,
    ],
    needs: [...supplyNeeds("supply", { battery: "1", ground: "2" }), ...keyOn, byFeed],
    ground: "main.2",
  };
}

/** Reverse as the module learns it: from the bus where it is on it, and from the wire to the reverse lamp. */
export function reversing(l: InterfaceLeaflet): Condition {
  const wired = has("wires.rev");
  return l.harness ? { any: [heardAs(l, "reverse", IN_REVERSE), wired] } : wired;
}

/** Cars on which the reverse wire is run: a manual gearbox does not report reverse, and without the bus nothing does. */
export function reverseWireWhen(l: InterfaceLeaflet): { when?: { car: "gearbox"; is: string[] } } {
  return l.harness ? { when: { car: "gearbox", is: ["manual"] } } : {};
}

/** The feed from the fuse panel, with the fuse of its own branch in the tap. */
export function addFeedLead(kit: KitProfile): void {
  const when = FEED_BY_FUSE;
  kit.parts.push({
    ...lead(
      "feedLead",
      "Feed lead",
      2.2,
      port("fuse", "fuse tap", half(TAP, MALE), [wire("1", "accessory")]),
      port("module", "module end", half(FEED, FEMALE), [wire("1", "accessory", "accessory feed")]),
    ),
    joins: [{ contacts: ["fuse.1", "module.1"], mm2: 0.75, fuseA: 5 }],
    when,
  });
  kit.plug.push(
    { id: "k-feed-module", a: "feedLead.module", b: "module.feed", say: "Feed lead into the module", when },
    {
      id: "k-feed-fuse",
      a: "feedLead.fuse",
      b: "loom.fusePanel",
      say: "Feed lead to the switched position of the fuse panel that was found and tested",
      when,
    },
  );
}

/** A kit without harness: one lead for feed and ground, and nothing else of the car. */
export function addPowerLead(kit: KitProfile): void {
  kit.parts.push({
    ...lead(
      "powerLead",
      "Power lead",
      1.8,
      port("socket", "12 V socket end", half(SOCKET_12, MALE), [wire("1", "accessory"), wire("2", "ground")]),
      port("module", "module end", half(MODULE_SUPPLY, FEMALE), [
        wire("1", "accessory", "switched feed"),
        wire("2", "ground"),
      ]),
    ),
    joins: [
      { contacts: ["socket.1", "module.1"], mm2: 0.75, fuseA: 3 },
      { contacts: ["socket.2", "module.2"], mm2: 0.75 },
    ],
  });
  kit.plug.push(
    {
      id: "k-power-socket",
      a: "powerLead.socket",
      b: "loom.socket12",
      say: "Power lead at the plug of the 12 V socket",
    },
    {
      id: "k-power",
      a: "powerLead.module",
      b: "module.power",
      say: "Power lead into the module, last: this gives it power",
    },
  );
}

/** Where the module takes its supply from a splitter at the screen plug instead of the harness. */
export function addSplitter(kit: KitProfile): void {
  const supply = [wire("1", "battery"), wire("2", "ground")];
  kit.unplug.push({ a: "loom.screen", b: "screen.supply", why: "The splitter goes between." });
  kit.parts.push(
    lead(
      "splitter",
      "Supply splitter",
      0.3,
      port("car", "car end", half(SCREEN_SUPPLY, MALE), supply),
      port("screen", "screen end", half(SCREEN_SUPPLY, FEMALE), supply),
      port("module", "module end", half(MODULE_SUPPLY, FEMALE), supply),
    ),
  );
  kit.plug.push(
    { id: "k-split-car", a: "splitter.car", b: "loom.screen", say: "Splitter into the supply plug of the screen" },
    { id: "k-split-screen", a: "splitter.screen", b: "screen.supply", say: "Splitter into the screen" },
    { id: "k-split-module", a: "splitter.module", b: "module.supply", say: "Splitter into the board" },
  );
}
