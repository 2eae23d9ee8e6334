import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseAsc } from "./asc";
import { parseCandump } from "./candump";
import { type DbcMessage, type DbcSignal, dbcText, parseDbc, signalBits } from "./dbc";
import { decodeFrame, decodeSeries, valueNames } from "./decode";
import { idKey, idText } from "./frames";
import { busLoads, statistics } from "./statistics";

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
  multiplex: "always",
  values: new Map(),
  ...more,
});
const message = (...signals: DbcSignal[]): DbcMessage => ({ id: 1, extended: false, name: "M", length: 8, signals });
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
    length: fc.integer({ min: 1, max: 53 }),
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
  it("equals the plain reference for any place, length, order and sign up to 53 bits", () => {
    fc.assert(
      fc.property(placed, eightBytes, (place, data) => {
        const s = signal(place);
        expect(value(s, data)).toBe(Number(plainly(s, data)));
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
      signal({ name: "Page", multiplex: "selector" }),
      signal({ name: "Zero", startBit: 8, multiplex: 0 }),
      signal({ name: "One", startBit: 8, multiplex: 1 }),
    );
    expect([...decodeFrame(m, Uint8Array.of(1, 7, 0, 0, 0, 0, 0, 0)).keys()]).toEqual(["Page", "One"]);
  });

  it("keeps other identifiers out of a series, also the 29-bit one of the same value", () => {
    const { frames } = parseCandump(
      new TextEncoder().encode(
        "(1.0) can0 001#0500000000000000\n(2.0) can0 00000001#0600000000000000\n(3.0) can0 002#0700000000000000",
      ),
    );
    expect([...decodeSeries(frames, message(signal({})), signal({})).value]).toEqual([5]);
  });
});

describe("ASC log", () => {
  const head = "date Mon Jan 5 08:00:00 2026\nbase hex  timestamps absolute\nno internal events logged\n";

  it("reads data frames with both kinds of identifiers and passes over events", () => {
    const { frames, badLines } = parseAsc(
      `${head}   0.100000 1  1A4             Rx   d 2 0A FF\n   0.150000 CAN 1 Status:chip status error active\n   0.200000 2  18DAF110x       Tx   d 0\n`,
    );
    expect(badLines).toBe(0);
    expect([...frames.id].map((id, i) => idText(id, frames.extended[i] === 1))).toEqual(["1A4", "18DAF110"]);
    expect([...frames.length]).toEqual([2, 0]);
    expect(frames.channels).toEqual(["can0", "can1"]);
  });

  it.each([
    ["0.1 1  1A4  Rx   r", /remote request/],
    ["0.1 1  zz  Rx   d 1 00", /“zz” is no identifier: hexadecimal, up to 7FF/],
    ["0.1 1  1A4k  Rx   d 1 00", /no identifier/],
    ["0.1 1  FFF  Rx   d 1 00", /up to 7FF/],
    ["0.1 1  3FFFFFFFx  Rx   d 1 00", /up to 1FFFFFFF with an x/],
    ["0.1 0  1A4  Rx   d 1 00", /channel from 1/],
    ["0.1 CANFD 1 Rx 1A4 1 0 9 12 00 11 22 33 44 55 66 77 88 99 AA BB", /longer kind/],
    ["0.1 1  ErrorFrame", /error frame/],
    ["99999999999999999999999 1  1A4  Rx   d 1 00", /time in seconds/],
    ["something that is no line", /time in seconds/],
    ["0.1 1  1A4  Rx   d 9 00", /at most 8/],
    ["0.1 1  1A4  Rx   d 3 00 11", /3 data bytes/],
    ["0.1 1  1A4  Rx   d 1 GG", /1 data bytes/],
  ])("reports %s with its line", (line, problem) => {
    const { frames, problems } = parseAsc(`${head}${line}\n0.2 1  1A4  Rx   d 1 00\n`);
    expect(problems).toMatchObject([{ line: 4, problem: expect.stringMatching(problem) }]);
    expect(frames.count).toBe(1);
  });

  it("follows the header: decimal numbers, and times that count from the line before", () => {
    const { frames, badLines } = parseAsc(
      "date x\nbase dec  timestamps relative\n0.5 1 420 Rx d 2 10 255\n0.25 Start of measurement\n0.25 1 421 Rx d 0\n0.1 1 1x Rx r\n0.1 1 536870911x Rx d 0\n",
    );
    expect(badLines).toBe(1);
    expect([...frames.id]).toEqual([420, 421, 536870911]);
    expect([...frames.data.slice(0, 2)]).toEqual([10, 255]);
    expect([...frames.timeS].map((t) => Number(t.toFixed(6)))).toEqual([0.5, 1, 1.2]);
  });

  it("accounts for every line: a frame, a bad line, or one that holds none", () => {
    const lines = fc.array(
      fc.oneof(
        fc.constantFrom(
          "",
          "// comment",
          "0.1 Start of measurement",
          "0.1 1 Statistic: D 0 R 0",
          "0.1 1 1A4 Rx d 1 00",
          "0.1 1 ErrorFrame",
        ),
        fc.string({ maxLength: 40 }).map((s) => s.replace(/[\r\n]/g, " ")),
      ),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(lines, (body) => {
        const read = parseAsc(`${head}${body.map((l) => `${l}\n`).join("")}`);
        expect(read.frames.count + read.badLines + read.comments).toBe(read.lines);
        expect(read.lines).toBe(3 + body.length);
      }),
    );
  });
});

describe("candump lines as other tools write them", () => {
  const read = (text: string) => parseCandump(new TextEncoder().encode(text));

  it("may be padded and stand apart", () => {
    const { frames, badLines, comments, lines } = read(
      "\n  (1.500000)   vcan0   1A4#00FF\n   \n\t\n(2.0) can1  00000001#\n",
    );
    expect([...frames.id]).toEqual([0x1a4, 1]);
    expect(frames.channels).toEqual(["vcan0", "can1"]);
    expect([badLines, comments, lines]).toEqual([0, 3, 5]);
  });

  it("are refused by what is wrong with them", () => {
    const { problems } = read(
      "(1.0) can0 20000004#0000000000000000\n(99999999999999999999999.0) can0 1A4#00\n(1.0) can0 123##100\n(1.0) can0 3FFFFFFF#00\n(1.0) can0 4FFFFFFF#00\n",
    );
    expect(problems.map((p) => p.problem)).toEqual([
      expect.stringMatching(/error frame/),
      expect.stringMatching(/not a number of seconds/),
      expect.stringMatching(/longer kind/),
      expect.stringMatching(/error frame/),
      expect.stringMatching(/up to 7FF or 8 digits/),
    ]);
  });
});

describe("statistics", () => {
  it("sums its counts to the frames of the log and keeps identifiers in order", () => {
    const line = fc.record({ id: fc.integer({ min: 0, max: 40 }), ext: fc.boolean() });
    fc.assert(
      fc.property(fc.array(line, { maxLength: 200 }), (lines) => {
        const text = lines.map((l, i) => `(${i}.000000) can0 ${idText(l.id, l.ext)}#00`).join("\n");
        const { frames } = parseCandump(new TextEncoder().encode(text));
        const stats = statistics(frames);
        expect(stats.reduce((n, s) => n + s.count, 0)).toBe(lines.length);
        const keys = stats.map((s) => idKey(s.id, s.extended));
        expect(keys).toEqual([...keys].sort((a, b) => a - b));
        for (const s of stats) expect(s.count > 1 ? s.jitterMs >= 0 : Number.isNaN(s.cycleMs)).toBe(true);
      }),
    );
  });

  it("gives no load for a log without duration and at most one for a full bus", () => {
    const { frames } = parseCandump(new TextEncoder().encode("(1.0) can0 001#0011223344556677"));
    expect(busLoads(frames, 500_000)).toEqual([{ channel: "can0", load: 0 }]);
    // 135 bits every 270 µs at 500 kbit/s: each frame needs exactly 270 µs, so the bus is full.
    const full = Array.from({ length: 101 }, (_, i) => `(${(i * 0.00027).toFixed(6)}) can0 001#0011223344556677`).join(
      "\n",
    );
    const [load] = busLoads(parseCandump(new TextEncoder().encode(full)).frames, 500_000);
    expect(load?.load).toBeCloseTo(1.01, 2);
  });
});

describe("DBC text", () => {
  it("never throws, whatever it is given", () => {
    fc.assert(fc.property(fc.string({ maxLength: 400 }), (text) => parseDbc(text).messages.length >= 0));
    const pieces = fc.constantFrom(
      "BO_ ",
      "SG_ ",
      "VAL_ ",
      "256 ",
      "M: ",
      "8 X\n",
      " : 0|8@1+ (1,0) [0|0] ",
      '""',
      '"',
      "\n",
      "m0 ",
      ";",
    );
    fc.assert(fc.property(fc.array(pieces, { maxLength: 40 }), (list) => parseDbc(list.join("")).problems.length >= 0));
  });

  it("reads numbers with exponents and a file with a byte-order mark and Windows line ends", () => {
    const { messages, problems } = parseDbc(
      '\uFEFFVERSION ""\r\n\r\nBO_ 5 M: 8 X\r\n SG_ S : 0|16@1- (1e-3,-2.5E1) [-1e2|1e2] "V" X,Y\r\n',
    );
    expect(problems).toEqual([]);
    expect(messages[0]?.signals[0]).toMatchObject({
      factor: 0.001,
      offset: -25,
      minimum: -100,
      maximum: 100,
      kind: "signed",
    });
  });

  it("leaves the signals of a message that it cannot read out, and says so", () => {
    const { messages, problems } = parseDbc(
      'BO_ 5 Good: 2 X\n SG_ A : 0|8@1+ (1,0) [0|0] "" X\nBO_ 9999 TooBig: 8 X\n SG_ Lost : 8|8@1+ (1,0) [0|0] "" X\nBO_ 3221225472 Holder: 0 X\n SG_ Free : 8|8@1+ (1,0) [0|0] "" X\nBO_ 6 Next: 1 X\n SG_ B : 0|8@1+ (1,0) [0|0] "" X\n',
    );
    expect(messages.map((m) => [m.name, m.signals.map((x) => x.name)])).toEqual([
      ["Good", ["A"]],
      ["Next", ["B"]],
    ]);
    expect(problems.map((p) => [p.line, p.problem])).toEqual([
      [3, expect.stringContaining("out of range")],
      [4, expect.stringContaining("its message was left out")],
    ]);
  });

  it("reads past escaped quotation marks and strings over several lines; an open one swallows nothing", () => {
    const after = 'BO_ 6 Next: 1 X\n SG_ B : 0|8@1+ (1,0) [0|0] "" X\n';
    for (const comment of [
      'CM_ BO_ 5 "the \\"old\\" one";',
      'CM_ "two\nlines \\" here";',
      'CM_ "ends with a backslash C:\\";',
    ]) {
      const { messages, problems } = parseDbc(`${comment}\n${after}`);
      expect([comment, messages.map((m) => m.name), problems]).toEqual([comment, ["Next"], []]);
    }
    const open = parseDbc(`CM_ "never closed;\n${after}`);
    expect(open.messages.map((m) => m.signals.length)).toEqual([1]);
    expect(open.problems).toMatchObject([{ line: 1, problem: expect.stringContaining("never closed") }]);
    const named = parseDbc(`${after}VAL_ 6 B 1 "a \\"b\\"" 2 "c" ;\n`);
    expect([...(named.messages[0]?.signals[0]?.values ?? [])]).toEqual([
      [1, 'a "b"'],
      [2, "c"],
    ]);
  });

  it("refuses what is no number", () => {
    const { messages, problems } = parseDbc(
      'BO_ 5 M: 8 X\n SG_ S : 0|8@1+ (1.2.3,0) [0|0] "" X\n SG_ T : 0|8@1+ (.5,-1.) [0|0] "" X\n',
    );
    expect(problems).toHaveLength(1);
    expect(messages[0]?.signals).toMatchObject([{ name: "T", factor: 0.5, offset: -1 }]);
  });

  it("keeps the unit signs of older files", () => {
    const text = 'BO_ 5 M: 8 X\n SG_ S : 0|8@1+ (1,0) [0|0] "°C" X\n';
    const latin = Uint8Array.from([...text].map((c) => c.charCodeAt(0)));
    for (const bytes of [latin, new TextEncoder().encode(text)])
      expect(parseDbc(dbcText(bytes)).messages[0]?.signals[0]?.unit).toBe("°C");
  });

  it("names values by the physical value that is drawn, though the file has the raw one", () => {
    const { messages } = parseDbc('BO_ 5 M: 1 X\n SG_ S : 0|8@1+ (0.5,-10) [0|0] "" X\nVAL_ 5 S 0 "low" 4 "high" ;\n');
    const signal = messages[0]?.signals[0];
    expect(signal && [...valueNames(signal)]).toEqual([
      [-10, "low"],
      [-8, "high"],
    ]);
  });

  it("decodes a frame and a series alike, also where the frame is shorter than its message", () => {
    const { messages } = parseDbc(
      'BO_ 256 M: 8 X\n SG_ Page M : 0|8@1+ (1,0) [0|0] "" X\n SG_ One m1 : 8|16@1- (0.5,3) [0|0] "" X\n SG_ Two m2 : 15|12@0+ (1,0) [0|0] "" X\n SG_ Last : 56|8@1+ (1,0) [0|0] "" X\n',
    );
    const m = messages[0];
    if (!m) throw new Error("no message");
    const frame = fc
      .array(fc.integer({ min: 0, max: 255 }), { maxLength: 8 })
      .map((d) => (d.length > 0 ? [(d[0] ?? 0) % 4, ...d.slice(1)] : d));
    fc.assert(
      fc.property(fc.array(frame, { maxLength: 12 }), (list) => {
        const hex = (d: number[]) => d.map((b) => b.toString(16).padStart(2, "0")).join("");
        const { frames } = parseCandump(
          new TextEncoder().encode(list.map((d, i) => `(${i}.0) can0 100#${hex(d)}`).join("\n")),
        );
        for (const signal of m.signals) {
          const series = decodeSeries(frames, m, signal);
          const each = list.flatMap((d, i) => {
            const value = decodeFrame(m, Uint8Array.from(d)).get(signal.name);
            return value === undefined ? [] : [[i, value]];
          });
          expect([...series.timeS].map((t, i) => [t, series.value[i]])).toEqual(each);
        }
      }),
    );
  });
});
