/** What was done while a log was recorded, and when. */

/** Something in the car that is looked for on the bus. */
export interface Thing {
  id: string;
  /** As a person calls it: “wheel keys”, “selector”. */
  name: string;
  /**
   * `keys`: pressed and let go; `positions`: stays where it was put; `level`: a number that was held, such as an angle or a
   * speed.
   */
  kind: "keys" | "positions" | "level";
  /** What is the case while nothing is cued: “none”, “P”. */
  rest: string;
  /** Unit of a level. */
  unit?: string;
}

/** One action: from the moment it began to the moment it ended, in seconds on the clock of the log. */
export interface Cue {
  thing: string;
  /** What was done: “volume up”, “R”. */
  label: string;
  fromS: number;
  toS: number;
  /** What a level stood at. */
  value?: number;
}

/** A stretch of time in which one thing is known to be the case. */
export interface Segment {
  label: string;
  fromS: number;
  toS: number;
  /** False for what was the case because nothing was cued. */
  cued: boolean;
  value?: number;
}

/** How the clock of the cues runs against that of the log: log = cue + shift + drift · (cue - start). */
export interface Clock {
  shiftS: number;
  /** Seconds a second. */
  drift: number;
  startS: number;
}

export const SAME_CLOCK: Clock = { shiftS: 0, drift: 0, startS: 0 };

/** The cues on the clock of the log. */
export function onClock(cues: readonly Cue[], { shiftS, drift, startS }: Clock): Cue[] {
  const at = (s: number) => s + shiftS + drift * (s - startS);
  return cues.map((c) => ({ ...c, fromS: at(c.fromS), toS: at(c.toS) }));
}

/** People need this long; so much at either end of a stretch is left out. */
export const GUARD_S = 0.3;

/**
 * The stretches of one thing between two times, rest between the cues, each without its ends. Stretches that are too short
 * for that are left out.
 */
export function segments(thing: Thing, cues: readonly Cue[], span: { fromS: number; toS: number }): Segment[] {
  const own = cues.filter((c) => c.thing === thing.id).sort((a, b) => a.fromS - b.fromS);
  const all: Segment[] = [];
  let at = span.fromS;
  for (const c of own) {
    all.push({ label: thing.rest, fromS: at, toS: c.fromS, cued: false });
    all.push({
      label: c.label,
      fromS: c.fromS,
      toS: c.toS,
      cued: true,
      ...(c.value === undefined ? {} : { value: c.value }),
    });
    at = Math.max(at, c.toS);
  }
  all.push({ label: thing.rest, fromS: at, toS: span.toS, cued: false });
  return all
    .map((s) => {
      // Of a short press the middle half is left.
      const guard = Math.min(GUARD_S, (s.toS - s.fromS) / 4);
      return { ...s, fromS: Math.max(span.fromS, s.fromS + guard), toS: Math.min(span.toS, s.toS - guard) };
    })
    .filter((s) => s.toS - s.fromS > 0.05);
}

/**
 * The same cues at other times: their order, the gaps between them and where the first begins are drawn anew. What is found
 * with such cues is chance.
 */
export function replaced(cues: readonly Cue[], span: { fromS: number; toS: number }, random: () => number): Cue[] {
  const list = shuffled(cues, random);
  const busyS = list.reduce((sum, c) => sum + c.toS - c.fromS, 0);
  const freeS = Math.max(0, span.toS - span.fromS - busyS);
  const cuts = list.map(() => random() * freeS).sort((a, b) => a - b);
  let done = 0;
  return list.map((c, i) => {
    const fromS = span.fromS + (cuts[i] as number) + done;
    done += c.toS - c.fromS;
    return { ...c, fromS, toS: fromS + c.toS - c.fromS };
  });
}

function shuffled<T>(list: readonly T[], random: () => number): T[] {
  const out = [...list];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [out[i], out[j]] = [out[j] as T, out[i] as T];
  }
  return out;
}
