import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { hearCorner } from "../../sim/bench";
import { jobOf, plugged, press, refusalOf } from "../../tests/support/jobs";
import type { Command } from "../log/entry";
import { CORNERS, type Corner, type Heard } from "../prove/corners";
import { certificateOf } from "./certificate";
import type { OpenedWith } from "./job";
import { handoverReport } from "./report";
import { speakerPlug } from "./speaker-walk";

const NOW = "2026-11-27T09:00:00Z";
const heard = (corner: Corner, plays: Heard): Command => ({ kind: "prove.walk", data: { corner, plays } });
const MOVED: Command = { kind: "prove.moved", data: {} };
const job = plugged(jobOf(demoDocuments()));
const loudspeakers = (j: typeof job) => certificateOf(j, NOW).sections.find((s) => s.title === "Loudspeakers")?.lines;

describe("the plug of the loudspeakers", () => {
  it("is found on every car of the library, radio or amplifier, with all eight contacts", () => {
    const library = shippedLibrary();
    const variants = library.flatMap((p) => (p.document === "variant" ? [p] : []));
    const plugs = variants.map((variant) => {
      const car = library.find((p) => p.id === variant.car);
      const plug = speakerPlug({ fitted: jobOf({ car, variant, kit: null } as OpenedWith).plan.stock });
      return [variant.id, plug?.contacts.length, plug?.name.split(",")[0]];
    });
    expect(plugs.length).toBeGreaterThan(15);
    expect(plugs.filter(([, contacts]) => contacts !== 8)).toEqual([]);
    expect(new Set(plugs.map(([, , name]) => name))).toContain("Car loom");
  });
});

describe("a walk in a job", () => {
  it("of exchanged corners is cured by contacts that the job computes, and walked again", () => {
    const walked = press(job, heard("LF", "RF"), heard("RF", "LF"), heard("LR", "LR"));
    expect(refusalOf(walked, MOVED, NOW)).toMatch(/shows no contacts to be moved/);
    const found = press(walked, heard("RR", "RR"));
    expect(handoverReport(found, NOW).openPoints.map((p) => p.text)).toContain(
      "Loudspeakers: contacts sit in each other's cavities; see Prove.",
    );
    const moved = press(found, MOVED);
    expect(moved.state.contactMoves).toMatchObject([{ moves: { length: 4 } }]);
    expect(moved.state.walk.size).toBe(0);
    expect(loudspeakers(moved)).toHaveLength(1);
    const right = press(moved, ...CORNERS.map((c) => heard(c, c)));
    expect(loudspeakers(right)).toEqual([
      expect.stringMatching(/^4 contacts of loudspeakers moved in/),
      "With balance and fader at each corner its own loudspeaker plays.",
    ]);
  });

  it("on the stand-in car plays each corner at its own, and nothing while it is not plugged", () => {
    const fresh = jobOf(demoDocuments());
    expect(CORNERS.map((c) => hearCorner(job.plan, job.state, null, c))).toEqual([...CORNERS]);
    expect(CORNERS.map((c) => hearCorner(fresh.plan, fresh.state, null, c))).toEqual(CORNERS.map(() => "none"));
  });
});
