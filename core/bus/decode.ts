import { type Dbc, type DbcMessage, type DbcSignal, signalBits } from "./dbc";
import { type Frames, idKey, isMessage, keyAt } from "./frames";

/** A signal over time. */
export interface Series {
  message: string;
  signal: DbcSignal;
  timeS: Float64Array;
  value: Float64Array;
}

/** A piece of a signal inside one byte: `((byte >> shift) & mask) * weight`. */
interface Piece {
  byte: number;
  shift: number;
  mask: number;
  weight: number;
}

/** Bits of a signal from `from` to `to` (exclusive, least significant first) as pieces of bytes. */
function pieces(bits: readonly number[], from: number, to: number): Piece[] {
  const found: Piece[] = [];
  for (let i = from; i < to; ) {
    const bit = bits[i] as number;
    let n = 1;
    while (i + n < to && bits[i + n] === bit + n && (bit + n) >> 3 === bit >> 3) n++;
    found.push({ byte: bit >> 3, shift: bit & 7, mask: 2 ** n - 1, weight: 2 ** (i - from) });
    i += n;
  }
  return found;
}

function sum(list: readonly Piece[], data: Uint8Array, base: number): number {
  let value = 0;
  for (const p of list) value += (((data[base + p.byte] as number) >> p.shift) & p.mask) * p.weight;
  return value;
}

type RawReader = (data: Uint8Array, base: number) => number;

/**
 * Reads the raw value of a signal from the data bytes at `base`: exact up to 53 bits, beyond the nearest double.
 */
function rawReader(signal: DbcSignal): RawReader {
  const bits = signalBits(signal);
  const low = pieces(bits, 0, Math.min(32, bits.length));
  const high = pieces(bits, 32, bits.length);
  if (signal.kind === "float32" || signal.kind === "float64") {
    const view = new DataView(new ArrayBuffer(8));
    return (data, base) => {
      view.setUint32(0, sum(low, data, base), true);
      view.setUint32(4, sum(high, data, base), true);
      return signal.kind === "float32" ? view.getFloat32(0, true) : view.getFloat64(0, true);
    };
  }
  const half = signal.kind === "signed" ? 2 ** (bits.length - (high.length > 0 ? 33 : 1)) : Number.POSITIVE_INFINITY;
  if (high.length === 0)
    return (data, base) => {
      const value = sum(low, data, base);
      return value >= half ? value - 2 * half : value;
    };
  // The upper part takes the sign, so that only the last addition rounds.
  return (data, base) => {
    const upper = sum(high, data, base);
    return (upper >= half ? upper - 2 * half : upper) * 2 ** 32 + sum(low, data, base);
  };
}

/** The raw value of an integer signal with all its digits. */
function exactRaw(signal: DbcSignal, data: Uint8Array, base: number): bigint {
  const bits = signalBits(signal);
  const value =
    (BigInt(sum(pieces(bits, 32, bits.length), data, base)) << 32n) +
    BigInt(sum(pieces(bits, 0, Math.min(32, bits.length)), data, base));
  return signal.kind === "signed" ? BigInt.asIntN(signal.length, value) : value;
}

/** Names of the values of a signal, by its physical value as it is decoded; the file has them by the raw one. */
export function valueNames({ values, factor, offset }: DbcSignal): Map<number, string> {
  return new Map([...values].map(([raw, name]) => [raw * factor + offset, name]));
}

/** How many bytes a frame needs so that a signal is in it. */
function bytesNeeded(signal: DbcSignal): number {
  return 1 + Math.max(...signalBits(signal).map((b) => b >> 3));
}

/** Says whether a signal lies in a frame: it is long enough, and the selectors have one of the values that choose it. */
function presence(message: DbcMessage, signal: DbcSignal): (data: Uint8Array, base: number, length: number) => boolean {
  const needed = bytesNeeded(signal);
  const by = signal.multiplex && message.signals.find((s) => s.name === signal.multiplex?.by);
  if (!signal.multiplex) return (_data, _base, length) => length >= needed;
  if (!by) return () => false;
  const { values } = signal.multiplex;
  const selectorIn = presence(message, by);
  const read = rawReader(by);
  return (data, base, length) => {
    if (length < needed || !selectorIn(data, base, length)) return false;
    const chosen = read(data, base);
    return values.some(([from, to]) => chosen >= from && chosen <= to);
  };
}

/**
 * Values of all signals that lie in one frame, by name. Whole numbers that a double cannot hold are big integers.
 *
 * @param length bytes of the frame
 */
export function decodeFrame(
  message: DbcMessage,
  data: Uint8Array,
  base = 0,
  length = data.length - base,
): Map<string, number | bigint> {
  const values = new Map<string, number | bigint>();
  for (const signal of message.signals) {
    if (!presence(message, signal)(data, base, length)) continue;
    values.set(signal.name, physical(signal, data, base));
  }
  return values;
}

function physical(signal: DbcSignal, data: Uint8Array, base: number): number | bigint {
  const { factor, offset } = signal;
  const whole = signal.length > 53 && (signal.kind === "unsigned" || signal.kind === "signed");
  if (!whole || !Number.isSafeInteger(factor) || !Number.isSafeInteger(offset))
    return rawReader(signal)(data, base) * factor + offset;
  const exact = exactRaw(signal, data, base) * BigInt(factor) + BigInt(offset);
  return BigInt(Number(exact)) === exact ? Number(exact) : exact;
}

/**
 * All values of one signal in a log. Frames in which it does not lie are passed over.
 *
 * @param rows the frames of the message, when they are known already
 */
export function decodeSeries(frames: Frames, message: DbcMessage, signal: DbcSignal, rows?: Uint32Array): Series {
  const read = rawReader(signal);
  const isIn = presence(message, signal);
  const { factor, offset } = signal;
  const of = rows ?? rowsOf(frames, message);
  const timeS = new Float64Array(of.length);
  const value = new Float64Array(of.length);
  let n = 0;
  for (const row of of) {
    const base = frames.at[row] as number;
    if (!isIn(frames.data, base, frames.length[row] as number)) continue;
    timeS[n] = frames.timeS[row] as number;
    value[n++] = read(frames.data, base) * factor + offset;
  }
  return { message: message.name, signal, timeS: timeS.slice(0, n), value: value.slice(0, n) };
}

/** Frames that carry a message, on any bus. */
function rowsOf(frames: Frames, message: DbcMessage): Uint32Array {
  const key = idKey(message.id, message.extended);
  const rows: number[] = [];
  for (let i = 0; i < frames.count; i++) if (keyAt(frames, i) === key && isMessage(frames, i)) rows.push(i);
  return Uint32Array.from(rows);
}

/** The message of a description that an identifier carries. */
export function messageFor(dbc: Dbc, id: number, extended: boolean): DbcMessage | undefined {
  return dbc.messages.find((m) => m.id === id && m.extended === extended);
}
