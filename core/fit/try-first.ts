/** Ways that make more work and are taken only where the first one fails: tried first, opened later. */
import { placement } from "../lengths/placement";
import { emptyJournal } from "../log/fold";
import { type Choices, conditionTest, resolveChoices } from "../model/compose";
import { CoreError } from "../model/errors";
import { askedChoices } from "../model/kit-condition";
import { lowerFirst } from "../model/labels";
import type { FunctionSpec } from "../model/types";
import { stripBase } from "../strip/base";
import { planRoute } from "../strip/route";
import { wholeWay } from "../strip/view";
import { firmwareOf } from "./firmware";
import type { OfferState } from "./offer";
import { type Documents, type ResolvedFit, resolveFit } from "./resolve-fit";

/** Another option of a choice, to be taken where functions fail with the one that is tried first. */
export interface WiderWay {
  choice: string;
  option: string;
  /** What the choice is about, the option tried first, and the other one, by name. */
  label: string;
  first: string;
  wider: string;
  /** What must fail before it is worth it. */
  functions: readonly { id: string; name: string }[];
  /** What comes off for it that stays on with the first, by title; often nothing. */
  opens: readonly string[];
  /** Usual minutes and price that it costs more. */
  minutes: number;
  price: number;
  /** All but minutes and price, as the customer reads it. */
  words: string;
}

/**
 * The ways that make more work than the options taken and carry the same functions otherwise, or from another place of their
 * part; of a choice the cheapest in minutes for each set of functions. What an option gives that the other one does not
 * is no reason to try first: that is settled before the work.
 *
 * @param state what was given up, and the firmware as the car sheet says it
 * @returns none where the documents do not go together
 */
export function widerWays(
  documents: Documents,
  { givenUp, car }: Pick<OfferState, "givenUp" | "car">,
  choices: Choices,
): readonly WiderWay[] {
  const { kit } = documents;
  const firmware = firmwareOf(car.firmware, documents.variant);
  const resolved = resolvedOrNull(documents, choices, firmware, givenUp);
  if (!resolved) return [];
  const base = (chosen: Choices) => ({ ...stripBase(documents, resolved.stock, chosen), measured: {} });
  const taken = resolveChoices(kit, choices);
  const route = planRoute(base(taken), emptyJournal());
  const opened = new Set(route.steps.map((s) => s.id));
  const minutesOf = (chosen: Choices) => {
    const way = wholeWay(base(chosen));
    return way.in.likely + way.back.likely;
  };
  const ways = askedChoices(kit, taken).flatMap((choice) =>
    choice.options.flatMap((option): WiderWay[] => {
      const first = choice.options.find((o) => o.id === taken[choice.id]);
      if (!first || option.id === first.id) return [];
      const other = resolveChoices(kit, { ...choices, [choice.id]: option.id });
      const minutes = minutesOf(other) - minutesOf(taken) + (option.minutes ?? 0) - (first.minutes ?? 0);
      if (minutes <= 0) return [];
      const functions = carriedOtherwise(documents, resolved, taken, other, firmware);
      if (functions.length === 0) return [];
      const opens = planRoute(base(other), emptyJournal()).steps.filter((s) => !opened.has(s.id));
      const way = {
        choice: choice.id,
        option: option.id,
        label: choice.label,
        first: first.label,
        wider: option.label,
        functions: functions.map(({ id, name }) => ({ id, name })),
        opens: opens.map((s) => s.title),
        minutes,
        price: (option.price ?? 0) - (first.price ?? 0),
      };
      return [{ ...way, words: said(way) }];
    }),
  );
  return cheapest(ways);
}

/** A way in words, without what it costs. */
function said({ functions, first, wider, opens }: Omit<WiderWay, "words">): string {
  const off = opens.length > 0 ? ` (${opens.map(lowerFirst).join(", ")})` : "";
  return `${functions.map((f) => f.name).join(", ")}: tried with “${first}” first. Only if that fails: “${wider}”${off}.`;
}

function cheapest(ways: readonly WiderWay[]): WiderWay[] {
  const sorted = [...ways].sort((a, b) => a.minutes - b.minutes || a.price - b.price);
  const key = (w: WiderWay) => `${w.choice} ${w.functions.map((f) => f.id).join()}`;
  return sorted.filter((w, i) => sorted.findIndex((o) => key(o) === key(w)) === i);
}

/** Functions that work with both, whose signals take another way or pass a part that lies elsewhere. */
function carriedOtherwise(
  documents: Documents,
  one: ResolvedFit,
  taken: Choices,
  chosen: Choices,
  firmware: string,
): FunctionSpec[] {
  const other = resolvedOrNull(documents, chosen, firmware);
  if (!other) return [];
  const moved = movedParts(documents, one, taken, chosen);
  return one.fitted.functions.filter((fn) => {
    const there = other.fitted.functions.find((f) => f.id === fn.id);
    if (!there) return false;
    return fn.situations.some(({ id }) => {
      if (there.situations.every((s) => s.id !== id)) return false;
      const [a, b] = [wayOf(one, fn, id), wayOf(other, there, id)];
      return a !== null && b !== null && (a.join() !== b.join() || a.some((ref) => moved.has(ref.split(".")[0] ?? "")));
    });
  });
}

/** The contacts through which a function comes; null where it does not work. */
function wayOf({ model, settings }: ResolvedFit, fn: FunctionSpec, situation: string): string[] | null {
  const { outcome } = model.try(fn, situation, settings);
  return outcome.kind === "ok" ? outcome.hops.map((h) => h.ref) : null;
}

/** Parts of the kit that lie elsewhere with the other options. */
function movedParts({ car, kit }: Documents, { stock }: ResolvedFit, taken: Choices, chosen: Choices): Set<string> {
  const places = (c: Choices) => placement(kit, conditionTest(car, stock, c), new Map()).places;
  const [one, other] = [places(taken), places(chosen)];
  return new Set([...one.keys(), ...other.keys()].filter((part) => one.get(part) !== other.get(part)));
}

function resolvedOrNull(
  documents: Documents,
  choices: Choices,
  firmware: string,
  givenUp: readonly string[] = [],
): ResolvedFit | null {
  try {
    return resolveFit(documents, choices, givenUp, firmware);
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}
