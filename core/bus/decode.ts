import { type BitReader, unsignedReader } from "./bits";
import { type Dbc, type DbcMessage, type DbcSignal, signalBits } from "./dbc-messages";
import { type Frames, isMessage, keyAt } from "./frames";
import { idKey } from "./identifier";

/** A signal over time. */
export interface Series {
  message: string;
  signal: DbcSignal;
  timeS: Float64Array;
  value: Float64Array;
}

/**
 * Reads the raw value of a signal from the data bytes at `base`: exact up to 53 bits, beyond the nearest double.
 */
function rawReader(signal: DbcSignal): BitReader {
  const { length, kind } = signal;
  const low = unsignedReader(signal, 0, Math.min(32, length));
  const high = unsignedReader(signal, 32, Math.max(32, length));
  if (kind === "float32" || kind === "float64") {
    const view = new DataView(new ArrayBuffer(8));
    return (data, base) => {
      view.setUint32(0, low(data, base), true);
      view.setUint32(4, high(data, base), true);
      return kind === "float32" ? view.getFloat32(0, true) : view.getFloat64(0, true);
    };
  }
  const half = kind === "signed" ? 2 ** (length - (length > 32 ? 33 : 1)) : Number.POSITIVE_INFINITY;
  if (length <= 32)
    return (data, base) => {
      const value = low(data, base);
      return value >= half ? value - 2 * half : value;
    };
  // The upper part takes the sign, so that only the last addition rounds.
  return (data, base) => {
    const upper = high(data, base);
    return (upper >= half ? upper - 2 * half : upper) * 2 ** 32 + low(data, base);
  };
}

/** The raw value of an integer signal with all its digits. */
function exactRaw(signal: DbcSignal, data: Uint8Array, base: number): bigint {
  const value =
    (BigInt(unsignedReader(signal, 32, Math.max(32, signal.length))(data, base)) << 32n) +
    BigInt(unsignedReader(signal, 0, Math.min(32, signal.length))(data, base));
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
