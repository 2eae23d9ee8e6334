import { ModelError } from "./errors";
import { layerOf } from "./kinds";
import type { SignalTable } from "./signal";
import type { Condition, Part, Situation } from "./types";

/** What a guard may look at while a layer is being evaluated. */
export interface GuardContext {
  situation: Situation;
  /** Value of a setting by `part.setting`. */
  setting(key: string): string | undefined;
  /** Does a signal of this pattern arrive on the *in* side of the node? */
  arrives(node: number, pattern: number): boolean;
}

/** A condition that can be asked, with the conditions it is made of. The one interpreter: nothing else reads them. */
export interface Check {
  condition: Condition;
  test(context: GuardContext): boolean;
  parts: readonly Check[];
}

export interface Guard extends Check {
  /** Nodes whose arrivals it looks at. */
  watches: readonly number[];
  /** Settings it looks at, by `part.setting`. */
  settings: readonly string[];
}

/** What conditions are resolved against. */
export interface Names {
  indexOf: ReadonlyMap<string, number>;
  signals: SignalTable;
}

/**
 * Compiles a condition of a part into a guard for a target on the given layer.
 *
 * @throws {ModelError} when it looks at a later layer, negates its own layer, or names an unknown contact, bus or setting.
 */
export function compileCondition(
  condition: Condition,
  part: Part,
  layer: number,
  place: string,
  { indexOf, signals }: Names,
): Guard {
  const watches: number[] = [];
  const settings: string[] = [];
  return { ...build(condition, false), watches, settings };

  function build(c: Condition, negated: boolean): Check {
    const leaf = (test: Check["test"]): Check => ({ condition: c, test, parts: [] });
    if ("all" in c) {
      const parts = c.all.map((x) => build(x, negated));
      const tests = parts.map((p) => p.test);
      return { condition: c, parts, test: tests.length === 2 ? both(tests) : every(tests) };
    }
    if ("any" in c) {
      const parts = c.any.map((x) => build(x, negated));
      const tests = parts.map((p) => p.test);
      return { condition: c, parts, test: some(tests) };
    }
    if ("not" in c) {
      const inner = build(c.not, !negated);
      return { condition: c, parts: [inner], test: (ctx) => !inner.test(ctx) };
    }
    if ("situation" in c) {
      const field = c.situation;
      if ("is" in c) {
        const [only] = c.is;
        if (c.is.length === 1) return leaf((ctx) => ctx.situation[field] === only);
        return leaf((ctx) => c.is.includes(ctx.situation[field]));
      }
      if ("atMost" in c) return leaf((ctx) => Number(ctx.situation[field]) <= c.atMost);
      return leaf((ctx) => Number(ctx.situation[field]) >= c.atLeast);
    }
    if ("setting" in c) {
      if (!part.settings?.some((s) => s.id === c.setting)) {
        throw new ModelError(place, `the part has no setting “${c.setting}”.`, "Add the setting or correct the name.");
      }
      const key = `${part.id}.${c.setting}`;
      settings.push(key);
      return leaf((ctx) => c.is.includes(ctx.setting(key) ?? ""));
    }
    if ("hears" in c) {
      const pair = busPair(part, c.bus);
      const high = watch(pair.high, negated);
      const low = watch(pair.low, negated);
      const onHigh = signals.pattern({ message: c.hears, line: "high" });
      const onLow = signals.pattern({ message: c.hears, line: "low" });
      return leaf((ctx) => ctx.arrives(high, onHigh) && ctx.arrives(low, onLow));
    }
    const node = watch(c.present, negated);
    const pattern = signals.pattern(c.where);
    return leaf((ctx) => ctx.arrives(node, pattern));
  }

  function watch(contact: string, negated: boolean): number {
    const index = indexOf.get(`${part.id}.${contact}`);
    const kind = kindOf(part, contact);
    if (index === undefined || kind === undefined) {
      throw new ModelError(
        place,
        `its condition names the contact ${contact}, which the part does not have.`,
        "Name a contact as port.contact.",
      );
    }
    const of = layerOf(kind);
    if (of > layer) {
      throw new ModelError(
        place,
        `its condition looks at ${contact}, which is evaluated later.`,
        "Conditions may look only at the same or an earlier layer.",
      );
    }
    if (negated && of === layer) {
      throw new ModelError(
        place,
        `its condition denies ${contact} of its own layer.`,
        "“not” is allowed on earlier layers only.",
      );
    }
    watches.push(2 * index);
    return 2 * index;
  }
}

type Test = Check["test"];

/** Plain loops: guards are the busiest code of an evaluation. */
function every(tests: readonly Test[]): Test {
  return (ctx) => {
    for (const test of tests) if (!test(ctx)) return false;
    return true;
  };
}

function both([one, two]: readonly Test[]): Test {
  return (ctx) => (one as Test)(ctx) && (two as Test)(ctx);
}

function some(tests: readonly Test[]): Test {
  return (ctx) => {
    for (const test of tests) if (test(ctx)) return true;
    return false;
  };
}

/** The first part of a failing condition that fails, in the order in which the profile states it. */
export function firstFailing(check: Check, context: GuardContext): Check | null {
  if (check.test(context)) return null;
  if (!("all" in check.condition)) return check;
  for (const part of check.parts) {
    const leaf = firstFailing(part, context);
    if (leaf) return leaf;
  }
  return check;
}

function kindOf(part: Part, place: string) {
  const [portId, contactId] = place.split(".");
  return part.ports.find((p) => p.id === portId)?.contacts.find((c) => c.id === contactId)?.kind;
}

/** The bus pair of a part by name. @throws {ModelError} when the part has no such bus. */
export function busPair(part: Part, id: string) {
  const pair = part.buses?.find((b) => b.id === id);
  if (!pair) throw new ModelError(part.id, `it has no bus “${id}”.`, "Name one of the part's bus pairs.");
  return pair;
}
