/** Earliest and latest times of a network of activities, its critical path, and a schedule for two people. */

export interface Activity {
  id: string;
  minutes: number;
  /** Activities that must be finished before. */
  after: readonly string[];
  /** Where it is done; two people do not fit into the same place. */
  side?: string;
}

export interface Times {
  id: string;
  earliestStart: number;
  earliestFinish: number;
  latestStart: number;
  latestFinish: number;
  /** Minutes by which it may be late without making the whole late. */
  slack: number;
}

/**
 * The critical path method: forward and backward pass over activities in a valid order. Kelley and Walker, Proceedings
 * of the Eastern Joint Computer Conference (1959).
 *
 * @param activities each after those it waits for; names that are not in the list do not count
 */
export function criticalPath(activities: readonly Activity[]): { times: Times[]; minutes: number; critical: string[] } {
  const finish = new Map<string, number>();
  for (const a of activities) {
    const start = Math.max(0, ...a.after.map((id) => finish.get(id) ?? 0));
    finish.set(a.id, start + a.minutes);
  }
  const minutes = Math.max(0, ...finish.values());
  const latest = new Map<string, number>(activities.map((a) => [a.id, minutes]));
  for (const a of [...activities].reverse()) {
    const start = (latest.get(a.id) ?? minutes) - a.minutes;
    for (const before of a.after)
      if (latest.has(before)) latest.set(before, Math.min(latest.get(before) ?? minutes, start));
  }
  const times = activities.map((a) => {
    const earliestFinish = finish.get(a.id) ?? 0;
    const latestFinish = latest.get(a.id) ?? 0;
    return {
      id: a.id,
      earliestStart: earliestFinish - a.minutes,
      earliestFinish,
      latestStart: latestFinish - a.minutes,
      latestFinish,
      slack: latestFinish - earliestFinish,
    };
  });
  return { times, minutes, critical: times.filter((t) => t.slack < 1e-9).map((t) => t.id) };
}

export interface Shift {
  id: string;
  person: number;
  start: number;
  end: number;
}

/**
 * A schedule for some people by list scheduling: whoever is free takes the possible activity with the longest way to
 * the end. Two people do not work in the same place, and an activity marked as everybody's stops all others, as a
 * preparation step does that changes how the car stands.
 *
 * @param activities in a valid order; `alone` are everybody's, and what follows them in the list waits for them
 * @returns the shifts and the minutes of the whole
 */
export function schedule(
  activities: readonly (Activity & { alone?: boolean })[],
  people: number,
): { shifts: Shift[]; minutes: number } {
  const shifts: Shift[] = [];
  let now = 0;
  for (let from = 0; from < activities.length; ) {
    const first = activities[from] as (typeof activities)[number];
    if (first.alone) {
      shifts.push({ id: first.id, person: 0, start: now, end: now + first.minutes });
      now += first.minutes;
      from++;
      continue;
    }
    let to = from;
    while (to < activities.length && !activities[to]?.alone) to++;
    const part = listSchedule(activities.slice(from, to), people, now);
    shifts.push(...part);
    now = Math.max(now, ...part.map((s) => s.end));
    from = to;
  }
  return { shifts, minutes: now };
}

function listSchedule(activities: readonly Activity[], people: number, start: number): Shift[] {
  const { times } = criticalPath(activities);
  const latestStart = new Map(times.map((t) => [t.id, t.latestStart]));
  const done = new Map<string, number>();
  const running: Shift[] = [];
  const shifts: Shift[] = [];
  const left = new Set(activities);
  const inside = new Set(activities.map((a) => a.id));
  for (let now = start; left.size > 0 || running.length > 0; ) {
    for (const shift of [...running]) {
      if (shift.end > now + 1e-9) continue;
      running.splice(running.indexOf(shift), 1);
      done.set(shift.id, shift.end);
    }
    const ready = [...left]
      .filter((a) => a.after.every((id) => !inside.has(id) || done.has(id)))
      .sort((a, b) => (latestStart.get(a.id) ?? 0) - (latestStart.get(b.id) ?? 0));
    for (const activity of ready) {
      if (running.length >= people) break;
      const side = activity.side ?? "middle";
      if (running.some((s) => (activities.find((a) => a.id === s.id)?.side ?? "middle") === side)) continue;
      const busy = new Set(running.map((s) => s.person));
      const person = busy.has(0) ? 1 : 0;
      const shift = { id: activity.id, person, start: now, end: now + activity.minutes };
      running.push(shift);
      shifts.push(shift);
      left.delete(activity);
    }
    if (running.length === 0) break;
    now = Math.min(...running.map((s) => s.end));
  }
  return shifts;
}
