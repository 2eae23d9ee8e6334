import type { CompiledSystem, Edge } from "./compile";
import { busPair, firstFailing, type Guard } from "./condition";
import type { Evaluation } from "./evaluate";
import { conditionWords, describeContact, describePort } from "./labels";
import { matches } from "./signal";
import type { Attributes, Condition, ContactRef, Part } from "./types";

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

/** Why a condition of a part does not hold, and what is behind it. */
export function explainFailing(evaluation: Evaluation, part: Part, guard: Guard, opening: string): string[] {
  return new Explainer(evaluation).failed(part, guard, 0, opening);
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
    const queue: { node: number; where: Attributes }[] = [{ node: sink, where: where ?? {} }];
    const seen = new Set<number>([sink]);
    let silentSource: Frontier | null = null;
    for (let head = 0; head < queue.length; head++) {
      const { node, where: wanted } = queue[head] as { node: number; where: Attributes };
      for (const s of this.compiled.sourcesAt(node)) {
        const source = this.compiled.sources[s];
        if (source && matches(source.attributes, wanted)) silentSource ??= { source: s };
      }
      if (silentSource) return silentSource;
      for (const edge of this.compiled.edgesInto(node)) {
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
    return this.evaluation.has(node, where);
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
        reasons: dead ? [dead] : this.failed(part, source?.guard, depth, `${part.name} does not send.`),
      };
    }
    const { edge } = frontier;
    const ref = contacts[edge.to >> 1]?.ref ?? "";
    const blocked = this.compiled.blocked(edge);
    if (blocked) return { ref, owner: edge.owner, reasons: [blocked] };
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
      reasons: dead ? [dead] : this.failed(part, edge.guard, depth, `${part.name} does not pass it on.`),
    };
  }

  failed(part: Part, guard: Guard | null | undefined, depth: number, opening: string): string[] {
    const leaf = guard && firstFailing(guard, this.evaluation.context);
    if (!leaf) return [opening];
    const because = `${opening} It does so only while ${conditionWords(this.compiled.system, part, leaf.condition)}.`;
    const deeper = this.causeOf(part, leaf.condition, depth);
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
}

type Frontier = { source: number } | { edge: Edge };

function conflicts(set: Attributes, wanted: Attributes): boolean {
  return Object.keys(set).some((name) => name in wanted && wanted[name] !== set[name]);
}

function without(wanted: Attributes, set: Attributes): Attributes {
  return Object.fromEntries(Object.entries(wanted).filter(([name]) => !(name in set)));
}
