/**
 * The walk with balance and fader: one corner is set at a time, and a person says which loudspeaker plays. From what
 * plays follows which contacts sit in the wrong cavity, and the fewest moves that bring them home.
 */
import type { Pole } from "../library/standard-plugs";
import { CORNER_NAMES, CORNERS, type Corner, type Heard } from "./corners";

/** A contact of a plug that carries a loudspeaker. */
export interface SpeakerContact {
  cavity: string;
  corner: Corner;
  pole: Pole;
}

/** One contact taken out of its cavity and put into another. */
export interface ContactMove {
  from: string;
  to: string;
  /** The wire: the loudspeaker it belongs to. */
  corner: Corner;
  pole: Pole;
  /** Its new place is still taken: it is pulled first, marked, and hangs until then. */
  waits: boolean;
}

export type WalkOutcome =
  /** Not every corner was heard yet. `hint`: what was heard so far makes the others worth hearing. */
  | { kind: "open"; left: Corner[]; hint: string | null }
  | { kind: "right" }
  /** Pairs sit in each other's cavities. `silent`: corners at which nothing plays, which moving contacts does not cure. */
  | { kind: "exchanged"; cycles: Corner[][]; moves: ContactMove[]; silent: Corner[] }
  /** No exchange of contacts explains it. */
  | { kind: "notExchanged"; reason: string };

/**
 * What follows from a walk.
 *
 * @param heard by the corner that was set
 * @param contacts of the plug at the end that drives the loudspeakers, one for each corner and pole
 * @param reversed corners whose two wires are exchanged (out of phase)
 */
export function walkOutcome(
  heard: ReadonlyMap<Corner, Heard>,
  contacts: readonly SpeakerContact[],
  reversed: ReadonlySet<Corner> = new Set(),
): WalkOutcome {
  const left = CORNERS.filter((c) => !heard.has(c));
  const wrong = CORNERS.filter((c) => heard.has(c) && heard.get(c) !== c);
  if (left.length > 0) {
    const front = wrong.filter((c) => c.endsWith("F"));
    const hint =
      front.length > 0 && left.some((c) => c.endsWith("R"))
        ? "The front is exchanged; what exchanged it often exchanged the rear too. Hear the rear before a contact is moved."
        : null;
    return { kind: "open", left, hint };
  }
  if (wrong.length === 0 && reversed.size === 0) return { kind: "right" };
  const several = wrong.filter((c) => heard.get(c) === "several");
  if (several.length > 0)
    return {
      kind: "notExchanged",
      reason: `With ${named(several)} set several play: two wires touch, or balance and fader do not stand at the end.`,
    };
  const silent = CORNERS.filter((c) => heard.get(c) === "none");
  const played = CORNERS.filter((c) => !silent.includes(c));
  const speakers = played.map((c) => heard.get(c) as Corner);
  const twice = speakers.find((s, i) => speakers.indexOf(s) !== i);
  if (twice)
    return {
      kind: "notExchanged",
      reason: `The ${CORNER_NAMES[twice]} loudspeaker plays at two corners: two outputs are joined, or one was heard wrongly. Walk again.`,
    };
  const missing = speakers.filter((s) => !played.includes(s));
  if (missing.length > 0)
    return {
      kind: "notExchanged",
      reason: `The ${named(missing)} loudspeaker plays elsewhere and nothing plays at its own corner: one wire may be out of the plug. Look for the silent corner first.`,
    };
  const cycles = cyclesOf(new Map(played.map((c) => [c, heard.get(c) as Corner])));
  if (cycles.length === 0 && reversed.size === 0)
    return {
      kind: "notExchanged",
      reason: `Nothing plays at ${named(silent)}; the others are right. A lead, a plug or the loudspeaker is open.`,
    };
  return { kind: "exchanged", cycles, moves: contactMoves(belongings(heard, contacts, reversed)), silent };
}

function named(corners: readonly Corner[]): string {
  return corners.map((c) => CORNER_NAMES[c]).join(", ");
}

/** Corners that go round, each to the next; those that stay are left out. */
function cyclesOf(to: ReadonlyMap<Corner, Corner>): Corner[][] {
  const seen = new Set<Corner>();
  const cycles: Corner[][] = [];
  for (const start of to.keys()) {
    const cycle: Corner[] = [];
    for (let c: Corner | undefined = start; c && !seen.has(c); c = to.get(c)) {
      seen.add(c);
      cycle.push(c);
    }
    if (cycle.length > 1) cycles.push(cycle);
  }
  return cycles;
}

/** A wire that sits in a cavity, and the cavity that it belongs into. */
interface Wire {
  cavity: string;
  home: string;
  corner: Corner;
  pole: Pole;
}

/** Which wire sits in each cavity, and where it belongs. */
function belongings(
  heard: ReadonlyMap<Corner, Heard>,
  contacts: readonly SpeakerContact[],
  reversed: ReadonlySet<Corner>,
): Wire[] {
  const place = (corner: Corner, pole: Pole) => contacts.find((c) => c.corner === corner && c.pole === pole)?.cavity;
  return contacts.flatMap(({ cavity, corner: set, pole }) => {
    const plays = heard.get(set);
    if (plays === undefined || plays === "none" || plays === "several") return [];
    const own = reversed.has(plays) ? (pole === "+" ? "-" : "+") : pole;
    const home = place(plays, own);
    return home === undefined ? [] : [{ cavity, home, corner: plays, pole: own }];
  });
}

/**
 * The fewest moves that bring every wire home: each wire that is wrong is pulled once, and of each round of exchanges one
 * hangs free meanwhile. Never fewer: a wire in the wrong cavity has to be pulled.
 */
export function contactMoves(wires: readonly Wire[]): ContactMove[] {
  const open = new Map(wires.filter((w) => w.cavity !== w.home).map((w) => [w.cavity, w]));
  const moves: ContactMove[] = [];
  for (const first of wires) {
    if (!open.has(first.cavity)) continue;
    // Its cavity is free once it is pulled; the wire that belongs there goes in, and so on round.
    moves.push(moveOf(first, true));
    open.delete(first.cavity);
    for (let free = first.cavity; free !== first.home; ) {
      const next = [...open.values()].find((w) => w.home === free);
      if (!next) break;
      moves.push(moveOf(next, false));
      open.delete(next.cavity);
      free = next.cavity;
    }
  }
  return moves;
}

function moveOf({ cavity, home, corner, pole }: Wire, waits: boolean): ContactMove {
  return { from: cavity, to: home, corner, pole, waits };
}

/** One thing the hands do: a wire from a cavity, or from where it hangs, into a cavity, or to hang. */
export interface MoveStep {
  corner: Corner;
  pole: Pole;
  /** Null: it hangs. */
  from: string | null;
  /** Null: it is marked and hangs for now. */
  to: string | null;
}

/** What the hands do, in order: a wire that waits hangs until its cavity is free, and then goes in. */
export function moveSteps(moves: readonly ContactMove[]): MoveStep[] {
  const steps: MoveStep[] = [];
  let hanging: ContactMove | null = null;
  const settle = () => {
    if (hanging) steps.push({ corner: hanging.corner, pole: hanging.pole, from: null, to: hanging.to });
    hanging = null;
  };
  for (const move of moves) {
    const { corner, pole, from, to } = move;
    if (move.waits) {
      settle();
      hanging = move;
      steps.push({ corner, pole, from, to: null });
    } else steps.push({ corner, pole, from, to });
  }
  settle();
  return steps;
}
