/** Finds on the bus what was done on cue. */
import type { Frames } from "../frames";
import { type Alignment, align } from "./align";
import {
  byScore,
  type Candidate,
  judged,
  type NextCue,
  nextCue,
  nextLevel,
  ownCodes,
  stateScore,
  withoutRepeats,
} from "./candidates";
import { type Cue, onClock, replaced, SAME_CLOCK, type Segment, segments, type Thing } from "./cues";
import type { LevelFinding, Samples } from "./level-finding";
import { samplesOf, screen, smoothest } from "./levels";
import { type PressFinding, pressesOf, WINDOW_S } from "./presses";
import { type Field, type Round, roundOf, type StateFinding, statesOf } from "./states";
import { bitsOf, type Grid, gridOf, type StreamBits, streamsOf } from "./streams";
import { byChance, noStrengths, type Strengths } from "./strengths";

export interface ThingResult {
  thing: Thing;
  candidates: Candidate[];
  /** What follows the cues and cannot be it, with the reason. */
  excluded: { field: Field; reason: string }[];
  /** What to do next when candidates cannot be told apart, or too little was done. Null: nothing. */
  next: NextCue | null;
}

export interface HuntResult {
  alignment: Alignment;
  things: ThingResult[];
}

export interface HuntOptions {
  /** All labels that each thing can have, also those not yet cued: what could be done next. */
  labels?: Readonly<Record<string, readonly string[]>>;
  /** Rounds with cues at random times. */
  rounds?: number;
  /** Seed of the random times. */
  seed?: number;
  /** Called between streams with the share that is done; return false to stop. */
  progress?(share: number): boolean | undefined;
}

/** The person stopped it. */
export class HuntStopped extends Error {}

const LEVEL_ROUNDS = 4;

/** Candidates told for each thing. */
const TOLD = 12;

/**
 * Looks for each thing that was cued, on all buses of a log.
 *
 * @throws {HuntStopped}
 */
export function hunt(
  frames: Frames,
  things: readonly Thing[],
  cues: readonly Cue[],
  options: HuntOptions = {},
): HuntResult {
  const streams = streamsOf(frames);
  const grid = gridOf(frames);
  const span = { fromS: grid.startS, toS: grid.startS + grid.stepS * Math.max(0, grid.count - 1) };
  const alignment = cues.length === 0 ? { ...SAME_CLOCK, sure: 0 } : align(frames, streams, cues);
  const onLog = onClock(cues, alignment);
  const random = mulberry(options.seed ?? 1);
  const searches = things
    .filter((t) => onLog.some((c) => c.thing === t.id))
    .map((thing): Search => {
      const own = onLog.filter((c) => c.thing === thing.id);
      const of = { frames, grid, span, thing, cues: own, random };
      return thing.kind === "level" ? new LevelSearch(of) : new StateSearch(of, options);
    });
  streams.forEach((stream, i) => {
    if (options.progress?.(i / streams.length) === false) throw new HuntStopped();
    const bits = bitsOf(frames, stream, grid);
    if (bits) for (const s of searches) s.look(bits);
  });
  return { alignment, things: searches.map((s) => s.result()) };
}

/** Looks for one thing, stream by stream. */
interface Search {
  look(bits: StreamBits): void;
  result(): ThingResult;
}

interface Looking {
  frames: Frames;
  grid: Grid;
  span: { fromS: number; toS: number };
  thing: Thing;
  cues: readonly Cue[];
  random: () => number;
}

class StateSearch implements Search {
  private readonly strengths: Strengths;
  private readonly list: Segment[];
  private readonly chances: Round[];
  private readonly states: StateFinding[] = [];
  private readonly presses: PressFinding[] = [];
  private readonly excluded: ThingResult["excluded"] = [];
  /** Bits that could have been a press bit. */
  private bits = 0;

  constructor(
    private readonly of: Looking,
    private readonly options: HuntOptions,
  ) {
    const { grid, span, thing, cues, random } = of;
    const rounds = options.rounds ?? 24;
    this.strengths = noStrengths(rounds);
    this.list = segments(thing, cues, span);
    this.chances = Array.from({ length: rounds }, () =>
      roundOf(grid, thing, segments(thing, replaced(cues, span, random), span)),
    );
  }

  look(bits: StreamBits): void {
    const { frames, grid, thing, cues } = this.of;
    const found = statesOf(frames, bits, grid, thing, this.list, cues, this.chances, this.strengths);
    this.states.push(...found.findings);
    this.excluded.push(...found.excluded);
    this.presses.push(...pressesOf(frames, bits.stream, thing, cues));
    this.bits += bits.bits.length;
  }

  result(): ThingResult {
    const { thing, cues, span } = this.of;
    const labels = [...new Set(cues.map((c) => c.label))];
    const spanS = Math.max(1, span.toS - span.fromS);
    const candidates = [
      ...this.states.map((s): Candidate => {
        const score = stateScore(s, thing, labels);
        const fits = ownCodes(s, thing, labels).length > 0 ? s.agreement : 0;
        const { expected, share } = byChance(this.strengths, s.strength);
        return judged({ ...s, kind: "state", score, falseShare: share }, expected, fits);
      }),
      ...this.presses.map((p): Candidate => {
        // A field that tells what was done stands before one that only tells that something was.
        const score = 0.9 * (p.met / p.presses) * (p.met / (p.met + p.extra));
        // All changes of a bit on presses by chance, over all bits.
        const chance = this.bits * ((WINDOW_S * p.presses) / spanS) ** p.met;
        return judged({ ...p, kind: "press", score, falseShare: Math.min(1, chance) }, chance);
      }),
    ].filter((c) => c.score >= 0.5);
    candidates.sort(byScore);
    const excluded = [...this.excluded];
    const kept = withoutRepeats(candidates, excluded);
    const next = nextCue(thing, cues, kept, this.options.labels?.[thing.id] ?? labels);
    return { thing, candidates: kept.slice(0, TOLD), excluded, next };
  }
}

/** A level moves before and after it is held; so much of a rest says nothing. */
const MOVING_S = 1.5;

class LevelSearch implements Search {
  private readonly lists: Samples[];
  private readonly found: LevelFinding[] = [];
  private readonly chances: number[] = [];

  constructor(private readonly of: Looking) {
    const { grid, span, cues, random } = of;
    this.lists = [cues, ...Array.from({ length: LEVEL_ROUNDS }, () => replaced(cues, span, random))].map((list) =>
      samplesOf(grid, this.levels(list)),
    );
  }

  /** Stretches with a level: the cues, and the middle of the rests when rest is a number. */
  private levels(cues: readonly Cue[]): Segment[] {
    const { thing, span } = this.of;
    const value = Number(thing.rest);
    return segments(thing, cues, span).flatMap((s) => {
      if (s.cued) return [s];
      const middle = { ...s, value, fromS: s.fromS + MOVING_S, toS: s.toS - MOVING_S };
      return Number.isNaN(value) || middle.toS - middle.fromS < 0.3 ? [] : [middle];
    });
  }

  look(bits: StreamBits): void {
    const { frames } = this.of;
    const seen = screen(frames, bits, this.lists);
    if (!seen) return;
    this.chances.push(...seen.chance);
    const field = smoothest(frames, seen.fields, bits.rowAt, this.lists[0] as Samples);
    if (field) this.found.push(field);
  }

  result(): ThingResult {
    const { thing } = this.of;
    const candidates = this.found.map((f): Candidate => {
      const expected = this.chances.filter((c) => c >= f.explains).length / LEVEL_ROUNDS;
      const asGood = this.found.filter((o) => o.explains >= f.explains).length;
      return judged({ ...f, kind: "level", score: f.explains, falseShare: Math.min(1, expected / asGood) }, expected);
    });
    candidates.sort((a, b) => b.score - a.score);
    const levels = new Set(this.lists[0]?.level).size;
    return {
      thing,
      candidates: candidates.slice(0, TOLD),
      excluded: [],
      next: nextLevel(thing, levels, candidates.length),
    };
  }
}

/** Random numbers from 0 to 1 (mulberry32, public domain). */
function mulberry(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}
