/** One connection as Connect shows it: both halves, where it may sit, and whether it is made. */
import { placesFor } from "../connect/as-plugged";
import type { ConnectTask } from "../connect/connection-plan";
import { isReversible } from "../connect/rules/plugs";
import type { Job } from "../job/job";
import { type Connection, isMade, type JobPlan } from "../job/plan";
import { findPort } from "../model/faults";
import { describeContact, describePort } from "../model/labels";
import type { PinMove } from "../model/profile";

export function connectionRow({ plan, state }: Job, c: Connection, task: ConnectTask | undefined) {
  return {
    ...c,
    why: task?.why ?? "",
    supply: task?.supply ?? "keyOff",
    plugged: isMade(plan, state, c),
    marked: state.plugged.has(c.link),
    wrong: state.plugAt.has(c.link) || state.turned.has(c.link),
    reversible: isReversible(plan.fitted, c),
    places: placesFor(plan.fitted, c).map((port) => ({
      port,
      name: findPort(plan.fitted, port)?.label ?? port,
      planned: port === c.b,
    })),
    plug: looks(plan, c.a),
    socket: looks(plan, c.b),
    halves: [c.a, c.b].flatMap((ref) => {
      const port = findPort(plan.fitted, ref);
      return port?.connector ? [{ name: describePort(plan.fitted, ref), port, moves: movesAt(plan, ref) }] : [];
    }),
  };
}

/** Contacts that come into a housing or leave it, by cavity. */
function movesAt(plan: JobPlan, port: string): Record<string, string> {
  const told = (m: PinMove): [string, string][] => [
    [m.from, `goes to ${describeContact(plan.fitted, m.to)}`],
    [m.to, `comes from ${describeContact(plan.fitted, m.from)}`],
  ];
  return Object.fromEntries(
    plan.sets
      .flatMap((s) => s.moves ?? [])
      .flatMap(told)
      .filter(([ref]) => ref.startsWith(`${port}.`))
      .map(([ref, words]) => [ref.slice(port.length + 1), words]),
  );
}

function looks(plan: JobPlan, port: string) {
  const connector = findPort(plan.fitted, port)?.connector;
  return connector
    ? { family: connector.family, keying: connector.keying ?? "", colour: connector.colour ?? "" }
    : null;
}
