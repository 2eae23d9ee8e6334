/** Messages and signals as a bus description has them. */
import type { LineProblem } from "./errors";

/** When a signal is in a frame: another signal of the message has one of these raw values. */
export interface Multiplexed {
  by: string;
  /** First and last value of each range. */
  values: readonly (readonly [number, number])[];
}

export interface DbcSignal {
  name: string;
  /** As written: for big-endian the most significant bit in sawtooth numbering. */
  startBit: number;
  length: number;
  littleEndian: boolean;
  kind: "unsigned" | "signed" | "float32" | "float64";
  factor: number;
  offset: number;
  minimum: number;
  maximum: number;
  unit: string;
  /** Null: in every frame. */
  multiplex: Multiplexed | null;
  /** Names by raw value. */
  values: ReadonlyMap<number, string>;
  comment: string;
}

export interface DbcMessage {
  id: number;
  extended: boolean;
  name: string;
  length: number;
  sender: string;
  signals: DbcSignal[];
  comment: string;
}

export interface Dbc {
  messages: DbcMessage[];
  /** Lines that were not understood; everything else is used. */
  problems: LineProblem[];
}

/** Number of a message: bit 31 tells a 29-bit identifier. */
export const EXTENDED_BIT = 0x80000000;

/** The number under which a DBC knows a message. */
export function dbcNumber({ id, extended }: { id: number; extended: boolean }): number {
  return extended ? id + EXTENDED_BIT : id;
}

/**
 * Bit positions of a signal, least significant first, as 8·byte + bit. In the sawtooth numbering of big-endian
 * signals the start bit is the most significant one and the next lower bit lies one further down, then at bit 7 of
 * the following byte.
 */
export function signalBits(signal: Pick<DbcSignal, "startBit" | "length" | "littleEndian">): number[] {
  const bits: number[] = [];
  let at = signal.startBit;
  for (let i = 0; i < signal.length; i++) {
    bits.push(at);
    if (signal.littleEndian) at++;
    else at = at % 8 === 0 ? at + 15 : at - 1;
  }
  return signal.littleEndian ? bits : bits.reverse();
}
