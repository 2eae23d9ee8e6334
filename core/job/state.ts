import type { Lit } from "../power/feed";
import type { ReadingKind } from "../power/readings";
import { emptyJournal, note, type StripJournal } from "../strip/journal";
import type { CarSheet, DocumentPin, JobEntry } from "./entry";

export interface Noted<T> {
  value: T;
  note: string;
  /** File of the job that holds a photo. */
  photo?: string;
  at: string;
  by: string;
  entry: string;
}

/** A job as its entries leave it. */
export interface JobState {
  car: CarSheet;
  /** Entry that the car sheet comes from; a stale edit is recognised by it. */
  carEntry: string | null;
  baseline: ReadonlyMap<string, Noted<"pass" | "fail" | "absent">>;
  wishes: string[] | null;
  /** Radio variant and kit found on this job; null while those with which it was opened count. */
  variant: DocumentPin | null;
  kit: DocumentPin | null;
  /** Answers that led to the variant. */
  variantAnswers: Record<string, string | null>;
  choices: Record<string, string> | null;
  /** The offer as the customer signed it, with the kit and the choices it was made for. */
  signed: Noted<{ name: string; kit: DocumentPin; choices: Record<string, string>; price: number }> | null;
  strip: StripJournal;
  plugged: ReadonlySet<string>;
  /** Where a lead sits when that is not its planned place, by connection. */
  plugAt: ReadonlyMap<string, string>;
  /** Connections whose plug sits the other way round. */
  turned: ReadonlySet<string>;
  /** Where parts of the kit lie, when not where its profile says. */
  placed: ReadonlyMap<string, string>;
  /** Ends parked and wires insulated. */
  tasks: ReadonlySet<string>;
  /** Answers of the tester at the fuse panel, by position, and the position taken. */
  feedTests: ReadonlyMap<string, Lit>;
  feed: string | null;
  /** The new branch of the tap was lit with the original fuse out; null while not tested. */
  tapLit: boolean | null;
  readings: { reading: ReadingKind; value: number; at: string; by: string; entry: string }[];
  /** Settings of the kit that were made: coded, moved, loaded. */
  made: ReadonlySet<string>;
  switches: Record<string, string> | null;
  /** The module was without power after the last change of a switch. */
  powerCycled: boolean;
  files: { file: string; name: string; what: "log" | "dbc"; at: string; by: string }[];
  /** Test results and answers to checks that still count: those after the last repair or setting change. */
  results: ReadonlyMap<string, Noted<string>>;
  checks: ReadonlyMap<string, Noted<string>>;
  /** Every try of a test, also those before the last repair: each leaves the car's key somehow. */
  tries: { test: string; at: string }[];
  repairs: { fault: string; title: string; remedy: string; at: string; by: string }[];
  points: { text: string; at: string; by: string; entry: string }[];
  closed: { at: string; by: string; openPoints: string[] } | null;
  workMinutes: number;
}

const EMPTY_SHEET: CarSheet = {
  identification: "",
  plate: "",
  odometerKm: null,
  firmware: "",
  faultCodes: "",
  note: "",
};

/** Pauses longer than this are not counted as work on the job. */
const LONGEST_PAUSE_MIN = 30;

/** Entries that still count: an undone entry is out, and undoing an undo brings it back. */
export function effective(entries: readonly JobEntry[]): JobEntry[] {
  const undone = new Set<string>();
  for (let i = entries.length - 1; i >= 0; i--) {
    const entry = entries[i] as JobEntry;
    if (entry.kind === "undo" && !undone.has(entry.id)) undone.add(entry.data.entry);
  }
  return entries.filter((e) => e.kind !== "undo" && !undone.has(e.id));
}

/** The state of a job: its effective entries, folded in their order. */
export function foldJob(entries: readonly JobEntry[]): JobState {
  const draft = emptyDraft();
  for (const entry of effective(entries)) apply(draft, entry);
  return { ...draft, workMinutes: workMinutes(entries) };
}

function emptyDraft() {
  return {
    car: EMPTY_SHEET,
    carEntry: null as string | null,
    baseline: new Map<string, Noted<"pass" | "fail" | "absent">>(),
    wishes: null as string[] | null,
    variant: null as DocumentPin | null,
    kit: null as DocumentPin | null,
    variantAnswers: {} as Record<string, string | null>,
    choices: null as Record<string, string> | null,
    signed: null as JobState["signed"],
    strip: emptyJournal(),
    plugged: new Set<string>(),
    plugAt: new Map<string, string>(),
    turned: new Set<string>(),
    placed: new Map<string, string>(),
    tasks: new Set<string>(),
    feedTests: new Map<string, Lit>(),
    feed: null as string | null,
    tapLit: null as boolean | null,
    readings: [] as JobState["readings"],
    made: new Set<string>(),
    switches: null as Record<string, string> | null,
    powerCycled: false,
    files: [] as JobState["files"],
    results: new Map<string, Noted<string>>(),
    checks: new Map<string, Noted<string>>(),
    tries: [] as JobState["tries"],
    repairs: [] as JobState["repairs"],
    points: [] as JobState["points"],
    closed: null as JobState["closed"],
  };
}
type Draft = ReturnType<typeof emptyDraft>;

function apply(draft: Draft, entry: JobEntry): void {
  const { at, by } = entry;
  const noted = <T>(value: T, note = ""): Noted<T> => ({ value, note, at, by, entry: entry.id });
  switch (entry.kind) {
    case "intake.car":
      draft.car = entry.data;
      draft.carEntry = entry.id;
      return;
    case "intake.baseline":
      draft.baseline.set(entry.data.test, {
        ...noted(entry.data.result, entry.data.note),
        ...(entry.data.photo ? { photo: entry.data.photo } : {}),
      });
      return;
    case "intake.wishes":
      draft.wishes = entry.data.functions;
      return;
    case "intake.variant":
      draft.variant = entry.data.variant;
      draft.variantAnswers = entry.data.answers;
      return;
    case "fit.kit":
      forgetKit(draft);
      draft.kit = entry.data.kit;
      draft.choices = entry.data.choices;
      return;
    case "fit.signed":
      draft.signed = noted(entry.data);
      return;
    case "fit.confirm":
      draft.choices = entry.data.choices;
      return;
    case "strip.step":
    case "strip.skip":
    case "strip.add":
    case "strip.want":
    case "strip.split":
    case "strip.note":
    case "strip.count":
    case "strip.small":
    case "strip.gate":
    case "strip.maintainer":
      note(draft.strip, entry, { at, by, entry: entry.id });
      return;
    case "connect.plug":
      draft.plugAt.delete(entry.data.link);
      draft.turned.delete(entry.data.link);
      if (entry.data.plugged) draft.plugged.add(entry.data.link);
      else draft.plugged.delete(entry.data.link);
      if (entry.data.plugged && entry.data.at) draft.plugAt.set(entry.data.link, entry.data.at);
      if (entry.data.plugged && entry.data.turned) draft.turned.add(entry.data.link);
      return;
    case "connect.place":
      draft.placed.set(entry.data.part, entry.data.place);
      return;
    case "connect.task":
      if (entry.data.done) draft.tasks.add(entry.data.task);
      else draft.tasks.delete(entry.data.task);
      return;
    case "connect.feedTest":
      draft.feedTests.set(entry.data.position, {
        ...draft.feedTests.get(entry.data.position),
        [entry.data.state]: entry.data.lit,
      });
      return;
    case "connect.feed":
      draft.feed = entry.data.position;
      draft.tapLit = null;
      return;
    case "connect.tap":
      draft.tapLit = entry.data.lit;
      return;
    case "connect.reading":
      draft.readings.push({ ...entry.data, at, by, entry: entry.id });
      return;
    case "configure.switches":
      draft.powerCycled = sameRecord(draft.switches, entry.data.settings) && draft.powerCycled;
      draft.switches = entry.data.settings;
      return;
    case "configure.set":
      if (entry.data.done) draft.made.add(entry.data.setting);
      else draft.made.delete(entry.data.setting);
      return;
    case "configure.powerCycle":
      draft.powerCycled = true;
      return;
    case "bus.file":
      draft.files.push({ ...entry.data, at, by });
      return;
    case "prove.result":
      draft.results.set(entry.data.test, noted(entry.data.answer, entry.data.note));
      draft.tries.push({ test: entry.data.test, at });
      return;
    case "prove.check":
      draft.checks.set(entry.data.check, noted(entry.data.answer));
      return;
    case "prove.repair":
      applyRepair(draft, { ...entry.data, at, by });
      return;
    case "handover.point":
      draft.points.push({ text: entry.data.text, at, by, entry: entry.id });
      return;
    case "handover.close":
      draft.closed = { at, by, openPoints: entry.data.openPoints };
      return;
    case "handover.reopen":
      draft.closed = null;
      return;
  }
}

/** With another kit nothing of the old one is plugged, set or proven any more. */
function forgetKit(draft: Draft): void {
  draft.strip.gate = null;
  draft.plugged = new Set();
  draft.plugAt = new Map();
  draft.turned = new Set();
  draft.placed = new Map();
  draft.tasks = new Set();
  draft.made = new Set();
  draft.switches = null;
  draft.powerCycled = false;
  draft.results = new Map();
  draft.checks = new Map();
}

/** After a repair the car is another one: what failed must be tried again, what passed may have been disturbed. */
function applyRepair(draft: Draft, repair: JobState["repairs"][number]): void {
  draft.repairs.push(repair);
  draft.results = new Map();
  draft.checks = new Map();
}

function sameRecord(a: Record<string, string> | null, b: Record<string, string>): boolean {
  return a !== null && Object.keys({ ...a, ...b }).every((k) => a[k] === b[k]);
}

/** Minutes from entry to entry, pauses over half an hour left out. */
function workMinutes(entries: readonly JobEntry[]): number {
  let minutes = 0;
  for (let i = 1; i < entries.length; i++) {
    const gap = (Date.parse((entries[i] as JobEntry).at) - Date.parse((entries[i - 1] as JobEntry).at)) / 60_000;
    if (gap > 0 && gap <= LONGEST_PAUSE_MIN) minutes += gap;
  }
  return Math.round(minutes);
}
