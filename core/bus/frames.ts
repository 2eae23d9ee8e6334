import { idKey } from "./identifier";

/** Frames of a bus log as columns; row i of every column belongs to frame i. */
export interface Frames {
  count: number;
  /** Seconds as the log states them. */
  timeS: Float64Array;
  /** Identifier without flags. */
  id: Uint32Array;
  /** Sum of the flags below. */
  flags: Uint8Array;
  /** Data bytes; of a remote request, which carries none, how many it asks for. */
  length: Uint8Array;
  /** Where the data of the frame begin in `data`. */
  at: Uint32Array;
  /** The data of all frames, one behind the other. */
  data: Uint8Array;
  /** Index into `channels`. */
  channel: Uint8Array;
  channels: string[];
}

/** 29-bit identifier. */
export const EXTENDED = 1;
/** A request for a message, without data. */
export const REMOTE = 2;
/** An error that the adapter saw; its identifier holds the classes of the error, if it told them. */
export const ERROR = 4;
/** Flexible data rate: up to 64 bytes. */
export const FD = 8;
/** The data part of an FD frame was sent at the faster rate. */
export const FAST = 16;
/** The sender of an FD frame was error passive. */
export const PASSIVE = 32;
/** Sent by the adapter that wrote the log. */
export const SENT = 64;

/** Most data bytes that a frame can have. */
const MOST_BYTES = 64;
/** Frames of the first block, and of every further one. */
const FIRST_BLOCK = 1024;
const BLOCK = 65_536;

/** Columns of a part of a log while it is read. `data` holds the bytes one behind the other up to `used`. */
export class FrameBlock {
  count = 0;
  used = 0;
  timeS: Float64Array;
  id: Uint32Array;
  flags: Uint8Array;
  length: Uint8Array;
  channel: Uint8Array;
  data: Uint8Array;

  constructor(readonly capacity: number) {
    this.timeS = new Float64Array(capacity);
    this.id = new Uint32Array(capacity);
    this.flags = new Uint8Array(capacity);
    this.length = new Uint8Array(capacity);
    this.channel = new Uint8Array(capacity);
    this.data = new Uint8Array(8 * capacity);
  }
}

/**
 * Collects frames in blocks and joins them column by column, so that the most memory that is held at once stays below
 * 40 bytes a frame of eight bytes.
 */
export class FrameBuilder {
  private block = new FrameBlock(FIRST_BLOCK);
  /** The last one is being filled. */
  readonly blocks: FrameBlock[] = [this.block];

  /** The block to write row `count` and the bytes from `used` on into; call `next` afterwards. */
  row(): FrameBlock {
    const { block } = this;
    if (block.count === block.capacity || block.used + MOST_BYTES > block.data.length) {
      this.block = new FrameBlock(BLOCK);
      this.blocks.push(this.block);
    }
    return this.block;
  }

  /** Takes over the row that was written. @param bytes how many data bytes it has */
  next(bytes: number): void {
    this.block.used += bytes;
    this.block.count++;
  }

  /** Adds a frame; the readers of the common formats write into `row` themselves. */
  add(f: { timeS: number; id: number; flags: number; channel: number; length: number; data: ArrayLike<number> }): void {
    const row = this.row();
    row.timeS[row.count] = f.timeS;
    row.id[row.count] = f.id;
    row.flags[row.count] = f.flags;
    row.length[row.count] = f.length;
    row.channel[row.count] = f.channel;
    row.data.set(f.data, row.used);
    this.next(f.data.length);
  }

  /** Takes over frames that were read elsewhere, behind all that are here. @param channels index here of each of their buses */
  take(frames: Columns, channels: readonly number[]): void {
    const { count, timeS, id, flags, length, channel, data } = frames;
    if (channels.some((c, i) => c !== i))
      for (let i = 0; i < count; i++) channel[i] = channels[channel[i] as number] as number;
    // What was being written is closed where it is; it takes no more.
    const taken = Object.assign(new FrameBlock(0), {
      count,
      used: data.length,
      timeS,
      id,
      flags,
      length,
      channel,
      data,
    });
    this.block = new FrameBlock(FIRST_BLOCK);
    this.blocks.push(taken, this.block);
  }

  /** All frames. The builder is used up. */
  finish(channels: string[]): Frames {
    const columns = this.columns();
    return { ...columns, channels, at: starts(columns.flags, columns.length) };
  }

  /** The columns that were written. The builder is used up: what was copied is let go at once. */
  columns(): Columns {
    const blocks = this.blocks.splice(0);
    const count = blocks.reduce((n, b) => n + b.count, 0);
    const bytes = blocks.reduce((n, b) => n + b.used, 0);
    const column = <T extends Float64Array | Uint32Array | Uint8Array>(
      joined: T,
      part: (b: FrameBlock) => ArrayLike<number>,
      free: (b: FrameBlock) => void,
    ): T => {
      let at = 0;
      for (const b of blocks) {
        const piece = part(b);
        joined.set(piece, at);
        at += piece.length;
        free(b);
      }
      return joined;
    };
    const timeS = column(
      new Float64Array(count),
      (b) => b.timeS.subarray(0, b.count),
      (b) => {
        b.timeS = new Float64Array(0);
      },
    );
    const id = column(
      new Uint32Array(count),
      (b) => b.id.subarray(0, b.count),
      (b) => {
        b.id = new Uint32Array(0);
      },
    );
    const data = column(
      new Uint8Array(bytes),
      (b) => b.data.subarray(0, b.used),
      (b) => {
        b.data = new Uint8Array(0);
      },
    );
    const nothing = () => undefined;
    const flags = column(new Uint8Array(count), (b) => b.flags.subarray(0, b.count), nothing);
    const length = column(new Uint8Array(count), (b) => b.length.subarray(0, b.count), nothing);
    const channel = column(new Uint8Array(count), (b) => b.channel.subarray(0, b.count), nothing);
    return { count, timeS, id, flags, length, data, channel };
  }
}

/** What is written of each frame; where its data begin and what its bus is called follows for the whole log. */
export type Columns = Omit<Frames, "at" | "channels">;

/** Where the data of each frame begin. */
function starts(flags: Uint8Array, length: Uint8Array): Uint32Array {
  const { length: count } = flags;
  const at = new Uint32Array(count);
  for (let i = 0, next = 0; i < count; i++) {
    at[i] = next;
    next += (flags[i] as number) & REMOTE ? 0 : (length[i] as number);
  }
  return at;
}

/** The data bytes of one frame. */
export function dataOf(frames: Frames, row: number): Uint8Array {
  const at = frames.at[row] ?? 0;
  return frames.data.subarray(at, at + (isRemote(frames, row) ? 0 : (frames.length[row] ?? 0)));
}

function isRemote(frames: Frames, row: number): boolean {
  return ((frames.flags[row] ?? 0) & REMOTE) !== 0;
}

/** True for a frame that carries a message: neither a request nor an error. */
export function isMessage(frames: Frames, row: number): boolean {
  return ((frames.flags[row] ?? 0) & (REMOTE | ERROR)) === 0;
}

/** `idKey` of a frame of a log. */
export function keyAt(frames: Frames, row: number): number {
  return idKey(frames.id[row] ?? 0, ((frames.flags[row] ?? 0) & EXTENDED) !== 0);
}

/** Data bytes by the length code of an FD frame. Source: ISO 11898-1:2015, coding of DLC (from memory). */
export const FD_LENGTHS = [0, 1, 2, 3, 4, 5, 6, 7, 8, 12, 16, 20, 24, 32, 48, 64] as const;

/** Columns in the order in which a packed log holds them: those of larger numbers first, so that each lies on its boundary. */
const PACKED = ["timeS", "id", "at", "flags", "length", "channel", "data"] as const;

/** The frames as bytes that `unpackFrames` takes: first how long each column is, then the columns. */
export function packFrames(frames: Frames): {
  head: { count: number; dataBytes: number; channels: string[] };
  parts: Uint8Array[];
} {
  return {
    head: { count: frames.count, dataBytes: frames.data.length, channels: frames.channels },
    parts: PACKED.map((key) => {
      const column = frames[key];
      return new Uint8Array(column.buffer, column.byteOffset, column.byteLength);
    }),
  };
}

/** The frames that were packed, looking at `buffer` from `offset` (a multiple of 8) on, without copying. */
export function unpackFrames(
  head: { count: number; dataBytes: number; channels: string[] },
  buffer: ArrayBuffer,
  offset = 0,
): Frames {
  const { count, dataBytes, channels } = head;
  let at = offset;
  const step = (bytes: number) => {
    const here = at;
    at += bytes;
    return here;
  };
  return {
    count,
    channels,
    timeS: new Float64Array(buffer, step(8 * count), count),
    id: new Uint32Array(buffer, step(4 * count), count),
    at: new Uint32Array(buffer, step(4 * count), count),
    flags: new Uint8Array(buffer, step(count), count),
    length: new Uint8Array(buffer, step(count), count),
    channel: new Uint8Array(buffer, step(count), count),
    data: new Uint8Array(buffer, step(dataBytes), dataBytes),
  };
}
