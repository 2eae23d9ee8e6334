import { Model } from "../model/outcome";
import type { SwitchBank } from "../model/profile";
import { settingsReach } from "../model/relevance";
import type { FunctionSpec, Settings, System } from "../model/types";

export interface SwitchEffect {
  /** 1-based place in the bank. */
  number: number;
  setting: string;
  label: string;
  /** How it must stand; null while that is not known. */
  value: string | null;
  /** True when no wanted function depends on it: it stays at its initial value. */
  free: boolean;
  /** Functions that fail when this switch alone stands at its other value. */
  breaks: string[];
}

/** One way out where functions cannot be had together. */
export interface Way {
  /** Functions given up with it, in the order of the system. */
  givesUp: { id: string; name: string }[];
  settings: Settings;
}

export interface SwitchSolution {
  /** Solved values by `part.setting`; null when no position gives all wanted functions. */
  settings: Settings | null;
  /**
   * The ways out when each wanted function can be had, but not all of them together, those that give up least first;
   * empty when there is no conflict. Which one is taken is for a person to say.
   */
  conflict: Way[];
  /** A smallest set of wanted functions that no position gives together, by name; empty when there is no conflict. */
  clash: string[];
  switches: SwitchEffect[];
  /** How many positions of the whole bank give all wanted functions. */
  solutions: number;
  tried: number;
  /** Wanted functions that no position gives, when there is no solution. */
  missing: string[];
}

interface Wanted {
  fn: FunctionSpec;
  situation: string;
  /** The switches that can matter to it. */
  matters: Position;
  /** Outcome by the position of these switches. */
  known: Map<Position, boolean>;
}

/** A position of the whole bank as bits: bit i is set when switch i does not stand as delivered. */
type Position = number;

/**
 * Solves a switch bank by trying all of its positions until all wanted functions are present.
 *
 * Of several solutions the one nearest to the initial positions is taken. Functions that no position can give are
 * reported and left out of the search. Of the 2^n positions a function is evaluated only for the combinations of
 * those switches that can matter to it.
 *
 * @param model of the system, where it is at hand already
 * @param detail `first` takes the first good position and looks neither what each switch breaks nor what clashes
 */
export function solveSwitches(
  system: System,
  bank: SwitchBank,
  wantedFunctions: readonly string[],
  detail: "all" | "first" = "all",
  model: Model = new Model(system),
): SwitchSolution {
  const part = system.parts.find((p) => p.id === bank.part);
  const initial = bank.switches.map((id) => part?.settings?.find((s) => s.id === id)?.initial ?? bank.off);
  const keys = bank.switches.map((id) => `${bank.part}.${id}`);
  const known = new Map<Position, Settings>();
  const settingsAt = (position: Position): Settings => {
    let settings = known.get(position);
    if (!settings) {
      const value = (usual: string, i: number) => (position & (1 << i) ? otherValue(bank, usual) : usual);
      settings = Object.fromEntries(keys.map((key, i) => [key, value(initial[i] ?? bank.off, i)]));
      known.set(position, settings);
    }
    return settings;
  };
  const reach = settingsReach(model.compiled, keys);
  const all: Wanted[] = system.functions
    .filter((f) => wantedFunctions.includes(f.id))
    .flatMap((fn) => {
      const matters = reach(fn);
      return fn.situations.map((s): Wanted => ({ fn, situation: s.id, matters, known: new Map() }));
    });
  const positions = positionsByChange(bank.switches.length);
  const passes = (w: Wanted, position: Position) => {
    const decisive = position & w.matters;
    let known = w.known.get(decisive);
    if (known === undefined) {
      // In the whole position, which other functions and the ledger ask for as well.
      known = model.see(w.fn, w.situation, settingsAt(position)).kind === "ok";
      w.known.set(decisive, known);
    }
    return known;
  };

  const search = (goals: Wanted[]) => {
    const good = (p: Position) => survives(p, goals, passes);
    if (detail === "all") return positions.filter(good);
    const first = positions.find(good);
    return first === undefined ? [] : [first];
  };
  let wanted = [...all];
  let good = search(wanted);
  const missing: string[] = [];
  if (good.length === 0) {
    for (const w of all) {
      const possible = positions.some((p) => passes(w, p));
      if (!possible) missing.push(w.fn.name);
    }
    wanted = all.filter((w) => !missing.includes(w.fn.name));
    good = missing.length > 0 && wanted.length > 0 ? search(wanted) : [];
  }
  const [solved] = good;
  const settings = solved === undefined ? null : settingsAt(solved);
  const conflict = solved === undefined && wanted.length > 0 ? waysOut(wanted, positions, passes, settingsAt) : [];
  return {
    settings,
    conflict,
    clash: detail === "all" && conflict.length > 0 ? smallestClash(wanted, positions, passes) : [],
    solutions: good.length,
    tried: positions.length,
    missing: [...new Set(missing)],
    switches: bank.switches.map((id, i) => {
      const value = settings?.[`${bank.part}.${id}`] ?? null;
      const breaks = solved !== undefined && detail === "all" ? brokenBy(solved ^ (1 << i), wanted, passes) : [];
      return {
        number: i + 1,
        setting: id,
        label: part?.settings?.find((s) => s.id === id)?.label ?? id,
        value,
        free: settings !== null && breaks.length === 0,
        breaks,
      };
    }),
  };
}

/**
 * The largest sets of functions that can be had together, each with the position nearest to how the bank is delivered.
 * What the law asks for is not given up where there is another way.
 */
function waysOut(
  wanted: readonly Wanted[],
  positions: readonly Position[],
  passes: (w: Wanted, p: Position) => boolean,
  settingsAt: (p: Position) => Settings,
): Way[] {
  const fails = new Map<string, { ids: Set<string>; position: Position }>();
  for (const position of positions) {
    const ids = new Set(wanted.filter((w) => !passes(w, position)).map((w) => w.fn.id));
    const key = [...ids].sort().join();
    if (!fails.has(key)) fails.set(key, { ids, position });
  }
  const sets = [...fails.values()];
  const isLeast = ({ ids }: { ids: Set<string> }) =>
    !sets.some((o) => o.ids.size < ids.size && [...o.ids].every((id) => ids.has(id)));
  const names = new Map(wanted.map((w) => [w.fn.id, w.fn.name]));
  const law = new Set(wanted.filter((w) => w.fn.who === "law").map((w) => w.fn.id));
  const least = sets.filter(isLeast);
  const lawful = least.filter(({ ids }) => ![...ids].some((id) => law.has(id)));
  return (lawful.length > 0 ? lawful : least)
    .sort((a, b) => a.ids.size - b.ids.size)
    .map(({ ids, position }) => ({
      givesUp: [...names].filter(([id]) => ids.has(id)).map(([id, name]) => ({ id, name })),
      settings: settingsAt(position),
    }));
}

/**
 * Functions that cannot be had together while any of them left out would do: two or three of them where so few clash, else
 * what is left when one after the other that is not needed for the clash is let go.
 */
function smallestClash(
  wanted: readonly Wanted[],
  positions: readonly Position[],
  passes: (w: Wanted, p: Position) => boolean,
): string[] {
  const names = new Map(wanted.map((w) => [w.fn.id, w.fn.name]));
  const functions = [...names].map(([id, name]) => {
    const mine = wanted.filter((w) => w.fn.id === id);
    return { name, given: new Set(positions.filter((p) => mine.every((w) => passes(w, p)))) };
  });
  type Given = (typeof functions)[number];
  const clashes = (set: readonly Given[]) => !positions.some((p) => set.every((f) => f.given.has(p)));
  const named = (set: readonly Given[]) => set.map((f) => f.name);
  const later = (i: number) => functions.slice(i + 1);
  for (const [i, a] of functions.entries()) for (const b of later(i)) if (clashes([a, b])) return named([a, b]);
  for (const [i, a] of functions.entries())
    for (const [j, b] of later(i).entries())
      for (const c of later(i + 1 + j)) if (clashes([a, b, c])) return named([a, b, c]);
  const needed = functions.reduce<Given[]>((left, f) => {
    const without = left.filter((o) => o !== f);
    return clashes(without) ? without : left;
  }, functions);
  return named(needed);
}

/** Names of the functions that fail with the entered positions, and the switches that differ from the solution. */
export function compareSwitches(
  solution: SwitchSolution,
  bank: SwitchBank,
  entered: Settings,
): { number: number; should: string; is: string; breaks: string[] }[] {
  return solution.switches.flatMap((s) => {
    const is = entered[`${bank.part}.${s.setting}`];
    if (s.value === null || is === undefined || is === s.value) return [];
    return [{ number: s.number, should: s.value, is, breaks: s.breaks }];
  });
}

/** True when all wanted functions pass. The one that failed moves to the front, where it soon fails the next position. */
function survives(position: Position, wanted: Wanted[], passes: (w: Wanted, p: Position) => boolean): boolean {
  const failing = wanted.findIndex((w) => !passes(w, position));
  if (failing > 0) wanted.unshift(...wanted.splice(failing, 1));
  return failing < 0;
}

const inOrder = new Map<number, readonly Position[]>();

/** All positions of a bank, those with the fewest switches moved first. */
function positionsByChange(switches: number): readonly Position[] {
  const positions =
    inOrder.get(switches) ??
    Array.from({ length: 2 ** switches }, (_, position) => position).sort((a, b) => ones(a) - ones(b) || a - b);
  inOrder.set(switches, positions);
  return positions;
}

function ones(position: Position): number {
  let n = 0;
  for (let p = position; p > 0; p &= p - 1) n++;
  return n;
}

function otherValue(bank: SwitchBank, value: string): string {
  return value === bank.on ? bank.off : bank.on;
}

/** Names of the functions that fail in a position. */
function brokenBy(
  position: Position,
  wanted: readonly Wanted[],
  passes: (w: Wanted, p: Position) => boolean,
): string[] {
  return [...new Set(wanted.filter((w) => !passes(w, position)).map((w) => w.fn.name))];
}
