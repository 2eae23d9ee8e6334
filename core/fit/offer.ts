import type { Way } from "../configure/switches";
import type { DocumentPin } from "../log/kinds/fit/kit";
import { type Choices, kitPartIds, resolveChoices } from "../model/compose";
import { CoreError } from "../model/errors";
import { firmwareOf } from "./firmware";
import { type Baseline, type FitVerdict, type LedgerLine, ledger, withBaseline } from "./ledger";
import { type Needs, needsOf, toolLines } from "./needs";
import { matingClash, supplyClash } from "./offers";
import { offerVerdict, type Wish } from "./rank";
import { type Documents, resolveFit, settingsForWishes } from "./resolve-fit";
import { type FitTime, fitTime, NO_TIME } from "./time";

/** A kit with choices looked at closely, on the car of a job. */
export interface Offer {
  pin: DocumentPin;
  title: string;
  work: string;
  maker: string;
  choices: Choices;
  verdict: FitVerdict;
  lines: LedgerLine[];
  needs: Needs;
  box: string[];
  missing: string[];
  /** Ways out where functions cannot be had together, and none is taken yet. */
  conflict: Way[];
  /** Which functions those are, by name. */
  clash: string[];
  time: FitTime;
}

/** What of a job's state an offer depends on. */
export interface OfferState {
  givenUp: readonly string[];
  car: { firmware: string };
  placed: ReadonlyMap<string, string>;
  baseline: Baseline;
}

/** The state of a job as far as it concerns another kit: nothing of it is put elsewhere or given up. */
export function forOtherKit({ car, baseline }: OfferState): OfferState {
  return { car, baseline, givenUp: [], placed: new Map() };
}

/** Looks at one kit closely. An impossible one has a verdict and nothing else. */
export function offerOf(documents: Documents, state: OfferState, asked: Choices, wishes: readonly Wish[]): Offer {
  const { car, variant, kit } = documents;
  const choices = resolveChoices(kit, asked);
  const head = {
    pin: { slug: kit.id, version: kit.version },
    title: kit.title,
    work: kit.work,
    maker: kit.maker,
    choices,
    box: kit.box,
  };
  const ids = wishes.map((w) => w.id);
  const needless = { lines: [], minutes: NO_TIME.fitting, price: 0 };
  const none = { lines: [], missing: [], conflict: [], clash: [], time: NO_TIME, needs: needless };
  try {
    const firmware = firmwareOf(state.car.firmware, variant);
    const resolved = resolveFit(documents, choices, state.givenUp, firmware);
    const clash = matingClash(resolved.fitted, kit) ?? supplyClash(resolved, kit);
    if (clash) return { ...head, ...none, verdict: { level: "impossible", text: clash } };
    const lines = withBaseline(
      ledger(resolved.stock, resolved.fitted, settingsForWishes(resolved, ids), kitPartIds(kit)),
      state.baseline,
    );
    const { stock, fitted } = resolved;
    const needs = needsOf({ car, variant, kit, stock, fitted, choices, firmware, placed: state.placed });
    const time = fitTime(documents, stock, choices, needs.minutes);
    return {
      ...head,
      lines,
      needs: { ...needs, lines: [...needs.lines, ...toolLines(time.tools, needs.lines)] },
      time,
      verdict: offerVerdict(lines, wishes, needs.lines),
      missing: resolved.switches?.missing ?? [],
      conflict: resolved.switches?.conflict ?? [],
      clash: resolved.switches?.clash ?? [],
    };
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return { ...head, ...none, verdict: { level: "impossible", text: error.problem } };
  }
}
