/** Leads of the picture link and the second box. */
import type { KitLink, KitProfile } from "../../../../core/model/profile";
import type { Part } from "../../../../core/model/types";
import { pictureContacts } from "../../radio/plugs";
import { bare, during, FEMALE, half, has, lead, MALE, not, port, takes, wire } from "../../vocabulary";
import { buildOf, type InterfaceLeaflet } from "./leaflet";
import { DIGITAL, PHONE, videoPorts, wireLook } from "./module";

/** A board behind the upper screen sits at the screen's end of the display lead, everything else at the radio's. */
const atScreen = (l: InterfaceLeaflet) => buildOf(l).unit === "screen";

/** The factory connection that is opened for the picture. */
export function pictureUnplug(l: InterfaceLeaflet): KitProfile["unplug"][number] {
  const why = "The picture goes through the module.";
  return atScreen(l)
    ? { a: "displayLead.screenEnd", b: "screen.video", why }
    : { a: "displayLead.radioEnd", b: "radio.video", why };
}

export function pictureLead(l: InterfaceLeaflet, id: string, which: "IN" | "OUT"): Part {
  const ribbon = buildOf(l).unit !== null;
  const colour = which === "IN" ? "green" : "violet";
  const turned = l.reversible ? { reversible: true } : {};
  const plug = { ...l.pictureLink, colour };
  const toSocket = half(plug, FEMALE, turned);
  // One of the two far ends goes into a socket of the car, the other takes the factory display lead.
  const intoSocket = (which === "IN") !== atScreen(l);
  const far = which === "IN" && !atScreen(l) ? "radio" : which === "OUT" && atScreen(l) ? "screen" : "display";
  return lead(
    id,
    `${ribbon ? "Ribbon" : "Video lead"} ${which}`,
    ribbon ? 0.15 : 0.9,
    port("module", "module end", toSocket, pictureContacts("wire")),
    port(far, `${far} end`, intoSocket ? toSocket : half(plug, MALE), pictureContacts("wire")),
  );
}

export function pictureLinks(l: InterfaceLeaflet): KitLink[] {
  const at = l.build === "two boxes" ? "videoBox" : "module";
  const name = buildOf(l).unit ? "Ribbon" : "Video lead";
  const factory = `Factory display lead into ${name.toLowerCase()}`;
  const [first, last]: [KitLink, KitLink] = atScreen(l)
    ? [
        { id: "k-in-display", a: "displayLead.screenEnd", b: "videoInLead.display", say: `${factory} IN` },
        { id: "k-out-screen", a: "videoOutLead.screen", b: "screen.video", say: `${name} OUT into the screen` },
      ]
    : [
        { id: "k-in-radio", a: "videoInLead.radio", b: "radio.video", say: `${name} IN into the radio` },
        { id: "k-out-display", a: "displayLead.radioEnd", b: "videoOutLead.display", say: `${factory} OUT` },
      ];
  return [
    first,
    { id: "k-in-module", a: "videoInLead.module", b: `${at}.videoIn`, say: `${name} IN into VIDEO IN` },
    { id: "k-out-module", a: "videoOutLead.module", b: `${at}.videoOut`, say: `${name} OUT into VIDEO OUT` },
    last,
  ];
}

/** The second box: takes the digital picture and lets the factory picture through when the first box asks for it. */
export function addBox(l: InterfaceLeaflet, kit: KitProfile): void {
  const contacts = (side: "in" | "wire") => [
    ...pictureContacts(side),
    side === "in" ? takes("f", "trigger") : wire("f", "trigger"),
    side === "in" ? takes("p", "trigger") : wire("p", "trigger"),
    wire("g", "ground"),
  ];
  const factory = has("digital.f");
  kit.parts.push(
    {
      id: "videoBox",
      name: "Picture box",
      type: "device",
      lamp: "blue lamp",
      reachMinutes: 2,
      needs: [
        { at: "digital.p", say: "the feed of the first box" },
        { at: "digital.g", say: "ground" },
      ],
      ports: [...videoPorts(l), port("digital", "digital picture socket", half(DIGITAL, FEMALE), contacts("in"))],
      routes: [
        { id: "factoryPass", from: "videoIn.v", to: "videoOut.v", when: factory, settleMs: 100 },
        { id: "digital", from: "digital.v", to: "videoOut.v", when: not(factory), settleMs: 200 },
        { id: "factoryTouch", from: "videoOut.t", to: "videoIn.t", when: during("pictureMode", "factory") },
        { id: "phoneTouch", from: "videoOut.t", to: "digital.t", when: PHONE },
      ],
    },
    lead(
      "digitalLead",
      "Digital picture lead",
      1.5,
      port("first", "first box end", half(DIGITAL, MALE), contacts("wire")),
      port("second", "picture box end", half(DIGITAL, MALE), contacts("wire")),
    ),
  );
  kit.plug.push(
    { id: "k-digital-1", a: "digitalLead.first", b: "module.digital", say: "Digital picture lead into the first box" },
    {
      id: "k-digital-2",
      a: "digitalLead.second",
      b: "videoBox.digital",
      say: "Digital picture lead into the picture box",
    },
  );
}

export function reverseWire(l: InterfaceLeaflet): Part {
  const look = wireLook(l, "reverseTrigger");
  return {
    ...lead(
      "reverseWire",
      "Reverse wire",
      5,
      bare("lamp", "lamp end", "wire", [{ ...wire("1", "reverse", "reverse trigger"), ...look }]),
      port("module", "module end", half({ family: "Wires 4", ways: 4 }, FEMALE), [
        { ...wire("rev", "reverse", "reverse trigger"), ...look },
      ]),
    ),
    joins: [{ contacts: ["lamp.1", "module.rev"] }],
  };
}
