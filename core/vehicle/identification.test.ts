import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { checkDigit, decodeIdentification, usualOdometerUnit } from "./identification";

describe("identification number", () => {
  // Source: 49 CFR 565.15; both numbers are the customary worked examples (from memory).
  it.each([
    ["1M8GDM9AXKP042788", "X"],
    ["11111111111111111", "1"],
  ])("gives the check digit of %s as %s", (number, digit) => {
    expect(checkDigit(number)).toBe(digit);
    expect(decodeIdentification(number, [], 2026).checkDigit?.matches).toBe(true);
  });

  it("names the place of a letter that never occurs and the digit it may be", () => {
    const { notes, complete } = decodeIdentification("1M8GDM9AXKPO42788", [], 2026);
    expect(complete).toBe(false);
    expect(notes[0]).toMatchObject({ level: "error", position: 12 });
    expect(notes[0]?.text).toContain("digit 0");
  });

  it("looks at the check digit only where the market asks for one", () => {
    expect(decodeIdentification("1M8GDM9A0KP042788", [], 2026).notes[0]?.level).toBe("error");
    expect(decodeIdentification("LM8GDM9A0KP042788", [], 2026).notes[0]?.level).toBe("error");
    for (const first of ["W", "0", "J", "Z"])
      expect(decodeIdentification(`${first}M8GDM9A0KP042788`, [], 2026).notes).toEqual([]);
  });

  it.each(["GDR31-1042788", "AB12 0042788", "KT7W1234567"])(
    "reads no year and no region from the frame number %s",
    (typed) => {
      const { frame, complete, modelYears, region, says } = decodeIdentification(
        typed,
        [{ pattern: "???????????????? ".trim().padEnd(17, "?"), says: "anything" }],
        2026,
      );
      expect({ frame, complete, modelYears, region, says }).toEqual({
        frame: true,
        complete: false,
        modelYears: [],
        region: "",
        says: [],
      });
    },
  );

  it("says how many characters are missing or too many", () => {
    expect(decodeIdentification("1M8GD", [], 2026).notes[0]?.text).toBe("5 of 17 characters.");
    expect(decodeIdentification("1M8GDM9AXKP0427889", [], 2026).notes[0]?.text).toContain("Remove 1");
  });

  it("lists both model years of a year letter", () => {
    expect(decodeIdentification("1M8GDM9AXKP042788", [], 2026).modelYears).toEqual([1989, 2019]);
  });

  it("speaks of a pattern only as far as it is typed", () => {
    const patterns = [
      { pattern: "0VM??????????????", says: "maker" },
      { pattern: "?????A???????????", says: "automatic" },
    ];
    expect(decodeIdentification("0VMCR", patterns, 2026).says).toEqual(["maker"]);
    expect(decodeIdentification("0VMCRA", patterns, 2026).says).toEqual(["maker", "automatic"]);
  });

  it("notices any single misread digit, which the weights 2 to 10 modulo 11 guarantee", () => {
    const digit = fc.integer({ min: 0, max: 9 });
    fc.assert(
      fc.property(
        fc.array(digit, { minLength: 17, maxLength: 17 }),
        fc.integer({ min: 0, max: 16 }),
        digit,
        (digits, place, other) => {
          fc.pre(place !== 8 && digits[place] !== other);
          const changed = [...digits];
          changed[place] = other;
          expect(checkDigit(digits.join(""))).not.toBe(checkDigit(changed.join("")));
        },
      ),
    );
  });
});

describe("the odometer", () => {
  it("is expected in miles only where every market of the car counts miles", () => {
    expect([["GB"], ["GB", "US"], ["GB", "IE"], ["DE"], []].map(usualOdometerUnit)).toEqual([
      "mi",
      "mi",
      "km",
      "km",
      "km",
    ]);
  });
});
