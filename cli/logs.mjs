/** Logs are appended to and turned over: the newest is NAME, the one before NAME.1, and so on. */
import { copyFileSync, existsSync, renameSync, statSync, truncateSync } from "node:fs";

const MAX_BYTES = 10_000_000;
const KEPT = 5;
const LOOK_EVERY_MS = 60_000;

/**
 * Turns a log over when it is large. What writes to it keeps it open and appends, so its bytes are copied away and it is
 * emptied in place.
 */
export function rotate(file, maxBytes = MAX_BYTES) {
  if (!existsSync(file) || statSync(file).size <= maxBytes) return;
  for (let n = KEPT - 1; n >= 1; n--) if (existsSync(`${file}.${n}`)) renameSync(`${file}.${n}`, `${file}.${n + 1}`);
  copyFileSync(file, `${file}.1`);
  truncateSync(file);
}

/** Looks after a log now and then. Returns how to end it. */
export function rotating(...files) {
  const look = () => {
    for (const file of files) {
      try {
        rotate(file);
      } catch {
        // Without room there is nothing to turn over; it is looked at again.
      }
    }
  };
  look();
  const timer = setInterval(look, LOOK_EVERY_MS);
  return async () => clearInterval(timer);
}
