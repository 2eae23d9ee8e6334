import { execFileSync } from "node:child_process";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededRandom } from "../../sim/random";
import { rowsById } from "./by-id";
import { compareLogs } from "./compare";
import { candump } from "./formats/candump";
import { readAs } from "./formats/format";
import { EXTENDED, FAST, FD, FrameBuilder, type Frames, REMOTE } from "./frames";
import { idKey, idText } from "./identifier";
import { protections } from "./protection";
import { busLoads, clockJumps, errorBursts, oddities, statistics } from "./statistics";
import { frameBits, worstFrameBits } from "./wire";

const read = (...lines: string[]) => readAs(candump, new TextEncoder().encode(lines.join("\n"))).frames;

describe("statistics", () => {
  it("counts, and gives the median gap and its largest deviation", () => {
    const log = [0, 10, 20, 35, 40].map((ms, i) => `(${(ms / 1000).toFixed(6)}) can0 100#0${i}`).join("\n");
    const [one] = statistics(read(log));
    expect(one).toMatchObject({ id: 0x100, count: 5 });
    expect(one?.cycleMs).toBeCloseTo(10, 6);
    expect(one?.jitterMs).toBeCloseTo(5, 6);
    expect([...(one?.flips.slice(0, 4) ?? [])]).toEqual([4, 2, 1, 0]);
  });

  it("keeps an 11-bit and a 29-bit identifier of the same value apart", () => {
    const log = "(1.0) can0 100#01\n(1.1) can0 00000100#02";
    expect(statistics(read(log)).map((s) => [s.id, s.extended, s.count])).toEqual([
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
    const frames = read(...lines);
    const stats = statistics(frames);
    expect(stats.map((s) => [s.channel, s.id, s.count, Math.round(s.cycleMs)])).toEqual([
      ["can0", 0x100, 100, 10],
      ["can1", 0x100, 25, 40],
    ]);
    const loads = busLoads(frames, 500_000);
    expect(loads.map((l) => l.channel)).toEqual(["can0", "can1"]);
    expect(loads[0]?.worst).toBeCloseTo((100 * 65) / 500_000 / 0.99, 5);
    expect(loads[1]?.worst).toBeCloseTo((25 * 135) / 500_000 / 0.99, 5);
  });

  // Source: Davis, Burns, Bril, Lukkien, Real-Time Systems 35 (2007).
  it("bounds a frame of eight bytes by 135 and 160 bits", () => {
    expect(worstFrameBits(8, false)).toBe(135);
    expect(worstFrameBits(8, true)).toBe(160);
  });

  it("sums its counts to the frames of the log and keeps identifiers in order", () => {
    const line = fc.record({ id: fc.integer({ min: 0, max: 40 }), ext: fc.boolean() });
    fc.assert(
      fc.property(fc.array(line, { maxLength: 200 }), (lines) => {
        const text = lines.map((l, i) => `(${i}.000000) can0 ${idText(l.id, l.ext)}#00`).join("\n");
        const frames = read(text);
        const stats = statistics(frames);
        expect(stats.reduce((n, s) => n + s.count, 0)).toBe(lines.length);
        const keys = stats.map((s) => idKey(s.id, s.extended));
        expect(keys).toEqual([...keys].sort((a, b) => a - b));
        for (const s of stats) expect(s.count > 1 ? s.jitterMs >= 0 : Number.isNaN(s.cycleMs)).toBe(true);
      }),
    );
  });

  it("gives no load for a log without duration and at most one for a full bus", () => {
    const frames = read("(1.0) can0 001#0011223344556677");
    expect(busLoads(frames, 500_000)).toMatchObject([{ channel: "can0", load: 0, worst: 0 }]);
    // 135 bits every 270 µs at 500 kbit/s: each frame needs exactly 270 µs, so the bus is full.
    const full = Array.from({ length: 101 }, (_, i) => `(${(i * 0.00027).toFixed(6)}) can0 001#0011223344556677`).join(
      "\n",
    );
    const [load] = busLoads(read(full), 500_000);
    expect(load?.worst).toBeCloseTo(1.01, 2);
  });
});

/** A log of one message: what stands in its bytes by the number of the frame. */
function message(count: number, bytes: (i: number) => number[], everyS = 0.01): Frames {
  const builder = new FrameBuilder();
  for (let i = 0; i < count; i++) {
    const data = bytes(i);
    builder.add({ timeS: i * everyS, id: 0x123, flags: 0, channel: 0, length: data.length, data });
  }
  return builder.finish(["can0"]);
}

describe("oddities", () => {
  const of = (...lines: string[]) => {
    const frames = read(...lines.sort());
    const span = { startS: frames.timeS[0] ?? 0, endS: frames.timeS[frames.count - 1] ?? 0 };
    return statistics(frames).flatMap((s) => oddities(s, span).map((o) => [idText(s.id, s.extended), o.kind]));
  };
  const every = (ms: number, from: number, to: number, id: string) =>
    Array.from(
      { length: Math.round((to - from) / ms) },
      (_, i) => `(${((from + i * ms) / 1000).toFixed(6)}) can0 ${id}#00`,
    );

  it("are silence before the end, a late beginning, too many frames, late frames, changing lengths", () => {
    expect(of(...every(10, 0, 5000, "100"))).toEqual([]);
    expect(of(...every(10, 0, 5000, "100"), ...every(10, 0, 2000, "200"))).toContainEqual(["200", "stopped"]);
    expect(of(...every(10, 0, 5000, "100"), ...every(10, 3000, 5000, "200"))).toContainEqual(["200", "began"]);
    expect(of(...every(1, 0, 2000, "100"))).toEqual([["100", "babbling"]]);
    expect(of(...every(10, 0, 2000, "100").filter((_, i) => i % 50 !== 7))).toEqual([["100", "late"]]);
    expect(of(...every(10, 0, 500, "100"), "(0.5) can0 100#0102")).toEqual([["100", "lengths"]]);
  });

  it("finds error bursts and jumps of the clock", () => {
    const frames = read(
      "(1.0) can0 20000008#0000000000000000",
      "(1.2) can0 20000008#0000000000000000",
      "(1.5) can0 123#00",
      "(9.0) can0 20000008#0000000000000000",
      "(4.0) can0 123#00",
      "(200.0) can0 123#00",
    );
    expect(errorBursts(frames).map((b) => [b.fromS, b.toS, b.count])).toEqual([
      [1, 1.2, 2],
      [9, 9, 1],
    ]);
    expect(clockJumps(frames)).toEqual([
      { row: 4, byS: -5 },
      { row: 5, byS: 196 },
    ]);
    expect(busLoads(frames, 500_000)[0]).toMatchObject({ errors: 3, requests: 0 });
  });
});

describe("length on the wire", () => {
  // Source: CAN's bit stuffing and CRC-15 computed bit by bit with Debian's python3-crccheck, which agrees with the
  // exact frame lengths of can-utils.
  it("equals a bit-exact reference on random frames, requests too", () => {
    const random = seededRandom(3);
    const builder = new FrameBuilder();
    const list = Array.from({ length: 1500 }, () => {
      const extended = random() < 0.4;
      const remote = random() < 0.1;
      const length = Math.floor(random() * 9);
      // Long runs of equal bits make stuff bits.
      const fill = [0, 255, -1][Math.floor(random() * 3)] as number;
      const data = Array.from({ length: remote ? 0 : length }, () =>
        fill < 0 || random() < 0.2 ? Math.floor(random() * 256) : fill,
      );
      const id = Math.floor(random() * (extended ? 0x20000000 : 0x800));
      builder.add({ timeS: 0, id, flags: (extended ? EXTENDED : 0) | (remote ? REMOTE : 0), channel: 0, length, data });
      return { id, ext: extended, rtr: remote ? 1 : 0, dlc: length, data };
    });
    const frames = builder.finish(["can0"]);
    const script = `
import sys, json
from crccheck.crc import Crc15Can
def bits(id, ext, data, rtr, dlc):
    b = "0" + (f"{id >> 18:011b}11{id & 0x3ffff:018b}{rtr}00" if ext else f"{id:011b}{rtr}00") + f"{dlc:04b}" + "".join(f"{x:08b}" for x in data)
    p = b.rjust(-(-len(b) // 8) * 8, "0"); b += f"{Crc15Can.calc(bytes(int(p[i:i+8], 2) for i in range(0, len(p), 8))):015b}"
    n = run = 0; last = ""
    for c in b:
        run = run + 1 if c == last else 1; last = c; n += 1
        if run == 5: last = "10"[int(c)]; run = 1; n += 1
    return n + 13
print(json.dumps([bits(**f) for f in json.load(sys.stdin)]))`;
    const theirs = JSON.parse(
      execFileSync("/usr/bin/python3", ["-c", script], { input: JSON.stringify(list), encoding: "utf8" }),
    ) as number[];
    expect(list.map((_, i) => frameBits(frames, i).bits)).toEqual(theirs);
    list.forEach((f, i) => {
      expect(theirs[i]).toBeLessThanOrEqual(worstFrameBits(f.rtr ? 0 : f.dlc, f.ext));
    });
  });

  it("counts the part of an FD frame that goes over the wire faster on its own", () => {
    const builder = new FrameBuilder();
    const data = Array.from({ length: 64 }, () => 0x55);
    for (const flags of [FD, FD | FAST]) builder.add({ timeS: 0, id: 0x555, flags, channel: 0, length: 64, data });
    const frames = builder.finish(["can0"]);
    // 17 bits up to the rate switch with one stuff bit at most, 5 bits, 512 data bits, 25 + 7 of the checksum, 13 at the end.
    const slow = frameBits(frames, 0);
    const fast = frameBits(frames, 1);
    expect(slow.fastBits).toBe(0);
    expect(fast.bits + fast.fastBits).toBeCloseTo(slow.bits, -1);
    expect(fast.fastBits).toBeGreaterThanOrEqual(5 + 512 + 32);
    expect(fast.bits).toBeLessThan(40);
  });

  it("gives the load of a bus by what its frames need, the worst case beside it", () => {
    const [bus] = busLoads(
      message(1001, () => [0x55, 0x55, 0x55, 0x55, 0x55, 0x55, 0x55, 0x55], 0.001),
      500_000,
    );
    expect(bus?.load).toBeLessThan(bus?.worst ?? 0);
    expect(bus?.worst).toBeCloseTo((1001 * 135) / 500_000 / 1, 3);
    expect(bus?.peak).toBeCloseTo(bus?.load ?? 0, 2);
  });
});

describe("counters and checksums", () => {
  const noises = [1, 2].map((seed) => {
    const random = seededRandom(seed);
    return Array.from({ length: 2000 }, () => Math.floor(random() * 256));
  });
  const noise = (i: number, k: 1 | 2) => noises[k - 1]?.[i] ?? 0;

  it("sees a counter, its direction and what it missed", () => {
    const up = message(200, (i) => [noise(i >> 3, 1), (i % 16) | 0x30]);
    expect(protections(up, rowsById(up)[0] as never)).toEqual([
      { kind: "counter", startBit: 8, length: 4, top: 15, step: 1, missed: 0 },
    ]);
    const down = message(600, (i) => [255 - (i % 256)]);
    expect(protections(down, rowsById(down)[0] as never)).toEqual([
      { kind: "counter", startBit: 0, length: 8, top: 255, step: -1, missed: 0 },
    ]);
    const lossy = message(200, (i) => [(i + (i > 100 ? 2 : 0)) % 16]);
    expect(protections(lossy, rowsById(lossy)[0] as never)).toMatchObject([{ length: 4, missed: 2 }]);
    const short = message(200, (i) => [0x70 | (i % 15)]);
    expect(protections(short, rowsById(short)[0] as never)).toMatchObject([{ length: 4, top: 14, missed: 0 }]);
  });

  it("does not take a slow ramp, a toggle or a constant for one", () => {
    for (const bytes of [
      (i: number) => [i >> 2],
      (i: number) => [i & 1],
      () => [7],
      (i: number) => [Math.floor(128 + 100 * Math.sin(i / 40))],
      (i: number) => [noise(i, 1)],
    ]) {
      const frames = message(400, bytes);
      expect(protections(frames, rowsById(frames)[0] as never)).toEqual([]);
    }
  });

  // Source: crccheck (Debian's python3-crccheck); start value, inversion and reflection as the CRC catalogue has them.
  it.each([
    ["Crc8SaeJ1850", /SAE J1850/],
    ["Crc8Autosar", /AUTOSAR/],
    ["Crc8Maxim", /31, least significant bit first/],
    ["Crc8Smbus", /CRC-8 07$/],
    ["Crc8Rohc", /07, least/],
  ])("recognises %s over counter and data, with hidden bytes in front", (name, rule) => {
    const contents = Array.from({ length: 300 }, (_, i) => [i % 16, noise(i, 1), noise(i, 2), 0x40]);
    const script = `
import sys, json
from crccheck.crc import ${name} as C
print(json.dumps([C.calc(bytes([0x5A] + d)) for d in json.load(sys.stdin)]))`;
    const sums = JSON.parse(
      execFileSync("/usr/bin/python3", ["-c", script], { input: JSON.stringify(contents), encoding: "utf8" }),
    ) as number[];
    const frames = message(300, (i) => [sums[i] as number, ...(contents[i] as number[])]);
    expect(protections(frames, rowsById(frames)[0] as never)).toEqual([
      { kind: "counter", startBit: 8, length: 4, top: 15, step: 1, missed: 0 },
      { kind: "checksum", byte: 0, rule: expect.stringMatching(rule) },
    ]);
  });

  it("recognises sums and exclusive or with an offset, and hidden bytes that go with the counter", () => {
    const rules: [(d: number[], i: number) => number, RegExp][] = [
      [(d) => (d.reduce((a, b) => a + b, 0) + 0x23) & 255, /^sum/],
      [(d) => -d.reduce((a, b) => a + b, 9) & 255, /^negative sum/],
      [(d) => d.reduce((a, b) => a ^ b, 0x99), /^exclusive or/],
      [(d, i) => d.reduce((a, b) => a ^ b, Math.imul(i % 16, 73) & 255), /^exclusive or/],
    ];
    for (const [rule, name] of rules) {
      const frames = message(600, (i) => {
        const data = [noise(i, 1), noise(i, 2), i % 16];
        return [...data, rule(data, i)];
      });
      expect(protections(frames, rowsById(frames)[0] as never)).toContainEqual({
        kind: "checksum",
        byte: 3,
        rule: expect.stringMatching(name),
      });
    }
  });

  it("calls no noise a checksum", () => {
    const random = seededRandom(11);
    const frames = message(2000, () => Array.from({ length: 8 }, () => Math.floor(random() * 256)));
    expect(protections(frames, rowsById(frames)[0] as never)).toEqual([]);
  });
});

describe("two logs of one car", () => {
  const before = read(
    ...Array.from(
      { length: 50 },
      (_, i) => `(${(i * 0.1).toFixed(6)}) can0 100#${(i % 2).toString().padStart(2, "0")}10`,
    ),
    ...Array.from({ length: 50 }, (_, i) => `(${(i * 0.1).toFixed(6)}) can0 200#00`),
    ...Array.from({ length: 5 }, (_, i) => `(${i}.0) can0 300#00`),
  );
  const after = read(
    ...Array.from({ length: 50 }, (_, i) => `(${(i * 0.1).toFixed(6)}) vcan0 100#00${i % 2 ? "20" : "22"}`),
    ...Array.from({ length: 250 }, (_, i) => `(${(i * 0.02).toFixed(6)}) vcan0 200#00`),
    "(1.0) vcan0 400#00",
  );

  it("differ in what is new, missing, faster, and in bits; the name of a single bus does not matter", () => {
    const found = compareLogs(before, after).map((c) => [idText(c.id, c.extended), c.differences]);
    expect(found).toEqual([
      ["100", [{ kind: "bits", livelier: [9], quieter: [0], turned: [12, 13] }]],
      ["200", [{ kind: "rate", beforeMs: expect.closeTo(100, 3), afterMs: expect.closeTo(20, 3) }]],
      ["300", [{ kind: "missing" }]],
      ["400", [{ kind: "new" }]],
    ]);
    expect(compareLogs(before, before).every((c) => c.differences.length === 0)).toBe(true);
  });
});
