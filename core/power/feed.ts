/** Where a switched feed can be taken: candidates ranked, and narrowed by a tester. */
import type { Lit, TestState } from "../log/kinds/connect/feed-test";
import type { FusePosition } from "../model/profile";
import { type Tap, tapFor } from "./fuse";

export interface Candidate {
  position: FusePosition;
  /** Never, whatever the tester says: a circuit on which somebody's life depends. */
  forbidden: string | null;
  verdict: "good" | "possible" | "unfit" | "unknown";
  reasons: string[];
  /** Fuses of a tap on a used position; null when it is unused or cannot be tapped. */
  tap: Tap | null;
  /** State to test next; null when the answers decide. */
  ask: TestState | null;
  score: number;
}

/** Circuits that are never touched, by the word in their name. Common practice, the list of the trade. */
const NEVER: readonly [RegExp, string][] = [
  [/airbag|restraint/i, "airbag"],
  [/\babs\b|brake|stability|\besp\b|\besc\b/i, "brakes and stability"],
  [/steering|\beps\b/i, "steering"],
  [/engine|ignition coil|injection|fuel|gearbox|transmission/i, "engine or gearbox control"],
  [/headl|lamp|lighting|lights?\b|beam|indicator|hazard|\bfog\b|\btail\b/i, "lighting"],
  [/emergency call|ecall/i, "emergency call"],
];
/** Circuits on which nothing depends. */
const HARMLESS = /rear wiper|washer|heated seat|seat heat|socket|lighter/i;

/** Why a circuit is never used; null when it may be. The document may forbid more, never less. */
export function forbidden(position: FusePosition): string | null {
  const found = NEVER.find(([pattern]) => pattern.test(position.circuit));
  if (found) return found[1];
  return position.critical ? "marked as critical in the fuse map" : null;
}

/**
 * Positions of a fuse panel as feeds for a load that must be on with the key and off after it.
 *
 * Order: unused positions with a live contact, then taps on circuits that matter to nobody, then others. What the fuse
 * map says counts until a tester says otherwise; a position that is lit while the car sleeps, or dark with the ignition
 * on, is out.
 */
export function rankFeeds(
  panel: readonly FusePosition[],
  load: { steadyA: number; peakA: number },
  tests: ReadonlyMap<string, Lit>,
): Candidate[] {
  return panel
    .map((position) => judge(position, load, tests.get(position.id) ?? {}))
    .sort((a, b) => b.score - a.score || (a.position.id < b.position.id ? -1 : 1));
}

function judge(position: FusePosition, load: { steadyA: number; peakA: number }, lit: Lit): Candidate {
  const never = forbidden(position);
  const tap = position.used ? tapFor(position, load.steadyA, load.peakA) : null;
  const base = { position, forbidden: never, tap };
  if (never) return { ...base, verdict: "unfit", reasons: [`Never: ${never}.`], ask: null, score: -100 };
  const { verdict, reasons, ask } = byTester(position, lit);
  if (position.used && !tap)
    return {
      ...base,
      verdict: "unfit",
      reasons: [...reasons, "The load is more than a tap carries."],
      ask: null,
      score: -50,
    };
  const harmless = HARMLESS.test(position.circuit);
  const kind = position.used
    ? harmless
      ? "A tap on a circuit on which nothing depends."
      : "A tap on a used circuit."
    : "Unused position with a metal contact: nothing else hangs on it.";
  const points = { good: 40, possible: 20, unknown: 10, unfit: -40 }[verdict];
  const preference = position.used ? (harmless ? 4 : 0) : 8;
  // A start-up without feed is no fault, only a session that drops; a feed that holds is better.
  const holds = lit.start === true || (lit.start === undefined && position.live.includes("cranking")) ? 2 : 0;
  return {
    ...base,
    verdict,
    reasons: [kind, ...reasons, ...(lit.start === false ? ["Dark while cranking: the session may drop."] : [])],
    ask: verdict === "unfit" ? null : ask,
    score: points + preference + holds,
  };
}

/** What the tester has said so far, and what to ask it next. */
function byTester(position: FusePosition, lit: Lit): Pick<Candidate, "verdict" | "reasons" | "ask"> {
  const said = (text: string) => [text];
  if (lit.off === true)
    return { verdict: "unfit", reasons: said("Lit with the car asleep: it would empty the battery."), ask: null };
  if (lit.on === false) return { verdict: "unfit", reasons: said("Dark with the ignition on."), ask: null };
  if (lit.doorOpen === true)
    return { verdict: "unfit", reasons: said("Still lit after key off and door open."), ask: null };
  const ask = (["on", "off", "doorOpen", "accessory", "start"] as const).find((s) => lit[s] === undefined) ?? null;
  if (lit.on === true && lit.off === false && lit.doorOpen === false)
    return { verdict: "good", reasons: said("Tested: on with the key, off after key and door."), ask };
  const map = position.live;
  const switched = map.includes("on") && !map.includes("off");
  const tested = Object.keys(lit).length > 0;
  if (switched)
    return {
      verdict: tested ? "possible" : "unknown",
      reasons: said("The fuse map says: live with the key. Test it."),
      ask,
    };
  if (map.includes("off") && !tested)
    return { verdict: "unfit", reasons: said("The fuse map says: always live."), ask: "off" };
  return {
    verdict: tested ? "possible" : "unknown",
    reasons: said("The fuse map does not say when it is live. Test it."),
    ask,
  };
}
