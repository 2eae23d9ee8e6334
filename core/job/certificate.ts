/** What stands on the certificate: the work as it was done on this car, for the customer's papers. */

import { OUTPUTS } from "../bus/translation/translation";
import { codedWords } from "../coding/map";
import { hexFromBytes } from "../coding/word";
import { plugState } from "../configure/programming-plug";
import { movable, placement } from "../lengths/placement";
import { READING_KINDS } from "../log/kinds/connect/reading";
import { askedChoices } from "../model/kit-condition";
import { codeWords, compareCodes } from "../prove/codes";
import { standingProof } from "./bus-proof";
import { cameraLines, cameraStands, camerasOf } from "./cameras";
import { cardOf, type DashLines, dashLines, keyParts, touchedPanels } from "./card";
import type { Job } from "./job";
import { pairingWay, phonesOf } from "./phones";
import { handoverReport, type ReportLine } from "./report";
import { heldSequences } from "./sequences";
import { jobWalk } from "./speaker-walk";
import { touchOf, touchTests } from "./touch";
import { usesTried } from "./uses";

export interface CertificateSection {
  title: string;
  lines: string[];
}

export interface Certificate {
  /** By whom and when it was handed over; null for a draft. */
  closed: { at: string; by: string; as: "ready" | "unfinished" } | null;
  facts: { label: string; value: string }[];
  functions: ReportLine[];
  /** Without those that have nothing to say. */
  sections: CertificateSection[];
  openPoints: string[];
  card: string[];
  /** The dash with the keys of the card, and with the panels that were off; null where the car is not drawn. */
  keys: DashLines | null;
  touched: DashLines | null;
}

const NOT_NOTED = "not noted";

/**
 * Faults that are no more than a plug, a switch or a setting put right while the work went on. They say nothing about
 * the car or the kit, and are not the customer's business.
 */
const OWN_MISTAKES = ["loose", "reversed", "exchanged", "setting"];

/** @param now ISO 8601, UTC */
export function certificateOf(job: Job, now: string): Certificate {
  const { plan, state } = job;
  const report = handoverReport(job, now);
  return {
    closed: state.closed ? { at: state.closed.at, by: state.closed.by, as: state.closed.as } : null,
    facts: facts(job),
    functions: report.lines,
    sections: [
      { title: "Fault codes", lines: codes(job) },
      { title: "Coded words and firmware", lines: coded(job) },
      { title: "Messages of the car", lines: translated(job) },
      { title: "Loudspeakers", lines: loudspeakers(job) },
      { title: "Touch panel", lines: touched(job) },
      { title: "Cameras", lines: cameras(job) },
      { title: "One after the other", lines: heldSequences(plan, state) },
      { title: "Keys and signs of the bus", lines: usesTried(plan, state) },
      { title: "Phones", lines: phones(job) },
      { title: "Feed and measured values", lines: measured(job) },
      { title: "Where it lies", lines: places(job) },
      { title: "How it was done", lines: methods(job) },
      { title: "Wished for and not available", lines: refused(job) },
      { title: "Found and repaired", lines: repaired(job) },
    ].filter((s) => s.lines.length > 0),
    openPoints: report.openPoints.filter((p) => p.customer).map((p) => p.text),
    card: cardOf(plan, state),
    keys: plan.fitted.actions.length > 0 ? dashLines(plan, keyParts(plan.fitted), []) : null,
    touched: dashLines(plan, [], touchedPanels(plan, state)),
  };
}

function facts({ plan, state }: Job): Certificate["facts"] {
  const { car, variant, kit } = plan.documents;
  const { identification, plate, odometer, firmware } = state.car;
  const offered = askedChoices(kit, plan.chosen)
    .filter((c) => c.kind === "offer")
    .map((c) => optionWords(c, plan.chosen[c.id]));
  const bank = plan.switches?.switches.map(
    (s) => `${s.number} ${state.switches?.[`${kit.switchBank?.part}.${s.setting}`] ?? "not entered"}`,
  );
  return [
    { label: "Car", value: car.title },
    { label: "Identification number", value: identification || NOT_NOTED },
    {
      label: "Plate, odometer",
      value: `${plate || NOT_NOTED}, ${odometer || NOT_NOTED}`,
    },
    { label: "Radio", value: `${variant.title}${firmware ? `, firmware ${firmware}` : ""}` },
    { label: "Kit", value: `${kit.title}, version ${kit.version} of its profile` },
    { label: "Options", value: offered.join("; ") || "none" },
    ...(bank ? [{ label: "Switch bank", value: bank.join(", ") }] : []),
  ];
}

function optionWords(choice: { label: string; options: { id: string; label: string }[] }, option: string | undefined) {
  return `${choice.label}: ${choice.options.find((o) => o.id === option)?.label ?? "not said"}`;
}

function codes({ state }: Job): string[] {
  if (!state.codesAfter) return ["After the work: not read."];
  const { gone, stayed, came, unread } = compareCodes(state.car.faultCodes, state.codesAfter.value);
  const list = (what: string, of: typeof gone) => (of.length > 0 ? [`${what}: ${of.map(codeWords).join("; ")}.`] : []);
  const lines = [
    ...list("New since the work", came),
    ...list("There before and still there", stayed),
    ...list("There before and gone", gone),
    ...unread.map((p) => `Could not be read: “${p.text}”.`),
  ];
  return lines.length > 0 ? lines : ["None stored after the work."];
}

/** Words that were written, as they were found and as they stand; updates made here; what was told to the car. */
function coded(job: Job): string[] {
  const { plan, state } = job;
  const map = job.codingMap;
  const words = (map ? codedWords(map) : []).flatMap(({ ref, unit, word }) => {
    const events = state.words.get(ref) ?? [];
    const first = events.find((e) => e.bytes)?.bytes;
    const last = events.at(-1);
    if (!first || !last || events.every((e) => e.how === "read" || e.how === "entered")) return [];
    const now = last.bytes ? hexFromBytes(last.bytes) : "not known, it was not read back";
    return [`${unit.name}, ${word.name}: found as ${hexFromBytes(first)}, now ${now}.`];
  });
  const { came, version } = state.firmware;
  const updated = came === null ? [] : [`Firmware of the radio: came with ${came}, now ${version || "not known"}.`];
  const { programmingPlug: plug } = plan.documents.kit;
  const told = plug && plugState(state.plugEvents, plug).done ? ["Programming plug: finished and taken out."] : [];
  const loaded = [...state.loads.values()].flatMap(({ what, identification, data, by, translation }) =>
    translation !== null
      ? [`Module loaded with the translation of this job, by ${by}.`]
      : what === "loaded"
        ? [
            `Module loaded: ${[data, identification && `for ${identification}`, `seen by ${by}`].filter(Boolean).join(", ")}.`,
          ]
        : [],
  );
  return [...updated, ...loaded, ...words, ...told];
}

/** Which loudspeaker plays at each corner, and what was moved for it. */
function loudspeakers({ plan, state }: Job): string[] {
  const moved = state.contactMoves.map(
    ({ plug, moves }) => `${moves.length} contacts of loudspeakers moved in ${plug}, as the walk had shown.`,
  );
  if (jobWalk(plan, state)?.kind !== "right") return moved;
  return [...moved, "With balance and fader at each corner its own loudspeaker plays."];
}

/** In which picture the panel was measured, and how near fingers arrive. */
function cameras({ plan, state }: Job): string[] {
  return camerasOf(plan).flatMap((c) =>
    cameraLines(c, cameraStands(plan, state, c), state.sights.get(c.id)?.turned ?? []),
  );
}

function touched({ plan, state }: Job): string[] {
  return touchTests(plan).flatMap((t) => {
    const outcome = touchOf(state, t);
    return outcome.kind === "right"
      ? [`${t.fn.name}: corners and centre touched, at most ${Math.round(100 * outcome.worst)} % of the picture off.`]
      : [];
  });
}

/** What the module was told of the car's messages, with the figures of the proof on another recording. */
function translated({ state }: Job): string[] {
  if (!state.translation) return [];
  const proof = standingProof(state);
  if (!proof) return ["Translation for the module: not proven on a recording of its own."];
  return proof.outputs.map((o) => {
    const { name } = OUTPUTS[o.output];
    if (o.cued === 0) return `${name}: not tried.`;
    const late = o.worstDelayS === null ? "" : `, at most ${Math.round(1000 * o.worstDelayS)} ms after`;
    const off = o.worstError === null ? "" : `, at most ${o.worstError.toFixed(1)} off`;
    return `${name}: followed ${o.met} of ${o.cued} times${late}${off}, ${o.falseAlarms.length} times without cause.`;
  });
}

function phones({ plan, state }: Job): string[] {
  const rules = plan.documents.kit.phone;
  const list = phonesOf(plan, state);
  if (!rules || !list) return [];
  const { first } = pairingWay(rules, plan);
  const how = rules.gives === "calls" ? "paired for calls" : `paired, first by ${first}`;
  return list.map(
    ({ phone, family, step }) => `${phone}${family ? `, ${family.name}` : ""}: ${step ? "not finished" : how}.`,
  );
}

function measured({ plan, state }: Job): string[] {
  const position = plan.documents.car.fusePanel?.find((p) => p.id === state.feed);
  const feed = position
    ? [
        `Switched feed from fuse ${position.id}, ${position.circuit}, ${position.ratingA} A${state.tapLit === null ? "" : state.tapLit ? "; tap proven the right way round" : "; tap not lit"}.`,
      ]
    : [];
  const readings = state.readings.map((r) => {
    const { label, unit } = READING_KINDS[r.reading];
    return `${label}: ${r.value} ${unit}.`;
  });
  return [...feed, ...readings];
}

function places({ plan, state }: Job): string[] {
  const { kit } = plan.documents;
  const now = placement(kit, plan.applies, state.placed);
  return movable(plan.fitted, now).map((part) => `${part.name}: ${now.places.get(part.id)}.`);
}

function methods({ plan }: Job): string[] {
  const { kit } = plan.documents;
  return askedChoices(kit, plan.chosen)
    .filter((c) => c.kind === "method")
    .map((c) => `${optionWords(c, plan.chosen[c.id])}.`);
}

function refused({ plan, state, outside }: Job): string[] {
  const given = new Set(plan.tests.map((t) => t.fn.id));
  const name = (id: string) => plan.fitted.functions.find((f) => f.id === id)?.name ?? outside.wish(id) ?? id;
  const wished = (state.wishes ?? []).filter((id) => !given.has(id)).map((id) => `${name(id)}.`);
  const chosen = state.givenUp.map((id) => `${name(id)}: the customer chose to do without.`);
  return [...new Set([...chosen, ...wished.filter((w) => !state.givenUp.some((id) => w === `${name(id)}.`))])];
}

function repaired({ state }: Job): string[] {
  return state.repairs
    .filter((r) => !r.normal && !OWN_MISTAKES.includes(r.fault.split(":")[0] ?? ""))
    .map((r) => `${r.title}. ${r.remedy}`.trim());
}
