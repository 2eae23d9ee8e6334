import { EXTENDED, type Frames, isMessage, keyAt } from "./frames";

/** The messages of one identifier on one bus, in the order of the log. */
export interface IdRows {
  /** Bus on which it was heard. */
  channel: string;
  id: number;
  extended: boolean;
  /** Rows of `Frames`. */
  rows: Uint32Array;
}

/** Messages by bus and identifier, each bus for itself; requests and errors are left out. */
export function rowsById(frames: Frames): IdRows[] {
  const groups = new Map<number, number>();
  const groupOf = new Uint32Array(frames.count);
  const counts: number[] = [];
  const firsts: number[] = [];
  for (let i = 0; i < frames.count; i++) {
    if (!isMessage(frames, i)) continue;
    const key = keyAt(frames, i) + (frames.channel[i] as number) * 2 ** 32;
    let group = groups.get(key);
    if (group === undefined) {
      group = counts.push(0) - 1;
      groups.set(key, group);
      firsts.push(i);
    }
    groupOf[i] = group;
    counts[group] = (counts[group] as number) + 1;
  }
  const rows = counts.map((n) => new Uint32Array(n));
  const filled = new Uint32Array(counts.length);
  for (let i = 0; i < frames.count; i++) {
    if (!isMessage(frames, i)) continue;
    const group = groupOf[i] as number;
    const at = filled[group] as number;
    (rows[group] as Uint32Array)[at] = i;
    filled[group] = at + 1;
  }
  return firsts
    .map((first, group) => ({
      channel: frames.channels[frames.channel[first] as number] ?? "",
      id: frames.id[first] as number,
      extended: ((frames.flags[first] as number) & EXTENDED) !== 0,
      rows: rows[group] as Uint32Array,
    }))
    .sort(
      (a, b) =>
        frames.channels.indexOf(a.channel) - frames.channels.indexOf(b.channel) ||
        Number(a.extended) - Number(b.extended) ||
        a.id - b.id,
    );
}
