import type { CompiledSystem } from "./compile";
import type { Guard } from "./condition";
import { actionGuard } from "./outcome";
import type { FunctionSpec } from "./types";

/**
 * Settings on which the outcome of a function can depend at all, by `part.setting`: those in conditions on any way
 * that leads, conditions ignored, to the contacts where the function is noticed, or to what its actions need.
 *
 * Two positions of a switch bank that agree on these give the same outcome.
 */
export function relevantSettings(compiled: CompiledSystem, fn: FunctionSpec): ReadonlySet<string> {
  const { graph, sources, indexOf, partOf, system } = compiled;
  const found = new Set<string>();
  const seen = new Uint8Array(2 * compiled.contacts.length);
  const queue: number[] = [];
  const visit = (node: number) => {
    if (seen[node]) return;
    seen[node] = 1;
    queue.push(node);
  };
  const visitContact = (ref: string) => {
    const index = indexOf.get(ref);
    if (index !== undefined) visit(2 * index);
  };
  const look = (guard: Guard | null | undefined) => {
    if (!guard) return;
    for (const node of guard.watches) visit(node);
    for (const setting of guard.settings) found.add(setting);
  };
  for (const o of fn.observe) visitContact(o.at);
  const named = new Set(fn.situations.flatMap((s) => s.actions ?? []));
  for (const action of system.actions) {
    const part = named.has(action.id) ? partOf.get(action.part) : undefined;
    if (!part) continue;
    look(actionGuard(graph, action, part));
    for (const need of part.needs ?? []) visitContact(`${part.id}.${need.at}`);
  }
  // The queue grows while it is walked.
  for (const node of queue) {
    for (const s of compiled.sourcesAt(node)) look(sources[s]?.guard);
    for (const edge of compiled.edgesInto(node)) {
      visit(edge.from);
      look(edge.guard);
    }
  }
  return found;
}
