/**
 * Causes that change nothing in the graph: what they show is declared. States that pass by themselves come from the
 * documents; hum, heat, a feed that sags and a lock left open follow from how the car is built.
 */

import type { Touched } from "../model/faults";
import { describePort, lowerFirst } from "../model/labels";
import type { Model } from "../model/outcome";
import { findPort } from "../model/ports";
import { type InsteadId, insteadOf, sightKey } from "../model/sight";
import type { NormalState, Part, System } from "../model/types";
import type { Test } from "../prove/tests";
import type { OwnLook } from "./checks";
import type { Prediction } from "./predict";

/** A cause with what it shows at each test, and the look that settles it. */
export interface DeclaredCause {
  id: string;
  title: string;
  cause: string;
  remedy: string;
  weight: number;
  parts: readonly string[];
  links: readonly string[];
  repairMinutes: number;
  shows(test: Test): Prediction;
  /** A look of its own, or the identifier of one that there is. */
  settledBy: OwnLook | string;
}

const WORKS: Prediction = [["works", 1]];

/** Chance that a state which passes by itself is met at a try at which it can be met. Our assumption. */
const MET = 0.6;

/** What a state that passes shows: it is met at the tries of some functions, or not. */
export function passing(state: NormalState): (test: Test) => Prediction {
  return ({ fn, sense }) => {
    if (!state.functions.includes(fn.id)) return WORKS;
    const words = insteadOf(sense);
    const fitting = (state.shows ?? []).filter((w) => words.includes(w));
    const shown = fitting.length > 0 ? fitting : words;
    const { breaksAt: at } = state;
    const key = (what: InsteadId) => sightKey(what === "breaksOff" && at ? { what, at } : { what });
    return [["works", 1 - MET], ...shown.map((w): Prediction[number] => [key(w), MET / shown.length])];
  };
}

/** How often, against the weights of faults. Assumed. */
const WEIGHTS = { hum: 4, warm: 4, sag: 3, lock: 3 };
/** A device that draws this much gets warm. Assumed. */
const WARM_FROM_A = 0.5;

/** Causes that follow from how the kit of a job is built in, with the tests through them. */
export function declaredCauses(
  system: System,
  touched: Touched,
  tests: readonly Test[],
  sound: Model,
): DeclaredCause[] {
  const ways = new Map(tests.map((t) => [t.id, wayOf(sound, t)]));
  const through = (name: string) => (t: Test) => ways.get(t.id)?.has(name) ?? false;
  const kit = system.parts.filter((p) => p.type === "device" && touched.parts.has(p.id));
  return [
    ...kit.filter(sendsLineAudio).map((p) => hum(p, through(p.id))),
    ...kit.filter((p) => (p.draws?.onA ?? 0) >= WARM_FROM_A).map((p) => warm(p, through(p.id))),
    ...kit.flatMap((p) => (p.draws?.minimumV ? [sag(p, p.draws.minimumV, through(p.id))] : [])),
    ...system.links
      .filter((l) => touched.links.has(l.id) && [l.a, l.b].some((port) => hasLock(system, port)))
      .map((l) => lockOpen(l.id, `${describePort(system, l.a)} – ${describePort(system, l.b)}`, through(l.id))),
  ].filter((cause) => tests.some((t) => cause.shows(t) !== WORKS));
}

/** Parts and connections on the way of what a test looks at. */
function wayOf(sound: Model, test: Test): Set<string> {
  const { outcome } = sound.try(test.fn, test.situationId);
  return new Set(outcome.kind === "ok" ? outcome.hops.map((h) => h.by) : []);
}

const sendsLineAudio = (part: Part) =>
  part.ports.some((port) => port.contacts.some((c) => c.kind === "lineAudio" && c.direction === "out"));

function hasLock(system: System, ref: string): boolean {
  const connector = findPort(system, ref)?.connector;
  return connector?.reversible === true || connector?.lock === "lever" || connector?.lock === "slide";
}

function hum({ id, name }: Part, through: (t: Test) => boolean): DeclaredCause {
  return {
    id: `hum:${id}`,
    title: `A ground lead is missing at ${name}`,
    cause: "Its line output and the radio have different grounds; the engine hums through the difference.",
    remedy: `Lead a ground from the case of ${name} to that of the radio.`,
    weight: WEIGHTS.hum,
    parts: [id],
    links: [],
    repairMinutes: 8,
    shows: (t) => (t.sense === "sound" && through(t) ? [["hum", 1]] : WORKS),
    settledBy: {
      id: `ground:${id}`,
      title: `Hold a ground lead between ${name} and the radio`,
      how: "Case to case, with the sound on. Is the hum gone?",
      minutes: 2,
      answers: [
        { id: "gone", label: "The hum is gone" },
        { id: "same", label: "No difference" },
      ],
    },
  };
}

function warm({ id, name }: Part, through: (t: Test) => boolean): DeclaredCause {
  return {
    id: `warm:${id}`,
    title: `${name} gets too warm`,
    cause: "It lies where no air moves, or its vents are covered.",
    remedy: `Put ${name} where air moves, nothing over its vents.`,
    weight: WEIGHTS.warm,
    parts: [id],
    links: [],
    repairMinutes: 10,
    shows: (t) => (through(t) ? ONCE_WARM : WORKS),
    settledBy: {
      id: `cool:${id}`,
      title: `Let ${name} lie open and cool down`,
      how: "Ten minutes off, in the open; then try for as long as it took to break off.",
      minutes: 15,
      answers: [
        { id: "stays", label: "It stays now" },
        { id: "same", label: "Breaks off as before" },
      ],
    },
  };
}

function sag({ id, name }: Part, minimumV: number, through: (t: Test) => boolean): DeclaredCause {
  return {
    id: `sag:${id}`,
    title: `The feed of ${name} sags at the engine start`,
    cause: `It goes under ${minimumV} V for longer than usual: a thin wire, a bad ground, a tired battery.`,
    remedy: `Feed ${name} from another position, or mend wire and ground; charge the battery.`,
    weight: WEIGHTS.sag,
    parts: [id],
    links: [],
    repairMinutes: 15,
    shows: (t) => (through(t) && t.situation.key === "running" ? AT_START : WORKS),
    settledBy: {
      id: `sag:${id}`,
      title: `Measure the supply of ${name} while the engine starts`,
      how: `Meter at its plug, lowest value held. Under ${minimumV} V?`,
      minutes: 3,
      answers: [
        { id: "under", label: `Under ${minimumV} V` },
        { id: "above", label: "Stays above" },
      ],
    },
  };
}

function lockOpen(link: string, ends: string, through: (t: Test) => boolean): DeclaredCause {
  return {
    id: `lock:${link}`,
    title: `Lock open: ${ends}`,
    cause: "The plug is in, but its lock is not closed; it gives way when something moves.",
    remedy: `Close the lock of ${lowerFirst(ends)}.`,
    weight: WEIGHTS.lock,
    parts: [],
    links: [link],
    repairMinutes: 0.5,
    shows: (t) => (through(t) ? LOOSENED : WORKS),
    settledBy: `look:${link}`,
  };
}

/** What comes and goes is not met at every try. How often: assumed. */
const ONCE_WARM: Prediction = [
  ["breaksOff:warm", 0.5],
  ["works", 0.5],
];
const AT_START: Prediction = [
  ["breaksOff:engineStart", 0.8],
  ["works", 0.2],
];
const LOOSENED: Prediction = [
  ["breaksOff:bump", 0.4],
  ["comesAndGoes", 0.3],
  ["works", 0.3],
];
