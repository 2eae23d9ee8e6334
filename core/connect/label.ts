/** Codes printed on the labels of leads, so that a tablet tells which plug is in the hand. */
import { CoreError } from "../model/errors";
import type { Connection } from "./connection-plan";

/** A code that is none of ours, of another job, or of a plug that this job does not have. */
export class LabelError extends CoreError {}

const PREFIX = "iteron";

/** The text of a label: which job, which connection. */
export function labelText(jobNumber: number, link: string): string {
  return `${PREFIX} ${jobNumber} ${link}`;
}

/**
 * The connection a scanned or typed label means. Upper and lower case and blanks around count for nothing.
 *
 * @example readLabel("iteron 104 k-mic", 104, connections).link // "k-mic"
 * @throws {LabelError} saying what the code is instead
 */
export function readLabel(text: string, jobNumber: number, connections: readonly Connection[]): Connection {
  const [prefix, number, link] = text.trim().toLowerCase().split(/\s+/);
  if (prefix !== PREFIX || link === undefined)
    throw new LabelError(
      "label",
      `“${text.trim().slice(0, 40)}” is no label of a lead.`,
      "Scan the square code on the flag of the lead, or type what stands under it.",
    );
  if (Number(number) !== jobNumber)
    throw new LabelError(
      "label",
      `it belongs to job ${number}, this is ${jobNumber}.`,
      "Take the lead of this car, or open that job.",
    );
  const found = connections.find((c) => c.link.toLowerCase() === link);
  if (!found)
    throw new LabelError(
      "label",
      `this job has no connection “${link}”.`,
      "Kit or choices have changed since the labels were printed: print them again.",
    );
  return found;
}
