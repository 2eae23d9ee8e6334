/** Reads fields of bits out of data bytes. */
import { signalBits } from "./dbc-messages";

/** Where a field lies: start bit, length and byte order as a DBC has them. */
export interface Place {
  startBit: number;
  length: number;
  littleEndian: boolean;
}

/** A piece of a field inside one byte: `((byte >> shift) & mask) * weight`. */
interface Piece {
  byte: number;
  shift: number;
  mask: number;
  weight: number;
}

/** Reads a number from the data bytes at `base`. */
export type BitReader = (data: Uint8Array, base: number) => number;

/** Bits of a field from `from` to `to` (exclusive, least significant first) as an unsigned number; exact up to 53 bits. */
export function unsignedReader(place: Place, from = 0, to = place.length): BitReader {
  const parts = pieces(signalBits(place), from, to);
  const [a, b] = parts;
  if (!a) return () => 0;
  if (!b) return (data, base) => ((data[base + a.byte] as number) >> a.shift) & a.mask;
  if (parts.length === 2)
    return (data, base) =>
      (((data[base + a.byte] as number) >> a.shift) & a.mask) +
      (((data[base + b.byte] as number) >> b.shift) & b.mask) * b.weight;
  return (data, base) => {
    let value = 0;
    for (const p of parts) value += (((data[base + p.byte] as number) >> p.shift) & p.mask) * p.weight;
    return value;
  };
}

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
