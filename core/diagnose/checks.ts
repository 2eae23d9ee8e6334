/** Looks, measurements and exchanges that tell causes apart without trying every function, and what each would show. */
import type { CarStand } from "../log/strip-journal";
import type { Touched } from "../model/faults";
import { describePort } from "../model/labels";
import { predictedCodes } from "../model/monitors";
import type { Model } from "../model/outcome";
import type { Inspection, MeterWindow, Monitor, Part, Settings, System } from "../model/types";
import type { Hypothesis } from "./hypothesis";

/** Chance that a look or measurement is misread. Our assumption. */
const MISREAD = 0.02;

/** Minutes beside the reach of the part. Our assumption. */
const MINUTES = { lamp: 0.5, look: 0.5, measure: 2, contacts: 2, set: 1, swap: 6, asBuilt: 4, code: 2 } as const;

/** Something that is looked at, measured, exchanged or waited for, and what it shows on a car. */
export interface Look {
  id: string;
  title: string;
  how: string;
  minutes: number;
  answers: readonly { id: string; label: string }[];
  /** Parts that one must get at for it. */
  at: readonly string[];
  /** How the car stands for it; left out where it shows the same however it stands. */
  stands?: Partial<CarStand>;
  /** What is measured on a sound car: a value in it is the last answer, any other the first. */
  window?: MeterWindow;
  /**
   * Probability of each answer under a hypothesis, in the order of the answers.
   *
   * @param shows whether the simulated car shows the first answer, for lamps and codes
   */
  under(hypothesis: Hypothesis, shows: boolean): readonly number[];
}

/** A look that a cause brings along. */
export type OwnLook = Omit<Look, "under" | "at">;

/** Probability of each answer; of two causes the one that shows itself there is seen. */
export function answersUnder(look: Look, h: Hypothesis, shows: boolean): readonly number[] {
  if (!h.pair) return look.under(h, shows);
  const [one, two] = h.pair.map((x) => look.under(x, shows)) as [readonly number[], readonly number[]];
  return (one.at(-1) ?? 0) <= (two.at(-1) ?? 0) ? one : two;
}

/**
 * What a look shows on a car with one thing the matter, or on a sound one.
 *
 * @param signs what the simulated car shows by itself
 */
export function shownAt(look: Look, hypothesis: Hypothesis | null, signs: ReadonlySet<string>): string {
  const shows = signs.has(look.id);
  const [first, last] = [look.answers[0], look.answers.at(-1)];
  if (!hypothesis) return (shows || look.id === AS_BUILT ? first : last)?.id ?? "";
  const p = answersUnder(look, hypothesis, shows);
  return look.answers[p.indexOf(Math.max(...p))]?.id ?? "";
}

const LAMP = "lamp:";
const CODE = "code:";
const AT = "at:";
const AS_BUILT = "asBuilt";

/** What the car shows by itself: a lamp, a stored code, what stands at a contact. */
const isSign = (look: string): boolean => [LAMP, CODE, AT].some((kind) => look.startsWith(kind));
export const codeLook = (monitor: string): string => `${CODE}${monitor}`;

/**
 * Lamps that are dark, codes that are stored and contacts at which something else stands than on a sound car, by the look
 * that shows them.
 */
export function signsOf(model: Model, sound: Model, settings: Settings): Set<string> {
  const dark = model.system.parts.filter((p) => p.lamp && !model.alive(p.id)).map((p) => `${LAMP}${p.id}`);
  const codes = predictedCodes(model, settings).map((c) => codeLook(c.monitor));
  const outside = contactsMeasured(model.system)
    .filter(({ at, situation }) => model.carries(at, situation, settings) !== sound.carries(at, situation))
    .map(({ id }) => `${AT}${id}`);
  return new Set([...dark, ...codes, ...outside]);
}

const isContact = ({ at }: Inspection): boolean => at.split(".").length === 3;

function contactsMeasured({ inspections = [] }: System): Inspection[] {
  return inspections.filter(isContact);
}

const partOf = (ref: string): string => ref.split(".")[0] ?? "";

const AWAKE: Partial<CarStand> = { battery: "connected", key: "on" };
const KEY_OFF: Partial<CarStand> = { key: "off" };

/** Volts and amperes are there with the ignition on, unless the document says otherwise; ohms are measured without power. */
function standsFor({ window, situation = {} }: Pick<Inspection, "window" | "situation">): Partial<CarStand> {
  if (window?.unit === "Ω") return KEY_OFF;
  const { key = "on", selector } = situation;
  return {
    ...AWAKE,
    key: key === "cranking" ? "running" : key,
    ...(selector && selector !== "P" ? { selector, parkingBrake: true } : {}),
  };
}

/** The answer that a measured value is. */
export function answerOfValue({ window, answers }: Pick<Look, "window" | "answers">, value: number): string | null {
  if (!window) return null;
  const isWithin = value >= window.min && value <= window.max;
  return (isWithin ? answers.at(-1) : answers[0])?.id ?? null;
}

/** The checks of a job, known without simulating anything. */
export function looksOf(system: System, touched: Touched, hypotheses: readonly Hypothesis[]): Look[] {
  const reach = (id: string) => system.parts.find((p) => p.id === id)?.reachMinutes ?? 3;
  const settled = new Set(hypotheses.map((h) => h.settledBy));
  const looks = [
    ...system.parts.filter((p) => p.lamp).map((p) => lampLook(p, reach(p.id))),
    ...system.parts.filter((p) => p.type === "lead").map((p) => measureLook(p, reach(p.id))),
    ...system.links
      .filter((l) => !l.air && (touched.links.has(l.id) || settled.has(`look:${l.id}`)))
      .map((l) => {
        const far = Math.max(...[l.a, l.b].map((p) => reach(partOf(p))));
        const ends = [l.a, l.b].map(partOf);
        return plugLook(l.id, `${describePort(system, l.a)} – ${describePort(system, l.b)}`, ends, far);
      }),
    ...system.links
      .filter((l) => settled.has(`contacts:${l.id}`))
      .map((l) => {
        const plug = describePort(system, l.a);
        const ends = [l.a, l.b].map(partOf);
        return contactsLook(l.id, plug, ends, Math.max(...ends.map(reach)));
      }),
    ...system.parts.filter((p) => (p.settings ?? []).length > 0).map((p) => settingLook(p, touched, reach(p.id))),
    ...system.parts.filter((p) => p.type === "device").map((p) => swapLook(p, reach(p.id))),
    ...system.assumed.map(
      (a): Look => ({
        id: `state:${a.id}`,
        title: `Rule out: ${a.title.toLowerCase()}`,
        how: a.remedy,
        minutes: a.minutes,
        answers: RULED_OUT,
        at: [],
        under: (h) => of(h.id === `state:${a.id}`),
      }),
    ),
    ...hypotheses.flatMap((h) => (h.ownLook ? [ownLook(h.ownLook, h.parts)] : [])),
    ...(system.monitors ?? []).map((m) => codeCheck(m, system.parts.find((p) => p.id === m.by)?.name ?? m.by)),
    ...contactsMeasured(system).map((i) => contactLook(i, reach(partOf(i.at)))),
  ]
    .filter((look) => settled.has(look.id) || isSign(look.id))
    .map((look) => asInspected(look, system));
  return touched.parts.size > 0 ? [...looks, asBuiltLook(touched)] : looks;
}

const RULED_OUT = [
  { id: "was it", label: "That was it" },
  { id: "ruled out", label: "Ruled out" },
];

/** The first of two answers is what a cause shows, the second what every other car shows. */
function of(shows: boolean): readonly number[] {
  return shows ? [1 - MISREAD, MISREAD] : [MISREAD, 1 - MISREAD];
}

/** Nobody knows. */
const EVEN = [0.5, 0.5];

function lampLook(part: Part, reach: number): Look {
  return {
    id: `${LAMP}${part.id}`,
    title: `Is the ${part.lamp} of ${part.name} lit?`,
    how: "Ignition on, look at the lamp.",
    minutes: MINUTES.lamp + reach / 4,
    stands: AWAKE,
    at: [part.id],
    answers: [
      { id: "dark", label: "Dark" },
      { id: "lit", label: "Lit" },
    ],
    under: (h, isDark) => (h.kind === "none" ? EVEN : of(isDark)),
  };
}

/** Chance that a code which follows from a fault is stored already when somebody looks. Our assumption. */
const STORED = 0.85;
/** Chance that something unknown stores just this code. Our assumption. */
const STRANGE = 0.05;

function codeCheck({ id, code, say }: Monitor, by: string): Look {
  return {
    id: codeLook(id),
    title: `Is ${code} stored in ${by}?`,
    how: `Read the fault memory. ${code}: ${say}`,
    minutes: MINUTES.code,
    stands: AWAKE,
    at: [],
    answers: [
      { id: "stored", label: "Stored" },
      { id: "not stored", label: "Not stored" },
    ],
    under(h, stored) {
      if (h.kind === "none") return [STRANGE, 1 - STRANGE];
      return stored ? [STORED, 1 - STORED] : [MISREAD, 1 - MISREAD];
    },
  };
}

const PLACE_OF: Readonly<Record<Inspection["kind"], string>> = { look: "look", measure: "measure", exchange: "swap" };

/** A look as the document has it, where it has one for its place; the last one counts, the kit's before the car's. */
function asInspected(look: Look, { inspections = [], parts }: System): Look {
  const own = inspections.findLast((i) => !isContact(i) && look.id === `${PLACE_OF[i.kind]}:${i.at}`);
  if (!own) return look;
  const { title, minutes = look.minutes, window } = own;
  // One value stands for all conductors of a lead: the one that is furthest from good.
  const conductors = parts.find((p) => p.id === own.at)?.joins?.length ?? 0;
  const how =
    window && own.kind === "measure" && conductors > 1
      ? `${own.how} It has ${conductors} conductors: note the worst value.`
      : own.how;
  return { ...look, title, how, minutes, ...(window ? { window, stands: standsFor(own) } : {}) };
}

function contactLook(inspection: Inspection, reach: number): Look {
  const { id, at, title, how, minutes = MINUTES.measure, window } = inspection;
  return {
    id: `${AT}${id}`,
    title,
    how,
    minutes: minutes + reach,
    at: [partOf(at)],
    answers: [
      { id: "outside", label: "Something else" },
      { id: "within", label: window ? windowWords(window) : "As it should be" },
    ],
    ...(window ? { window, stands: standsFor(inspection) } : {}),
    under: (h, isOutside) => (h.kind === "none" ? EVEN : of(isOutside)),
  };
}

/** `11 to 15 V`, `under 1 Ω`. */
function windowWords({ unit, min, max }: MeterWindow): string {
  return min > 0 ? `${min} to ${max} ${unit}` : `under ${max} ${unit}`;
}

function measureLook(part: Part, reach: number): Look {
  return {
    id: `measure:${part.id}`,
    title: `Measure ${part.name} end to end`,
    how: "Unplug both ends, continuity of each conductor with the meter, move the lead while measuring.",
    minutes: MINUTES.measure + reach,
    stands: KEY_OFF,
    at: [part.id],
    answers: [
      { id: "open", label: "A conductor is open" },
      { id: "good", label: "All conductors good" },
    ],
    under: (h) => of(h.kind === "leadOpen" && h.parts.includes(part.id)),
  };
}

function plugLook(link: string, ends: string, at: readonly string[], reach: number): Look {
  return {
    id: `look:${link}`,
    title: `Look at ${ends}`,
    how: "Is it the right lead, pushed home, the right way round? Pull gently.",
    minutes: MINUTES.look + reach / 2,
    at,
    answers: [
      { id: "loose", label: "Loose" },
      { id: "misplaced", label: "Wrong lead or wrong way round" },
      { id: "right", label: "Right and home" },
    ],
    under(h) {
      if (!h.links.includes(link) || h.kind === "pushedBack" || h.kind === "crossed")
        return [MISREAD / 2, MISREAD / 2, 1 - MISREAD];
      return h.kind === "notPlugged" || h.kind === "declared"
        ? [1 - MISREAD, MISREAD / 2, MISREAD / 2]
        : [MISREAD / 2, 1 - MISREAD, MISREAD / 2];
    },
  };
}

function contactsLook(link: string, plug: string, at: readonly string[], reach: number): Look {
  return {
    id: `contacts:${link}`,
    title: `Look at the contacts of ${plug}`,
    how: "Unplug it. Does every contact stand at the same height, does every wire hold, do the colours sit as they should?",
    minutes: MINUTES.contacts + reach / 2,
    stands: KEY_OFF,
    at,
    answers: [
      { id: "wrong", label: "One is back, loose or elsewhere" },
      { id: "right", label: "All sit right" },
    ],
    under: (h) => of((h.kind === "pushedBack" || h.kind === "crossed") && h.links.includes(link)),
  };
}

function settingLook(part: Part, { bank, planned }: Touched, reach: number): Look {
  const settings = part.settings ?? [];
  const isBank = part.id === bank?.part;
  return {
    id: `set:${part.id}`,
    title: isBank ? "Read the switch bank" : `Look at the ${settings.map((s) => s.label.toLowerCase()).join(" and ")}`,
    how: isBank
      ? "Compare every switch with the drawing in Configure."
      : `As planned: ${settings.map((s) => planned[`${part.id}.${s.id}`] ?? s.initial).join(", ")}.`,
    minutes: MINUTES.set + reach / 2,
    at: [part.id],
    answers: [
      { id: "different", label: "Differs" },
      { id: "as planned", label: "As planned" },
    ],
    under: (h) => of(h.kind === "setting" && h.parts.includes(part.id)),
  };
}

function swapLook(part: Part, reach: number): Look {
  return {
    id: `swap:${part.id}`,
    title: `Try another ${part.name}`,
    how: "Put in one that is known to be good, and try again what fails.",
    minutes: MINUTES.swap + reach,
    at: [part.id],
    answers: [
      { id: "works", label: "Works with it" },
      { id: "same", label: "The same with it" },
    ],
    under: (h) => of(h.kind === "dead" && h.parts.includes(part.id)),
  };
}

/** A look that settles one cause and says nothing about the others. */
function ownLook(look: OwnLook, at: readonly string[]): Look {
  return { ...look, at, under: (h) => of(h.settledBy === look.id) };
}

/** Splits the world whatever the cause is. */
function asBuiltLook({ parts, links }: Touched): Look {
  return {
    id: AS_BUILT,
    title: "Take the kit out of the path",
    how: "Put the factory plugs together as the car was built, and try what fails and the car can do without the kit.",
    minutes: MINUTES.asBuilt,
    at: [...parts],
    answers: [
      { id: "works", label: "Works without the kit" },
      { id: "same", label: "Fails without it, too" },
    ],
    under(h) {
      if (h.kind === "none") return EVEN;
      const kit = h.normal || h.parts.some((p) => parts.has(p)) || h.links.some((l) => links.has(l));
      return of(kit);
    },
  };
}
