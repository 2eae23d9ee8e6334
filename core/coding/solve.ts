/** The least change of coded fields that meets goals, dependencies and exclusive groups. Exact. */

export interface Variable {
  key: string;
  now: number;
  /** Values that it may be given; `now` is always allowed. */
  domain: readonly number[];
}

/** Between variables, by their keys. */
export type Rule =
  | { kind: "needs"; key: string; with: readonly number[]; other: string; is: readonly number[] }
  | { kind: "oneOf"; keys: readonly string[] };

export interface Goal {
  key: string;
  /** Values of which it must have one. */
  in: readonly number[];
}

export type Solution =
  | { kind: "solved"; changes: ReadonlyMap<string, number>; bits: number }
  /** Goals that cannot be met together; without one of them the rest could. */
  | { kind: "contradiction"; goals: Goal[] }
  /** The rules are too entangled to say in time what is least. Nothing is proposed. */
  | { kind: "undecided" };

/** Nodes looked at before the search is given up; a map of 128 fields with local dependencies needs some dozens. */
const MAX_NODES = 2000;

class TooEntangled extends Error {}

/**
 * Values with the fewest changed bits; among equals the fewest changed variables, then those first in order.
 *
 * Rules count where a change or a goal touches them: how a car came from the factory is not corrected beside the way.
 *
 * Branch and bound: the cheapest value of every variable is tried; where a rule is broken, it is mended in the ways that there are. The
 * cheapest values of a node are a lower bound of everything below it, so the best whole one that is left is the least.
 */
export function leastChange(variables: readonly Variable[], rules: readonly Rule[], goals: readonly Goal[]): Solution {
  try {
    return search(variables, rules, goals);
  } catch (error) {
    if (error instanceof TooEntangled) return { kind: "undecided" };
    throw error;
  }
}

function search(variables: readonly Variable[], rules: readonly Rule[], goals: readonly Goal[]): Solution {
  const budget = { left: MAX_NODES };
  const changes = new Map<string, number>();
  let bits = 0;
  for (const part of components(variables, rules, goals)) {
    const best = solvePart(part, budget);
    if (best === null) return { kind: "contradiction", goals: conflicting(part, budget) };
    bits += best.bits;
    for (const v of part.variables) {
      const value = best.values.get(v.key) ?? v.now;
      if (value !== v.now) changes.set(v.key, value);
    }
  }
  return { kind: "solved", changes, bits };
}

interface Part {
  variables: readonly Variable[];
  rules: readonly Rule[];
  goals: readonly Goal[];
}

/** Variables that rules join, where at least one goal is not met yet. */
function components(variables: readonly Variable[], rules: readonly Rule[], goals: readonly Goal[]): Part[] {
  const lead = new Map(variables.map((v) => [v.key, v.key]));
  const root = (key: string): string => {
    const up = lead.get(key) ?? key;
    return up === key ? key : root(up);
  };
  const known = rules.filter((r) => keysOf(r).every((k) => lead.has(k)));
  for (const rule of known) {
    const [first = "", ...rest] = keysOf(rule);
    for (const key of rest) lead.set(root(key), root(first));
  }
  const now = new Map(variables.map((v) => [v.key, v.now]));
  const open = goals.filter((g) => now.has(g.key) && !g.in.includes(now.get(g.key) as number));
  return [...new Set(open.map((g) => root(g.key)))].map((r) => ({
    variables: variables.filter((v) => root(v.key) === r),
    rules: known.filter((rule) => root(keysOf(rule)[0] ?? "") === r),
    goals: goals.filter((g) => now.has(g.key) && root(g.key) === r),
  }));
}

interface Best {
  values: Map<string, number>;
  bits: number;
  count: number;
}

type Domains = Map<string, readonly number[]>;

function solvePart({ variables, rules, goals }: Part, budget: { left: number }): Best | null {
  const now = new Map(variables.map((v) => [v.key, v.now]));
  const cost = (key: string, value: number) => ones(value, now.get(key) ?? 0);
  // Cheapest first, so that the first value of a domain is its lower bound.
  const start: Domains = new Map(
    variables.map(({ key, now: n, domain }) => {
      const allowed = [...new Set([n, ...domain])].filter((v) => goals.every((g) => g.key !== key || g.in.includes(v)));
      return [key, allowed.sort((a, b) => cost(key, a) - cost(key, b) || a - b)];
    }),
  );
  let best: Best | null = null;
  const visit = (given: Domains): void => {
    if (budget.left-- <= 0) throw new TooEntangled();
    const domains = propagate(given, rules);
    if (!domains) return;
    const values = new Map([...domains].map(([key, d]) => [key, d[0] as number]));
    const bound = measure(values, now, cost);
    if (best && !better(bound, best)) return;
    const broken = rules.find((r) => !holds(r, values));
    if (!broken) {
      best = bound;
      return;
    }
    const ways = waysToMend(broken, values)
      .map((way) => new Map([...domains].map(([key, d]) => [key, way.has(key) ? d.filter(way.get(key) as Keep) : d])))
      .filter((d) => [...d.values()].every((x) => x.length > 0))
      .map((d) => ({ d, bits: lowerBound(d, cost) }));
    for (const { d } of ways.sort((x, y) => x.bits - y.bits)) visit(d);
  };
  visit(start);
  return best;
}

type Keep = (value: number) => boolean;

/** A broken rule is mended in one of two ways that exclude each other; each takes values from variables. */
function waysToMend(rule: Rule, values: ReadonlyMap<string, number>): ReadonlyMap<string, Keep>[] {
  if (rule.kind === "needs") {
    const met: Keep = (v) => rule.is.includes(v);
    const free: Keep = (v) => !rule.with.includes(v);
    if (rule.key === rule.other) return [new Map([[rule.key, (v: number) => free(v) || met(v)]])];
    return [
      new Map([[rule.other, met]]),
      new Map([
        [rule.other, (v: number) => !met(v)],
        [rule.key, free],
      ]),
    ];
  }
  const on = rule.keys.find((k) => values.get(k) !== 0) ?? "";
  const zero: Keep = (v) => v === 0;
  return [new Map([[on, zero]]), new Map(rule.keys.map((k) => [k, k === on ? (v: number) => v !== 0 : zero]))];
}

/** Fewest bits that anything below a node can have. */
function lowerBound(domains: Domains, cost: (k: string, v: number) => number): number {
  let bits = 0;
  for (const [key, d] of domains) bits += cost(key, d[0] as number);
  return bits;
}

function measure(values: Map<string, number>, now: Map<string, number>, cost: (k: string, v: number) => number): Best {
  let bits = 0;
  let count = 0;
  for (const [key, value] of values) {
    if (value === now.get(key)) continue;
    bits += cost(key, value);
    count++;
  }
  return { values, bits, count };
}

function better(a: Best, b: Best): boolean {
  return a.bits < b.bits || (a.bits === b.bits && a.count < b.count);
}

/** Takes out values that no rule allows any more; null when a variable has none left. */
function propagate(given: Domains, rules: readonly Rule[]): Domains | null {
  if ([...given.values()].some((d) => d.length === 0)) return null;
  const domains = new Map(given);
  let again = true;
  const narrow = (key: string, keep: (v: number) => boolean): boolean => {
    const before = domains.get(key) as readonly number[];
    const after = before.filter(keep);
    if (after.length === before.length) return true;
    domains.set(key, after);
    again = true;
    return after.length > 0;
  };
  while (again) {
    again = false;
    for (const rule of rules) if (!narrowed(rule, domains, narrow)) return null;
  }
  return domains;
}

function narrowed(rule: Rule, domains: Domains, narrow: (key: string, keep: (v: number) => boolean) => boolean) {
  if (rule.kind === "needs") {
    const mine = domains.get(rule.key) as readonly number[];
    const theirs = domains.get(rule.other) as readonly number[];
    if (mine.every((v) => rule.with.includes(v)) && !narrow(rule.other, (v) => rule.is.includes(v))) return false;
    return theirs.some((v) => rule.is.includes(v)) || narrow(rule.key, (v) => !rule.with.includes(v));
  }
  const on = rule.keys.find((k) => !(domains.get(k) as readonly number[]).includes(0));
  return on === undefined || rule.keys.every((k) => k === on || narrow(k, (v) => v === 0));
}

export function holds(rule: Rule, values: ReadonlyMap<string, number>): boolean {
  if (rule.kind === "oneOf") return rule.keys.filter((k) => values.get(k) !== 0).length <= 1;
  return !rule.with.includes(values.get(rule.key) ?? -1) || rule.is.includes(values.get(rule.other) ?? -1);
}

/** Goals of which none can be left out without the rest becoming possible. */
function conflicting(part: Part, budget: { left: number }): Goal[] {
  let core = [...part.goals];
  for (const goal of part.goals) {
    const without = core.filter((g) => g !== goal);
    if (solvePart({ ...part, goals: without }, budget) === null) core = without;
  }
  return core;
}

function keysOf(rule: Rule): readonly string[] {
  return rule.kind === "needs" ? [rule.key, rule.other] : rule.keys;
}

/** In how many bits two values differ. */
function ones(a: number, b: number): number {
  let n = 0;
  for (let x = a, y = b; x > 0 || y > 0; x = Math.floor(x / 2), y = Math.floor(y / 2)) n += (x ^ y) & 1;
  return n;
}
