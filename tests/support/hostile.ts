/** Readers of files from outside, with good samples, and ways to spoil them. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { zipSync } from "fflate";
import { parseDbc } from "../../core/bus/dbc";
import { dataOf, ERROR, EXTENDED, FD_LENGTHS } from "../../core/bus/frames";
import { parseLog } from "../../core/bus/log";
import { readScope, ScopeProblem } from "../../core/bus/scope";
import { readMapText } from "../../core/coding/map-text";
import { readWordsText } from "../../core/coding/words-text";
import { readFaultCodes } from "../../core/intake/fault-codes";
import { readContacts } from "../../core/library/contacts-table";
import { readLeafletText } from "../../core/library/leaflet-text";
import { CoreError } from "../../core/model/errors";
import { readBundle, zipProfiles } from "../../profiles/bundle";
import { shippedLibrary } from "../../profiles/library";
import { readJobFile, readProfile } from "../../profiles/read";
import { seededRandom } from "../../sim/random";

const encode = (text: string) => new TextEncoder().encode(text);
const decode = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const fixture = (name: string) => readFileSync(join(import.meta.dirname, "..", "fixtures", "2026-11", name));

export interface HostileReader {
  name: string;
  sample: Uint8Array;
  /** Returns what was read, for a look at its numbers. */
  read(bytes: Uint8Array): unknown;
  /** What else must hold of what was read; says what does not. */
  sound?(bytes: Uint8Array, read: unknown): string | null;
}

const frames = Array.from({ length: 40 }, (_, i) => ({
  t: i * 0.01,
  id: (0x100 + i * 7).toString(16).toUpperCase(),
  d: (i * 5).toString(16).padStart(2, "0"),
}));
const LOGS: Record<string, string | Uint8Array> = {
  "candump text": frames.map((f) => `(${f.t.toFixed(6)}) can0 ${f.id}#${f.d}FF`).join("\n"),
  "ASC text": `date Mon Nov 2 10:00:00.000 am 2026\nbase hex timestamps absolute\n${frames.map((f) => `   ${f.t.toFixed(6)} 1  ${f.id}             Rx   d 2 ${f.d} FF`).join("\n")}\n`,
  "CSV log": `time,id,channel,data\n${frames.map((f) => `${f.t},${f.id},can0,${f.d} FF`).join("\n")}\n`,
  "slcan text": frames.map((f) => `t${f.id}2${f.d}FF`).join("\r"),
  "capture (pcap)": pcapOf(),
};

/** Packets of the SocketCAN link type in a capture, as its published format has them. */
function pcapOf(): Uint8Array {
  const head = Buffer.alloc(24);
  head.writeUInt32LE(0xa1b2c3d4, 0);
  head.writeUInt16LE(2, 4);
  head.writeUInt16LE(4, 6);
  head.writeUInt32LE(65535, 16);
  head.writeUInt32LE(227, 20);
  const packets = frames.map((f, i) => {
    const p = Buffer.alloc(16 + 16);
    p.writeUInt32LE(i, 0);
    p.writeUInt32LE(16, 8);
    p.writeUInt32LE(16, 12);
    p.writeUInt32BE(Number.parseInt(f.id, 16), 16);
    p.writeUInt8(2, 20);
    return p;
  });
  return Buffer.concat([head, ...packets]);
}

/** Every line is accounted for, and every frame is one that can be on a bus. */
function soundLog(_: Uint8Array, read: unknown): string | null {
  const log = read as ReturnType<typeof parseLog>;
  if (!log) return null;
  const { frames, badLines, comments, lines } = log;
  if (log.unit === "line" && frames.count + badLines + comments !== lines && log.format !== "slcan text")
    return `${frames.count} frames, ${badLines} bad and ${comments} comments of ${lines} lines`;
  for (let i = 0; i < frames.count; i++) {
    const id = frames.id[i] as number;
    // The identifier of an error frame holds the classes of the error.
    const most = (frames.flags[i] as number) & (EXTENDED | ERROR) ? 0x1fffffff : 0x7ff;
    if (id < 0 || id > most) return `identifier ${id}`;
    if (!Number.isFinite(frames.timeS[i])) return `time ${frames.timeS[i]}`;
    if (!(FD_LENGTHS as readonly number[]).includes(frames.length[i] as number)) return `length ${frames.length[i]}`;
    if (dataOf(frames, i).length > 64) return "more bytes than a frame has";
  }
  return null;
}

const DBC = `VERSION ""\nNS_ :\nBS_:\nBU_: A B\nBO_ 256 Keys: 8 A\n SG_ Volume : 0|8@1+ (1,0) [0|255] "" B\n SG_ Mode M : 8|4@1+ (0.5,-3) [0|7] "s" B\n SG_ Sub m1 : 16|16@0- (1,0) [0|0] "" B\nBO_ 2566844926 Wide: 64 A\n SG_ Far : 448|64@1+ (1e-3,0) [0|0] "m" A\nCM_ SG_ 256 Volume "how loud";\nVAL_ 256 Mode 0 "off" 1 "on";\nSIG_VALTYPE_ 256 Sub : 1;\nSG_MUL_VAL_ 256 Sub Mode 1-1, 3-4;\n`;
const SCOPE = `time (us),V\n${Array.from({ length: 800 }, (_, i) => `${i * 0.5},${((i * 7919) >> 4) % 3 ? 2.5 : 3.5}`).join("\n")}`;
const MAP =
  "Radio, 773, 7DD\nWord 0600 Sound, 8 bytes\nByte 3 bit 5: Tweeters watched, 0 no, 1 yes\nByte 4: Level, 8 bits\n";
const LEAFLET =
  "In the box: module, harness; leaflet\nPlug: 12 pin\nRed: battery 12 V\nSwitch 1 on: rear camera\nHold MODE for 3 seconds\nPrice: € 249,00\n";
const CODES = "Radio\nB1234 open circuit\nU0100\n\nGateway\nU0140-87 lost\n";
const CONTACTS = "number;kind;direction;function;wire\n12;battery;in;steady feed;red\n13;ground;in;ground;brown\n";

/** Readers of everything that comes from outside. */
export function hostileReaders(): HostileReader[] {
  const [profile] = shippedLibrary().filter((p) => p.document === "kit");
  const text = (name: string, sample: string, read: (t: string) => unknown): HostileReader => ({
    name,
    sample: encode(sample),
    read: (bytes) => read(decode(bytes)),
  });
  return [
    ...Object.entries(LOGS).map(
      ([name, sample]): HostileReader => ({
        name,
        sample: typeof sample === "string" ? encode(sample) : sample,
        read: (bytes) => parseLog(bytes),
        sound: soundLog,
      }),
    ),
    text("signals (DBC)", DBC, parseDbc),
    text("scope table", SCOPE, readScope),
    text("contacts table", CONTACTS, readContacts),
    text("coding map", MAP, readMapText),
    text(
      "coding map as a table",
      "unit,request,answer,word,identifier,length,field,byte,bit,width\nRadio,773,7DD,Sound,0600,8,Tweeters,3,5,1\n,,,,,,Level,4,0,8\n",
      readMapText,
    ),
    text("coded words", "radio.sound: 00 11 22\n  33 44\n0601 55\n", (t) =>
      readWordsText([{ ref: "radio.sound", unit: "Radio", title: "Sound", identifier: 0x600, length: 8 } as never], t),
    ),
    text("fault codes", CODES, readFaultCodes),
    text("leaflet text", LEAFLET, (t) =>
      readLeafletText(t, new Set(["plug", "formats", "wires", "switches", "hold", "price", "box"])),
    ),
    text("profile", JSON.stringify(profile), readProfile),
    { name: "exported job", sample: fixture("job-plug.json"), read: (bytes) => readJobFile(decode(bytes)) },
    { name: "bundle (zip)", sample: zipProfiles(profile ? [profile] : []), read: readBundle },
    { name: "bundle of anything", sample: zipSync({ "a.json": encode("{}") }), read: readBundle },
  ];
}

const TOKENS = [
  "NaN",
  "1e999",
  "-1",
  "Infinity",
  '"',
  "\\",
  "\0",
  "99999999999999999999",
  "0x",
  "{",
  "[",
  ",",
  ";",
  "\n",
  "\r",
  "é",
  "�",
  "-0",
  "1.2.3",
  "FFFFFFFFFF",
  "null",
  "__proto__",
  "'",
  "=1+1",
  "\t\t",
];

/** One spoilt copy of a sample, by its number. */
export function spoilt(sample: Uint8Array, number: number): Uint8Array {
  const random = seededRandom(number * 7919 + sample.length);
  const at = (length: number) => Math.floor(random() * (length + 1));
  let bytes = sample;
  const times = 1 + Math.floor(random() * 4);
  for (let n = 0; n < times; n++) {
    const [from, to] = [at(bytes.length), at(bytes.length)].sort((a, b) => a - b) as [number, number];
    const token = encode(TOKENS[Math.floor(random() * TOKENS.length)] as string);
    const kind = Math.floor(random() * 8);
    if (kind === 0) bytes = bytes.slice(0, to);
    else if (kind === 1) bytes = joined(bytes.subarray(0, from), bytes.subarray(Math.min(to, from + 200)));
    else if (kind === 2)
      bytes = joined(bytes.subarray(0, to), bytes.subarray(from, Math.min(to, from + 2000)), bytes.subarray(to));
    else if (kind === 3) {
      bytes = Uint8Array.from(bytes);
      for (let i = 0; i < 4; i++) bytes[at(bytes.length - 1)] = Math.floor(random() * 256);
    } else if (kind === 4)
      bytes = joined(
        bytes.subarray(0, from),
        ...Array(1 + Math.floor(random() * 300)).fill(token),
        bytes.subarray(from),
      );
    else
      bytes = joined(
        bytes.subarray(0, from),
        token,
        bytes.subarray(kind === 5 ? from : Math.min(bytes.length, from + token.length)),
      );
  }
  return bytes.length > 400_000 ? bytes.slice(0, 400_000) : bytes;
}

function joined(...parts: readonly Uint8Array[]): Uint8Array {
  return Uint8Array.from(Buffer.concat(parts));
}

export type Verdict = { kind: "read" | "refused" } | { kind: "bad"; what: string };

/** Reads bytes: read, refused in words, or what is wrong with the reader. */
export function tried({ read, sound }: HostileReader, bytes: Uint8Array): Verdict {
  let value: unknown;
  try {
    value = read(bytes);
  } catch (error) {
    if (error instanceof CoreError || error instanceof ScopeProblem) return { kind: "refused" };
    return { kind: "bad", what: `${(error as Error).name}: ${(error as Error).message.slice(0, 100)}` };
  }
  const odd = oddNumber(value) ?? sound?.(bytes, value) ?? null;
  return odd ? { kind: "bad", what: odd } : { kind: "read" };
}

/** A number that is none, anywhere in what was read. */
function oddNumber(value: unknown, path = "", depth = 0): string | null {
  if (typeof value === "number") return Number.isFinite(value) ? null : `${path}: ${value}`;
  if (typeof value !== "object" || value === null || depth > 40) return null;
  if (value instanceof Float64Array || value instanceof Float32Array) {
    for (const n of value) if (!Number.isFinite(n)) return `${path}: ${n}`;
    return null;
  }
  if (ArrayBuffer.isView(value)) return null;
  const entries = value instanceof Map ? [...value] : Object.entries(value);
  for (const [key, v] of entries) {
    const odd = oddNumber(v, `${path}.${String(key)}`, depth + 1);
    if (odd) return odd;
  }
  return null;
}

/** Texts that are long or deep on purpose, for every reader of text. */
export function longOnes(): [name: string, text: string][] {
  const rows = (n: number, row: (i: number) => string) => Array.from({ length: n }, (_, i) => row(i)).join("\n");
  return [
    ["JSON nested 10,000 deep", `${"[".repeat(10_000)}1${"]".repeat(10_000)}`],
    ["JSON objects 10,000 deep", `${'{"a":'.repeat(10_000)}1${"}".repeat(10_000)}`],
    ["20,000 rows of contacts", `number;kind;direction\n${rows(20_000, (i) => `c${i};battery;in`)}`],
    ["20,000 equal rows", rows(20_000, () => "12;battery;in;steady feed;red")],
    [
      "20,000 lines of signals and a missing quotation mark",
      `BO_ 1 A: 8 B\nCM_ BO_ 1 "never closed\n${rows(20_000, (i) => ` SG_ S${i} : 0|8@1+ (1,0) [0|1] "x" B`)}`,
    ],
    ["20,000 messages", rows(20_000, (i) => `BO_ ${i % 2000} M${i}: 8 B\n SG_ S : 0|8@1+ (1,0) [0|1] "" B`)],
    ["20,000 quotation marks", '"'.repeat(20_000)],
    [
      "20,000 fields of a coding map",
      `Radio, 773, 7DD\nWord 0600 Sound, 8 bytes\n${rows(20_000, () => "Byte 3 bit 5: Same name, 0 no, 1 yes")}`,
    ],
    [
      "20,000 words of a coding map",
      `Radio, 773, 7DD\n${rows(20_000, (i) => `Word ${(i % 65536).toString(16).padStart(4, "0")} Same name, 8 bytes`)}`,
    ],
    [
      "20,000 rows of a map table",
      `unit,request,answer,word,identifier,length,field,byte,bit,width\n${rows(20_000, (i) => `Radio ${i},773,7DD,Sound,0600,8,Tweeters,3,5,1`)}`,
    ],
    ["20,000 fault codes", rows(20_000, (i) => `B${(i % 4096).toString(16).padStart(4, "0").toUpperCase()} text`)],
    ["20,000 columns", `time,id,data${",x".repeat(20_000)}\n0,1,00`],
    ["200,000 blanks", " ".repeat(200_000)],
    ["100,000 brackets", "(".repeat(100_000)],
    ["100,000 digits", "9".repeat(100_000)],
    ["100,000 lines of nothing", "\n".repeat(100_000)],
    ["100,000 letters in one line", `(0.0) can0 123#${"A".repeat(100_000)}`],
    ["20,000 prices", rows(20_000, (i) => `Price: € ${i}`)],
  ];
}
