import { Model } from "../model/outcome";
import type { SwitchBank } from "../model/profile";
import { relevantSettings } from "../model/relevance";
import type { FunctionSpec, Settings, System } from "../model/types";

export interface SwitchEffect {
  /** 1-based place in the bank. */
  place: number;
  setting: string;
  label: string;
  value: string;
  /** True when no wanted function depends on it: it stays at its initial value. */
  free: boolean;
  /** Functions that fail when this switch alone stands at its other value. */
  breaks: string[];
}

export interface SwitchSolution {
  /** Solved values by `part.setting`; null when no position gives all wanted functions. */
  settings: Settings | null;
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
  /** Settings of the bank that can matter to it, in the order of the bank. */
  matters: readonly string[];
  /** Outcome by the values of these settings. */
  known: Map<string, boolean>;
}

/**
 * Solves a switch bank by trying all of its positions until all wanted functions are present.
 *
 * Of several solutions the one nearest to the initial positions is taken. Functions that no position can give are
 * reported and left out of the search. Of the 2^n positions a function is evaluated only for the combinations of
 * those switches that can matter to it.
 *
 * @param model of the system, where it is at hand already
 * @param detail `first` takes the first good position and does not look what each switch breaks
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
  const all: Wanted[] = system.functions
    .filter((f) => wantedFunctions.includes(f.id))
    .flatMap((fn) => {
      const relevant = relevantSettings(model.compiled, fn);
      const matters = bank.switches.map((id) => `${bank.part}.${id}`).filter((key) => relevant.has(key));
      return fn.situations.map((s): Wanted => ({ fn, situation: s.id, matters, known: new Map() }));
    });
  const positions = allPositions(bank, initial);
  const passes = (w: Wanted, settings: Settings) => passesWith(model, w, settings);

  const search = (goals: Wanted[]) => {
    const good = (p: Settings) => survives(p, goals, passes);
    if (detail === "all") return positions.filter(good);
    const first = positions.find(good);
    return first ? [first] : [];
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
  const settings = good[0] ?? null;
  return {
    settings,
    solutions: good.length,
    tried: positions.length,
    missing: [...new Set(missing)],
    switches: bank.switches.map((id, i) => {
      const value = settings?.[`${bank.part}.${id}`] ?? initial[i] ?? bank.off;
      const breaks =
        settings && detail === "all"
          ? brokenBy(settings, `${bank.part}.${id}`, otherValue(bank, value), wanted, passes)
          : [];
      return {
        place: i + 1,
        setting: id,
        label: part?.settings?.find((s) => s.id === id)?.label ?? id,
        value,
        free: breaks.length === 0,
        breaks,
      };
    }),
  };
}

/** Names of the functions that fail with the entered positions, and the switches that differ from the solution. */
export function compareSwitches(
  solution: SwitchSolution,
  bank: SwitchBank,
  entered: Settings,
): { place: number; should: string; is: string; breaks: string[] }[] {
  return solution.switches.flatMap((s) => {
    const is = entered[`${bank.part}.${s.setting}`];
    return is === undefined || is === s.value ? [] : [{ place: s.place, should: s.value, is, breaks: s.breaks }];
  });
}

/** Tries a function once for each combination of the settings that can matter to it; the others stay as delivered. */
function passesWith(model: Model, w: Wanted, settings: Settings): boolean {
  const key = w.matters.map((m) => settings[m]).join();
  let passes = w.known.get(key);
  if (passes === undefined) {
    const some = Object.fromEntries(w.matters.flatMap((m) => (settings[m] === undefined ? [] : [[m, settings[m]]])));
    passes = model.see(w.fn, w.situation, some as Settings).kind === "ok";
    w.known.set(key, passes);
  }
  return passes;
}

/** True when all wanted functions pass. The one that failed moves to the front, where it soon fails the next position. */
function survives(settings: Settings, wanted: Wanted[], passes: (w: Wanted, s: Settings) => boolean): boolean {
  const failing = wanted.findIndex((w) => !passes(w, settings));
  if (failing > 0) wanted.unshift(...wanted.splice(failing, 1));
  return failing < 0;
}

/** All positions, those with the fewest changes from the initial one first. */
function allPositions(bank: SwitchBank, initial: readonly string[]): Settings[] {
  const count = 2 ** bank.switches.length;
  const masks = Array.from({ length: count }, (_, mask) => mask).sort((a, b) => ones(a) - ones(b) || a - b);
  return masks.map((mask) =>
    Object.fromEntries(
      bank.switches.map((id, i) => {
        const usual = initial[i] ?? bank.off;
        return [`${bank.part}.${id}`, mask & (1 << i) ? otherValue(bank, usual) : usual];
      }),
    ),
  );
}

function ones(mask: number): number {
  let n = 0;
  for (let m = mask; m > 0; m &= m - 1) n++;
  return n;
}

function otherValue(bank: SwitchBank, value: string): string {
  return value === bank.on ? bank.off : bank.on;
}

function brokenBy(
  settings: Settings,
  key: string,
  value: string,
  wanted: readonly Wanted[],
  passes: (w: Wanted, s: Settings) => boolean,
): string[] {
  const flipped = { ...settings, [key]: value };
  return [...new Set(wanted.filter((w) => !passes(w, flipped)).map((w) => w.fn.name))];
}
