import { describe, expect, it } from "vitest";
import { clockError, clockWords, rightMs } from "./device-clock";

const SERVER = "Mon, 05 Jan 2026 08:00:00 GMT";
const at = (seconds: number) => Date.parse(SERVER) + seconds * 1000;

describe("the clock of a device", () => {
  it("is compared in the middle of question and answer", () => {
    expect(clockError(SERVER, at(0), at(1))).toBe(0);
    expect(clockError(SERVER, at(599), at(602))).toBe(600_000);
    expect(clockError(SERVER, at(-301), at(-298))).toBe(-300_000);
  });

  it("is not judged by an answer without a date", () => {
    expect([clockError(null, at(0), at(1)), clockError("soon", at(0), at(1))]).toEqual([null, null]);
  });

  it("is corrected, and that is said, when it is wrong by more than a minute", () => {
    expect([rightMs(at(600), 600_000), rightMs(at(0), -300_000), rightMs(at(40), 40_000)]).toEqual([
      at(0),
      at(300),
      at(40),
    ]);
    expect(clockWords(40_000)).toBeNull();
    expect(clockWords(600_000)).toMatch(/10 minutes fast/);
    expect(clockWords(-61_000)).toMatch(/1 minute slow/);
  });
});
