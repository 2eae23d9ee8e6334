import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compareCodes } from "./codes";

const names = (codes: { code: string }[]) => codes.map((c) => c.code);

describe("fault codes before and after", () => {
  it("are told apart: gone, still there, new, and lines that cannot be read", () => {
    const compared = compareCodes("Radio\nB1234 open circuit\nU0100", "U0100\nRadio: B1AAA new one\nP99");
    expect(names(compared.gone)).toEqual(["B1234"]);
    expect(names(compared.stayed)).toEqual(["U0100"]);
    expect(names(compared.came)).toEqual(["B1AAA"]);
    expect(compared.unread.map((p) => p.text)).toEqual(["P99"]);
  });

  it("are the same only in one module, where both lists name it", () => {
    expect(names(compareCodes("Radio: U0100", "Gateway: U0100").came)).toEqual(["U0100"]);
    expect(names(compareCodes("Radio: U0100", "U0100").stayed)).toEqual(["U0100"]);
    expect(names(compareCodes("RADIO: U0100", "Radio: U0100").stayed)).toEqual(["U0100"]);
  });

  it("are each in one place: gone and new change sides when the lists do", () => {
    const code = fc.constantFrom("P0133", "U0100", "B1234", "C0045", "B1AAA");
    const list = fc.uniqueArray(code, { maxLength: 5 }).map((codes) => codes.join("\n"));
    fc.assert(
      fc.property(list, list, (before, after) => {
        const forward = compareCodes(before, after);
        const back = compareCodes(after, before);
        expect(names(forward.gone).sort()).toEqual(names(back.came).sort());
        expect(names(forward.stayed).sort()).toEqual(names(back.stayed).sort());
        const all = new Set([...before.split("\n"), ...after.split("\n")].filter((c) => c !== ""));
        expect(forward.gone.length + forward.stayed.length + forward.came.length).toBe(all.size);
      }),
    );
  });
});
