import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildLeaflet, leaflet as leafletOf, leafletSchema } from "../../profiles/archetypes";
import { shippedLeaflets } from "../../profiles/library";
import { checkProfile } from "../../profiles/read";
import { readLeafletText, withProposals } from "./leaflet-text";

/** An invented leaflet, written as such leaflets are. */
const TEXT = `Tessaro Inlay 9, price: 395
Fits radios with the white 20-pin main plug, code C.
Picture by 50-way ribbon, it goes in both ways round. No touch panel.
Screens 800x480 and 1024 × 600.
8 DIP switches:
SW3 front camera
switch 5: touch reader
DIP 6 older wheel keys
Purple wire: camera supply
green/white wire to the reverse lamp
Sound over line input or the car's own Bluetooth.
Hold the back key for 3 to 5 seconds.
Radio firmware R3-410 or newer.

In the box:
- Board with spacers
- two ribbons, microphone
`;

const FIELDS = new Set(Object.keys(Object(leafletSchema("interface")).shape));
const found = readLeafletText(TEXT, FIELDS);
const of = (field: string) => found.filter((p) => p.field === field).map((p) => p.value);

describe("the text of a leaflet", () => {
  it("gives plugs by ways, code letter and colour, told apart by the words beside them", () => {
    expect([of("radioPlug.ways"), of("radioPlug.keying"), of("radioPlug.colour")]).toEqual([[20], ["C"], ["white"]]);
    expect([of("pictureLink.ways"), of("reversible"), of("touch")]).toEqual([[50], [true], [false]]);
  });

  it("gives formats, switch table, wires, sound, hold, firmware, price and box, each with its line", () => {
    expect(of("formats")).toEqual([["800x480", "1024x600"]]);
    expect([of("switches.count"), of("switches.front"), of("switches.touch"), of("switches.olderKeys")]).toEqual([
      [8],
      [3],
      [5],
      [6],
    ]);
    expect(of("wires[cameraFeed]")).toEqual([{ job: "cameraFeed", base: "purple" }]);
    expect(of("wires[reverseTrigger]")).toEqual([{ job: "reverseTrigger", base: "green", tracer: "white" }]);
    expect([...of("soundPaths[line]"), ...of("soundPaths[carBluetooth]")]).toEqual(["line", "carBluetooth"]);
    expect([of("holdS"), of("firmwareFloor"), of("price")]).toEqual([[{ min: 3, max: 5 }], ["R3-410"], [395]]);
    expect(of("box")).toEqual([["Board with spacers", "Two ribbons", "Microphone"]]);
    for (const p of found) expect(TEXT.split("\n")[p.line - 1]?.trim().slice(0, 160)).toBe(p.text);
  });

  it("proposes only what the leaflet at hand asks, and twice-said things once", () => {
    expect(readLeafletText(TEXT, new Set(["price"])).map((p) => p.field)).toEqual(["price"]);
    expect(readLeafletText("20-pin plug\n20-pin plug", FIELDS)).toHaveLength(1);
    expect(readLeafletText("20-pin plug\n24-pin plug", FIELDS).map((p) => p.value)).toEqual([20, 24]);
    expect(readLeafletText("We wish you a pleasant journey.", FIELDS)).toEqual([]);
  });

  it("taken over makes a leaflet that builds", () => {
    const start = shippedLeaflets().find((l) => l.id === "pellimar-inlay-6");
    if (!start) throw new Error("no start");
    const next = withProposals({ ...start, id: "tessaro", title: "Tessaro Inlay 9" }, found);
    expect(next).toMatchObject({
      price: 395,
      radioPlug: { family: "Main 20", ways: 20, keying: "C" },
      soundPaths: ["line", "carBluetooth"],
      switches: { count: 8, front: 3, touch: 5 },
    });
    expect(start.id).toBe("pellimar-inlay-6");
    const built = checkProfile(buildLeaflet(leafletOf.parse(next), []));
    expect(built.title).toBe("Tessaro Inlay 9");
  });

  it("may be anything", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400 }), (text) => {
        for (const p of readLeafletText(text, FIELDS)) expect(p.line).toBeGreaterThan(0);
      }),
      { numRuns: 300, seed: 3 },
    );
  });
});
