import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { recordOnCue } from "../../sim/on-cue";
import { jobOf } from "../../tests/support/jobs";
import { candump } from "../bus/formats/candump";
import { readAs } from "../bus/formats/format";
import { hunt } from "../bus/hunt/hunt";
import { cuePlan } from "../bus/hunt/plan";
import { huntThings } from "./hunt-plan";
import type { OpenedWith } from "./job";

const library = shippedLibrary();
const find = (id: string) => library.find((p) => p.id === id);
const job = jobOf({
  car: find("velmora-osk-18"),
  variant: find("velmora-osk-18-o2"),
  kit: find("orvanto-om9-blank"),
} as OpenedWith);

describe("what a job has to find on its bus", () => {
  const things = huntThings(job.plan.fitted);

  it("is what its car sends and its functions are tried with; the car rolls only for the speed", () => {
    expect(things.map((t) => [t.thing.id, t.rollsS !== undefined])).toEqual([
      ["wheelKeys", false],
      ["selector", false],
      ["lights", false],
      ["steering", false],
      ["speed", true],
    ]);
  });

  it("leaves time to reach a speed and to stand again, and never cues two things at once", () => {
    const speed = things.filter((t) => t.rollsS);
    const { steps, endS } = cuePlan(speed);
    expect(steps).toHaveLength(9);
    expect(steps[0]?.fromS).toBeGreaterThanOrEqual(8);
    steps.forEach((s, i) => {
      expect(s.toS).toBeGreaterThan(s.fromS);
      if (i > 0) expect(s.fromS - (steps[i - 1]?.toS ?? 0)).toBeGreaterThanOrEqual(16);
    });
    expect(endS).toBeGreaterThan(steps.at(-1)?.toS ?? 0);
  });

  it.each([1, 2, 3, 4, 5, 6])("finds the speed of the rolling stand-in car, right to a km/h (seed %i)", (seed) => {
    const speed = things.filter((t) => t.rollsS);
    const { steps } = cuePlan(speed);
    const { log, notDone } = recordOnCue(steps, { seed, startS: 0 });
    expect(notDone).toEqual([]);
    const { frames } = readAs(candump, new TextEncoder().encode(log));
    const [result] = hunt(
      frames,
      speed.map((t) => t.thing),
      steps,
    ).things;
    const [best] = result?.candidates ?? [];
    expect(best).toMatchObject({ kind: "level", sure: true, startBit: 7, littleEndian: false });
    expect(best?.stream.id).toBe(0x210);
    if (best?.kind !== "level") return;
    // The field may take in low bits of its neighbour, or leave out its own: what it says must be right.
    const kmh = (at: number) => Math.floor((at * 100) / 2 ** (16 - best.length)) * best.factor + best.offset;
    for (const at of [5, 8, 12, 30]) expect(Math.abs(kmh(at) - at)).toBeLessThan(1);
  });
});
