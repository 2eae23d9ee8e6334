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

/**
 * The signals of a system by number, so that what stands at a contact is a set of bits, and the wanted attributes of
 * conditions by number, each with the bits of the signals that have them. Grows as routes change signals on their way.
 */
export class SignalTable {
  readonly signals: Signal[] = [];
  readonly keys: string[] = [];
  private readonly numbers = new Map<string, number>();
  private readonly ofOrigin = new Map<string, number[]>();
  private readonly wanted: (Attributes | null)[] = [null];
  private readonly patterns = new Map<string, number>();
  private readonly masks: number[][] = [[]];
  private readonly changes = new Map<Attributes, number[]>();

  /** Words of 32 bits that hold all signals so far. */
  get words(): number {
    return Math.max(1, (this.signals.length + 31) >> 5);
  }

  number(origin: string, attributes: Attributes): number {
    const key = signalKey(origin, attributes);
    const known = this.numbers.get(key);
    if (known !== undefined) return known;
    const number = this.signals.length;
    this.signals.push({ origin, attributes });
    this.keys.push(key);
    this.numbers.set(key, number);
    const family = this.ofOrigin.get(origin) ?? [];
    this.ofOrigin.set(origin, [...family, number]);
    for (let p = 0; p < this.wanted.length; p++) this.mark(p, number);
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

  /** Signals that started at one origin, whatever they carry by now. */
  family(origin: string): readonly number[] {
    return this.ofOrigin.get(origin) ?? [];
  }

  /** The number of a wish for attributes; `ANY` for none. */
  pattern(where: Attributes | undefined): number {
    if (!where) return ANY;
    const key = signalKey("", where);
    const known = this.patterns.get(key);
    if (known !== undefined) return known;
    const pattern = this.wanted.length;
    this.wanted.push(where);
    this.masks.push([]);
    this.patterns.set(key, pattern);
    for (let s = 0; s < this.signals.length; s++) this.mark(pattern, s);
    return pattern;
  }

  /** Bits of the signals that match a pattern, by words. */
  mask(pattern: number): readonly number[] {
    return this.masks[pattern] as number[];
  }

  private mark(pattern: number, signal: number): void {
    const where = this.wanted[pattern];
    const mask = this.masks[pattern] as number[];
    const word = signal >> 5;
    while (mask.length <= word) mask.push(0);
    if (!where || matches((this.signals[signal] as Signal).attributes, where))
      mask[word] = (mask[word] as number) | (1 << (signal & 31));
  }
}
