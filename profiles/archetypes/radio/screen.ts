import type { Part } from "../../../core/model/types";
import { during, FEMALE, gives, half, inside, lead, MALE, port, supplyNeeds, takes, wire } from "../vocabulary";
import type { RadioFeatures } from "./features";
import { pictureContacts } from "./plugs";

export function screen(s: NonNullable<RadioFeatures["screen"]>): Part {
  return {
    id: "screen",
    name: `Screen ${s.format}`,
    type: "device",
    ...(s.figures ? { figures: s.figures } : {}),
    reachMinutes: 3,
    facts: { format: s.format, place: s.place, touch: s.touch ? "yes" : "no" },
    needs: supplyNeeds("supply", { battery: "1", ground: "2" }),
    ports: [
      port("supply", "supply plug", half({ family: "Supply 4", ways: 4, colour: "white" }, MALE), [
        takes("1", "battery"),
        takes("2", "ground"),
      ]),
      port("video", "picture socket", half(s.plug, MALE), pictureContacts("in")),
      inside("glass", "glass", [gives("picture", "serialVideo", "picture")]),
    ],
    sources: s.touch
      ? [{ id: "finger", at: ["video.t"], attributes: { touch: "finger" }, when: during("pressed", "screen") }]
      : [],
    routes: [{ id: "show", from: "video.v", to: "glass.picture" }],
  };
}

export function displayLead(s: NonNullable<RadioFeatures["screen"]>): Part {
  const end = (id: string, label: string) =>
    port(id, label, half(s.plug, FEMALE, s.reversible ? { reversible: true } : {}), pictureContacts("wire"));
  return s.place === "behind one front"
    ? lead(
        "displayLead",
        "Ribbon between board and glass",
        0.12,
        end("radioEnd", "board end"),
        end("screenEnd", "glass end"),
      )
    : lead("displayLead", "Factory display lead", 1.2, end("radioEnd", "radio end"), end("screenEnd", "screen end"));
}

/** The customer's phone, present in every car with a radio. */
export function phone(): Part {
  return {
    id: "phone",
    name: "Customer's phone",
    type: "device",
    reachMinutes: 0,
    ports: [
      port("usb", "socket", half({ family: "USB C", ways: 24 }, FEMALE), [wire("1", "usb")]),
      port("air", "wireless", null, [gives("1", "wireless")]),
      port("bluetooth", "Bluetooth", null, [gives("1", "wireless")]),
    ],
    sources: [
      { id: "cable", at: ["usb.1"], attributes: { session: "mirroring" }, when: { situation: "phone", is: ["wired"] } },
      {
        id: "wireless",
        at: ["air.1"],
        attributes: { session: "mirroring" },
        when: { situation: "phone", is: ["wireless"] },
      },
      { id: "carLink", at: ["bluetooth.1"], attributes: { sound: "phone" }, when: { situation: "paired", is: [true] } },
    ],
  };
}
