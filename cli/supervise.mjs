import { say, sleep } from "./common.mjs";

/** So many deaths within a minute are not bad luck. */
const MAX_DEATHS = 8;
const MINUTE_MS = 60_000;

/**
 * How long to wait before something that has died is started again: longer each time within a minute. Null when it is
 * to be given up.
 *
 * @param deaths times at which it died, the last one included
 */
export function backOffMs(deaths, now) {
  const lately = deaths.filter((at) => now - at < MINUTE_MS).length;
  return lately >= MAX_DEATHS ? null : Math.min(5000, 50 * 2 ** lately);
}

/**
 * Starts a process and starts it again when it dies under us, sooner at first and later each time. When it dies again
 * and again it is given up.
 *
 * @param start resolves with the child, how to stop it, and `started`, what the caller wants of the first start
 * @param stopping list of what to do at the end; how to stop the process is added to it
 * @param giveUp called with a sentence why
 */
export async function supervised(name, start, { stopping, giveUp }) {
  const deaths = [];
  let current = await start();
  let stopped = false;
  stopping.push(() => {
    stopped = true;
    return current.stop();
  });
  const watch = () =>
    current.child.once("exit", async (code, signal) => {
      if (stopped) return;
      deaths.push(Date.now());
      const wait = backOffMs(deaths, Date.now());
      if (wait === null) return giveUp(`${name} ends again and again (${signal ?? code}).`);
      say(`${name} ended by itself (${signal ?? code}); it is started again.`);
      await sleep(wait);
      if (stopped) return;
      try {
        current = await start();
        watch();
      } catch (error) {
        giveUp(`${name} cannot be started again: ${error.message}`);
      }
    });
  watch();
  return current.started;
}
