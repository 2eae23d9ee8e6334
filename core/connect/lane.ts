import type { Evaluation, Hop } from "../model/evaluate";
import { layerOf } from "../model/kinds";
import { describeContact, locate, shortContact } from "../model/labels";
import { resolveFacts } from "../model/observe";
import { Model } from "../model/outcome";
import { matches } from "../model/signal";
import type {
  Attributes,
  Condition,
  ContactRef,
  Disturbance,
  FunctionSpec,
  Part,
  Settings,
  System,
} from "../model/types";

/** One part or lead that a signal passes on its way to a person. */
export interface Station {
  part: string;
  name: string;
  type: "device" | "lead" | "loom";
  /** Ports by which the signal comes in and goes out, in words. */
  enters: string;
  leaves: string;
  /** The signal arrives here now. */
  reached: boolean;
}

/** The way of one function from its source to the place where it is noticed. */
export interface Lane {
  functionId: string;
  situationId: string;
  works: boolean;
  stations: Station[];
  /** Two senders: the first station that both reach, and who they are. */
  doubled: { at: number; senders: string[] } | null;
  /** Index of the first station that is not reached, -1 when all are. */
  breakAt: number;
  reasons: string[];
  /** Several places can be looked at (four loudspeakers); this lane is the first that fails, else the first. */
  ends: string;
}

/**
 * The lane of stations of a function in a situation: the way it is meant to take when everything is plugged and set
 * as planned, and where it breaks in the system as it stands.
 */
export function lane(system: System, fn: FunctionSpec, situationId: string, planned: Settings, now: Disturbance): Lane {
  const intended = new Model(system, {}, planned);
  const actual = new Model(system, now, planned);
  const tried = actual.try(fn, situationId);
  const works = tried.outcome.kind === "ok";
  const meant = intended.try(fn, situationId);
  const ideal = intended.evaluate(meant.situation);
  const real = actual.evaluate(tried.situation);
  const worksAsPlanned = meant.outcome.kind === "ok";
  const ways = fn.observe.map((o) => ({
    ends: o.at,
    hops: worksAsPlanned ? wholeWay(ideal, o.at) : possibleWay(ideal, o.at, resolveFacts(system, o.where)),
  }));
  const arrived = (hop: Hop) => real.arrivals(hop.ref, hop.side).length > 0;
  const chosen = (works ? undefined : ways.find((w) => !w.hops.every(arrived))) ?? ways[0];
  const stations = toStations(system, chosen?.hops ?? [], arrived);
  const origins = (hop: Hop) => new Set(real.arrivals(hop.ref, hop.side).map((a) => a.signal.origin));
  return {
    functionId: fn.id,
    situationId,
    works,
    stations,
    doubled: tried.outcome.kind === "doubled" ? meeting(system, stations, chosen?.hops ?? [], origins) : null,
    breakAt: works ? -1 : stations.findIndex((s) => !s.reached),
    reasons: reasons(tried.outcome),
    ends: describeContact(system, chosen?.ends ?? ""),
  };
}

/**
 * The hops to a contact, led back over the control signal that makes the source send: the reverse feed before the
 * camera picture, the key before the flashers. Supplies and the key message are left out, every device needs them.
 */
function wholeWay(evaluation: Evaluation, ref: ContactRef, depth = 0): Hop[] {
  const hops = evaluation.hops(ref, () => true);
  const origin = evaluation.arrivals(ref)[0]?.signal.origin;
  const { sources, partOf } = evaluation.compiled;
  const source = sources.find((s) => s.id === origin);
  const part = source && partOf.get(source.part);
  const trigger = part && source.guard && triggerOf(part, source.guard.check.condition);
  if (!trigger || depth > 4 || hops.length === 0) return hops;
  return [...wholeWay(evaluation, `${part.id}.${trigger}`, depth + 1), ...hops];
}

/**
 * A way that the signal could take if every condition were met: the shortest one back to a source that sends what is
 * expected. Used where the function does not work even as planned.
 */
function possibleWay(evaluation: Evaluation, ref: ContactRef, where: Attributes): Hop[] {
  const { compiled } = evaluation;
  const { indexOf, sources, contacts } = compiled;
  const sink = indexOf.get(ref);
  if (sink === undefined) return [];
  const hopAt = (node: number, by: string, via: Hop["via"]): Hop => ({
    ref: contacts[node >> 1]?.ref ?? "",
    side: node & 1 ? "out" : "in",
    by,
    via,
  });
  const queue: { node: number; where: Attributes; way: Hop[] }[] = [{ node: 2 * sink, where, way: [] }];
  const seen = new Set([2 * sink]);
  for (const { node, where: wanted, way } of queue) {
    const source = compiled
      .sourcesAt(node)
      .map((s) => sources[s])
      .find((s) => s && matches(s.attributes, wanted));
    if (source) return [hopAt(node, source.part, "source"), ...way];
    for (const edge of compiled.edgesInto(node)) {
      if (seen.has(edge.from)) continue;
      const set = edge.set ?? {};
      if (Object.keys(set).some((k) => k in wanted && wanted[k] !== set[k])) continue;
      seen.add(edge.from);
      const before = Object.fromEntries(Object.entries(wanted).filter(([k]) => !(k in set)));
      queue.push({ node: edge.from, where: before, way: [hopAt(node, edge.owner, edge.kind), ...way] });
    }
  }
  return [];
}

/** The first station that two senders reach, with the names of the parts that send. */
function meeting(
  system: System,
  stations: readonly Station[],
  hops: readonly Hop[],
  origins: (hop: Hop) => ReadonlySet<string>,
): Lane["doubled"] {
  const hop = hops.find((h) => origins(h).size > 1);
  if (!hop) return null;
  const sender = (origin: string) => system.parts.find((p) => p.id === origin.split("/")[0])?.name ?? origin;
  const at = stations.findIndex((s) => s.part === hop.ref.split(".")[0]);
  return { at, senders: [...new Set([...origins(hop)].map(sender))] };
}

/** The first control contact, other than a bus, that a condition waits for. */
function triggerOf(part: Part, condition: Condition): string | null {
  if ("all" in condition) {
    for (const c of condition.all) {
      const found = triggerOf(part, c);
      if (found) return found;
    }
  }
  if (!("present" in condition)) return null;
  const kind = locateIn(part, condition.present);
  return kind && layerOf(kind) === 1 && kind !== "can" && kind !== "bus" ? condition.present : null;
}

function locateIn(part: Part, at: string) {
  const [port, contact] = at.split(".");
  return part.ports.find((p) => p.id === port)?.contacts.find((c) => c.id === contact)?.kind;
}

function reasons(outcome: ReturnType<Model["try"]>["outcome"]): string[] {
  if (outcome.kind === "absent") return outcome.break.reasons;
  if (outcome.kind === "wrong")
    return [`${outcome.attribute}: ${outcome.got} instead of ${outcome.expected}.`, ...outcome.reasons];
  return outcome.kind === "doubled" ? outcome.reasons : [];
}

function toStations(system: System, hops: readonly Hop[], arrived: (hop: Hop) => boolean): Station[] {
  const groups: Hop[][] = [];
  for (const hop of hops) {
    const part = hop.ref.split(".")[0];
    const last = groups[groups.length - 1];
    if (last?.[0]?.ref.split(".")[0] === part) last?.push(hop);
    else groups.push([hop]);
  }
  return groups.map((group) => {
    const first = group[0] as Hop;
    const last = group[group.length - 1] as Hop;
    const { part } = locate(system, first.ref);
    return {
      part: part?.id ?? "",
      name: part?.name ?? "",
      type: part?.type ?? "device",
      enters: portLabel(system, first.ref),
      leaves: portLabel(system, last.ref),
      reached: group.every(arrived),
    };
  });
}

function portLabel(system: System, ref: string): string {
  const { port, contact } = locate(system, ref);
  if (!port || !contact) return "";
  return port.inside ? (contact.label ?? port.label) : `${port.label}, ${shortContact(contact)}`;
}
