import { actionGuard } from "./actions";
import type { CompiledSystem } from "./compile";
import { type Guard, watchedBy } from "./condition";
import type { Rows } from "./rows";
import type { FunctionSpec } from "./types";

/**
 * Which of some settings the outcome of a function can depend on at all: those in conditions on any way that leads,
 * conditions ignored, to the contacts where the function is noticed, or to what its actions need.
 *
 * Two positions of a switch bank that agree on these give the same outcome.
 *
 * @param settings at most 31, by `part.setting`
 * @returns a set of bits for a function: bit i stands for the setting i
 */
export function settingsReach(compiled: CompiledSystem, settings: readonly string[]): (fn: FunctionSpec) => number {
  const bitOf = new Map(settings.map((s, i) => [s, 1 << i]));
  const bitsOf = (guard: Guard | null) =>
    (guard?.check.settings ?? []).reduce((bits, s) => bits | (bitOf.get(s) ?? 0), 0);
  const at = spread(compiled, bitsOf);
  const atContact = (ref: string) => at[2 * (compiled.indexOf.get(ref) ?? -1)] ?? 0;

  return (fn) => {
    let found = 0;
    for (const o of fn.observe) found |= atContact(o.at);
    const named = new Set(fn.situations.flatMap((s) => s.actions ?? []));
    for (const action of compiled.system.actions) {
      const part = named.has(action.id) ? compiled.partOf.get(action.part) : undefined;
      if (!part) continue;
      const guard = actionGuard(compiled.graph, action, part);
      found |= bitsOf(guard);
      for (const node of watchedBy(guard)) found |= at[node] ?? 0;
      for (const need of part.needs ?? []) found |= atContact(`${part.id}.${need.at}`);
    }
    return found;
  };
}

/** What the settings can change, by node: from the steps and sources that they decide, on along every step. */
function spread({ graph, extra }: CompiledSystem, bitsOf: (guard: Guard | null) => number): Int32Array {
  const at = new Int32Array(graph.nodes);
  const queue: number[] = [];
  const add = (node: number, bits: number) => {
    const after = (at[node] as number) | bits;
    if (after === at[node]) return;
    at[node] = after;
    queue.push(node);
  };
  const onward = ({ start, items }: Rows, node: number, to: (item: number) => number) => {
    for (let i = start[node] as number; i < (start[node + 1] as number); i++)
      add(to(items[i] as number), at[node] as number);
  };
  const end = (edge: number) => graph.edgeTo[edge] as number;
  const start = (source: number) => graph.sources[source]?.to ?? 0;
  for (const [e, guard] of graph.edgeGuard.entries()) if (guard) add(end(e), bitsOf(graph.guards[guard] ?? null));
  for (const s of graph.sources) if (s.guard) add(s.to, bitsOf(s.guard));
  // The queue grows while it is walked.
  for (const node of queue) {
    onward(graph.leaving, node, end);
    onward(graph.guarded().edges, node, end);
    onward(graph.guarded().sources, node, start);
    for (const edge of extra) if (edge.from === node) add(edge.to, at[node] as number);
  }
  return at;
}
