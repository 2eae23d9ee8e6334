import { conditionWords, describeContact, describePort } from "../../../core/model/labels";
import { matches } from "../../../core/model/signal";
import type { Attributes, Condition, ContactRef, Part } from "../../../core/model/types";
import type { CompiledSystem, Edge } from "./compile";
import { busPair } from "./condition";
import type { Evaluation } from "./evaluate";

/** Why a signal is missing: the place where it stopped and the chain of causes, nearest first. */
export interface Break {
  /** Contact the signal did not reach. */
  ref: ContactRef;
  /** Part or link at which it stopped. */
  owner: string;
  reasons: string[];
}

/** How deep causes of causes are followed; deeper chains say no more to a person. */
const MAX_DEPTH = 6;

/**
 * Finds where a wanted signal stopped on its way to a contact.
 *
 * Walks the graph backwards from the contact, ignoring conditions, to the nearest step whose start has the signal
 * and whose end has not, or to a source that did not start; then says which condition failed, following the failed
 * condition to its own cause.
 */
export function explainAbsence(evaluation: Evaluation, ref: ContactRef, where: Attributes | undefined): Break {
  return new Explainer(evaluation).absence(ref, where, 0);
}

export function explainFailing(evaluation: Evaluation, part: Part, condition: Condition, opening: string): string[] {
  return new Explainer(evaluation).failed(part, condition, 0, opening);
}

class Explainer {
  private readonly compiled: CompiledSystem;
  private readonly visiting = new Set<string>();

  constructor(private readonly evaluation: Evaluation) {
    this.compiled = evaluation.compiled;
  }

  absence(ref: ContactRef, where: Attributes | undefined, depth: number): Break {
    const index = this.compiled.indexOf.get(ref);
    const system = this.compiled.system;
    if (index === undefined) return { ref, owner: "", reasons: [`There is no ${ref} in this system.`] };
    const key = `${ref}|${JSON.stringify(where ?? {})}`;
    if (depth > MAX_DEPTH || this.visiting.has(key)) return { ref, owner: "", reasons: [] };
    this.visiting.add(key);
    const frontier = this.nearestFrontier(2 * index, where);
    this.visiting.delete(key);
    if (!frontier) {
      return { ref, owner: ref.split(".")[0] ?? "", reasons: [`Nothing leads to ${describeContact(system, ref)}.`] };
    }
    return this.describe(frontier, depth);
  }

  /** Breadth first, backwards: a source that should have started, or an edge whose start carries the signal. */
  private nearestFrontier(sink: number, where: Attributes | undefined): Frontier | null {
    const { edges, entering, sourcesAt } = this.compiled;
    const queue: { node: number; where: Attributes }[] = [{ node: sink, where: where ?? {} }];
    const seen = new Set<number>([sink]);
    let silentSource: Frontier | null = null;
    for (let head = 0; head < queue.length; head++) {
      const { node, where: wanted } = queue[head] as { node: number; where: Attributes };
      for (const s of sourcesAt[node] ?? []) {
        const source = this.compiled.sources[s];
        if (source && matches(source.attributes, wanted)) silentSource ??= { source: s };
      }
      if (silentSource) return silentSource;
      for (const e of entering[node] ?? []) {
        const edge = edges[e] as Edge;
        if (edge.set && conflicts(edge.set, wanted)) continue;
        const before = edge.set ? without(wanted, edge.set) : wanted;
        if (this.has(edge.from, before)) return { edge };
        if (!seen.has(edge.from)) {
          seen.add(edge.from);
          queue.push({ node: edge.from, where: before });
        }
      }
    }
    return null;
  }

  private has(node: number, where: Attributes): boolean {
    return this.evaluation.arrivalsAt(node).some((a) => matches(a.signal.attributes, where));
  }

  private describe(frontier: Frontier, depth: number): Break {
    const { system, contacts, disturbance } = this.compiled;
    if ("source" in frontier) {
      const source = this.compiled.sources[frontier.source];
      const ref = contacts[(source?.to ?? 0) >> 1]?.ref ?? "";
      const part = this.compiled.partOf.get(source?.part ?? "") as Part;
      const dead = disturbance.deadParts?.[part.id];
      return {
        ref,
        owner: part.id,
        reasons: dead ? [dead] : this.failed(part, source?.condition, depth, `${part.name} does not send.`),
      };
    }
    const { edge } = frontier;
    const ref = contacts[edge.to >> 1]?.ref ?? "";
    if (edge.blocked) return { ref, owner: edge.owner, reasons: [edge.blocked] };
    if (edge.kind === "link") {
      const link = system.links.find((l) => l.id === edge.owner);
      return {
        ref,
        owner: edge.owner,
        reasons: [
          `It stops between ${describePort(system, link?.a ?? "")} and ${describePort(system, link?.b ?? "")}.`,
        ],
      };
    }
    const part = this.compiled.partOf.get(edge.owner) as Part;
    const dead = disturbance.deadParts?.[part.id];
    return {
      ref,
      owner: part.id,
      reasons: dead ? [dead] : this.failed(part, edge.condition, depth, `${part.name} does not pass it on.`),
    };
  }

  failed(part: Part, condition: Condition | undefined, depth: number, opening: string): string[] {
    const leaf = condition && this.firstFailing(part, condition);
    if (!leaf) return [opening];
    const { system } = this.compiled;
    const because = `${opening} It does so only while ${conditionWords(system, part, leaf)}.`;
    const deeper = this.causeOf(part, leaf, depth);
    return [because, ...(deeper?.reasons ?? [])];
  }

  private causeOf(part: Part, leaf: Condition, depth: number): Break | null {
    if ("present" in leaf) return this.absence(`${part.id}.${leaf.present}`, leaf.where, depth + 1);
    if ("hears" in leaf) {
      const pair = busPair(part, leaf.bus);
      const sides = [
        [pair.high, "high"],
        [pair.low, "low"],
      ] as const;
      for (const [contact, line] of sides) {
        const where = { message: leaf.hears, line };
        const index = this.compiled.indexOf.get(`${part.id}.${contact}`) ?? 0;
        if (!this.has(2 * index, where)) return this.absence(`${part.id}.${contact}`, where, depth + 1);
      }
    }
    return null;
  }

  /** The first leaf that fails, in the order in which the profile states it. */
  private firstFailing(part: Part, c: Condition): Condition | null {
    if (this.holds(part, c)) return null;
    if ("all" in c) {
      for (const x of c.all) {
        const leaf = this.firstFailing(part, x);
        if (leaf) return leaf;
      }
    }
    return c;
  }

  private holds(part: Part, c: Condition): boolean {
    const ctx = this.evaluation.context;
    if ("all" in c) return c.all.every((x) => this.holds(part, x));
    if ("any" in c) return c.any.some((x) => this.holds(part, x));
    if ("not" in c) return !this.holds(part, c.not);
    if ("situation" in c) {
      const value = ctx.situation[c.situation];
      if ("is" in c) return c.is.includes(value);
      return "atMost" in c ? Number(value) <= c.atMost : Number(value) >= c.atLeast;
    }
    if ("setting" in c) return c.is.includes(ctx.setting(`${part.id}.${c.setting}`) ?? "");
    const arrives = (contact: string, where?: Attributes) => {
      const index = this.compiled.indexOf.get(`${part.id}.${contact}`);
      return index !== undefined && ctx.arrives(2 * index, where);
    };
    if ("hears" in c) {
      const pair = busPair(part, c.bus);
      return (
        arrives(pair.high, { message: c.hears, line: "high" }) && arrives(pair.low, { message: c.hears, line: "low" })
      );
    }
    return arrives(c.present, c.where);
  }
}

type Frontier = { source: number } | { edge: Edge };

function conflicts(set: Attributes, wanted: Attributes): boolean {
  return Object.keys(set).some((name) => name in wanted && wanted[name] !== set[name]);
}

function without(wanted: Attributes, set: Attributes): Attributes {
  return Object.fromEntries(Object.entries(wanted).filter(([name]) => !(name in set)));
}
