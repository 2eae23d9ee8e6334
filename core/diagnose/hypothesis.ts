/** What can be the matter: every single fault, every state that only looks like one, and none of these. */
import { type Fault, singleFaults, type Touched } from "../model/faults";
import { lowerFirst } from "../model/labels";
import type { Model } from "../model/outcome";
import type { NormalState, System } from "../model/types";
import type { Test } from "../prove/tests";
import type { OwnLook } from "./checks";
import { type DeclaredCause, declaredCauses, passing } from "./declared";
import type { Prediction } from "./predict";

export const NONE = "none";

export interface Hypothesis {
  id: string;
  kind: Fault["kind"] | "declared" | "normal" | "pair" | "none";
  title: string;
  cause: string;
  remedy: string;
  /** Nothing is broken or wrongly done. */
  normal: boolean;
  /** Relative frequency before anything was tried. */
  weight: number;
  parts: readonly string[];
  links: readonly string[];
  /** Parts that one must get at to put it right. */
  at: readonly string[];
  /** The look, measurement or exchange that settles it; null where there is none. */
  settledBy: string | null;
  /** Minutes to put it right once it is known, with the place open. */
  repairMinutes: number;
  /** Minutes to get there and back where the car is closed; see `asItStands`. */
  reopenMinutes: number;
  fault: Fault | null;
  /** What it shows where that is declared, not simulated. */
  shows: ((test: Test) => Prediction) | null;
  /** A look that only this cause needs. */
  ownLook: OwnLook | null;
  /** The two that are the matter at once. */
  pair?: readonly [Hypothesis, Hypothesis];
}

/**
 * Minutes of a repair by kind of fault, beside the reach of its part. Our assumption; a part to replace is counted as at
 * hand.
 */
const REPAIR_MINUTES: Readonly<Record<Fault["kind"], number>> = {
  notPlugged: 0.5,
  exchanged: 1,
  otherSocket: 1,
  reversed: 1.5,
  pushedBack: 3,
  crossed: 6,
  setting: 1.5,
  leadOpen: 8,
  dead: 20,
  assumed: 1,
};

/** A state that passes by itself against one that a person brings about. Our assumption. */
const NORMAL_WEIGHT = 5;
/** Share of failing first tries at which nothing is wrong. Our assumption. */
const NORMAL_SHARE = 0.7;
/** Share of jobs whose trouble is on no list, against all that are. Our assumption. */
const NONE_SHARE = 0.12;

/**
 * Everything that can be the matter with a system.
 *
 * @param sound the system as planned
 */
export function hypothesesOf(system: System, touched: Touched, tests: readonly Test[], sound: Model): Hypothesis[] {
  const all = [
    ...singleFaults(system, touched).map((fault) => ofFault(system, fault)),
    ...declaredCauses(system, touched, tests, sound).map((cause) => ofDeclared(system, cause)),
    ...(system.normal ?? []).map(ofState),
  ];
  const weight = (normal: boolean) => all.reduce((sum, h) => sum + (h.normal === normal ? h.weight : 0), 0);
  const scale = weight(true) > 0 ? (NORMAL_SHARE / (1 - NORMAL_SHARE)) * (weight(false) / weight(true)) : 0;
  const listed = all.map((h) => (h.normal ? { ...h, weight: h.weight * scale } : h));
  const total = listed.reduce((sum, h) => sum + h.weight, 0);
  return [...listed, noneOfThese((total * NONE_SHARE) / (1 - NONE_SHARE))];
}

function ofFault(system: System, fault: Fault): Hypothesis {
  const reach = Math.max(0, ...fault.parts.map((id) => system.parts.find((p) => p.id === id)?.reachMinutes ?? 3));
  const { id, kind, title, cause, remedy, normal, weight, parts, links } = fault;
  const settledBy = settles(fault);
  return {
    ...{ id, kind, title, cause, remedy, normal, weight, parts, links, settledBy, fault },
    reopenMinutes: 0,
    at: kind === "assumed" ? [] : [...parts, ...endsOf(system, links)],
    repairMinutes: REPAIR_MINUTES[kind] + (kind === "assumed" ? 0 : reach / 2),
    ...{ shows: null, ownLook: null },
  };
}

/** The parts at the ends of some connections. */
function endsOf(system: System, links: readonly string[]): string[] {
  const ends = system.links.filter((l) => links.includes(l.id)).flatMap((l) => [l.a, l.b]);
  return [...new Set(ends.map((port) => port.split(".")[0] ?? ""))];
}

function settles({ id, kind, parts, links }: Fault): string {
  switch (kind) {
    case "leadOpen":
      return `measure:${parts[0]}`;
    case "dead":
      return `swap:${parts[0]}`;
    case "setting":
      return `set:${parts[0]}`;
    case "pushedBack":
    case "crossed":
      return `contacts:${links[0]}`;
    case "assumed":
      return id;
    default:
      return `look:${links[0]}`;
  }
}

function ofDeclared(system: System, { settledBy, ...cause }: DeclaredCause): Hypothesis {
  const own = typeof settledBy === "string" ? null : settledBy;
  return {
    ...cause,
    kind: "declared",
    normal: false,
    reopenMinutes: 0,
    at: [...cause.parts, ...endsOf(system, cause.links)],
    settledBy: own?.id ?? (settledBy as string),
    ...{ fault: null, ownLook: own },
  };
}

/** A state that passes, or stays and is right so. */
function ofState(state: NormalState): Hypothesis {
  const id = `normal:${state.id}`;
  return {
    id,
    kind: "normal",
    title: state.title,
    cause: `${state.seen} ${state.why}`,
    remedy: state.remedy,
    normal: true,
    weight: NORMAL_WEIGHT,
    parts: [],
    links: [],
    at: [],
    reopenMinutes: 0,
    settledBy: `wait:${state.id}`,
    repairMinutes: 0,
    ...{ fault: null, shows: passing(state), ownLook: waitLook(state) },
  };
}

function waitLook(state: NormalState): OwnLook {
  const most = state.lastsS?.max ?? 30;
  return {
    id: `wait:${state.id}`,
    title: `Wait and try again: ${lowerFirst(state.title)}`,
    how: `${state.remedy} Up to ${most < 120 ? `${most} s` : `${Math.round(most / 60)} min`}; then try once more what failed.`,
    minutes: Math.max(0.2, most / 60),
    answers: [
      { id: "works now", label: "Works now" },
      { id: "the same", label: "Still the same" },
    ],
  };
}

function noneOfThese(weight: number): Hypothesis {
  return {
    id: NONE,
    kind: "none",
    title: "None of these",
    cause: "Something that the documents of this job do not know.",
    remedy: "Halve what is left: take the kit out of the path, or put in a part that is known to be good.",
    normal: false,
    weight,
    parts: [],
    links: [],
    at: [],
    reopenMinutes: 0,
    settledBy: null,
    repairMinutes: 60,
    ...{ fault: null, shows: null, ownLook: null },
  };
}
