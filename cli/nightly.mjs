/** A backup a day in a folder, and which of the old ones are kept. Switched on by ITERON_BACKUPS=FOLDER. */
import { mkdirSync, readdirSync, rmSync } from "node:fs";
import { join, resolve } from "node:path";
import { differenceInCalendarDays, format, getISOWeek, getISOWeekYear, parse } from "date-fns";
import { root, run, say } from "./common.mjs";

/** From this hour on, so that an evening's work is in it. */
const FROM_HOUR = 2;
const LOOK_EVERY_MS = 5 * 60_000;
const KEPT = { days: 7, weeks: 5, months: 12 };
const NAME = /^iteron-(\d{4}-\d{2}-\d{2})\.backup$/;

export const nightlyName = (day) => `iteron-${format(day, "yyyy-MM-dd")}.backup`;

/** True when there is none of today and it is late enough. */
export function isDue(names, now) {
  return now.getHours() >= FROM_HOUR && !names.includes(nightlyName(now));
}

/**
 * Those that are not kept: kept are all of the last seven days, the newest of each of the last five weeks and of each of
 * the last twelve months. Files with other names are left alone.
 */
export function superfluous(names, now) {
  const mine = names
    .flatMap((name) => {
      const day = NAME.exec(name)?.[1];
      return day ? [{ name, day: parse(day, "yyyy-MM-dd", now) }] : [];
    })
    .sort((a, b) => b.day - a.day);
  const keep = new Set(mine.filter(({ day }) => differenceInCalendarDays(now, day) < KEPT.days).map((b) => b.name));
  for (const [period, most] of [
    [(day) => `${getISOWeekYear(day)} ${getISOWeek(day)}`, KEPT.weeks],
    [(day) => format(day, "yyyy-MM"), KEPT.months],
  ]) {
    const newest = new Map();
    for (const { name, day } of mine) if (!newest.has(period(day))) newest.set(period(day), name);
    for (const name of [...newest.values()].slice(0, most)) keep.add(name);
  }
  return mine.map((b) => b.name).filter((name) => !keep.has(name));
}

/**
 * Makes a backup when one is due, and looks again every few minutes.
 *
 * @param env settings of the database
 * @param clock what time it is
 * @returns how to end it
 */
export function nightly(folder, env, clock = () => new Date()) {
  const at = resolve(process.env.ITERON_CWD ?? root, folder);
  let busy = false;
  const look = async () => {
    const now = clock();
    mkdirSync(at, { recursive: true });
    if (busy || !isDue(readdirSync(at), now)) return;
    busy = true;
    const args = ["--import", "tsx", "cli/backup.ts", "backup", join(at, nightlyName(now))];
    const { code, output } = await run(process.execPath, args, { env, allowFailure: true });
    busy = false;
    if (code !== 0) return say(`The nightly backup was not made: ${output.trim()}`);
    // Old ones go only when a new one is there.
    for (const name of superfluous(readdirSync(at), now)) rmSync(join(at, name));
  };
  const guarded = () => look().catch((error) => say(`The nightly backup was not made: ${error.message}`));
  void guarded();
  const timer = setInterval(guarded, LOOK_EVERY_MS);
  return async () => clearInterval(timer);
}
