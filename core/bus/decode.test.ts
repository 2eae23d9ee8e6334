import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type DbcMessage, type DbcSignal, signalBits } from "./dbc-messages";
import { decodeFrame, decodeSeries } from "./decode";
import { candump } from "./formats/candump";
import { readAs } from "./formats/format";

const signal = (more: Partial<DbcSignal>): DbcSignal => ({
  name: "S",
  startBit: 0,
  length: 8,
  littleEndian: true,
  kind: "unsigned",
  factor: 1,
  offset: 0,
  minimum: 0,
  maximum: 0,
  unit: "",
  multiplex: null,
  values: new Map(),
  comment: "",
  ...more,
});
const message = (...signals: DbcSignal[]): DbcMessage => ({
  id: 1,
  extended: false,
  name: "M",
  length: 8,
  sender: "Car",
  signals,
  comment: "",
});
const value = (s: DbcSignal, data: Uint8Array) => decodeFrame(message(s), data).get("S");

/** Plain reference: the bits of the signal as text, most significant first, read as a whole number. */
function plainly(s: DbcSignal, data: Uint8Array): bigint {
  const bits = signalBits(s)
    .map((b) => ((data[b >> 3] ?? 0) >> (b & 7)) & 1)
    .reverse()
    .join("");
  const raw = BigInt(`0b${bits}`);
  return s.kind === "signed" && bits[0] === "1" ? raw - (1n << BigInt(s.length)) : raw;
}

const placed = fc
  .record({
    startBit: fc.integer({ min: 0, max: 63 }),
    length: fc.integer({ min: 1, max: 64 }),
    littleEndian: fc.boolean(),
    kind: fc.constantFrom("unsigned" as const, "signed" as const),
  })
  .filter((p) => signalBits(p).every((b) => b >= 0 && b < 64));
const eightBytes = fc.uint8Array({ minLength: 8, maxLength: 8 });

describe("bit positions", () => {
  it("count up for little-endian signals", () => {
    expect(signalBits({ startBit: 6, length: 4, littleEndian: true })).toEqual([6, 7, 8, 9]);
  });

  it("follow the sawtooth for big-endian signals, least significant first", () => {
    // 12 bits from bit 3 of byte 0 on: 3..0 of byte 0, then 7..0 of byte 1.
    expect(signalBits({ startBit: 3, length: 12, littleEndian: false })).toEqual([
      8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3,
    ]);
  });

  it("cover each bit of a message once for a whole-byte signal of either order", () => {
    for (const s of [
      { startBit: 0, length: 64, littleEndian: true },
      { startBit: 7, length: 64, littleEndian: false },
    ]) {
      expect([...signalBits(s)].sort((a, b) => a - b)).toEqual(Array.from({ length: 64 }, (_, i) => i));
    }
  });
});

describe("decoding", () => {
  it("equals the plain reference for any place, length, order and sign, with all digits", () => {
    fc.assert(
      fc.property(placed, eightBytes, (place, data) => {
        const s = signal(place);
        expect(BigInt(value(s, data) ?? -1)).toBe(plainly(s, data));
        // Over time it is drawn: the nearest number that a double can hold.
        const { frames } = readAs(
          candump,
          new TextEncoder().encode(`(1.0) can0 001#${Buffer.from(data).toString("hex")}`),
        );
        expect(decodeSeries(frames, message(s), s).value[0]).toBe(Number(plainly(s, data)));
      }),
      { numRuns: 500 },
    );
  });

  it("reads whole bytes as DataView does, in both orders and with sign", () => {
    fc.assert(
      fc.property(eightBytes, fc.integer({ min: 0, max: 4 }), (data, byte) => {
        const view = new DataView(data.buffer, data.byteOffset);
        expect(value(signal({ startBit: 8 * byte, length: 32 }), data)).toBe(view.getUint32(byte, true));
        expect(value(signal({ startBit: 8 * byte + 7, length: 32, littleEndian: false }), data)).toBe(
          view.getUint32(byte, false),
        );
        expect(value(signal({ startBit: 8 * byte, length: 16, kind: "signed" }), data)).toBe(view.getInt16(byte, true));
        expect(value(signal({ startBit: 8 * byte + 7, length: 16, littleEndian: false, kind: "signed" }), data)).toBe(
          view.getInt16(byte, false),
        );
      }),
    );
  });

  it("reads floats of both sizes and orders", () => {
    const data = new Uint8Array(8);
    const view = new DataView(data.buffer);
    view.setFloat64(0, -1234.5678, true);
    expect(value(signal({ length: 64, kind: "float64" }), data)).toBe(-1234.5678);
    view.setFloat64(0, 9.25e-7, false);
    expect(value(signal({ startBit: 7, length: 64, littleEndian: false, kind: "float64" }), data)).toBe(9.25e-7);
    view.setFloat32(2, 1.5, false);
    expect(value(signal({ startBit: 23, length: 32, littleEndian: false, kind: "float32" }), data)).toBe(1.5);
  });

  it("applies factor and offset", () => {
    expect(value(signal({ factor: 0.5, offset: -40 }), Uint8Array.of(130, 0, 0, 0, 0, 0, 0, 0))).toBe(25);
  });

  it("shows only the signals of the multiplex value in the frame", () => {
    const m = message(
      signal({ name: "Page" }),
      signal({ name: "Zero", startBit: 8, multiplex: { by: "Page", values: [[0, 0]] } }),
      signal({ name: "One", startBit: 8, multiplex: { by: "Page", values: [[1, 1]] } }),
    );
    expect([...decodeFrame(m, Uint8Array.of(1, 7, 0, 0, 0, 0, 0, 0)).keys()]).toEqual(["Page", "One"]);
  });

  it("keeps other identifiers out of a series, also the 29-bit one of the same value", () => {
    const { frames } = readAs(
      candump,
      new TextEncoder().encode(
        "(1.0) can0 001#0500000000000000\n(2.0) can0 00000001#0600000000000000\n(3.0) can0 002#0700000000000000",
      ),
    );
    expect([...decodeSeries(frames, message(signal({})), signal({})).value]).toEqual([5]);
  });
});
