import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { say, sleep, Trouble } from "./common.mjs";

/** So long without any progress is an error; a slow machine may take as long as it gets on. */
const STUCK_MS = 5 * 60_000;
const SAY_EVERY_MS = 15_000;
const LOOK_EVERY_MS = 150;

/**
 * Waits until something answers: as long as its process lives and gets on, which is that it computes or writes into its
 * log. Says what it waits for.
 *
 * @param name of what is waited for, to begin a sentence
 * @param answers resolves with true once it is there
 * @param pid leader of its process group; 0 where only the answer tells
 * @param log its log file
 * @throws {Trouble} when the process is dead or stuck, with the last lines of its log
 */
export async function waitFor({ name, answers, pid, log, stuckMs = STUCK_MS, tell = say }) {
  const begun = Date.now();
  let [lastSaid, lastMoved, progress] = [begun, begun, ""];
  for (;;) {
    if (await answers()) return;
    if (pid && !existsSync(`/proc/${pid}`)) throw new Trouble(`${name} did not start.${lastLines(log)}`);
    const now = Date.now();
    const seen = `${busyTicks(pid)} ${sizeOf(log)}`;
    if (seen !== progress) [progress, lastMoved] = [seen, now];
    if (now - lastMoved > stuckMs)
      throw new Trouble(`${name} has not got on for ${Math.round(stuckMs / 60_000)} minutes.${lastLines(log)}`);
    if (now - lastSaid > SAY_EVERY_MS) {
      tell(`${name} is still starting, ${Math.round((now - begun) / 1000)} s so far ...`);
      lastSaid = now;
    }
    await sleep(LOOK_EVERY_MS);
  }
}

/** Clock ticks that a group of processes has computed so far. */
function busyTicks(group) {
  if (!group) return 0;
  let ticks = 0;
  for (const pid of readdirSync("/proc").filter((n) => /^\d+$/.test(n))) {
    try {
      // Behind the name in brackets: state, parent, group, ...; the eleventh and twelfth of these are times.
      const stat = readFileSync(`/proc/${pid}/stat`, "utf8");
      const fields = stat.slice(stat.lastIndexOf(")") + 2).split(" ");
      if (Number(fields[2]) === group) ticks += Number(fields[11]) + Number(fields[12]);
    } catch {
      // It has ended meanwhile.
    }
  }
  return ticks;
}

function sizeOf(log) {
  try {
    return statSync(log).size;
  } catch {
    return 0;
  }
}

function lastLines(log) {
  try {
    const lines = readFileSync(log, "utf8").trimEnd().split("\n").slice(-12).join("\n");
    return ` The last lines of ${log}:\n${lines}`;
  } catch {
    return "";
  }
}
