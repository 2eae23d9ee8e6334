import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseAsc } from "./asc";
import { candumpLine, parseCandump } from "./candump";
import { type DbcSignal, parseDbc } from "./dbc";
import { decodeFrame, decodeSeries } from "./decode";
import { idText } from "./frames";
import { logFormat, parseLog } from "./log";
import { busLoads, statistics, worstFrameBits } from "./statistics";

const bytes = (text: string) => new TextEncoder().encode(text);
const folder = mkdtempSync(join(tmpdir(), "iteron-bus-"));

describe("candump log", () => {
  it.each([
    ["(1436509052.249713) can0 1A5#2DFF00A1", { id: 0x1a5, extended: 0, length: 4, first: 0x2d }],
    ["(0000000000.000000) vcan1 00000123#", { id: 0x123, extended: 1, length: 0, first: 0 }],
    ["(12.5) can0 7FF#11.22.33", { id: 0x7ff, extended: 0, length: 3, first: 0x11 }],
    ["(12.5) can0 7FF#11223344 R", { id: 0x7ff, extended: 0, length: 4, first: 0x11 }],
  ])("reads %s", (line, want) => {
    const { frames, badLines } = parseCandump(bytes(line));
    expect(badLines).toBe(0);
    expect({ id: frames.id[0], extended: frames.extended[0], length: frames.length[0], first: frames.data[0] }).toEqual(
      want,
    );
  });

  it.each([
    ["hello", "shape"],
    ["(abc) can0 123#00", "time"],
    ["(1.0) can0 12#00", "identifier"],
    ["(1.0) can0 FFF#00", "identifier"],
    ["(1.0) can0 123#0", "data"],
    ["(1.0) can0 123#001122334455667788", "length"],
    ["(1.0) can0 123##100", "length"],
    ["(1.0) can0 123#R", "remote"],
    ["(1.0) can0 123#00 trailing", "data"],
    ["(1.0) can0", "shape"],
  ])("reports %s with its line and keeps the good lines", (line, code) => {
    const { frames, problems, badLines } = parseCandump(bytes(`(1.0) can0 123#01\n${line}\n(2.0) can0 123#02\r\n`));
    expect(problems).toMatchObject([{ line: 2, code }]);
    expect(badLines).toBe(1);
    expect([...frames.data.filter((_, i) => i % 8 === 0)]).toEqual([1, 2]);
    expect([...frames.data.filter((_, i) => i % 8 !== 0)].every((b) => b === 0)).toBe(true);
  });

  it("reads back what it writes, and never throws on arbitrary bytes", () => {
    const frame = fc.record({
      t: fc.integer({ min: 0, max: 4_000_000_000 }),
      ext: fc.boolean(),
      id: fc.integer({ min: 0, max: 0x7ff }),
      data: fc.uint8Array({ maxLength: 8 }),
    });
    fc.assert(
      fc.property(fc.array(frame, { minLength: 1, maxLength: 20 }), (list) => {
        const text = list
          .map(
            (f) =>
              `(${f.t}.250000) can0 ${idText(f.id, f.ext)}#${[...f.data].map((b) => b.toString(16).padStart(2, "0")).join("")}`,
          )
          .join("\n");
        const { frames } = parseCandump(bytes(text));
        const again = parseCandump(
          bytes(Array.from({ length: frames.count }, (_, i) => candumpLine(frames, i)).join("\n")),
        );
        expect(again.frames).toEqual(frames);
        expect([...frames.id]).toEqual(list.map((f) => f.id));
      }),
    );
    fc.assert(fc.property(fc.uint8Array({ maxLength: 300 }), (noise) => parseCandump(noise).frames.count >= 0));
  });

  it("can be stopped", () => {
    const big = bytes("(1.0) can0 123#0102030405060708\n".repeat(200_000));
    expect(parseCandump(big, () => false).frames.count).toBeLessThan(200_000);
  });

  // Source: log2asc of Debian's can-utils; both programs read the same log and must agree on every frame.
  it("agrees with log2asc on identifiers, lengths, data and relative times", () => {
    const lines = Array.from({ length: 500 }, (_, i) => {
      const extended = i % 7 === 0;
      const data = Array.from({ length: i % 9 }, (_, b) =>
        ((i * 31 + b * 17) & 255).toString(16).toUpperCase().padStart(2, "0"),
      ).join("");
      return `(${(1700000000 + i * 0.0123).toFixed(6)}) can0 ${idText((i * 37) % (extended ? 0x1fffffff : 0x7ff), extended)}#${data}`;
    });
    const file = join(folder, "log.log");
    writeFileSync(file, `${lines.join("\n")}\n`);
    const asc = execFileSync("log2asc", ["-I", file, "can0"], { encoding: "utf8" });
    expect(logFormat(bytes(asc))).toBe("ASC");
    const theirs = parseAsc(asc).frames;
    const ours = parseLog(bytes(lines.join("\n")))?.frames ?? never();
    expect(theirs.count).toBe(500);
    expect([...ours.id]).toEqual([...theirs.id]);
    expect([...ours.extended]).toEqual([...theirs.extended]);
    expect([...ours.length]).toEqual([...theirs.length]);
    expect([...ours.data]).toEqual([...theirs.data]);
    const start = ours.timeS[0] ?? 0;
    for (let i = 0; i < 500; i++)
      expect((ours.timeS[i] ?? 0) - start).toBeCloseTo((theirs.timeS[i] ?? 0) - (theirs.timeS[0] ?? 0), 3);
  });

  it("knows a file that is no log", () => {
    expect(logFormat(bytes("time,id,data\n1,2,3"))).toBeNull();
    expect(parseLog(bytes("PK\x03\x04"))).toBeNull();
  });
});

describe("statistics", () => {
  it("counts, and gives the median gap and its largest deviation", () => {
    const log = [0, 10, 20, 35, 40].map((ms, i) => `(${(ms / 1000).toFixed(6)}) can0 100#0${i}`).join("\n");
    const [one] = statistics(parseCandump(bytes(log)).frames);
    expect(one).toMatchObject({ id: 0x100, count: 5 });
    expect(one?.cycleMs).toBeCloseTo(10, 6);
    expect(one?.jitterMs).toBeCloseTo(5, 6);
    expect(one?.changed[0]).toBe(0b111);
  });

  it("keeps an 11-bit and a 29-bit identifier of the same value apart", () => {
    const log = "(1.0) can0 100#01\n(1.1) can0 00000100#02";
    expect(statistics(parseCandump(bytes(log)).frames).map((s) => [s.id, s.extended, s.count])).toEqual([
      [256, false, 1],
      [256, true, 1],
    ]);
  });

  it("keeps two buses apart: cycle, count and load of each", () => {
    const lines = Array.from({ length: 100 }, (_, i) => {
      const at = (i * 0.01).toFixed(6);
      return i % 4 === 0
        ? `(${at}) can0 100#01\n(${(i * 0.01 + 0.001).toFixed(6)}) can1 100#0011223344556677`
        : `(${at}) can0 100#02`;
    });
    const { frames } = parseCandump(bytes(lines.join("\n")));
    const stats = statistics(frames);
    expect(stats.map((s) => [s.channel, s.id, s.count, Math.round(s.cycleMs)])).toEqual([
      ["can0", 0x100, 100, 10],
      ["can1", 0x100, 25, 40],
    ]);
    const loads = busLoads(frames, 500_000);
    expect(loads.map((l) => l.channel)).toEqual(["can0", "can1"]);
    expect(loads[0]?.load).toBeCloseTo((100 * 65) / 500_000 / 0.99, 5);
    expect(loads[1]?.load).toBeCloseTo((25 * 135) / 500_000 / 0.99, 5);
  });

  // Source: Davis, Burns, Bril, Lukkien, Real-Time Systems 35 (2007).
  it("bounds a frame of eight bytes by 135 and 160 bits", () => {
    expect(worstFrameBits(8, false)).toBe(135);
    expect(worstFrameBits(8, true)).toBe(160);
  });
});

const DBC = `VERSION ""
NS_ :
	CM_
	BA_
BS_:
BU_: Body Radio
BO_ 256 Plain: 8 Body
 SG_ Little : 4|12@1+ (0.5,-10) [0|100] "km/h" Radio
 SG_ LittleSigned : 16|9@1- (1,0) [-256|255] "" Radio
 SG_ Big : 39|16@0+ (0.1,0) [0|6553.5] "rpm" Radio
 SG_ BigSigned : 50|10@0- (0.25,3) [-125|130] "" Radio
BO_ 2147484160 Far: 8 Body
 SG_ Real : 0|32@1- (1,0) [0|0] "" Radio
 SG_ RealBig : 39|32@0- (2,1) [0|0] "" Radio
BO_ 513 Mux: 4 Body
 SG_ Which M : 0|8@1+ (1,0) [0|3] "" Radio
 SG_ First m0 : 8|16@1+ (1,0) [0|65535] "" Radio
 SG_ Second m1 : 15|12@0- (1,5) [0|0] "" Radio
CM_ SG_ 256 Little "a comment
over two lines";
VAL_ 256 LittleSigned 0 "off" 1 "on" -1 "fault" ;
SIG_VALTYPE_ 2147484160 Real : 1;
SIG_VALTYPE_ 2147484160 RealBig : 1;
`;

describe("DBC", () => {
  const dbc = parseDbc(DBC);

  it("reads messages, signals, value tables and extended identifiers without complaint", () => {
    expect(dbc.problems).toEqual([]);
    expect(dbc.messages.map((m) => [m.id, m.extended, m.signals.length])).toEqual([
      [256, false, 4],
      [512, true, 2],
      [513, false, 3],
    ]);
    expect(signal("Plain", "LittleSigned").values.get(-1)).toBe("fault");
    expect(signal("Far", "Real").kind).toBe("float32");
  });

  // Source: canmatrix (Debian's python3-canmatrix), an independent reader and decoder.
  it("decodes like canmatrix: both byte orders, signed, float, multiplexed", () => {
    const file = join(folder, "t.dbc");
    writeFileSync(file, DBC);
    let state = 12345;
    const random = () => {
      state = (Math.imul(state, 1103515245) + 12345) >>> 0;
      return (state >>> 16) & 255;
    };
    const frames = Array.from({ length: 150 }, (_, i) => {
      const message = dbc.messages[i % 3] ?? never();
      const data = Uint8Array.from({ length: message.length }, random);
      if (message.name === "Mux") data[0] = i % 2;
      // Whole numbers of moderate size as floats, so that no rounding or not-a-number gets in the way.
      if (message.name === "Far") {
        const view = new DataView(data.buffer);
        view.setFloat32(0, (random() - 128) / 4, true);
        view.setFloat32(4, random() * 3.5, false);
      }
      return { message, data };
    });
    const script = `
import json, sys, canmatrix.formats
db = canmatrix.formats.loadp_flat(sys.argv[1])
out = []
for name, hexdata in json.load(sys.stdin):
    frame = db.frame_by_name(name)
    out.append({k: float(v.phys_value) for k, v in frame.decode(bytearray.fromhex(hexdata)).items()})
print(json.dumps(out))`;
    const input = JSON.stringify(frames.map((f) => [f.message.name, Buffer.from(f.data).toString("hex")]));
    const theirs = JSON.parse(
      execFileSync("/usr/bin/python3", ["-c", script, file], {
        input,
        encoding: "utf8",
        stdio: ["pipe", "pipe", "ignore"],
      }),
    ) as Record<string, number>[];
    frames.forEach(({ message, data }, i) => {
      const ours = decodeFrame(message, data);
      const expected = theirs[i] ?? {};
      expect(ours.size).toBeGreaterThan(1);
      for (const [name, value] of ours)
        expect([message.name, name, value]).toEqual([
          message.name,
          name,
          expect.closeTo(expected[name] ?? Number.NaN, 5),
        ]);
    });
  });

  it("leaves out and names what it does not know", () => {
    const { messages, problems } = parseDbc(
      `BO_ 1 Good: 2 X\n SG_ A : 0|8@1+ (1,0) [0|0] "" X\nFOO_ something\n SG_ B : 12|8@1+ (1,0) [0|0] "" X\n SG_ C m3M : 0|4@1+ (1,0) [0|0] "" X\n SG_ D broken\nBO_ 9999 TooBig: 8 X\nVAL_ 1 Nothing 0 "x" ;\n`,
    );
    expect(messages[0]?.signals.map((s) => s.name)).toEqual(["A"]);
    expect(problems.map((p) => [p.line, p.code])).toEqual([
      [3, "keyword"],
      [4, "signal"],
      [5, "signal"],
      [6, "signal"],
      [7, "message"],
      [8, "signal"],
    ]);
  });

  it("gives a signal over time and passes over short frames", () => {
    const { frames } = parseCandump(
      bytes("(1.0) can0 201#00010000\n(2.0) can0 201#01FF0000\n(3.0) can0 201#00\n(4.0) can0 201#00020000"),
    );
    const message = dbc.messages[2] ?? never();
    const series = decodeSeries(frames, message, signal("Mux", "First"));
    expect([...series.timeS]).toEqual([1, 4]);
    expect([...series.value]).toEqual([1, 2]);
  });

  function signal(message: string, name: string): DbcSignal {
    return dbc.messages.find((m) => m.name === message)?.signals.find((s) => s.name === name) ?? never();
  }
});

function never(): never {
  throw new Error("the fixture lacks what the test needs");
}
