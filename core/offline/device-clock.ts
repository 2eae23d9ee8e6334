/** The clock of a device against that of the server. Waiting times are safety: they go by one clock. */
import { countWords } from "../model/labels";

/** A clock that is wrong by less is left alone. */
const TOLERATED_MS = 60_000;

/**
 * By how much a device's clock is ahead of the server's, in milliseconds; null when the answer does not tell.
 *
 * @param date header `Date` of an answer (RFC 9110, section 6.6.1): whole seconds, taken in their middle
 * @param sentMs the device's clock when it asked
 * @param receivedMs the same when the answer came
 */
export function clockError(date: string | null, sentMs: number, receivedMs: number): number | null {
  const server = date === null ? Number.NaN : Date.parse(date);
  return Number.isNaN(server) ? null : (sentMs + receivedMs) / 2 - (server + 500);
}

/** The moment that a device's clock should show, by what is known of its error. */
export function rightMs(deviceMs: number, errorMs: number): number {
  return Math.abs(errorMs) > TOLERATED_MS ? deviceMs - errorMs : deviceMs;
}

/** What a person is told of a wrong clock; null when it is right enough. */
export function clockWords(errorMs: number): string | null {
  if (Math.abs(errorMs) <= TOLERATED_MS) return null;
  const minutes = countWords(Math.round(Math.abs(errorMs) / 60_000), "minute");
  return `The clock of this device is ${minutes} ${errorMs > 0 ? "fast" : "slow"}. Times are noted by the server's clock.`;
}
