/**
 * The control units of a stand-in car behind their gateway: they answer ISO-TP and UDS as the coding map describes them,
 * from coded words that are their own. Plain data between two frames, so any server can go on where another stopped.
 */
import { type CodedUnit, type CodedWord, type CodingMap, fieldPlaces, knownValues, wordRef } from "../core/coding/map";
import { fieldValue, withFields, wordProblem } from "../core/coding/word";
import { type IsoTpState, idleIsoTp, isoTp } from "../core/diagnostics/iso-tp";
import { type TimedFrame, unitSide } from "../core/diagnostics/transcript";
import { IDENTIFICATION, SERVICE, SESSION } from "../core/diagnostics/uds";
import { dtcBytes } from "../core/intake/fault-codes";
import { standInKey } from "./key-rule";
import { CONFIRMED, oldCodes } from "./old-codes";
import { seededRandom } from "./random";

export const UNIT_FAULTS = ["refuses", "slow", "losesSupply", "wrongLength", "rejectsChecksum"] as const;
export type UnitFault = (typeof UNIT_FAULTS)[number];

export interface StandInUnits {
  /** Supply in volt. */
  volts: number;
  /** What goes wrong when something is written or read; null when all is well. */
  fault: UnitFault | null;
  units: Record<string, StandInUnit>;
}

interface StandInUnit {
  words: Record<string, number[]>;
  session: number;
  /** Until when the session stays open without a sign of the tester (S3 of ISO 14229-2: 5 s). */
  sessionUntilMs: number;
  unlocked: boolean;
  seed: number[] | null;
  /** Codes from before, cleared with the memory: two bytes, kind, status. */
  old: number[][];
  link: IsoTpState;
  /** It lost its supply in the middle of writing; it comes back with the ignition. */
  dead: boolean;
}

/** What the stand-in takes from the job: settings as delivered, and what the units would store now. */
export interface StandInCar {
  map: CodingMap;
  /** Value of a setting (`part.setting`) as it comes out of its box. */
  delivered(setting: string): string | undefined;
  /** Allowed by the car's facts. */
  allowed(ref: string): readonly number[];
  /** Parts (`radio`) that are connected and have power. */
  alive(part: string): boolean;
  /** Codes of a part with the words as they stand. */
  codes(part: string, words: ReadonlyMap<string, readonly number[]>): string[];
  /** Codes that a part could store at all. */
  known(part: string): string[];
}

const ANSWER_MS = 18;
const WRITE_MS = 700;
const SLOW_MS = 4200;
const S3_MS = 5000;
/** Below this a unit refuses to be written. */
const LEAST_VOLTS = 11.5;
/** Status byte of a code that is stored and active now. */
const ACTIVE = 0x2f;

/** The units as they come: what the model knows as delivered, what the car says, the rest by chance of the seed. */
export function newUnits(car: StandInCar, seed: number): StandInUnits {
  const random = seededRandom(seed);
  const units = car.map.units.map((unit): [string, StandInUnit] => [
    unit.id,
    {
      words: Object.fromEntries(unit.words.map((word) => [word.id, newWord(car, unit, word, random)])),
      session: SESSION.default,
      sessionUntilMs: 0,
      unlocked: false,
      seed: null,
      old: oldCodes(seed, unit.part ?? unit.id).map((o) => [...o.bytes, CONFIRMED]),
      link: idleIsoTp(),
      dead: false,
    },
  ]);
  return { volts: 12.7, fault: null, units: Object.fromEntries(units) };
}

function newWord(car: StandInCar, unit: CodedUnit, word: CodedWord, random: () => number): number[] {
  const places = fieldPlaces({ units: [{ ...unit, words: [word] }] });
  const bytes = Array.from({ length: word.length }, () => Math.floor(random() * 256));
  const values = new Map(
    places.map(({ ref, field }) => {
      const delivered = field.setting === undefined ? undefined : car.delivered(field.setting);
      const set = field.values?.find((v) => v.setting !== undefined && v.setting === delivered)?.raw;
      const allowed = car.allowed(ref);
      const any = allowed[Math.floor(random() * allowed.length)];
      // A member of a group and a field that needs another begin at zero: then nothing contradicts anything.
      const quiet = field.group || field.needs?.length ? 0 : any;
      return [field, set ?? quiet ?? knownValues(field)[0] ?? 0];
    }),
  );
  return withFields(word, bytes, values);
}

/** The words of all units, by `unit.word`. */
export function wordsOf(car: StandInCar, state: StandInUnits): Map<string, number[]> {
  return new Map(
    car.map.units.flatMap((unit) =>
      unit.words.map((word) => [wordRef(unit, word), state.units[unit.id]?.words[word.id] ?? []] as const),
    ),
  );
}

/** Ignition off and on: sessions are over, units that lost their supply start again. */
export function restarted(state: StandInUnits): StandInUnits {
  const units = Object.entries(state.units).map(([id, u]) => [
    id,
    { ...u, session: SESSION.default, unlocked: false, seed: null, link: idleIsoTp(), dead: false },
  ]);
  return { ...state, units: Object.fromEntries(units) };
}

/** A frame of the tester on the bus, and what the units say to it, with their times. */
export function hear(
  car: StandInCar,
  state: StandInUnits,
  frame: TimedFrame,
): { state: StandInUnits; frames: TimedFrame[] } {
  const unit = car.map.units.find((u) => u.request === frame.id && Boolean(u.extended) === Boolean(frame.extended));
  const own = unit && state.units[unit.id];
  if (!unit || !own || own.dead || !isThere(car, state, unit)) return { state, frames: [] };
  const side = unitSide(unit);
  const heard = isoTp(own.link, { kind: "frame", data: frame.data }, frame.atMs, side);
  let next: StandInUnit = { ...own, link: heard.state };
  const out = heard.frames.map((data) => ({ atMs: frame.atMs + 2, data }));
  if (heard.received) {
    const said = answer(car, state, unit, next, heard.received, frame.atMs);
    next = said.unit;
    for (const { afterMs, message } of said.messages) {
      const sent = isoTp(next.link, { kind: "send", payload: message }, frame.atMs + afterMs, side);
      next = { ...next, link: sent.state };
      out.push(...sent.frames.map((data) => ({ atMs: frame.atMs + afterMs, data })));
    }
  }
  return {
    state: { ...state, units: { ...state.units, [unit.id]: next } },
    frames: out.map((f) => ({ ...f, id: unit.answer, extended: Boolean(unit.extended) })),
  };
}

/** The gateway lets through what is in its list; a part that is not connected says nothing. */
function isThere(car: StandInCar, state: StandInUnits, unit: CodedUnit): boolean {
  if (unit.part && !car.alive(unit.part)) return false;
  const { listed } = unit;
  if (!listed) return true;
  const place = fieldPlaces(car.map).find((p) => p.ref === listed.field);
  const bytes = place && state.units[place.unit.id]?.words[place.word.id];
  return Boolean(place && bytes && listed.is.includes(fieldValue(place.field, bytes)));
}

interface Said {
  unit: StandInUnit;
  messages: { afterMs: number; message: number[] }[];
}

function answer(
  car: StandInCar,
  state: StandInUnits,
  unit: CodedUnit,
  own: StandInUnit,
  asked: readonly number[],
  atMs: number,
): Said {
  const [service = 0, first = 0] = asked;
  const open = atMs <= own.sessionUntilMs ? own.session : SESSION.default;
  const now: StandInUnit = {
    ...own,
    session: open,
    sessionUntilMs: atMs + S3_MS,
    unlocked: own.unlocked && open !== SESSION.default,
  };
  const say = (message: number[], to: StandInUnit = now): Said => ({
    unit: to,
    messages: [{ afterMs: ANSWER_MS, message }],
  });
  const no = (code: number): Said => say([0x7f, service, code]);
  switch (service) {
    case SERVICE.session:
      return say([0x50, first, 0x00, 0x32, 0x01, 0xf4], { ...now, session: first, unlocked: false });
    case SERVICE.testerPresent:
      return first & 0x80 ? { unit: now, messages: [] } : say([0x7e, first]);
    case SERVICE.readData:
      return read(state, unit, now, asked, say, no);
    case SERVICE.readCodes:
      return codeAnswer(car, state, unit, now, asked, say, no);
    case SERVICE.clearCodes:
      return unit.locked ? no(0x33) : say([0x54], { ...now, old: [] });
    case SERVICE.codeSetting:
      if (open === SESSION.default) return no(0x7f);
      return first === 1 || first === 2 ? say([0xc5, first]) : no(0x12);
    case SERVICE.securityAccess:
      return access(unit, now, asked, say, no);
    case SERVICE.writeData:
      return write(state, unit, now, asked, no);
    default:
      return no(0x11);
  }
}

/** The forms of reading codes that it knows: by status mask, all it could store, what it keeps beside one. */
function codeAnswer(
  car: StandInCar,
  state: StandInUnits,
  unit: CodedUnit,
  now: StandInUnit,
  asked: readonly number[],
  say: Say,
  no: No,
): Said {
  const stored = codesOf(car, state, unit, now);
  if (asked[1] === 0x02) return say([0x59, 0x02, 0xff, ...stored.flat()]);
  const found = stored.find((c) => [0, 1, 2].every((i) => c[i] === asked[2 + i]));
  // Record 1 counts how often it came, record 2 the starts since then.
  if (asked[1] === 0x06)
    return found ? say([0x59, 0x06, ...found, 0x01, found[3] === ACTIVE ? 1 : 3, 0x02, 0x05]) : no(0x31);
  if (asked[1] !== 0x0a) return no(0x12);
  const quiet = (unit.part ? car.known(unit.part) : []).flatMap((code) => {
    const bytes = dtcBytes(code);
    return bytes && !stored.some((s) => bytes.every((b, i) => b === s[i])) ? [[...bytes, 0x00]] : [];
  });
  return say([0x59, 0x0a, 0xff, ...[...stored, ...quiet].flat()]);
}

type Say = (message: number[], unit?: StandInUnit) => Said;
type No = (code: number) => Said;

function read(
  state: StandInUnits,
  unit: CodedUnit,
  now: StandInUnit,
  asked: readonly number[],
  say: Say,
  no: No,
): Said {
  const id = idOf(asked);
  const word = unit.words.find((w) => w.identifier === id);
  const text: Record<number, string> = {
    [IDENTIFICATION.part]: `ST${unit.request.toString(16).toUpperCase()}-${unit.id.slice(0, 4).toUpperCase()}`,
    [IDENTIFICATION.software]: `${(unit.answer % 7) + 1}.${unit.answer % 13}`,
  };
  if (word) {
    const bytes = now.words[word.id] ?? [];
    return say([0x62, ...asked.slice(1, 3), ...(state.fault === "wrongLength" ? bytes.slice(0, -1) : bytes)]);
  }
  const told = text[id];
  return told ? say([0x62, ...asked.slice(1, 3), ...[...told].map((c) => c.charCodeAt(0))]) : no(0x31);
}

function access(unit: CodedUnit, now: StandInUnit, asked: readonly number[], say: Say, no: No): Said {
  const level = asked[1] ?? 0;
  if (now.session === SESSION.default) return no(0x7f);
  if (level === unit.access) {
    const seed = now.unlocked ? [0, 0] : [((unit.request * 7 + 3) & 0xff) | 1, (unit.answer * 5 + 1) & 0xff];
    return say([0x67, level, ...seed], { ...now, seed });
  }
  if (level - 1 !== unit.access) return no(0x12);
  if (!now.seed) return no(0x24);
  const key = standInKey(level - 1, now.seed);
  const right = key.every((b, i) => b === asked[2 + i]) && asked.length === 2 + key.length;
  return right ? say([0x67, level], { ...now, unlocked: true, seed: null }) : no(0x35);
}

function write(state: StandInUnits, unit: CodedUnit, now: StandInUnit, asked: readonly number[], no: No): Said {
  const word = unit.words.find((w) => w.identifier === idOf(asked));
  const data = asked.slice(3);
  if (unit.locked) return no(0x33);
  if (!word) return no(0x31);
  if (now.session === SESSION.default) return no(0x7f);
  if (unit.access !== undefined && !now.unlocked) return no(0x33);
  if (data.length !== word.length) return no(0x13);
  if (state.volts < LEAST_VOLTS) return no(0x93);
  if (state.fault === "refuses") return no(0x22);
  if (state.fault === "rejectsChecksum" || wordProblem(word, data)) return no(0x31);
  const pending = { afterMs: ANSWER_MS, message: [0x7f, SERVICE.writeData, 0x78] };
  const words = { ...now.words, [word.id]: data };
  if (state.fault === "losesSupply") {
    const half = data.map((b, i) => (i < data.length / 2 ? b : (now.words[word.id]?.[i] ?? 0)));
    return { unit: { ...now, words: { ...now.words, [word.id]: half }, dead: true }, messages: [pending] };
  }
  const afterMs = state.fault === "slow" ? SLOW_MS : WRITE_MS;
  return { unit: { ...now, words }, messages: [pending, { afterMs, message: [0x6e, ...asked.slice(1, 3)] }] };
}

/** What the memories of all units that answer hold. */
export function storedCodes(car: StandInCar, state: StandInUnits): { unit: CodedUnit; codes: number[][] }[] {
  return car.map.units.flatMap((unit) => {
    const now = state.units[unit.id];
    return now && isThere(car, state, unit) ? [{ unit, codes: codesOf(car, state, unit, now) }] : [];
  });
}

function codesOf(car: StandInCar, state: StandInUnits, unit: CodedUnit, now: StandInUnit): number[][] {
  const found = unit.part ? car.codes(unit.part, wordsOf(car, state)) : [];
  const stored = found.flatMap((code) => {
    const bytes = dtcBytes(code);
    return bytes ? [[...bytes, ACTIVE]] : [];
  });
  return [...stored, ...now.old];
}

function idOf(asked: readonly number[]): number {
  return ((asked[1] ?? 0) << 8) | (asked[2] ?? 0);
}
