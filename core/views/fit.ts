/** What Fit shows of a job. */
import { lane } from "../connect/lane";
import { firmwareOf } from "../fit/firmware";
import { followsFrom } from "../fit/follows";
import { forOtherKit, offerOf } from "../fit/offer";
import type { Candidate, RankRequest } from "../fit/rank";
import { resolveFit } from "../fit/resolve-fit";
import { widerWays } from "../fit/try-first";
import { namedWishes } from "../fit/wishes";
import { isBlank } from "../job/blank";
import type { Job } from "../job/job";
import { signatureOf } from "../job/signature";
import { type Choices, resolveChoices } from "../model/compose";
import { CoreError } from "../model/errors";
import { askedChoices } from "../model/kit-condition";
import type { KitProfile } from "../model/profile";

/** Against what the kits of the library are ranked on this job. */
export function rankRequest({ plan, state }: Job, kits: readonly KitProfile[]): RankRequest {
  const { car, variant } = plan.documents;
  const firmware = firmwareOf(state.car.firmware, variant);
  return { car, variant, kits, wishes: namedWishes(kits, state.wishes ?? []), firmware };
}

/** Options by choice, as far as the kit offers them: those of an address, or those the shop usually takes. */
export function offeredChoices(kit: KitProfile, asked: Iterable<[string, string]>): Choices {
  return Object.fromEntries(
    [...asked].filter(([key, value]) => kit.choices.some((c) => c.id === key && c.options.some((o) => o.id === value))),
  );
}

/** The kit whose offer is shown: the one asked for, else that of the job, else the best; null when none fits. */
export function shownKit(job: Job, asked: string | null, list: readonly Candidate[]): string | null {
  const { kit } = job.plan.documents;
  const best = list.find((c) => c.verdict.level !== "impossible");
  return asked ?? (isBlank(kit) ? null : kit.id) ?? best?.kit ?? null;
}

/**
 * The offer of one kit with its choices.
 *
 * @param kit the one that is shown, see `shownKit`
 * @param list the ranking, which says with which options each kit comes out best
 * @param kits newest of the library
 * @param usual options that the shop takes as a rule
 * @param asked what the address says: options by choice, and `why` with the function that is asked about
 */
export function offerView(
  job: Job,
  kit: KitProfile,
  list: readonly Candidate[],
  kits: readonly KitProfile[],
  usual: Choices,
  asked: Iterable<[string, string]>,
) {
  const { state, plan } = job;
  const isCurrent = !isBlank(plan.documents.kit) && plan.documents.kit.id === kit.id;
  // What was confirmed, else what the ranking shows of this kit, so that both say the same of it.
  const ranking = list.find((c) => c.kit === kit.id)?.choices ?? {};
  const start = isCurrent && state.choices ? state.choices : { ...ranking, ...usual };
  const given = [...asked];
  const choices = { ...start, ...offeredChoices(kit, given) };
  const wishes = namedWishes(kits, state.wishes ?? []);
  const offer = job.once(`offer ${kit.id}@${kit.version} ${JSON.stringify([choices, wishes])}`, () =>
    offerOf({ ...plan.documents, kit }, isCurrent ? state : forOtherKit(state), choices, wishes),
  );
  const chosen = resolveChoices(kit, choices);
  const mine = list.filter((x) => x.kit === kit.id && x.verdict.level !== "impossible");
  const named = (id: string) => offer.lines.find((l) => l.functionId === id)?.name ?? id;
  const why = given.find(([name]) => name === "why")?.[1] ?? null;
  const confirmed = isCurrent && state.choices !== null && isSame(chosen, resolveChoices(kit, state.choices));
  return {
    offer,
    tryFirst: job.once(`first ${kit.id}@${kit.version} ${JSON.stringify(choices)}`, () =>
      widerWays({ ...plan.documents, kit }, isCurrent ? state : forOtherKit(state), choices),
    ),
    choices: askedChoices(kit, chosen).map((c) => ({
      ...c,
      usual: usual[c.id] ?? c.default,
      chosen: chosen[c.id] ?? c.default,
      notUsual:
        (isCurrent && state.choices) || given.some(([key]) => key === c.id)
          ? null
          : notUsual(c, usual[c.id] ?? c.default, chosen, mine, named),
      options: c.options.map((o) => ({
        ...o,
        follows: followsFrom({ car: plan.documents.car, kit, stock: plan.stock }, chosen, c.id, o.id),
      })),
    })),
    isCurrent,
    confirmed,
    signed: state.signed,
    signature: confirmed ? signatureOf(plan, state) : state.signed ? ("other" as const) : ("none" as const),
    why: whyNot(job, kit, choices, why),
    newer: isCurrent ? (kits.find((k) => k.id === kit.id && k.version > kit.version)?.version ?? null) : null,
  };
}

/** Why an option that nobody asked for stands in the place of the usual one; null when it is the usual one. */
function notUsual(
  { id, options }: KitProfile["choices"][number],
  usual: string,
  chosen: Choices,
  mine: readonly Candidate[],
  named: (id: string) => string,
): string | null {
  if (chosen[id] === usual) return null;
  const label = options.find((o) => o.id === usual)?.label ?? usual;
  const taken = mine.find((c) => isSame(c.choices, chosen));
  const other = mine.find((c) => isSame({ ...c.choices, [id]: usual }, c.choices));
  if (!other) return `Not the usual one: ${label} does not fit here.`;
  const less = [...other.lost, ...other.unmet].filter((f) => !taken?.lost.includes(f) && !taken?.unmet.includes(f));
  if (less.length > 0) return `Not the usual one: with ${label} the car goes without ${less.map(named).join(", ")}.`;
  return `Not the usual one, which is ${label}.`;
}

function isSame(one: Choices, other: Choices): boolean {
  return Object.entries(one).every(([choice, option]) => other[choice] === option);
}

/** Why a function of a kit does not work on this car: the lane with the first hop that fails. */
function whyNot({ plan, state }: Job, kit: KitProfile, choices: Choices, asked: string | null) {
  if (!asked) return null;
  const [functionId = "", situationId = ""] = asked.split("/");
  const { car, variant } = plan.documents;
  try {
    const { fitted, settings } = resolveFit(
      { car, variant, kit },
      choices,
      kit.id === plan.documents.kit.id ? state.givenUp : [],
    );
    const fn = fitted.functions.find((f) => f.id === functionId);
    if (!fn?.situations.some((s) => s.id === situationId)) return null;
    return { name: fn.name, lane: lane(fitted, fn, situationId, settings, {}) };
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}
