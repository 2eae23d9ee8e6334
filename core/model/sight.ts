/**
 * What a person sees, hears or feels at a try, in the words in which people say it. A model predicts in the same words,
 * so that what was seen speaks for one cause and against another.
 */
import type { SignalKind } from "./kinds";
import { lowerFirst } from "./labels";
import type { Verdict } from "./observe";
import type { ContactRef } from "./types";

/** By which sense a function is noticed. */
export type Sense = "picture" | "sound" | "voice" | "touch" | "control";

const SENSE_OF: Partial<Record<SignalKind, Sense>> = {
  serialVideo: "picture",
  compositeVideo: "picture",
  ribbon: "picture",
  speaker: "sound",
  lineAudio: "sound",
  microphone: "voice",
  touch: "touch",
};

export function senseOf(kind: SignalKind | undefined): Sense {
  return (kind && SENSE_OF[kind]) ?? "control";
}

/** What can be there instead of what should be, by the word a person taps. `nothing`: nothing comes at all. */
const INSTEAD = {
  black: { say: "Black", nothing: true },
  frozen: { say: "Frozen", nothing: false },
  otherPicture: { say: "Other picture stays", nothing: false },
  wrongSize: { say: "Narrow or wrong size", nothing: false },
  mirrored: { say: "Mirrored or upside down", nothing: false },
  flickers: { say: "Flickers or torn", nothing: false },
  message: { say: "Message on the screen", nothing: false },
  silent: { say: "No sound", nothing: true },
  phoneOnly: { say: "Only from the phone", nothing: true },
  someSpeakers: { say: "Some loudspeakers silent", nothing: false },
  otherSpeakers: { say: "From other loudspeakers", nothing: false },
  hum: { say: "Hum or noise", nothing: false },
  otherSource: { say: "Another source plays", nothing: false },
  unheard: { say: "Not heard", nothing: true },
  faint: { say: "Faint or hollow", nothing: false },
  noReaction: { say: "Nothing happens", nothing: true },
  shifted: { say: "Shifted or turned", nothing: false },
  otherThing: { say: "Something else happens", nothing: false },
  comesAndGoes: { say: "Comes and goes", nothing: false },
  breaksOff: { say: "Breaks off", nothing: false },
  late: { say: "Too late", nothing: false },
  somethingElse: { say: "Something else", nothing: false },
} as const;
export type InsteadId = keyof typeof INSTEAD;
export const INSTEAD_IDS = Object.keys(INSTEAD) as [InsteadId, ...InsteadId[]];

const BY_SENSE: Readonly<Record<Sense, readonly InsteadId[]>> = {
  picture: ["black", "otherPicture", "frozen", "wrongSize", "mirrored", "flickers", "message"],
  sound: ["silent", "phoneOnly", "someSpeakers", "otherSpeakers", "otherSource", "hum"],
  voice: ["unheard", "faint", "hum"],
  touch: ["noReaction", "shifted", "otherThing"],
  control: ["noReaction", "otherThing"],
};
const ALWAYS: readonly InsteadId[] = ["late", "comesAndGoes", "breaksOff", "somethingElse"];

/** Everything that can be seen instead by a sense, the likely ones first. */
export function insteadOf(sense: Sense): readonly InsteadId[] {
  return [...BY_SENSE[sense], ...ALWAYS];
}

export function insteadWords(id: InsteadId): string {
  return INSTEAD[id].say;
}

/** What a try breaks off at. */
export const BREAKS = {
  engineStart: "Engine start",
  reverse: "Reverse",
  warm: "When warm",
  bump: "A bump or a pull at a lead",
} as const;
export type BreakAt = keyof typeof BREAKS;
export const BREAK_IDS = Object.keys(BREAKS) as [BreakAt, ...BreakAt[]];

/** What was seen at a try, or what a model shows there. */
export interface Sight {
  what: "works" | InsteadId;
  /** Of loudspeakers that are not all right: those that play at their own corner. */
  right?: readonly ContactRef[];
  /** What it breaks off at. */
  at?: BreakAt;
}

/** The coarse answer that a sight amounts to. */
export function answerOf({ what }: Pick<Sight, "what">): "pass" | "nothing" | "wrong" | "late" {
  if (what === "works") return "pass";
  if (what === "late") return "late";
  return INSTEAD[what].nothing ? "nothing" : "wrong";
}

/** A report or a sight in words: “works”, “nothing comes”, “other picture stays”. */
export function sightWords(key: string): string {
  const coarse = COARSE[key];
  if (coarse) return coarse;
  const { what, at } = readSight(key);
  if (what === "works") return "works";
  return lowerFirst(INSTEAD[what].say) + (at ? `: ${lowerFirst(BREAKS[at])}` : "");
}

const COARSE: Readonly<Record<string, string>> = {
  pass: "works",
  nothing: "nothing comes",
  wrong: "something else comes",
  impossible: "could not be tried",
};

/** A sight as one word, for tables and comparisons. */
export function sightKey({ what, right, at }: Sight): string {
  if (right) return `${what}:${[...right].sort().join("+")}`;
  return at ? `${what}:${at}` : what;
}

const parsed = new Map<string, Sight>();

/** Reads what `sightKey` wrote. */
export function readSight(key: string): Sight {
  let sight = parsed.get(key);
  if (!sight) {
    const [what = "works", detail] = key.split(":") as [Sight["what"], string?];
    sight =
      detail === undefined
        ? { what }
        : what === "breaksOff"
          ? { what, at: detail as BreakAt }
          : { what, right: detail === "" ? [] : detail.split("+") };
    parsed.set(key, sight);
  }
  return sight;
}

/** What is seen at one place of several at which a function is noticed. */
export interface Looked {
  at: ContactRef;
  verdict: Verdict;
}

/**
 * What a person sees of a function by what stands at each place where it is noticed.
 *
 * @param playsItself whether a phone that is heard nowhere plays by itself
 */
export function sightOf(sense: Sense, looked: readonly Looked[], playsItself: () => boolean): Sight {
  const failing = looked.find((l) => l.verdict.kind !== "ok");
  if (!failing) return { what: "works" };
  if (sense === "sound") return heard(looked, playsItself);
  const { verdict } = failing;
  switch (verdict.kind) {
    case "late":
      return { what: "late" };
    case "absent":
      return {
        what: ({ picture: "black", voice: "unheard", touch: "noReaction", control: "noReaction" } as const)[sense],
      };
    case "doubled":
      return {
        what: ({ picture: "flickers", voice: "hum", touch: "otherThing", control: "otherThing" } as const)[sense],
      };
    default:
      return { what: otherwise(sense, verdict.kind === "wrong" ? verdict.attribute : "") };
  }
}

/** What it is when something comes that should be otherwise in one attribute. */
function otherwise(sense: Exclude<Sense, "sound">, attribute: string): InsteadId {
  if (sense === "voice") return "faint";
  if (attribute === "stand") return sense === "touch" ? "shifted" : "mirrored";
  if (sense !== "picture") return "otherThing";
  if (attribute === "picture") return "otherPicture";
  return attribute === "format" ? "wrongSize" : "somethingElse";
}

function heard(looked: readonly Looked[], playsItself: () => boolean): Sight {
  const right = looked.filter((l) => l.verdict.kind === "ok").map((l) => l.at);
  const kinds = new Set(looked.map((l) => l.verdict.kind));
  if (kinds.has("wrong") || kinds.has("doubled")) {
    const source = looked.some(
      ({ verdict }) => verdict.kind === "doubled" || (verdict.kind === "wrong" && verdict.attribute === "sound"),
    );
    return source ? { what: "otherSource" } : { what: "otherSpeakers", right };
  }
  if (!kinds.has("absent")) return { what: "late" };
  if (right.length > 0) return { what: "someSpeakers", right };
  return { what: playsItself() ? "phoneOnly" : "silent" };
}
