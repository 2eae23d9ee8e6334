import { ModelError } from "./errors";
import { layerOf } from "./kinds";
import { patternOf } from "./signal";
import type { Condition, Part, Situation } from "./types";

/** What a guard may look at while a layer is being evaluated. */
export interface GuardContext {
  situation: Situation;
  /** What the settings say to a question that they alone decide. */
  decides(question: SettingQuestion): boolean;
  /** Does a signal of this pattern arrive on the *in* side of the node? */
  arrives(node: number, pattern: number): boolean;
}

/** Value of a setting by `part.setting`. */
export type SettingReader = (key: string) => string | undefined;

/**
 * A question that the settings alone decide. Settings that answer it alike are one to whatever asks nothing else of them:
 * five switches that make a code are one question, not five.
 */
export type SettingQuestion = (setting: SettingReader) => boolean;

/** A condition that can be asked, with the conditions it is made of. The one interpreter: nothing else reads them. */
export interface Check {
  condition: Condition;
  /** @param first the node at which the contacts of the part begin */
  test(context: GuardContext, first: number): boolean;
  /** The same asked of the settings, where they alone decide it. */
  question: SettingQuestion | null;
  parts: readonly Check[];
}

/** A condition of a part, compiled once, wherever the part stands. */
export interface PartGuard extends Check {
  /** Nodes whose arrivals it looks at, counted from the first of the part. */
  watches: readonly number[];
  /** Settings it looks at, by `part.setting`. */
  settings: readonly string[];
  /** What of it the situation alone decides, so that it is asked once an evaluation; null when nothing is. */
  ofSituation: Test | null;
}

/** A condition of a part in a system. */
export interface Guard {
  check: PartGuard;
  /** The node at which the contacts of the part begin. */
  first: number;
}

/** Nodes whose arrivals a guard looks at. */
export function watchedBy({ check, first }: Guard): number[] {
  return check.watches.map((n) => n + first);
}

export function holds({ check, first }: Guard, context: GuardContext): boolean {
  return check.test(context, first);
}

/**
 * Compiles a condition of a part into a guard for a target on the given layer.
 *
 * @param indexOf numbers of the contacts of the part, by `port.contact`
 * @throws {ModelError} when it looks at a later layer, negates its own layer, or names an unknown contact, bus or setting.
 */
export function compileCondition(
  condition: Condition,
  part: Part,
  layer: number,
  where: string,
  indexOf: ReadonlyMap<string, number>,
): PartGuard {
  const compiler = new ConditionCompiler(part, layer, where, indexOf);
  const check = compiler.build(condition, false);
  const { watches, settings } = compiler;
  return { ...check, watches, settings, ofSituation: situationPart(check) };
}

function situationPart(check: Check): Test | null {
  const tests = statedTogether(check)
    .filter(isOfSituation)
    .map((c) => c.test);
  return tests.length > 1 ? every(tests) : (tests[0] ?? null);
}

/** The conditions that must all hold. */
function statedTogether(check: Check): readonly Check[] {
  return "all" in check.condition ? check.parts.flatMap(statedTogether) : [check];
}

function isOfSituation({ condition, parts }: Check): boolean {
  return "situation" in condition || (parts.length > 0 && parts.every(isOfSituation));
}

/** Builds the tests of one condition and notes what they look at. */
class ConditionCompiler {
  readonly watches: number[] = [];
  readonly settings: string[] = [];

  constructor(
    private readonly part: Part,
    private readonly layer: number,
    private readonly where: string,
    private readonly indexOf: ReadonlyMap<string, number>,
  ) {}

  build(c: Condition, negated: boolean): Check {
    const leaf = (test: Test): Check => ({ condition: c, test, question: null, parts: [] });
    const decided = (question: SettingQuestion, parts: readonly Check[] = []): Check => ({
      condition: c,
      test: (ctx) => ctx.decides(question),
      question,
      parts,
    });
    if ("all" in c) {
      const parts = c.all.map((x) => this.build(x, negated));
      const questions = questionsOf(parts);
      const together: SettingQuestion = (read) => questions.every((q) => q(read));
      if (questions.length === parts.length) return decided(together, parts);
      // The settings last: what nothing waits for asks nothing of them.
      const tests = parts.filter((p) => !p.question).map((p) => p.test);
      if (questions.length > 0) tests.push((ctx) => ctx.decides(together));
      return { condition: c, parts, question: null, test: tests.length === 2 ? both(tests) : every(tests) };
    }
    if ("any" in c) {
      const parts = c.any.map((x) => this.build(x, negated));
      const questions = questionsOf(parts);
      if (questions.length === parts.length) return decided((read) => questions.some((q) => q(read)), parts);
      return { condition: c, parts, question: null, test: some(parts.map((p) => p.test)) };
    }
    if ("not" in c) {
      const inner = this.build(c.not, !negated);
      const { question } = inner;
      if (question) return decided((read) => !question(read), [inner]);
      return { condition: c, parts: [inner], question: null, test: (ctx, first) => !inner.test(ctx, first) };
    }
    if ("situation" in c) return leaf(situationTest(c));
    if ("setting" in c) {
      const key = this.setting(c.setting);
      return decided((read) => c.is.includes(read(key) ?? ""));
    }
    if ("hears" in c) {
      const pair = busPair(this.part, c.bus);
      const high = this.watch(pair.high, negated);
      const low = this.watch(pair.low, negated);
      const onHigh = patternOf({ message: c.hears, line: "high" });
      const onLow = patternOf({ message: c.hears, line: "low" });
      return leaf((ctx, first) => ctx.arrives(first + high, onHigh) && ctx.arrives(first + low, onLow));
    }
    const node = this.watch(c.present, negated);
    const pattern = patternOf(c.where);
    return leaf((ctx, first) => ctx.arrives(first + node, pattern));
  }

  private setting(id: string): string {
    if (!this.part.settings?.some((s) => s.id === id))
      throw new ModelError(this.where, `the part has no setting “${id}”.`, "Add the setting or correct the name.");
    const key = `${this.part.id}.${id}`;
    this.settings.push(key);
    return key;
  }

  private watch(contact: string, negated: boolean): number {
    const index = this.indexOf.get(contact);
    const kind = kindOf(this.part, contact);
    if (index === undefined || kind === undefined)
      throw new ModelError(
        this.where,
        `its condition names the contact ${contact}, which the part does not have.`,
        "Name a contact as port.contact.",
      );
    const of = layerOf(kind);
    if (of > this.layer)
      throw new ModelError(
        this.where,
        `its condition looks at ${contact}, which is evaluated later.`,
        "Conditions may look only at the same or an earlier layer.",
      );
    if (negated && of === this.layer)
      throw new ModelError(
        this.where,
        `its condition denies ${contact} of its own layer.`,
        "“not” is allowed on earlier layers only.",
      );
    this.watches.push(2 * index);
    return 2 * index;
  }
}

function situationTest(c: Extract<Condition, { situation: string }>): Test {
  const field = c.situation;
  if ("is" in c) {
    const [only] = c.is;
    if (c.is.length === 1) return (ctx) => ctx.situation[field] === only;
    return (ctx) => c.is.includes(ctx.situation[field]);
  }
  if ("atMost" in c) return (ctx) => Number(ctx.situation[field]) <= c.atMost;
  return (ctx) => Number(ctx.situation[field]) >= c.atLeast;
}

type Test = Check["test"];

function questionsOf(checks: readonly Check[]): SettingQuestion[] {
  return checks.flatMap((c) => (c.question ? [c.question] : []));
}

/** Plain loops: guards are the busiest code of an evaluation. */
function every(tests: readonly Test[]): Test {
  return (ctx, first) => {
    for (const test of tests) if (!test(ctx, first)) return false;
    return true;
  };
}

function both([one, two]: readonly Test[]): Test {
  return (ctx, first) => (one as Test)(ctx, first) && (two as Test)(ctx, first);
}

function some(tests: readonly Test[]): Test {
  return (ctx, first) => {
    for (const test of tests) if (test(ctx, first)) return true;
    return false;
  };
}

/** The first part of a failing condition that fails, in the order in which the profile states it. */
export function firstFailing({ check, first }: Guard, context: GuardContext): Check | null {
  return find(check);

  function find(of: Check): Check | null {
    if (of.test(context, first)) return null;
    if (!("all" in of.condition)) return of;
    for (const part of of.parts) {
      const leaf = find(part);
      if (leaf) return leaf;
    }
    return of;
  }
}

function kindOf(part: Part, contact: string) {
  const [portId, contactId] = contact.split(".");
  return part.ports.find((p) => p.id === portId)?.contacts.find((c) => c.id === contactId)?.kind;
}

/** The bus pair of a part by name. @throws {ModelError} when the part has no such bus. */
export function busPair(part: Part, id: string) {
  const pair = part.buses?.find((b) => b.id === id);
  if (!pair) throw new ModelError(part.id, `it has no bus “${id}”.`, "Name one of the part's bus pairs.");
  return pair;
}
