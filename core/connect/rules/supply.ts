/** Rules about supply: feed and ground at every part, fuses, and wires that carry what hangs on them. */
import type { Evaluation, Hop } from "../../model/evaluate";
import { KIND_NAMES, layerOf, type SignalKind } from "../../model/kinds";
import { describeContact, locate } from "../../model/labels";
import type { ContactRef, Join, Need, Part } from "../../model/types";
import { FUSE_COLOURS } from "../../power/fuse";
import { dropV, mostFuseA } from "../../power/wire";
import type { CheckContext } from "./context";
import type { Finding, RuleId } from "./finding";

/** Every part gets what it needs in one of the usual situations. */
export function needFindings({ system, evaluations }: CheckContext): Finding[] {
  return system.parts.flatMap((part) =>
    (part.needs ?? []).flatMap((need): Finding[] => {
      const ref = `${part.id}.${need.at}`;
      const kind = locate(system, ref).contact?.kind;
      if (!kind || evaluations.some((e) => e.arrivals(ref).length > 0)) return [];
      const camera = sends(part, ["compositeVideo", "serialVideo"]) && kind !== "ground" && isFeed(kind);
      return [
        {
          rule: missingRule(kind, camera),
          level: "stop",
          where: describeContact(system, ref),
          text: `${part.name} does not get ${need.say}.${camera ? " The picture stays black when it is asked for." : ""}`,
          remedy: `Follow the lead back from ${describeContact(system, ref)} and plug what is open.`,
        },
      ];
    }),
  );
}

function missingRule(kind: SignalKind, camera: boolean): RuleId {
  if (kind === "ground") return "ground-missing";
  if (camera) return "camera-power";
  return layerOf(kind) === 0 ? "supply-missing" : "control-missing";
}

/** A camera: a part that only sends pictures. */
function sends(part: Part, kinds: readonly SignalKind[]): boolean {
  const contacts = part.ports.flatMap((p) => p.contacts);
  return (
    contacts.some((c) => kinds.includes(c.kind) && c.direction === "out") &&
    !contacts.some((c) => kinds.includes(c.kind) && c.direction === "in")
  );
}

/** Kinds that carry the current of a part: supplies, and the switched feeds of cameras. */
function isFeed(kind: SignalKind): boolean {
  return ["battery", "accessory", "trigger", "reverse", "ground"].includes(kind);
}

/** A wire inside a part with what flows through it. */
interface Loaded {
  part: Part;
  join: Join;
  /** A contact of it, to name the place. */
  at: ContactRef;
  kind: SignalKind;
  currentA: number;
  users: Set<string>;
}

/** The way of one supply from its source to a part, as wires in their order. */
interface SupplyWay {
  part: Part;
  need: Need;
  kind: SignalKind;
  wires: { part: Part; index: number; at: ContactRef }[];
  /** Part at which the way starts: the battery, or a device that switches the feed. */
  origin: string;
}

/** Ways of every supply and switched feed of every part that draws current or belongs to the kit. */
function supplyWays({ system, evaluations }: CheckContext): SupplyWay[] {
  return system.parts.flatMap((part) =>
    (part.needs ?? []).flatMap((need): SupplyWay[] => {
      const ref = `${part.id}.${need.at}`;
      const kind = locate(system, ref).contact?.kind;
      const evaluation = evaluations.find((e) => e.arrivals(ref).length > 0);
      if (!kind || !isFeed(kind) || !evaluation) return [];
      const hops = evaluation.hops(ref, () => true);
      return [{ part, need, kind, origin: hops[0]?.ref.split(".")[0] ?? "", wires: wiresOf(evaluation, hops) }];
    }),
  );
}

function wiresOf({ compiled }: Evaluation, hops: readonly Hop[]): SupplyWay["wires"] {
  return hops.flatMap((hop, i) => {
    const before = hops[i - 1];
    const part = compiled.partOf.get(hop.by);
    if (hop.via !== "join" || !before || !part) return [];
    const [from, to] = [before.ref, hop.ref].map((r) => r.slice(part.id.length + 1));
    const index = (part.joins ?? []).findIndex((j) => j.contacts.includes(from ?? "") && j.contacts.includes(to ?? ""));
    return index < 0 ? [] : [{ part, index, at: hop.ref }];
  });
}

/** Currents of all wires: each part's own draw, and that of the parts it feeds in turn, along the whole way. */
function loadedWires(context: CheckContext, ways: readonly SupplyWay[]): Loaded[] {
  const loaded = new Map<string, Loaded>();
  const carry = (way: SupplyWay, user: Part, currentA: number, seen: ReadonlySet<string>) => {
    for (const { part, index, at } of way.wires) {
      const key = `${part.id}/${index}`;
      const join = part.joins?.[index];
      if (!join) continue;
      const wire = loaded.get(key) ?? { part, join, at, kind: way.kind, currentA: 0, users: new Set<string>() };
      if (!wire.users.has(user.id)) {
        wire.currentA += currentA;
        wire.users.add(user.id);
      }
      loaded.set(key, wire);
    }
    if (seen.has(way.origin)) return;
    // What a device switches on to another flows through its own feed as well.
    for (const feeder of ways)
      if (feeder.part.id === way.origin && (feeder.kind === "ground") === (way.kind === "ground"))
        carry(feeder, user, currentA, new Set([...seen, way.origin]));
  };
  for (const part of context.system.parts) {
    if (!part.draws) continue;
    for (const way of ways) if (way.part.id === part.id) carry(way, part, part.draws.onA, new Set([part.id]));
  }
  return [...loaded.values()];
}

/** Voltage that a lead of a kit may lose, in volt; common practice for the feed of electronics. */
const MAX_DROP_V = 0.3;
/** A lead in a dash on a warm day; common practice. */
const WARM_C = 60;

/** Feeds without a fuse, fuses that do not protect the lead behind them, leads too thin for all that hangs on them. */
export function wiringFindings(context: CheckContext): Finding[] {
  const ways = supplyWays(context);
  return [...fuseFindings(context, ways), ...thinLeads(context, ways)];
}

function fuseFindings({ system, kitParts }: CheckContext, ways: readonly SupplyWay[]): Finding[] {
  // A car whose fuses are not entered says nothing about fuses.
  const known = system.parts.some((p) => p.joins?.some((j) => j.fuseA !== undefined));
  if (!known) return [];
  return ways.flatMap((way): Finding[] => {
    if (!kitParts.has(way.part.id) || (way.kind !== "battery" && way.kind !== "accessory")) return [];
    // What a part of the kit switches on is behind the fuse of that part.
    if (kitParts.has(way.origin)) return [];
    const where = describeContact(system, `${way.part.id}.${way.need.at}`);
    const fuses = way.wires.flatMap((w) => w.part.joins?.[w.index]?.fuseA ?? []);
    if (fuses.length === 0)
      return [
        {
          rule: "fuse-missing",
          level: "stop",
          where,
          text: `No fuse between the battery and ${way.part.name}.`,
          remedy: "A fuse within a hand's breadth of where the feed is taken, sized for the added load.",
          damages: "the lead, and what lies beside it, when it chafes through",
        },
      ];
    const fuseA = Math.min(...fuses);
    const thin = way.wires.find((w) => {
      const mm2 = kitParts.has(w.part.id) ? w.part.joins?.[w.index]?.mm2 : undefined;
      return mm2 !== undefined && mostFuseA(mm2) < fuseA;
    });
    const mm2 = thin?.part.joins?.[thin.index]?.mm2;
    return thin && mm2
      ? [
          {
            rule: "fuse-too-large",
            level: "stop",
            where: thin.part.name,
            text: `Its wire of ${mm2} mm² is behind a fuse of ${fuseA} A; it is protected by ${mostFuseA(mm2).toFixed(1)} A at most.`,
            remedy: `Put a fuse of ${largestFuse(mostFuseA(mm2))} A where the lead leaves the car's wire.`,
            damages: "the lead, before the fuse opens",
          },
        ]
      : [];
  });
}

function largestFuse(mostA: number): number {
  return [...FUSE_COLOURS.keys()].findLast((a) => a <= mostA) ?? 2;
}

function thinLeads(context: CheckContext, ways: readonly SupplyWay[]): Finding[] {
  const { system, kitParts } = context;
  return loadedWires(context, ways).flatMap(({ part, join, at, kind, currentA, users }): Finding[] => {
    if (!kitParts.has(part.id) || join.mm2 === undefined || currentA <= 0) return [];
    const drop = dropV({ currentA, lengthM: part.lengthM ?? 0.1, returnWire: false, tempC: WARM_C }, join.mm2);
    const most = mostFuseA(join.mm2);
    if (currentA <= most && drop <= MAX_DROP_V) return [];
    const names = system.parts.filter((p) => users.has(p.id)).map((p) => p.name);
    return [
      {
        rule: "thin-lead",
        level: currentA > most ? "stop" : "watch",
        where: describeContact(system, at),
        text: `${currentA.toFixed(1)} A of ${KIND_NAMES[kind]} for ${names.join(", ")} share a wire of ${join.mm2} mm²: ${
          currentA > most ? `it carries ${most.toFixed(1)} A at most` : `${drop.toFixed(2)} V are lost on the way`
        }.`,
        remedy: `Give ${names.at(-1)} a feed and a ground of its own.`,
        ...(currentA > most ? { damages: part.name } : {}),
      },
    ];
  });
}
