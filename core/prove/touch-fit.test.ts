import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fitAffine, touchOutcome } from "./touch-fit";
import { type Place, TARGET_IDS, TARGETS, type TargetId } from "./touch-targets";

type Map2 = (p: Place) => Place;
const touched = (map: Map2, noise = 0, random = () => 0) =>
  new Map(
    TARGET_IDS.map((id): [TargetId, Place] => {
      const { x, y } = map(TARGETS[id].at);
      return [id, { x: x + noise * (random() - 0.5), y: y + noise * (random() - 0.5) }];
    }),
  );

describe("an affine fit", () => {
  it("gives back any map from exact places, and none from a line", () => {
    const number = fc.double({ min: -2, max: 2, noNaN: true });
    fc.assert(
      fc.property(number, number, number, number, number, number, (a, b, c, d, e, f) => {
        const map = fitAffine(
          TARGET_IDS.map((id) => {
            const { x, y } = TARGETS[id].at;
            return { from: { x, y }, to: { x: a * x + b * y + c, y: d * x + e * y + f } };
          }),
        );
        for (const [is, was] of [
          [map?.a, a],
          [map?.b, b],
          [map?.c, c],
          [map?.d, d],
          [map?.e, e],
          [map?.f, f],
        ] as const)
          expect(is).toBeCloseTo(was, 9);
      }),
    );
    expect(fitAffine([0.1, 0.5, 0.9].map((x) => ({ from: { x, y: x }, to: { x, y: x } })))).toBeNull();
    expect(fitAffine([{ from: { x: 0, y: 0 }, to: { x: 0, y: 0 } }])).toBeNull();
  });

  it("leaves what is orthogonal to the places, as least squares do", () => {
    const pairs = TARGET_IDS.map((id, i) => {
      const from = TARGETS[id].at;
      return { from, to: { x: 1 - from.x + 0.013 * i, y: from.y - 0.02 * (i % 3) } };
    });
    const map = fitAffine(pairs);
    if (!map) throw new Error("no map");
    const rest = pairs.map(({ from: { x, y }, to }) => [
      map.a * x + map.b * y + map.c - to.x,
      map.d * x + map.e * y + map.f - to.y,
    ]);
    // Normal equations (Gauss): the residuals sum to zero, alone and with each coordinate.
    for (const axis of [0, 1])
      for (const by of [() => 1, (p: Place) => p.x, (p: Place) => p.y])
        expect(rest.reduce((sum, r, i) => sum + (r[axis] ?? 9) * by(pairs[i]?.from as Place), 0)).toBeCloseTo(0, 12);
  });
});

describe("a touched panel", () => {
  const ways: [string, Map2][] = [
    ["mirrored left to right", ({ x, y }) => ({ x: 1 - x, y })],
    ["mirrored top to bottom", ({ x, y }) => ({ x, y: 1 - y })],
    ["turned by half", ({ x, y }) => ({ x: 1 - x, y: 1 - y })],
    ["turned a quarter to the right", ({ x, y }) => ({ x: 1 - y, y: x })],
    ["turned a quarter to the left", ({ x, y }) => ({ x: y, y: 1 - x })],
    ["with left-right and up-down exchanged", ({ x, y }) => ({ x: y, y: x })],
    ["exchanged and turned by half", ({ x, y }) => ({ x: 1 - y, y: 1 - x })],
  ];

  it.each(ways)("that is %s is told so, with unsteady fingers too", (stand, map) => {
    let seed = 7;
    const random = () => {
      seed = (Math.imul(seed, 1_103_515_245) + 12_345) >>> 0;
      return seed / 2 ** 32;
    };
    for (let i = 0; i < 30; i++) {
      const found = touchOutcome(touched(map, 0.05, random));
      expect(found).toMatchObject({ kind: "mapped", stand });
      if (found.kind === "mapped") {
        expect(Math.abs(found.scale.x - 1)).toBeLessThan(0.08);
        expect(Math.abs(found.shift.y)).toBeLessThan(0.03);
      }
    }
  });

  it("is right within a finger's width, and says scale and shift where only they differ", () => {
    expect(
      touchOutcome(
        touched(
          (p) => p,
          0.04,
          () => 1,
        ),
      ),
    ).toMatchObject({ kind: "right" });
    const small = touchOutcome(touched(({ x, y }) => ({ x: 0.8 * x + 0.15, y })));
    expect(small).toMatchObject({ kind: "mapped", stand: "straight" });
    if (small.kind !== "mapped") return;
    expect([small.scale.x, small.scale.y, small.shift.x, small.shift.y].map((v) => Number(v.toFixed(6)))).toEqual([
      0.8, 1, 0.05, 0,
    ]);
  });

  it("with one dead direction, silent spots, or no straight map is told apart", () => {
    expect(touchOutcome(touched(({ y }) => ({ x: 0.5, y })))).toEqual({ kind: "axisDead", axis: "left-right" });
    expect(touchOutcome(touched(({ x }) => ({ x, y: 0.2 })))).toEqual({ kind: "axisDead", axis: "up-down" });
    const silent = new Map<TargetId, Place | null>([...touched((p) => p)]).set("topLeft", null);
    expect(touchOutcome(silent)).toEqual({ kind: "dead", where: ["topLeft"] });
    const bent = touched((p) => p).set("centre", { x: 0.9, y: 0.2 });
    expect(touchOutcome(bent)).toMatchObject({ kind: "uneven", at: "centre" });
    expect(touchOutcome(new Map([["centre", { x: 0.5, y: 0.5 }]]))).toMatchObject({
      kind: "open",
      left: ["topLeft", "topRight", "bottomLeft", "bottomRight"],
    });
  });
});
