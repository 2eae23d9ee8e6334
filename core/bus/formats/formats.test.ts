import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  dataOf,
  ERROR,
  EXTENDED,
  FAST,
  FD,
  FD_LENGTHS,
  FrameBuilder,
  type Frames,
  PASSIVE,
  packFrames,
  REMOTE,
  unpackFrames,
} from "../frames";
import { idText } from "../identifier";
import { LOG_FORMATS, LogReading, logFormat, type PartReader, parseLog, readLog, readPart, UnknownLog } from "../log";
import { asc } from "./asc";
import { candump } from "./candump";
import { csv } from "./csv";
import { type LogFormat, type ParsedLog, readAs } from "./format";
import { hexOf } from "./hex";
import { pcap } from "./pcap";
import { slcan } from "./slcan";

const bytes = (text: string) => new TextEncoder().encode(text);
const folder = mkdtempSync(join(tmpdir(), "iteron-bus-"));
const file = (name: string, content: string | Uint8Array) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
const python = (script: string, ...args: string[]) =>
  execFileSync("/usr/bin/python3", ["-c", script, ...args], { encoding: "utf8", stdio: ["pipe", "pipe", "ignore"] });
const text = (format: LogFormat, frames: Frames) => [...(format.write?.(frames) ?? [])].join("");

/** A frame as a line that can be compared, times counted from the first. */
const lines = (frames: Frames, from = frames.timeS[0] ?? 0) =>
  Array.from({ length: frames.count }, (_, i) => {
    const flags = (frames.flags[i] ?? 0) & ~64;
    const id = idText(frames.id[i] ?? 0, (flags & EXTENDED) !== 0);
    return `${((frames.timeS[i] ?? 0) - from).toFixed(4)} ${frames.channels[frames.channel[i] ?? 0]} ${id} ${flags} ${frames.length[i]} ${hexOf(dataOf(frames, i))}`;
  });

/** Random frames of all kinds; `kinds` leaves some out for programs that do not know them. */
function frameList(kinds: { fd?: boolean; remote?: boolean; error?: boolean }) {
  return fc.array(
    fc
      .record({
        ms: fc.integer({ min: 0, max: 400 }),
        extended: fc.boolean(),
        id: fc.integer({ min: 0, max: 0x1fff_ffff }),
        channel: fc.integer({ min: 0, max: 1 }),
        kind: fc.constantFrom(
          "data" as const,
          ...(kinds.fd ? ["fd" as const] : []),
          ...(kinds.remote ? ["remote" as const] : []),
          ...(kinds.error ? ["error" as const] : []),
        ),
        bits: fc.integer({ min: 0, max: 3 }),
        code: fc.integer({ min: 0, max: 15 }),
        data: fc.uint8Array({ minLength: 64, maxLength: 64 }),
      })
      .map((f) => {
        const fd = f.kind === "fd";
        const error = f.kind === "error";
        const extended = f.extended && !error;
        const length = error ? 8 : (FD_LENGTHS[fd ? f.code : f.code % 9] as number);
        return {
          ms: f.ms,
          channel: f.channel,
          id: error ? f.id & 0xff : extended ? f.id : f.id & 0x7ff,
          flags:
            (extended ? EXTENDED : 0) |
            (error ? ERROR : 0) |
            (f.kind === "remote" ? REMOTE : 0) |
            (fd ? FD | (f.bits & 1 ? FAST : 0) | (f.bits & 2 ? PASSIVE : 0) : 0),
          length,
          data: f.kind === "remote" ? [] : [...f.data.subarray(0, length)],
        };
      }),
    { minLength: 1, maxLength: 40 },
  );
}

function build(
  list: { ms: number; id: number; flags: number; channel: number; length: number; data: number[] }[],
): Frames {
  const builder = new FrameBuilder();
  let ms = 1_700_000_000_000;
  for (const f of list) {
    ms += f.ms;
    builder.add({ ...f, timeS: ms / 1000 });
  }
  return builder.finish(["can0", "can1"]);
}

describe("every format", () => {
  it("accounts for each line or packet: a frame, a bad one, or one that holds none", () => {
    for (const format of LOG_FORMATS) {
      fc.assert(
        fc.property(fc.uint8Array({ maxLength: 400 }), fc.string({ maxLength: 200 }), (noise, words) => {
          for (const input of [noise, bytes(words)]) {
            const read = readAs(format, input);
            expect(read.frames.count + read.badLines + read.comments).toBe(read.lines);
          }
        }),
        { numRuns: 60 },
      );
    }
  });

  it.each([candump, asc, csv])("reads back what it writes: $name", (format) => {
    fc.assert(
      fc.property(frameList({ fd: true, remote: true, error: format !== asc }), (list) => {
        const frames = build(list);
        const again = readAs(format, bytes(text(format, frames)));
        expect(again.badLines).toBe(0);
        // A table has one column for the kind: rate and error state of FD frames are not in it.
        const known = format === csv ? ~(FAST | PASSIVE) : ~0;
        const plain = { ...frames, flags: frames.flags.map((f) => f & known) };
        // The names of buses are the same for both; only those that occur are known.
        expect(lines(again.frames)).toEqual(lines(plain));
      }),
      { numRuns: 80 },
    );
  });

  it("is read in pieces of any size as in one", async () => {
    const list = fc.sample(frameList({ fd: true, remote: true }), { numRuns: 30, seed: 5 }).flat();
    const frames = build(list);
    for (const format of [candump, asc, csv]) {
      const whole = bytes(text(format, frames));
      const expected = readAs(format, whole);
      for (const size of [1, 7, 1000, 20_000]) {
        const reading = new LogReading();
        for (let at = 0; at < whole.length; at += size) await reading.push(whole.subarray(at, at + size));
        const { frames: pieced, lines: count, comments } = await reading.finish();
        expect(lines(pieced)).toEqual(lines(expected.frames));
        expect([count, comments]).toEqual([expected.lines, expected.comments]);
      }
    }
  });

  it("is the same when others read parts of it side by side, the later ones first", async () => {
    const list = fc.sample(frameList({ fd: true, remote: true }), { numRuns: 40, seed: 6 }).flat();
    const good = text(candump, build(list)).split("\n");
    // Lines that are none, with the number at which they stand, and buses that come up in another order.
    const all = good.flatMap((line, i) =>
      i % 97 === 3 ? [line, "(1.0) can7 12#01", ""] : i % 31 === 2 ? [line.replace(/can\d/, `can${i % 5}`)] : [line],
    );
    // A buffer of the server: its slices are views.
    const whole = Buffer.from(`${all.join("\n")}`.repeat(4));
    const expected = readAs(candump, whole);
    expect(expected.badLines).toBeGreaterThan(3);
    for (const [partBytes, cut] of [
      [200, 0],
      [5_000, 0],
      [5_000, 7],
    ] as const) {
      let asked = 0;
      const others = [30, 0].map(
        (ms): PartReader =>
          async (format, part) => {
            asked++;
            const read = readPart(format, part);
            await new Promise((done) => setTimeout(done, ms));
            return read;
          },
      );
      const reading = new LogReading(others, partBytes);
      const end = whole.length - cut;
      for (let at = 0; at < end; at += 4_000) await reading.push(whole.subarray(at, Math.min(end, at + 4_000)));
      const read = await reading.finish();
      const same = readAs(candump, whole.subarray(0, end));
      expect(asked).toBeGreaterThan(3);
      expect(lines(read.frames)).toEqual(lines(same.frames));
      expect(read.problems).toEqual(same.problems);
      expect([read.lines, read.comments, read.badLines]).toEqual([same.lines, same.comments, same.badLines]);
    }
  });

  it("says so when one of the others fails", async () => {
    const broken: PartReader = () => Promise.reject(new Error("worker gone"));
    const reading = new LogReading([broken], 100);
    await reading.push(bytes("(1.000000) can0 123#00\n".repeat(1000)));
    await expect(reading.finish()).rejects.toThrow("worker gone");
    expect(() => readPart("pcap", bytes(""))).toThrow(/no linewise format/);
  });

  it("is known by its beginning, and other files are not", async () => {
    const known: [string, LogFormat][] = [
      ["(1.0) can0 123#00\n", candump],
      [" (1.500)  can0  123   [2]  00 FF\n", candump],
      ["date x\nbase dec  timestamps relative\n", asc],
      ["Time (ms);ID;DLC;D0;D1\n1;123;1;00;\n", csv],
      ["V1013\r\nz\rt123100A1B2\r", slcan],
    ];
    for (const [head, format] of known) expect([head, logFormat(bytes(head))?.name]).toEqual([head, format.name]);
    for (const head of ["", "dear diary\n", "time,id\n1,2\n", "PK\u0003\u0004", "name,price\nx,1\n", '{"a":1}'])
      expect([head, logFormat(bytes(head))]).toEqual([head, null]);
    await expect(new LogReading().finish()).rejects.toThrow(UnknownLog);
  });
});

describe("packed columns", () => {
  it("are the same frames again, without copying", () => {
    const frames = build(fc.sample(frameList({ fd: true, remote: true }), { numRuns: 5, seed: 1 }).flat());
    const { head, parts } = packFrames(frames);
    const whole = Buffer.concat(parts);
    const buffer = whole.buffer.slice(whole.byteOffset, whole.byteOffset + whole.byteLength);
    expect(unpackFrames(head, buffer)).toEqual(frames);
  });

  it("of usual frames need less than 40 bytes each", () => {
    const builder = new FrameBuilder();
    for (let i = 0; i < 200_000; i++)
      builder.add({ timeS: i, id: i & 0x7ff, flags: 0, channel: 0, length: 8, data: [1, 2, 3, 4, 5, 6, 7, 8] });
    const { parts } = packFrames(builder.finish(["can0"]));
    expect(parts.reduce((n, p) => n + p.byteLength, 0) / 200_000).toBeLessThan(40);
  });
});

describe("compressed with gzip", () => {
  const log = Array.from(
    { length: 5000 },
    (_, i) => `(${i}.000000) can0 123#${(i & 255).toString(16).padStart(2, "0")}`,
  ).join("\n");
  async function* inPieces(whole: Uint8Array, size: number) {
    for (let at = 0; at < whole.length; at += size) yield whole.subarray(at, at + size);
  }

  it("is read as it is", async () => {
    const { frames, badLines, notes } = await readLog(inPieces(gzipSync(log), 500));
    expect([frames.count, badLines, notes]).toEqual([5000, 0, []]);
  });

  it("says that it breaks off, and keeps what stands before", async () => {
    const whole = gzipSync(log);
    const { frames, notes } = await readLog(inPieces(whole.subarray(0, whole.length - 2000), 500));
    expect(frames.count).toBeGreaterThan(1000);
    expect(frames.count).toBeLessThan(5000);
    expect(notes).toEqual([expect.stringMatching(/breaks off after line [\d,]+; what stands before is used/)]);
  });

  it("passes on what goes wrong on the way, as what it is", async () => {
    async function* broken() {
      yield gzipSync(log).subarray(0, 3000);
      throw new Error("the connection broke");
    }
    await expect(readLog(broken())).rejects.toThrow("the connection broke");
  });
});

describe("candump", () => {
  const read = (...list: string[]) => readAs(candump, bytes(list.join("\n")));
  const one = (line: string) => lines(read(line).frames, 0)[0];

  it.each([
    ["(1436509052.249713) can0 1A5#2DFF00A1", "1436509052.2497 can0 1A5 0 4 2DFF00A1"],
    ["(0000000000.000000) vcan1 00000123#", "0.0000 vcan1 00000123 1 0 "],
    ["(9999999999.000001) can0 1A5#", "9999999999.0000 can0 1A5 0 0 "],
    ["(0.123456789123456789) can0 1A5#", "0.1235 can0 1A5 0 0 "],
    ["(12.5) can0 7FF#11.22.33", "12.5000 can0 7FF 0 3 112233"],
    ["(12.5) can0 7FF#11223344 R", "12.5000 can0 7FF 0 4 11223344"],
    ["(1.0) can0 123#R", "1.0000 can0 123 2 0 "],
    ["(1.0) can0 123#R5", "1.0000 can0 123 2 5 "],
    ["(1.0) can0 123##100112233445566778899AABB", "1.0000 can0 123 24 12 00112233445566778899AABB"],
    ["(1.0) can0 20000004#0001020304050607", "1.0000 can0 004 4 8 0001020304050607"],
    [" (12.5)  can0  1A5   [4]  2D FF 00 A1", "12.5000 can0 1A5 0 4 2DFF00A1"],
    [" (12.5)  can0  1A5   [2]  2D FF   '-.'", "12.5000 can0 1A5 0 2 2DFF"],
    [" (12.5)  can0  00000123   [0]  remote request", "12.5000 can0 00000123 3 0 "],
    ["  (1.500000)   vcan0   1A4#00FF", "1.5000 vcan0 1A4 0 2 00FF"],
  ])("reads %s", (line, want) => {
    expect([one(line), read(line).badLines]).toEqual([want, 0]);
  });

  it.each([
    ["hello", "shape"],
    ["(abc) can0 123#00", "time"],
    // As long as candump writes it, one character beside the digits on either side.
    ["(12345/7890.123456) can0 1A4#00", "time"],
    ["(1234567890.12345:) can0 1A4#00", "time"],
    ["(99999999999999999999999.0) can0 1A4#00", "time"],
    ["(1.0) can0 12#00", "identifier"],
    ["(1.0) can0 FFF#00", "identifier"],
    ["(1.0) can0 4FFFFFFF#00", "identifier"],
    ["(1.0) can0 123#0", "data"],
    ["(1.0) can0 123#001122334455667788", "length"],
    ["(1.0) can0 123##1001122334455667788", "length"],
    [`(1.0) can0 123#${"5A".repeat(9000)}`, "length"],
    ["(1.0) can0 123#00 trailing", "data"],
    ["(1.0) can0 123#R9x", "data"],
    ["(1.0) can0 123#11..22", "data"],
    ["(1.0) can0 123#.11", "data"],
    ["(1.0) can0 123#1.1", "data"],
    ["(1.0) can0", "shape"],
    ["(1.0) can0 123 [2] 00", "length"],
  ])("reports %s with its line and keeps the good lines", (line, code) => {
    const { frames, problems, badLines } = read("(1.0) can0 123#01", line, "(2.0) can0 123#02\r", "");
    expect(problems).toMatchObject([{ line: 2, code }]);
    expect(badLines).toBe(1);
    expect([...frames.data]).toEqual([1, 2]);
  });

  it("keeps times and buses of lines apart that begin alike", () => {
    const list = [
      "1700000000.999999) can0",
      "1700000001.000000) can00",
      "1700000001.000001) can",
      "1700001001.000001) c",
    ];
    const { frames } = read(...list.map((l) => `(${l} 123#`));
    expect([...frames.timeS]).toEqual([1700000000.999999, 1700000001, 1700000001.000001, 1700001001.000001]);
    expect([...frames.channel].map((c) => frames.channels[c])).toEqual(["can0", "can00", "can", "c"]);
  });

  it("counts empty lines as such", () => {
    const {
      frames,
      badLines,
      comments,
      lines: count,
    } = read("", "  (1.5) can0 1A4#00", "   ", "\t", "(2.0) can1 00000001#", "");
    expect([frames.count, badLines, comments, count]).toEqual([2, 0, 3, 5]);
  });

  // Source: log2asc of Debian's can-utils; both programs read the same log and must agree on every frame.
  it("agrees with log2asc, on FD frames and requests too", () => {
    const frames = build(fc.sample(frameList({ fd: true, remote: true }), { numRuns: 20, seed: 9 }).flat());
    const log = file("all.log", text(candump, frames));
    const converted = execFileSync("log2asc", ["-I", log, "can0", "can1"], { encoding: "utf8" });
    expect(logFormat(bytes(converted))?.name).toBe("ASC");
    const theirs = readAs(asc, bytes(converted));
    expect(theirs.badLines).toBe(0);
    expect(lines(theirs.frames)).toEqual(lines(frames));
  });

  // Source: tshark (Debian), which reads this form as it is.
  it("is written as tshark reads it", () => {
    const frames = build(fc.sample(frameList({ fd: true, remote: true }), { numRuns: 20, seed: 4 }).flat());
    const log = file("shark.log", text(candump, frames));
    const fields = ["can.id", "can.flags.xtd", "can.flags.rtr", "can.len", "data.data"].flatMap((f) => ["-e", f]);
    const rows = execFileSync("tshark", ["-r", log, "-T", "fields", "-E", "separator=;", ...fields], {
      encoding: "utf8",
      stdio: ["ignore", "pipe", "ignore"],
    })
      .trimEnd()
      .split("\n");
    expect(rows).toHaveLength(frames.count);
    rows.forEach((row, i) => {
      const [id = "", extended, remote, , data = ""] = row.split(";");
      const flags = frames.flags[i] ?? 0;
      // It fills up the data of a request with zeros.
      expect([Number(id), extended, flags & REMOTE ? "" : data.toUpperCase()]).toEqual([
        frames.id[i],
        flags & EXTENDED ? "1" : "0",
        hexOf(dataOf(frames, i)),
      ]);
      if (!(flags & FD)) expect(remote).toBe(flags & REMOTE ? "1" : "0");
    });
  });
});

describe("ASC", () => {
  const head = "date Mon Jan 5 08:00:00 2026\nbase hex  timestamps absolute\nno internal events logged\n";
  const read = (body: string) => readAs(asc, bytes(body));

  it("reads frames of all kinds and passes over events", () => {
    const { frames, badLines, comments } = read(
      `${head}   0.100000 1  1A4             Rx   d 2 0A FF  Length = 232000 BitCount = 119 ID = 420\n   0.150000 CAN 1 Status:chip status error active\n   0.200000 2  18DAF110x       Tx   d 0\n0.3 1 1A4 Rx r 4\n0.4 1 ErrorFrame\n0.5 CANFD 1 Rx 1A4 1 0 9 12 00 11 22 33 44 55 66 77 88 99 AA BB\n0.6 CANFD 2 Tx 18DAF110x Some_Name 0 1 2 2 00 11 0 0 5000 0 0\n0.7 CANFD 1 Rx 1A5 0 0 1 1 7F 0 0 0 0 0\n`,
    );
    expect([badLines, comments]).toEqual([0, 4]);
    expect(lines(frames, 0)).toEqual([
      "0.1000 can0 1A4 0 2 0AFF",
      "0.2000 can1 18DAF110 1 0 ",
      "0.3000 can0 1A4 2 4 ",
      "0.4000 can0 000 4 0 ",
      "0.5000 can0 1A4 24 12 00112233445566778899AABB",
      "0.6000 can1 18DAF110 41 2 0011",
      "0.7000 can0 1A5 0 1 7F",
    ]);
  });

  it.each([
    ["0.1 1  zz  Rx   d 1 00", /“zz” is no identifier: hexadecimal, up to 7FF/],
    ["0.1 1  1A4k  Rx   d 1 00", /no identifier/],
    ["0.1 1  FFF  Rx   d 1 00", /up to 7FF/],
    ["0.1 1  3FFFFFFFx  Rx   d 1 00", /up to 1FFFFFFF with an x/],
    ["0.1 0  1A4  Rx   d 1 00", /channel from 1/],
    ["0.1 CANFD 1 Rx 1A4 1 0 9 11 00 11 22 33 44 55 66 77 88 99 AA", /length code/],
    ["0.1 CANFD 1 Rx 1A4 1 0 9 12 00 11", /12 data bytes/],
    ["99999999999999999999999 1  1A4  Rx   d 1 00", /time in seconds/],
    ["something that is no line", /time in seconds/],
    ["0.1 1  1A4  Rx   d 9 00", /at most 8/],
    ["0.1 1  1A4  Rx   d 3 00 11", /3 data bytes/],
    ["0.1 1  1A4  Rx   d 1 GG", /1 data bytes/],
    ["0.1 1  1A4  Rx   d 1 001", /1 data bytes/],
  ])("reports %s with its line", (line, problem) => {
    const { frames, problems } = read(`${head}${line}\n0.2 1  1A4  Rx   d 1 00\n`);
    expect(problems).toMatchObject([{ line: 4, problem: expect.stringMatching(problem) }]);
    expect(frames.count).toBe(1);
  });

  it("follows the header: decimal numbers, and times that count from the line before", () => {
    const { frames, badLines } = read(
      "date x\nbase dec  timestamps relative\n0.5 1 420 Rx d 2 10 255\n0.25 Start of measurement\n0.25 1 421 Rx d 0\n0.1 1 1x Rx r\n0.1 1 536870911x Rx d 0\n",
    );
    expect(badLines).toBe(0);
    expect(lines(frames, 0)).toEqual([
      "0.5000 can0 1A4 0 2 0AFF",
      "1.0000 can0 1A5 0 0 ",
      "1.1000 can0 00000001 3 0 ",
      "1.2000 can0 1FFFFFFF 1 0 ",
    ]);
    // The usual way through a line counts them, too.
    const relative = read("base hex  timestamps relative\n0.5 1 1A4 Rx d 1 00\n0.25 1 1A4 Rx d 1 00\n");
    expect([...relative.frames.timeS]).toEqual([0.5, 0.75]);
  });

  // Source: python-can (Debian's python3-can), its own writer and reader of this form.
  it("agrees with python-can both ways", () => {
    // It takes an FD frame without data for a request.
    const frames = build(
      fc
        .sample(frameList({ fd: true, remote: true }), { numRuns: 20, seed: 2 })
        .flat()
        .filter((f) => !(f.flags & FD) || f.length > 0),
    );
    const ours = file("ours.asc", text(asc, frames));
    const script = `
import can, sys, json
out = []
for m in can.LogReader(sys.argv[1]):
    out.append([m.timestamp, m.channel, m.arbitration_id, m.is_extended_id, m.is_remote_frame, m.is_fd, m.bitrate_switch, m.error_state_indicator, m.dlc, bytes(m.data).hex()])
print(json.dumps(out))`;
    const theirs = JSON.parse(python(script, ours)) as [
      number,
      number,
      number,
      boolean,
      boolean,
      boolean,
      boolean,
      boolean,
      number,
      string,
    ][];
    const start = theirs[0]?.[0] ?? 0;
    const told = theirs.map(([t, channel, id, ext, rtr, fd, fast, passive, dlc, data]) => {
      const flags =
        (ext ? EXTENDED : 0) | (rtr ? REMOTE : 0) | (fd ? FD : 0) | (fast ? FAST : 0) | (passive ? PASSIVE : 0);
      return `${(t - start).toFixed(4)} can${channel} ${idText(id, ext)} ${flags} ${dlc} ${data.toUpperCase()}`;
    });
    expect(told).toEqual(lines(frames));
    const log = file("toPython.log", text(candump, frames));
    const converted = join(folder, "python.asc");
    python(
      `
import can, sys
w = can.ASCWriter(sys.argv[2])
for m in can.LogReader(sys.argv[1]):
    m.channel = int(str(m.channel)[-1]); w.on_message_received(m)
w.stop()`,
      log,
      converted,
    );
    const read = readAs(asc, readFileSync(converted));
    expect(read.badLines).toBe(0);
    expect(lines(read.frames)).toEqual(lines(readAs(candump, bytes(text(candump, frames))).frames));
  });
});

describe("slcan text", () => {
  it("takes the time behind the data and counts the rounds of its clock", () => {
    const {
      frames,
      badLines,
      comments,
      lines: count,
    } = readAs(
      slcan,
      bytes("V1013\rz\rt123200FF0010\rT1ADBEEF010AEA5F\rr12340002\rd1239000102030405060708090A0B0064\r"),
    );
    expect([badLines, comments, count]).toEqual([0, 2, 6]);
    expect(lines(frames, 0)).toEqual([
      "0.0160 can0 123 0 2 00FF",
      "59.9990 can0 1ADBEEF0 1 1 0A",
      "60.0020 can0 123 2 4 ",
      "60.1000 can0 123 8 12 000102030405060708090A0B",
    ]);
  });

  it.each([
    ["t123200FF", /no time stands behind/],
    ["t12320", /2 data bytes and four digits/],
    ["t123900", /at most 8/],
    ["t8FF0FFFF", /3 digits/],
    ["t1230FFFF", /up to EA5F/],
    ["hello world", /a frame begins with/],
  ])("refuses %s by what is wrong with it", (line, problem) => {
    expect(readAs(slcan, bytes(`${line}\r`)).problems).toMatchObject([
      { line: 1, problem: expect.stringMatching(problem) },
    ]);
  });
});

describe("CSV", () => {
  const read = (body: string) => readAs(csv, bytes(body));

  it.each([
    [
      "Time (ms);ID;DLC;D0;D1\n1500;1A4;2;0A;FF\n1600;123;1;05;\n",
      ["1.5000 can0 1A4 0 2 0AFF", "1.6000 can0 123 0 1 05"],
    ],
    [
      "timestamp,arbitration_id,extended,remote,error,dlc,data\n1.5,0x1a4,0,0,0,2,Cv8=\n1.6,0x1a4,1,1,0,4,\n",
      ["1.5000 can0 1A4 0 2 0AFF", "1.6000 can0 000001A4 3 4 "],
    ],
    ['Time,Bus,Identifier,Data\n"1,5",2,1A4,0A FF\n', ["1.5000 can2 1A4 0 2 0AFF"]],
    ["# made by hand\ntime\tid\tbyte1\tbyte2\n0.25\t1000\t200\t0\n", ["0.2500 can0 3E8 0 2 C800"]],
    ["time_us,id,data\n250000,18DAF110,0x01 0x02\n", ["0.2500 can0 18DAF110 1 2 0102"]],
  ])("finds the columns of %j and says how it took them", (body, want) => {
    const { frames, badLines, notes } = read(body);
    expect([badLines, lines(frames, 0)]).toEqual([0, want]);
    expect(notes).toEqual([expect.stringMatching(/^Columns found: /)]);
  });

  it("refuses rows by number and reason", () => {
    const { problems, frames } = read("time,id,dlc,data\nx,123,1,00\n1,zz,1,00\n1,123,2,00\n1,123,1,0\n\n1,123,1,00\n");
    expect(problems.map((p) => [p.line, p.code])).toEqual([
      [2, "time"],
      [3, "identifier"],
      [4, "length"],
      [5, "data"],
    ]);
    expect(frames.count).toBe(1);
  });

  // Source: python-can (Debian's python3-can) writes this table with data in base64.
  it("reads what python-can writes", () => {
    const frames = build(fc.sample(frameList({ remote: true }), { numRuns: 20, seed: 8 }).flat());
    const log = file("forCsv.log", text(candump, frames));
    const table = join(folder, "python.csv");
    python(
      "import can, sys\nw = can.CSVWriter(sys.argv[2])\nfor m in can.LogReader(sys.argv[1]): w.on_message_received(m)\nw.stop()",
      log,
      table,
    );
    const read = readAs(csv, readFileSync(table));
    const plain = { ...frames, channel: new Uint8Array(frames.count) };
    expect(read.badLines).toBe(0);
    expect(lines(read.frames)).toEqual(lines(plain));
  });
});

describe("captures", () => {
  const frames = build(fc.sample(frameList({ fd: true, remote: true, error: true }), { numRuns: 20, seed: 6 }).flat());

  /** Link type 227 as its description says, written by hand. */
  function capture({ nano, big, link = 227 }: { nano?: boolean; big?: boolean; link?: number } = {}): Uint8Array {
    const out: Buffer[] = [];
    const head = Buffer.alloc(24);
    const u32 = (b: Buffer, v: number, at: number) => (big ? b.writeUInt32BE(v, at) : b.writeUInt32LE(v, at));
    u32(head, nano ? 0xa1b23c4d : 0xa1b2c3d4, 0);
    // Version 2.4.
    u32(head, big ? 0x0002_0004 : 0x0004_0002, 4);
    u32(head, 262144, 16);
    u32(head, link, 20);
    out.push(head);
    for (let i = 0; i < frames.count; i++) {
      const data = dataOf(frames, i);
      const flags = frames.flags[i] ?? 0;
      const packet = Buffer.alloc(8 + data.length);
      const word =
        (frames.id[i] ?? 0) +
        (flags & EXTENDED ? 2 ** 31 : 0) +
        (flags & REMOTE ? 2 ** 30 : 0) +
        (flags & ERROR ? 2 ** 29 : 0);
      packet.writeUInt32BE(word, 0);
      packet[4] = frames.length[i] ?? 0;
      packet[5] = (flags & FD ? 4 : 0) | (flags & FAST ? 1 : 0) | (flags & PASSIVE ? 2 : 0);
      packet.set(data, 8);
      const record = Buffer.alloc(16);
      const t = frames.timeS[i] ?? 0;
      u32(record, Math.floor(t), 0);
      u32(record, Math.round((t % 1) * (nano ? 1e9 : 1e6)), 4);
      u32(record, packet.length, 8);
      u32(record, packet.length, 12);
      out.push(record, packet);
    }
    return Buffer.concat(out);
  }
  const oneBus = lines({ ...frames, channel: new Uint8Array(frames.count) });

  it("are read in both byte orders and resolutions, whole or in pieces", async () => {
    for (const kind of [{}, { nano: true }, { big: true }]) {
      const whole = capture(kind);
      expect(logFormat(whole)?.name).toBe("pcap");
      const read = parseLog(whole) as ParsedLog;
      expect([read.badLines, read.unit, lines(read.frames)]).toEqual([0, "packet", oneBus]);
      const reading = new LogReading();
      for (let at = 0; at < whole.length; at += 333) await reading.push(whole.subarray(at, at + 333));
      expect(lines((await reading.finish()).frames)).toEqual(oneBus);
    }
  });

  // Source: tshark and its editcap-like writer (Debian); what it writes in the newer form is read, and it reads ours.
  it("are the ones that tshark knows, and its newer form is read too", () => {
    const path = file("ours.pcap", capture());
    const newer = join(folder, "theirs.pcapng");
    execFileSync("tshark", ["-r", path, "-w", newer, "-F", "pcapng"], { stdio: "ignore" });
    const read = parseLog(readFileSync(newer)) as ParsedLog;
    expect([read.format, read.badLines]).toEqual(["pcapng", 0]);
    expect(lines(read.frames)).toEqual(oneBus);
    const whole = readFileSync(newer);
    const cut = parseLog(whole.subarray(0, (whole.length >> 1) | 1)) as ParsedLog;
    expect(cut.frames.count).toBeGreaterThan(10);
    expect(cut.problems).toMatchObject([{ line: cut.frames.count + 1, problem: expect.stringMatching(/ends inside/) }]);
  });

  it("of something else are counted, not read", () => {
    const read = readAs(pcap, capture({ link: 1 }));
    expect([read.frames.count, read.comments]).toEqual([0, frames.count]);
    expect(read.notes).toEqual([expect.stringMatching(/link type 1;/)]);
  });

  it("that break off say where", () => {
    const whole = capture();
    const read = readAs(pcap, whole.subarray(0, whole.length - 5));
    expect([read.frames.count, read.badLines]).toEqual([frames.count - 1, 1]);
    expect(read.problems[0]).toMatchObject({ line: frames.count, problem: expect.stringMatching(/ends inside/) });
  });
});
