/** Frames of a bus log as columns; row i of every column belongs to frame i. */
export interface Frames {
  count: number;
  /** Seconds as the log states them. */
  timeS: Float64Array;
  /** Identifier without flags. */
  id: Uint32Array;
  /** 1 for a 29-bit identifier. */
  extended: Uint8Array;
  length: Uint8Array;
  /** Eight bytes a frame, zero beyond `length`. */
  data: Uint8Array;
  channel: Uint8Array;
  channels: string[];
}

/** Grows columns by doubling and cuts them to size at the end. */
export class FrameBuilder {
  private capacity: number;
  private frames: Frames;

  constructor(expected = 1024) {
    this.capacity = Math.max(16, expected);
    this.frames = columns(this.capacity);
  }

  get count(): number {
    return this.frames.count;
  }

  /** The columns to write row `count` into; call `next` afterwards. */
  row(): Frames {
    if (this.frames.count === this.capacity) this.grow();
    return this.frames;
  }

  next(): void {
    this.frames.count++;
  }

  finish(channels: string[]): Frames {
    const { count } = this.frames;
    const f = this.frames;
    return {
      count,
      channels,
      timeS: f.timeS.slice(0, count),
      id: f.id.slice(0, count),
      extended: f.extended.slice(0, count),
      length: f.length.slice(0, count),
      data: f.data.slice(0, 8 * count),
      channel: f.channel.slice(0, count),
    };
  }

  private grow(): void {
    const old = this.frames;
    this.capacity *= 2;
    this.frames = columns(this.capacity);
    this.frames.count = old.count;
    this.frames.timeS.set(old.timeS);
    this.frames.id.set(old.id);
    this.frames.extended.set(old.extended);
    this.frames.length.set(old.length);
    this.frames.data.set(old.data);
    this.frames.channel.set(old.channel);
  }
}

function columns(n: number): Frames {
  return {
    count: 0,
    channels: [],
    timeS: new Float64Array(n),
    id: new Uint32Array(n),
    extended: new Uint8Array(n),
    length: new Uint8Array(n),
    data: new Uint8Array(8 * n),
    channel: new Uint8Array(n),
  };
}

/** Identifier as written in logs: 3 hexadecimal digits, 8 for 29 bits. */
export function idText(id: number, extended: boolean): string {
  return id
    .toString(16)
    .toUpperCase()
    .padStart(extended ? 8 : 3, "0");
}

/** Key that keeps 11-bit and 29-bit identifiers of the same value apart. */
export function idKey(id: number, extended: boolean): number {
  return extended ? id + 0x80000000 : id;
}
