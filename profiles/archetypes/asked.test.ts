import { describe, expect, it } from "vitest";
import { shippedLeaflets, shippedLibrary } from "../library";
import { notAsked } from "./asked";
import { buildLeaflet, type Leaflet, leafletSchema } from "./index";

const leaflets = shippedLeaflets();
const cars = shippedLibrary().flatMap((p) => (p.document === "car" ? [p] : []));
const fieldsOf = (l: Leaflet) => l as unknown as Record<string, unknown>;

/** Everything that leaflets of the same kind say in a field. */
function otherAnswers(of: Leaflet, field: string): unknown[] {
  const said = leaflets.filter((l) => l.archetype === of.archetype).map((l) => fieldsOf(l)[field]);
  const flags = said.some((s) => typeof s === "boolean") ? [true, false] : [];
  return [...new Map([...said, ...flags].map((s) => [JSON.stringify(s), s])).values()];
}

function built(l: unknown): unknown {
  const { archetype } = l as Leaflet;
  const read = leafletSchema(archetype)?.safeParse(l);
  return read?.success ? buildLeaflet(read.data, cars) : "refused";
}

describe("what a form does not ask", () => {
  it("changes nothing in the document, whatever was answered before", () => {
    let tried = 0;
    for (const leaflet of leaflets) {
      const as = built(leaflet);
      for (const field of notAsked(leaflet))
        for (const answer of otherAnswers(leaflet, field)) {
          const other = built({ ...leaflet, [field]: answer });
          tried++;
          if (other !== "refused") expect([leaflet.id, field, answer, other]).toEqual([leaflet.id, field, answer, as]);
        }
    }
    expect(tried).toBeGreaterThan(50);
  });

  it("is asked again once another answer makes it matter", () => {
    const interfaces = leaflets.flatMap((l) => (l.archetype === "interface" ? [l] : []));
    const box = interfaces.find((l) => l.build === "one box");
    if (!box) throw new Error("no interface in one box is shipped");
    expect(notAsked(box)).toContain("opening");
    expect(notAsked({ ...box, build: "board inside the radio" } as Leaflet)).not.toContain("opening");
    expect(notAsked({ ...box, mirroring: false } as Leaflet)).toContain("phones");
  });

  it.each([{}, { archetype: "interface" }, { archetype: "radioSwap", features: null }, { archetype: "unheard of" }])(
    "takes a leaflet that is hardly begun: %j",
    (begun) => {
      expect(Array.isArray(notAsked(begun))).toBe(true);
    },
  );
});
