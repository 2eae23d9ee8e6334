import { say, sleep } from "./common.mjs";

/** So many deaths within a minute are not bad luck. */
const MAX_DEATHS = 8;
const MINUTE_MS = 60_000;
const LONGEST_WAIT_MS = 5000;
const LOOK_EVERY_MS = 500;

/**
 * How long to wait before something that has died is started again: longer each time within a minute. Null when it is
 * to be given up.
 *
 * @param deaths times at which it died, the last one included
 */
export function backOffMs(deaths, now) {
  const lately = deaths.filter((at) => now - at < MINUTE_MS).length;
  return lately >= MAX_DEATHS ? null : Math.min(LONGEST_WAIT_MS, 50 * 2 ** lately);
}

/**
 * Starts a process and starts it again when it dies under us, sooner at first and later each time. When it dies again
 * and again it is given up, unless there is a reason that may pass by itself.
 *
 * @param start resolves with the child, how to stop it, and `started`, what the caller wants of the first start
 * @param stopping list of what to do at the end; how to stop the process is added to it
 * @param giveUp called with a sentence why
 * @param passing why it cannot live at the moment though nothing is wrong with it, a full disk for example; null when
 *   there is nothing of the kind
 */
export async function supervised(name, start, { stopping, giveUp, tell = say, passing = () => null, pause = sleep }) {
  const deaths = [];
  let current = await start();
  let stopped = false;
  stopping.push(() => {
    stopped = true;
    return current.stop();
  });
  const watch = () =>
    current.child.once("exit", (code, signal) => {
      if (!stopped) void again(`ended by itself (${signal ?? code})`);
    });
  const again = async (what) => {
    for (let why = what; ; ) {
      const reason = passing();
      if (reason) {
        tell(`${name} ${why}: ${reason}. It is started again when that has passed.`);
        while (!stopped && passing()) await pause(LOOK_EVERY_MS);
        deaths.length = 0;
      }
      deaths.push(Date.now());
      const wait = backOffMs(deaths, Date.now());
      if (wait === null) return giveUp(`${name} ${why}, again and again.`);
      if (!reason) tell(`${name} ${why}; it is started again.`);
      await pause(wait);
      if (stopped) return;
      try {
        current = await start();
        return watch();
      } catch (error) {
        why = `cannot be started again (${error.message})`;
      }
    }
  };
  watch();
  return current.started;
}
