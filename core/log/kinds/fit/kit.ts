import type { JobFacts, Named } from "../../facts";
import { type Kind, type Refusal, refuse, unknown } from "../../kind";
import type { StripSlice } from "../../strip-journal";
import type { GiveUpSlice } from "../configure/give-up";
import type { LoadedSlice } from "../configure/loaded";
import type { PairingSlice } from "../configure/pairing";
import type { PlugEventSlice } from "../configure/plug-event";
import type { PowerCycleSlice } from "../configure/power-cycle";
import type { MadeSlice } from "../configure/set";
import type { SwitchesSlice } from "../configure/switches";
import type { WordsSlice } from "../configure/words";
import type { FeedSlice } from "../connect/feed";
import type { LaidOutSlice } from "../connect/laid-out";
import type { PlaceSlice } from "../connect/place";
import type { PlugSlice } from "../connect/plug";
import type { TaskSlice } from "../connect/task";
import type { CodesSlice } from "../prove/codes";
import type { ResultSlice } from "../prove/result";

/** A stored document by identifier and version. */
export interface DocumentPin {
  slug: string;
  version: number;
}

interface KitData {
  kit: DocumentPin;
  choices: Record<string, string>;
  /** The kit that it replaces on this job. */
  before: DocumentPin | null;
}

export interface KitSlice {
  /** Kit chosen on this job; null while the one with which it was opened counts. */
  kit: DocumentPin | null;
  /** Options that were confirmed; null while none were. */
  choices: Record<string, string> | null;
}

/** What belongs to one kit and is gone with another. */
type Forgotten = LaidOutSlice &
  PlugSlice &
  PlaceSlice &
  TaskSlice &
  FeedSlice &
  MadeSlice &
  WordsSlice &
  PlugEventSlice &
  PairingSlice &
  LoadedSlice &
  SwitchesSlice &
  GiveUpSlice &
  PowerCycleSlice &
  ResultSlice &
  CodesSlice &
  StripSlice<"gate">;

export const kit: Kind<
  "fit.kit",
  KitData,
  KitSlice,
  { kit: DocumentPin; choices: Record<string, string> },
  KitSlice & Forgotten
> = {
  kind: "fit.kit",
  empty: () => ({ kit: null, choices: null }),
  fold(state, { data }) {
    forget(state);
    state.kit = data.kit;
    state.choices = data.choices;
  },
  check: (job, { kit, choices }) =>
    job.document("kit", kit) === null ? notInLibrary("kit", kit) : job.clash("kit", kit, choices),
  write(job, { kit, choices }) {
    const now = job.kit();
    return { kit, choices, before: now && { slug: now.slug, version: now.version } };
  },
  words: ({ kit }, job) => `Kit chosen: ${job.document("kit", kit) ?? kit.slug}, version ${kit.version}`,
  upgrade: [(old: Omit<KitData, "before">) => ({ ...old, before: null })],
};

/** With another kit nothing of the old one is plugged, fed, set or proven any more. What the tester said stays true. */
function forget(state: Forgotten): void {
  state.strip.gate = null;
  state.laidOut = false;
  state.plugged = new Set();
  state.pluggedAfter = new Map();
  state.plugAt = new Map();
  state.turned = new Set();
  state.locked = new Set();
  state.placed = new Map();
  state.tasks = new Set();
  state.feed = null;
  state.tapLit = null;
  state.made = new Set();
  state.coded = new Map();
  state.plugEvents = [];
  state.pairing = [];
  state.loads = new Map();
  state.switches = null;
  state.givenUp = [];
  state.powerCycled = false;
  state.powerOut = null;
  state.results = new Map();
  state.checks = new Map();
  state.codesAfter = null;
}

export function notInLibrary(kind: string, pin: DocumentPin): Refusal {
  return refuse(
    kind,
    `The library has no ${kind} “${pin.slug}” in version ${pin.version}.`,
    "Load the page again; somebody may have taken it out.",
  );
}

/** Refuses options that the kit of the job does not have. */
export function choiceRefusal(job: JobFacts, choices: Record<string, string>): Refusal | null {
  for (const [id, option] of Object.entries(choices)) {
    const choice = job.choice(id);
    if (!choice) return unknown("choice", id);
    if (!choice.options.some((o) => o.id === option))
      return refuse(
        choice.name,
        `${choice.name}: the kit does not offer “${option}”.`,
        `Choose one of ${choice.options.map((o) => o.name).join(", ")}.`,
      );
  }
  return null;
}

/** Options in words. */
export function choiceWords(job: JobFacts, choices: Record<string, string>): string {
  const name = (list: readonly Named[] | undefined, id: string) => list?.find((o) => o.id === id)?.name ?? id;
  return Object.entries(choices)
    .map(([id, option]) => `${job.choice(id)?.name ?? id}: ${name(job.choice(id)?.options, option)}`)
    .join(", ");
}
