import { EXTENDED, FAST, FD, FD_LENGTHS, type Frames, REMOTE } from "./frames";

/** Bits that a frame takes on the wire, with stuff bits, end of frame and the gap behind it. */
export interface WireBits {
  /** At the rate of the bus. */
  bits: number;
  /** At the faster rate of the data part. */
  fastBits: number;
}

/** CRC delimiter, acknowledge slot and delimiter, end of frame, gap: 1 + 2 + 7 + 3. */
const TAIL = 13;

/**
 * Worst-case length of a CAN frame in bits, with stuffing and interframe space: 55+10s for 11-bit, 80+10s for 29-bit
 * identifiers, s data bytes. Source: Davis, Burns, Bril, Lukkien, Real-Time Systems 35 (2007).
 */
export function worstFrameBits(dataBytes: number, extended: boolean): number {
  return (extended ? 80 : 55) + 10 * dataBytes;
}

/** Exact length of a frame on the wire. Source: ISO 11898-1 (classic: checked against a bit-exact reference). */
export function frameBits(frames: Frames, row: number): WireBits {
  const flags = frames.flags[row] as number;
  const wire = new Wire();
  wire.put(0, 1);
  if (flags & FD) return longBits(frames, row, flags, wire);
  const remote = flags & REMOTE ? 1 : 0;
  identifier(wire, frames.id[row] as number, flags, remote);
  const length = frames.length[row] as number;
  wire.put(length, 4);
  if (!remote) bytes(wire, frames, row, length);
  wire.put(wire.crc, 15);
  return { bits: wire.count + TAIL, fastBits: 0 };
}

/** Arbitration field and what follows up to the length. */
function identifier(wire: Wire, id: number, flags: number, remote: number): void {
  if (flags & EXTENDED) {
    wire.put(id >>> 18, 11);
    wire.put(0b11, 2);
    wire.put(id & 0x3_ffff, 18);
    wire.put(remote << 2, 3);
  } else {
    wire.put(id, 11);
    wire.put(remote << 2, 3);
  }
}

/**
 * FD frames: stuffed up to the end of the data, then the stuff count and a checksum of 17 or 21 bits with fixed stuff bits
 * before the first and behind every fourth bit. Source: ISO 11898-1:2015 (from memory).
 */
function longBits(frames: Frames, row: number, flags: number, wire: Wire): WireBits {
  const id = frames.id[row] as number;
  const fast = flags & FAST ? 1 : 0;
  if (flags & EXTENDED) {
    wire.put(id >>> 18, 11);
    wire.put(0b11, 2);
    wire.put(id & 0x3_ffff, 18);
    wire.put(0b010 * 2 + fast, 4);
  } else {
    wire.put(id, 11);
    wire.put(0b00100 | fast, 5);
  }
  const slow = wire.count;
  const length = frames.length[row] as number;
  wire.put(0, 1);
  wire.put(FD_LENGTHS.indexOf(length as 64), 4);
  bytes(wire, frames, row, length);
  const checksum = length > 16 ? 25 + 7 : 21 + 6;
  const rest = wire.count - slow + checksum;
  return fast ? { bits: slow + TAIL, fastBits: rest } : { bits: slow + rest + TAIL, fastBits: 0 };
}

function bytes(wire: Wire, frames: Frames, row: number, length: number): void {
  const at = frames.at[row] as number;
  for (let i = 0; i < length; i++) wire.byte(frames.data[at + i] as number);
}

/** Polynomial of the 15-bit checksum of a classic frame. Source: ISO 11898-1; CRC-15/CAN of the CRC catalogue. */
const POLYNOMIAL = 0x4599;

/** Counts bits with stuffing: after five equal bits one of the other value follows. */
class Wire {
  count = 0;
  crc = 0;
  /** Last bit and how often it stood in a row, as 5·bit + run - 1; before the first bit none. */
  private state = NO_BIT;

  put(value: number, width: number): void {
    for (let i = width - 1; i >= 0; i--) {
      const bit = (value >> i) & 1;
      this.crc = crcOfBit(this.crc, bit);
      const next = stuffed(this.state, bit);
      this.state = next & 15;
      this.count += next >> 4;
    }
  }

  byte(value: number): void {
    this.crc = ((this.crc << 8) & 0x7fff) ^ (CRC_OF_BYTE[((this.crc >> 7) ^ value) & 255] as number);
    const next = STUFF_OF_BYTE[256 * this.state + value] as number;
    this.state = next & 15;
    this.count += next >> 4;
  }
}

const NO_BIT = 10;

function crcOfBit(crc: number, bit: number): number {
  const shifted = (crc << 1) & 0x7fff;
  return ((crc >> 14) & 1) ^ bit ? shifted ^ POLYNOMIAL : shifted;
}

/** The state after a bit, and above it how many bits went over the wire for it. */
function stuffed(state: number, bit: number): number {
  const run = state !== NO_BIT && (state >= 5 ? 1 : 0) === bit ? (state % 5) + 2 : 1;
  if (run < 5) return (1 << 4) | (5 * bit + run - 1);
  return (2 << 4) | (5 * (1 - bit));
}

/** The same for whole bytes, looked up. */
const CRC_OF_BYTE = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = 0;
  for (let i = 7; i >= 0; i--) crc = crcOfBit(crc, (byte >> i) & 1);
  return crc;
});
const STUFF_OF_BYTE = Uint16Array.from({ length: 256 * (NO_BIT + 1) }, (_, index) => {
  let state = index >> 8;
  let count = 0;
  for (let i = 7; i >= 0; i--) {
    const next = stuffed(state, (index >> i) & 1);
    state = next & 15;
    count += next >> 4;
  }
  return (count << 4) | state;
});
