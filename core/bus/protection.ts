/** Counters and checksums in messages: what changes with every frame and says nothing about the car. */
import type { IdRows } from "./by-id";
import { dataOf, type Frames } from "./frames";

export interface Counter {
  kind: "counter";
  /** In DBC numbering, little-endian. */
  startBit: number;
  length: number;
  /** It goes from 0 to this and begins again. */
  top: number;
  /** Up or down. */
  step: 1 | -1;
  /** Frames that are missing by the counter: it went on by more than one step. */
  missed: number;
}

export interface Checksum {
  kind: "checksum";
  byte: number;
  /** How it is computed from the other bytes of the frame. */
  rule: string;
}

export type Protection = Counter | Checksum;

/** Fewer frames show nothing. */
const ENOUGH_FRAMES = 16;
/** Frames that are looked at; counter and checksum are in all of them. */
const SAMPLE = 1500;
/** Share of the steps of a counter that must be whole steps; the rest are lost frames. */
const REGULAR = 0.9;
/** Different contents on which a checksum is tried; a wrong rule of eight bits passes one of them by chance in 1/256. */
const CONTENTS = 64;

/** Counters and checksums of one message. */
export function protections(frames: Frames, { rows }: Pick<IdRows, "rows">): Protection[] {
  if (rows.length < ENOUGH_FRAMES) return [];
  const sample = rows.length > SAMPLE ? rows.subarray(0, SAMPLE) : rows;
  const counters = countersOf(frames, sample);
  const checksums = checksumsOf(frames, sample, counters);
  // A checksum over a counter counts a little itself.
  return [...counters.filter((c) => !checksums.some((k) => k.byte === c.startBit >> 3)), ...checksums];
}

function countersOf(frames: Frames, rows: Uint32Array): Counter[] {
  const bytes = dataOf(frames, rows[0] as number).length;
  const found: Counter[] = [];
  for (let startBit = 0; startBit < 8 * bytes; startBit++) {
    // The lowest bit of a counter changes with every frame.
    if (changes(frames, rows, startBit) < REGULAR * (rows.length - 1)) continue;
    for (let width = 8 - (startBit & 7); width >= 2; width--) {
      const counter = counterAt(frames, rows, startBit, width);
      if (!counter) continue;
      found.push(counter);
      startBit += counter.length - 1;
      break;
    }
  }
  return found;
}

/** How often a bit changes from one frame to the next. */
function changes(frames: Frames, rows: Uint32Array, bit: number): number {
  let n = 0;
  let before = -1;
  for (const row of rows) {
    const now = ((frames.data[(frames.at[row] as number) + (bit >> 3)] as number) >> (bit & 7)) & 1;
    if (before >= 0 && now !== before) n++;
    before = now;
  }
  return n;
}

function counterAt(frames: Frames, rows: Uint32Array, startBit: number, width: number): Counter | null {
  const at = startBit >> 3;
  const shift = startBit & 7;
  const mask = 2 ** width - 1;
  const values = new Uint8Array(rows.length);
  let [least, top] = [255, 0];
  for (let i = 0; i < values.length; i++) {
    const v = ((frames.data[(frames.at[rows[i] as number] as number) + at] as number) >> shift) & mask;
    values[i] = v;
    least = Math.min(least, v);
    top = Math.max(top, v);
  }
  const length = 32 - Math.clz32(top);
  // It goes through all its values and comes round; less than four is a toggle.
  if (top < 3 || least !== 0 || values.length < 2 * (top + 1)) return null;
  const size = top + 1;
  const steps = new Uint32Array(size);
  for (let i = 1; i < values.length; i++) {
    const step = ((values[i] as number) - (values[i - 1] as number) + size) % size;
    steps[step] = (steps[step] as number) + 1;
  }
  const step = (steps[1] as number) >= (steps[size - 1] as number) ? 1 : -1;
  if ((steps[step === 1 ? 1 : size - 1] as number) < REGULAR * (values.length - 1)) return null;
  // A step of k in its direction means that k - 1 frames are missing; standing still is a frame sent twice.
  const missed = steps.reduce(
    (sum, count, k) => sum + count * Math.max(0, (step === 1 ? k : (size - k) % size) - 1),
    0,
  );
  return { kind: "counter", startBit, length, top, step, missed };
}

/** Polynomials of 8-bit checksums. Source: CRC catalogue (reveng), names as there. */
const POLYNOMIALS: readonly (readonly [number, string])[] = [
  [0x1d, "CRC-8 1D (SAE J1850)"],
  [0x2f, "CRC-8 2F (AUTOSAR)"],
  [0x07, "CRC-8 07"],
  [0x31, "CRC-8 31"],
  [0x9b, "CRC-8 9B"],
  [0x39, "CRC-8 39"],
  [0xd5, "CRC-8 D5"],
  [0xa7, "CRC-8 A7"],
];

/** Computes what stands in the byte from the others, without its constant: start value, inversion and hidden bytes only add one. */
interface Rule {
  name: string;
  /** `xor` and `sum` are the same for each byte of the message. */
  combine: "xor" | "sum" | "crc";
  of(data: Uint8Array, byte: number): number;
}

const RULES: readonly Rule[] = [
  {
    name: "exclusive or of the other bytes",
    combine: "xor",
    of: (data, byte) => data.reduce((x, v, i) => (i === byte ? x : x ^ v), 0),
  },
  {
    name: "sum of the other bytes",
    combine: "sum",
    of: (data, byte) => data.reduce((x, v, i) => (i === byte ? x : x + v), 0) & 255,
  },
  {
    name: "negative sum of the other bytes",
    combine: "sum",
    of: (data, byte) => -data.reduce((x, v, i) => (i === byte ? x : x + v), 0) & 255,
  },
  ...POLYNOMIALS.flatMap(([polynomial, name]) =>
    [false, true].map((reflected): Rule => {
      const table = crcTable(polynomial, reflected);
      return {
        name: reflected ? `${name}, least significant bit first` : name,
        combine: "crc",
        of: (data, byte) => data.reduce((crc, v, i) => (i === byte ? crc : (table[crc ^ v] as number)), 0),
      };
    }),
  ),
];

function crcTable(polynomial: number, reflected: boolean): Uint8Array {
  const turned = [...Array(8).keys()].reduce((r, i) => r | (((polynomial >> i) & 1) << (7 - i)), 0);
  return Uint8Array.from({ length: 256 }, (_, byte) => {
    let crc = byte;
    for (let i = 0; i < 8; i++)
      crc = reflected
        ? crc & 1
          ? (crc >> 1) ^ turned
          : crc >> 1
        : crc & 0x80
          ? ((crc << 1) ^ polynomial) & 255
          : (crc << 1) & 255;
    return crc;
  });
}

function checksumsOf(frames: Frames, rows: Uint32Array, counters: readonly Counter[]): Checksum[] {
  const contents = differentContents(frames, rows);
  if (contents.length < 8) return [];
  const bytes = contents[0]?.length ?? 0;
  const found: (Checksum & { symmetric: boolean })[] = [];
  for (let byte = 0; byte < bytes; byte++) {
    if (counters.some((c) => c.startBit >> 3 === byte && c.length === 8)) continue;
    if (new Set(contents.map((d) => d[byte])).size < 4) continue;
    // With two other bytes that change, or the rule is only a copy of one of them.
    const changing = [...Array(bytes).keys()].filter((b) => b !== byte && new Set(contents.map((d) => d[b])).size > 1);
    if (changing.length < 2) continue;
    const rule = RULES.find((r) => holds(r, contents, byte, counters));
    if (rule) found.push({ kind: "checksum", byte, rule: rule.name, symmetric: rule.combine !== "crc" });
  }
  // When a byte is the sum of the others each of them is that of the rest: the checksum stands at one end, the last first.
  const ends = [bytes - 1, 0, ...found.map((f) => f.byte)];
  const [one] = ends.flatMap((end) => found.filter((f) => f.symmetric && f.byte === end));
  return found.filter((f) => !f.symmetric || f === one).map(({ symmetric, ...f }) => f);
}

/** True when the byte differs from the rule by the same everywhere, or by the same for each value of the counter. */
function holds(rule: Rule, contents: readonly Uint8Array[], byte: number, [counter]: readonly Counter[]): boolean {
  const constantOf = (data: Uint8Array) => {
    const computed = rule.of(data, byte);
    const told = data[byte] as number;
    return rule.combine === "sum" ? (told - computed + 256) & 255 : computed ^ told;
  };
  const first = constantOf(contents[0] as Uint8Array);
  if (contents.every((d) => constantOf(d) === first)) return true;
  // Hidden bytes that go with the counter: each of its values then has a constant of its own, seen several times.
  if (!counter || contents.length < 4 * 2 ** counter.length) return false;
  const byCount = new Map<number, number>();
  return contents.every((d) => {
    const count = ((d[counter.startBit >> 3] as number) >> (counter.startBit & 7)) & (2 ** counter.length - 1);
    const constant = constantOf(d);
    const known = byCount.get(count) ?? constant;
    byCount.set(count, known);
    return known === constant;
  });
}

function differentContents(frames: Frames, rows: Uint32Array): Uint8Array[] {
  const seen = new Map<string, Uint8Array>();
  const length = frames.length[rows[0] as number];
  for (const row of rows) {
    const data = dataOf(frames, row);
    if (data.length === length) seen.set(data.join(), data);
    if (seen.size >= CONTENTS * 2) break;
  }
  return [...seen.values()];
}

/** True for a bit of a counter or checksum. */
export function isProtection(list: readonly Protection[], bit: number): boolean {
  return list.some((p) =>
    p.kind === "counter" ? bit >= p.startBit && bit < p.startBit + p.length : bit >> 3 === p.byte,
  );
}
