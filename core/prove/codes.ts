import { type FaultCode, type FaultLineProblem, readFaultCodes } from "../intake/fault-codes";

/** Fault codes before and after the work. */
export interface CodesCompared {
  /** Were there before and are no more. */
  gone: FaultCode[];
  stayed: FaultCode[];
  /** Came during the work. */
  came: FaultCode[];
  /** Lines of either list that could not be read: what they say is not known. */
  unread: FaultLineProblem[];
}

/**
 * Compares two lists of fault codes as they were typed or pasted. A code is the same when the module is, or when one of
 * the lists does not name it.
 */
export function compareCodes(before: string, after: string): CodesCompared {
  const [old, now] = [readFaultCodes(before), readFaultCodes(after)];
  const same = (a: FaultCode, b: FaultCode) =>
    a.code === b.code && (a.module === "" || b.module === "" || a.module.toLowerCase() === b.module.toLowerCase());
  return {
    gone: old.codes.filter((c) => !now.codes.some((n) => same(c, n))),
    stayed: now.codes.filter((c) => old.codes.some((o) => same(c, o))),
    came: now.codes.filter((c) => !old.codes.some((o) => same(c, o))),
    unread: [...old.problems, ...now.problems],
  };
}

/** “Radio B1234 open circuit”. */
export function codeWords({ module, code, text }: FaultCode): string {
  return [module, code, text].filter((t) => t !== "").join(" ");
}

/** True for a code with and without its failure type: B1A45 and B1A45-13. */
export function sameCode(a: string, b: string): boolean {
  return a === b || a.startsWith(`${b}-`) || b.startsWith(`${a}-`);
}
