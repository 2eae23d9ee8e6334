import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { explain, minimalHittingSets } from "./explain";

describe("explain", () => {
  // Three multipliers, two adders: A=3 B=2 C=2 D=3 E=3, F = M1+M2, G = M2+M3 with M1=A·C, M2=B·D, M3=C·E.
  // Observed F=10 (12 predicted), G=12. Source: de Kleer and Williams, Artificial Intelligence 32 (1987).
  const values = Array.from({ length: 41 }, (_, i) => i);
  const circuit = {
    components: ["A1", "A2", "M1", "M2", "M3"],
    behaviours: () => values,
    predict(faulty: ReadonlyMap<string, number>) {
      const out = (name: string, sound: number) => faulty.get(name) ?? sound;
      const [x, y, z] = [out("M1", 3 * 2), out("M2", 2 * 3), out("M3", 2 * 3)];
      return new Map([
        ["F", out("A1", x + y)],
        ["G", out("A2", y + z)],
      ]);
    },
  };

  it("finds the published minimal diagnoses and conflicts of the five-component example", () => {
    const { diagnoses, complete, conflicts } = explain(
      circuit,
      new Map([
        ["F", 10],
        ["G", 12],
      ]),
      2,
    );
    expect(diagnoses).toEqual([["A1"], ["M1"], ["A2", "M2"], ["M2", "M3"]]);
    expect(complete).toBe(true);
    expect(conflicts).toEqual(
      [
        ["A1", "M1", "M2"],
        ["A1", "A2", "M1", "M3"],
      ].map((c) => c.sort()),
    );
  });

  it("says that it is incomplete under a limit that leaves diagnoses out, and names no conflict then", () => {
    const observed = new Map([
      ["F", 10],
      ["G", 12],
    ]);
    expect(explain(circuit, observed, 1)).toEqual({ diagnoses: [["A1"], ["M1"]], complete: false, conflicts: null });
    expect(explain(circuit, observed, 0)).toEqual({ diagnoses: [], complete: false, conflicts: null });
  });

  it("needs no fault when everything is as predicted", () => {
    expect(
      explain(
        circuit,
        new Map([
          ["F", 12],
          ["G", 12],
        ]),
        2,
      ),
    ).toEqual({ diagnoses: [[]], complete: true, conflicts: [] });
  });

  it("computes minimal hitting sets both ways (Reiter 1987)", () => {
    const sets = [
      ["a", "b"],
      ["b", "c"],
      ["a", "c"],
    ];
    expect(minimalHittingSets(sets)).toEqual([
      ["a", "b"],
      ["a", "c"],
      ["b", "c"],
    ]);
    expect(minimalHittingSets(minimalHittingSets(sets))).toEqual([
      ["a", "b"],
      ["a", "c"],
      ["b", "c"],
    ]);
  });
});

describe("minimal hitting sets", () => {
  const family = fc.array(fc.uniqueArray(fc.constantFrom("a", "b", "c", "d", "e"), { minLength: 1, maxLength: 4 }), {
    minLength: 1,
    maxLength: 5,
  });

  it("hit every set, and none can lose a member", () => {
    fc.assert(
      fc.property(family, (sets) => {
        const hits = (h: readonly string[]) => sets.every((s) => s.some((x) => h.includes(x)));
        for (const h of minimalHittingSets(sets)) {
          expect(hits(h)).toBe(true);
          for (const x of h) expect(hits(h.filter((y) => y !== x))).toBe(false);
        }
      }),
    );
  });

  it("are all that exist, by trying every subset", () => {
    fc.assert(
      fc.property(family, (sets) => {
        const hits = (h: readonly string[]) => sets.every((s) => s.some((x) => h.includes(x)));
        const letters = ["a", "b", "c", "d", "e"];
        const all = Array.from({ length: 32 }, (_, mask) => letters.filter((_, i) => mask & (1 << i))).filter(hits);
        const minimal = all.filter((h) => !all.some((o) => o.length < h.length && o.every((x) => h.includes(x))));
        const key = (list: string[][]) => list.map((h) => h.join("")).sort();
        expect(key(minimalHittingSets(sets))).toEqual(key(minimal));
      }),
    );
  });
});

describe("a size limit", () => {
  it("finds nothing within the limit when more faults are needed", () => {
    const wires = {
      components: ["x", "y"],
      behaviours: () => [0],
      predict: (f: ReadonlyMap<string, number>) =>
        new Map([
          ["x", f.has("x") ? 0 : 1],
          ["y", f.has("y") ? 0 : 1],
        ]),
    };
    const both = new Map([
      ["x", 0],
      ["y", 0],
    ]);
    expect(explain(wires, both, 1).diagnoses).toEqual([]);
    expect(explain(wires, both, 2)).toEqual({ diagnoses: [["x", "y"]], complete: true, conflicts: [["x"], ["y"]] });
  });
});
