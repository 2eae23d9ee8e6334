import { type Dbc, type DbcMessage, type DbcSignal, signalBits } from "./dbc";
import { type Frames, idKey } from "./frames";

/** A signal over time. */
export interface Series {
  message: string;
  signal: DbcSignal;
  timeS: Float64Array;
  value: Float64Array;
}

type RawReader = (data: Uint8Array, base: number) => number;

/**
 * Reads the raw value of a signal from the data bytes at `base`. Integers up to 53 bits are exact; longer ones are
 * rounded to the nearest double.
 */
function rawReader(signal: DbcSignal): RawReader {
  const bits = signalBits(signal);
  const unsigned: RawReader = (data, base) => {
    let value = 0;
    for (let i = bits.length - 1; i >= 0; i--) {
      const bit = bits[i] as number;
      value = value * 2 + (((data[base + (bit >> 3)] as number) >> (bit & 7)) & 1);
    }
    return value;
  };
  if (signal.kind === "float32" || signal.kind === "float64") return floatReader(signal, bits);
  if (signal.kind === "unsigned") return unsigned;
  const limit = 2 ** (signal.length - 1);
  return (data, base) => {
    const value = unsigned(data, base);
    return value >= limit ? value - 2 * limit : value;
  };
}

function floatReader(signal: DbcSignal, bits: readonly number[]): RawReader {
  const view = new DataView(new ArrayBuffer(8));
  return (data, base) => {
    for (let byte = 0; byte < bits.length / 8; byte++) {
      let value = 0;
      for (let b = 7; b >= 0; b--) {
        const bit = bits[8 * byte + b] as number;
        value = value * 2 + (((data[base + (bit >> 3)] as number) >> (bit & 7)) & 1);
      }
      view.setUint8(byte, value);
    }
    return signal.kind === "float32" ? view.getFloat32(0, true) : view.getFloat64(0, true);
  };
}

/** Names of the values of a signal, by its physical value as it is decoded; the file has them by the raw one. */
export function valueNames({ values, factor, offset }: DbcSignal): Map<number, string> {
  return new Map([...values].map(([raw, name]) => [raw * factor + offset, name]));
}

/** How many bytes a frame needs so that a signal is in it. */
function bytesNeeded(signal: DbcSignal): number {
  return 1 + Math.max(...signalBits(signal).map((b) => b >> 3));
}

/**
 * Values of all signals of one frame, by name. Left out are those of other multiplex values, and what does not lie inside
 * a frame that is shorter than its message.
 *
 * @param length bytes of the frame
 */
export function decodeFrame(
  message: DbcMessage,
  data: Uint8Array,
  base = 0,
  length = data.length - base,
): Map<string, number> {
  const selector = message.signals.find((s) => s.multiplex === "selector");
  const chosen = selector && bytesNeeded(selector) <= length ? rawReader(selector)(data, base) : null;
  const values = new Map<string, number>();
  for (const signal of message.signals) {
    if (typeof signal.multiplex === "number" && signal.multiplex !== chosen) continue;
    if (bytesNeeded(signal) > length) continue;
    values.set(signal.name, rawReader(signal)(data, base) * signal.factor + signal.offset);
  }
  return values;
}

/** All values of one signal in a log. Frames in which it does not lie, and those of other multiplex values, are passed over. */
export function decodeSeries(frames: Frames, message: DbcMessage, signal: DbcSignal): Series {
  const read = rawReader(signal);
  const selector = message.signals.find((s) => s.multiplex === "selector");
  const readSelector = selector && rawReader(selector);
  const key = idKey(message.id, message.extended);
  const needed = Math.max(
    bytesNeeded(signal),
    typeof signal.multiplex === "number" && selector ? bytesNeeded(selector) : 0,
  );
  const timeS: number[] = [];
  const value: number[] = [];
  for (let i = 0; i < frames.count; i++) {
    if (idKey(frames.id[i] as number, frames.extended[i] === 1) !== key || (frames.length[i] as number) < needed)
      continue;
    if (typeof signal.multiplex === "number" && readSelector?.(frames.data, 8 * i) !== signal.multiplex) continue;
    timeS.push(frames.timeS[i] as number);
    value.push(read(frames.data, 8 * i) * signal.factor + signal.offset);
  }
  return { message: message.name, signal, timeS: Float64Array.from(timeS), value: Float64Array.from(value) };
}

/** The message of a description that an identifier carries. */
export function messageFor(dbc: Dbc, id: number, extended: boolean): DbcMessage | undefined {
  return dbc.messages.find((m) => m.id === id && m.extended === extended);
}
