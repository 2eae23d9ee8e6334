import type { Attributes } from "./types";

/** One signal: where it started and what it carries. */
export interface Signal {
  origin: string;
  attributes: Attributes;
}

/** Identity of a signal: its origin and its attributes, in the order of their names. */
export function signalKey(origin: string, attributes: Attributes): string {
  let key = origin;
  for (const name of Object.keys(attributes).sort()) key += `|${name}=${attributes[name]}`;
  return key;
}

/** True when the attributes hold every wanted value. */
export function matches(attributes: Attributes, where: Attributes): boolean {
  for (const name in where) if (attributes[name] !== where[name]) return false;
  return true;
}

/** Any signal at all. */
export const ANY = 0;

/** Wishes for attributes by number, the same for all systems, so that conditions are compiled once a part. */
const wanted: (Attributes | null)[] = [null];
const patterns = new Map<string, number>();

/** The number of a wish for attributes; `ANY` for none. */
export function patternOf(where: Attributes | undefined): number {
  if (!where) return ANY;
  const key = signalKey("", where);
  const known = patterns.get(key);
  if (known !== undefined) return known;
  const pattern = wanted.push(where) - 1;
  patterns.set(key, pattern);
  return pattern;
}

/**
 * The signals of a system by number, so that what stands at a contact is a set of bits, and for each pattern the bits of
 * the signals that match it. Grows as routes change signals on their way.
 */
export class SignalTable {
  readonly signals: Signal[] = [];
  readonly keys: string[] = [];
  private readonly numbers = new Map<string, number>();
  private readonly masks: (number[] | undefined)[] = [];
  /** Patterns that have a mask. */
  private readonly asked: number[] = [];
  private readonly changes = new Map<Attributes, number[]>();

  /** Words of 32 bits that hold all signals so far. */
  get words(): number {
    return Math.max(1, (this.signals.length + 31) >> 5);
  }

  /** @param key identity of the signal, where it is at hand already */
  number(origin: string, attributes: Attributes, key = signalKey(origin, attributes)): number {
    const known = this.numbers.get(key);
    if (known !== undefined) return known;
    const number = this.signals.length;
    this.signals.push({ origin, attributes });
    this.keys.push(key);
    this.numbers.set(key, number);
    for (const pattern of this.asked) this.mark(this.masks[pattern] as number[], pattern, number);
    return number;
  }

  /** The signal with some attributes overwritten. */
  changed(signal: number, set: Attributes): number {
    let after = this.changes.get(set);
    if (!after) {
      after = [];
      this.changes.set(set, after);
    }
    const known = after[signal];
    if (known !== undefined) return known;
    const { origin, attributes } = this.signals[signal] as Signal;
    const number = this.number(origin, { ...attributes, ...set });
    after[signal] = number;
    return number;
  }

  /** Bits of the signals that match a pattern, by words. */
  mask(pattern: number): readonly number[] {
    let mask = this.masks[pattern];
    if (!mask) {
      mask = [];
      this.masks[pattern] = mask;
      this.asked.push(pattern);
      for (let s = 0; s < this.signals.length; s++) this.mark(mask, pattern, s);
    }
    return mask;
  }

  private mark(mask: number[], pattern: number, signal: number): void {
    const where = wanted[pattern];
    const word = signal >> 5;
    while (mask.length <= word) mask.push(0);
    if (!where || matches((this.signals[signal] as Signal).attributes, where))
      mask[word] = (mask[word] as number) | (1 << (signal & 31));
  }
}
