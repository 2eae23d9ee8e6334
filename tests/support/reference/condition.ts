import { ModelError } from "../../../core/model/errors";
import { layerOf } from "../../../core/model/kinds";
import type { Attributes, Condition, Part, Situation } from "../../../core/model/types";

/** What a guard may look at while a layer is being evaluated. */
export interface GuardContext {
  situation: Situation;
  /** Value of a setting by `part.setting`. */
  setting(key: string): string | undefined;
  /** Does a signal with these attributes arrive on the *in* side of the node? */
  arrives(node: number, where: Attributes | undefined): boolean;
}

export interface Guard {
  test(context: GuardContext): boolean;
  /** Nodes whose arrivals it looks at. */
  watches: readonly number[];
  /** Settings it looks at, by `part.setting`. */
  settings: readonly string[];
}

/** Nodes a guard depends on; none for an absent guard. */
export function dependsOn(guard: Guard | null): readonly number[] {
  return guard?.watches ?? [];
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
  indexOf: ReadonlyMap<string, number>,
): Guard {
  const watches: number[] = [];
  const settings: string[] = [];
  const test = build(condition, false);
  return { test, watches, settings };

  function build(c: Condition, negated: boolean): Guard["test"] {
    if ("all" in c) {
      const tests = c.all.map((x) => build(x, negated));
      return (ctx) => tests.every((t) => t(ctx));
    }
    if ("any" in c) {
      const tests = c.any.map((x) => build(x, negated));
      return (ctx) => tests.some((t) => t(ctx));
    }
    if ("not" in c) {
      const inner = build(c.not, !negated);
      return (ctx) => !inner(ctx);
    }
    if ("situation" in c) {
      const field = c.situation;
      if ("is" in c) return (ctx) => c.is.includes(ctx.situation[field]);
      if ("atMost" in c) return (ctx) => Number(ctx.situation[field]) <= c.atMost;
      return (ctx) => Number(ctx.situation[field]) >= c.atLeast;
    }
    if ("setting" in c) {
      if (!part.settings?.some((s) => s.id === c.setting)) {
        throw new ModelError(place, `the part has no setting “${c.setting}”.`, "Add the setting or correct the name.");
      }
      const key = `${part.id}.${c.setting}`;
      settings.push(key);
      return (ctx) => c.is.includes(ctx.setting(key) ?? "");
    }
    if ("hears" in c) {
      const pair = busPair(part, c.bus);
      const high = watch(pair.high, negated);
      const low = watch(pair.low, negated);
      const onHigh = { message: c.hears, line: "high" };
      const onLow = { message: c.hears, line: "low" };
      return (ctx) => ctx.arrives(high, onHigh) && ctx.arrives(low, onLow);
    }
    const node = watch(c.present, negated);
    return (ctx) => ctx.arrives(node, c.where);
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
