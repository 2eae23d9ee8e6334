import type { Draft, EntryKind, JobEntry, JobState, StripBody } from "./entry";
import type { Kind, Stamped } from "./kind";
import { KINDS } from "./kinds";
import type { Pause, StripEdit, StripJournal } from "./strip-journal";

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
  for (const entry of effective(entries)) foldInto(draft, entry);
  return { ...draft, ...pace(entries) };
}

/** The state of a job in which nothing happened: the slices of all kinds; those of one name are one object. */
function emptyDraft(): Draft {
  const draft: Record<string, unknown> = {};
  for (const kind of Object.values(KINDS))
    for (const [name, slice] of Object.entries(kind.empty()))
      draft[name] = name in draft ? { ...(draft[name] as object), ...slice } : slice;
  return draft as Draft;
}

/** Changes a state by one entry, as its kind says. */
function foldInto(draft: Draft, { kind, data, at, by, id }: JobEntry): void {
  kindNamed(kind).fold(draft, { data, at, by, entry: id });
}

/** A kind by its name, for code that treats all kinds alike. */
export function kindNamed(name: EntryKind): AnyKind {
  return KINDS[name] as unknown as AnyKind;
}

/** What all kinds have in common; their data are not told apart. */
type AnyKind = Omit<Kind<EntryKind, unknown, object, unknown, Draft>, "asked"> & { asked?(data: unknown): unknown };

/** The journal of a car that nobody has touched. */
export function emptyJournal(): StripJournal {
  return emptyDraft().strip;
}

/** Changes a journal by one entry of the Strip surface. */
export function noteStrip(strip: StripJournal, body: StripBody, stamp: Omit<Stamped<unknown>, "data">): void {
  kindNamed(body.kind).fold({ ...emptyDraft(), strip }, { data: body.data, ...stamp });
}

/** The journal with one more edit of the plan; the given one stays as it is. */
export function foldEdit(journal: StripJournal, edit: StripEdit): StripJournal {
  const strip: StripJournal = {
    ...journal,
    skipped: new Map(journal.skipped),
    added: [...journal.added],
    wanted: new Set(journal.wanted),
    splits: new Map(journal.splits),
    notes: [...journal.notes],
    counts: new Map(journal.counts),
    stood: [...journal.stood],
    behind: new Map(journal.behind),
  };
  noteStrip(strip, edit, { at: "", by: "", entry: "" });
  return strip;
}

/** How the entries follow each other: minutes of work, and the pauses between. */
function pace(entries: readonly JobEntry[]): Pick<JobState, "workMinutes" | "pauses" | "lastAt"> {
  let minutes = 0;
  let last: string | null = null;
  const pauses: Pause[] = [];
  for (const { at } of entries) {
    const gap = last === null ? 0 : (Date.parse(at) - Date.parse(last)) / 60_000;
    if (gap > LONGEST_PAUSE_MIN) pauses.push({ from: last ?? at, to: at });
    else if (gap > 0) minutes += gap;
    // A device that comes back brings what was done before.
    if (last === null || at > last) last = at;
  }
  return { workMinutes: Math.round(minutes), pauses, lastAt: last };
}
