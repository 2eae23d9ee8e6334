/** What the table of guards says to a press, on server and device alike. */
import { expect } from "vitest";
import { stopOf } from "../../core/job/decide";
import type { Person } from "../../core/job/guards/guard";
import type { Job, OpenedWith } from "../../core/job/job";
import type { AskedOf, Command, EntryKind, JobEntry } from "../../core/log/entry";
import type { CarStand } from "../../core/log/strip-journal";
import { jobOnDevice } from "../../core/offline/job-on-device";
import { KEPT_FORMAT, type KeptJob } from "../../core/offline/kept-job";
import { jobOf, logOf, TEST } from "./jobs";

const START = Date.parse("2026-01-05T08:00:00Z");
/** Minutes after the first entry. */
export const at = (minutes: number) => new Date(START + minutes * 60_000).toISOString();
export const stands = (sets: Partial<CarStand>): Command => ({ kind: "strip.stands", data: { sets } });
export const step = (id: string, direction: "in" | "back" = "in"): Command => ({
  kind: "strip.step",
  data: { step: id, direction },
});
export const plug = (link: string, plugged = true): Command => ({ kind: "connect.plug", data: { link, plugged } });
export const entry = <K extends EntryKind>(kind: K, data: AskedOf<K>) => ({ kind, data }) as unknown as Command;

export type Said = "passes" | "asks" | "reason" | "refused";
/** What is pressed, on what, after which entries, how many minutes after the first, and what is said. */
export type Case = [name: string, says: Said, press: Command, before: readonly Command[], more?: More];
interface More {
  on?: OpenedWith;
  after?: number;
  who?: Person;
  words?: RegExp;
}
export function said(job: Job, press: Command, now: string, who: Person = TEST): { says: Said; words: string } {
  const stop = stopOf(job, { id: "pressed", command: press, at: now }, who);
  if (!stop) return { says: "passes", words: "" };
  return { says: stop.answer, words: `${stop.problem} ${stop.remedy}` };
}

/** The same job as a device knows it: half of the log from the server, half of it done there. */
function onDevice(opened: OpenedWith, entries: readonly JobEntry[]): Job {
  const kept: KeptJob = {
    ...{ format: KEPT_FORMAT, opened, others: [], entries: [...entries], currency: "EUR", wishes: [], measured: {} },
    row: { id: "j", number: 1, title: "", customer: "", version: entries.length, importedBy: null, practice: false },
    ...{ person: TEST.name, role: TEST.role, readOnly: false },
  };
  return jobOnDevice(kept, []);
}

/** Presses one case on server and device. */
export function tryCase([, says, press, before, more = {}]: Case, usual: OpenedWith): void {
  const { on = usual, after = Math.max(1, before.length), who = TEST, words } = more;
  const entries = logOf(...before);
  const heard = said(jobOf(on, entries), press, at(after), who);
  expect(heard).toMatchObject({ says });
  if (words) expect(heard.words).toMatch(words);
  expect(said(onDevice(on, entries), press, at(after), who)).toEqual(heard);
}
