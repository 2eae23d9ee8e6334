/** Requests and answers of the diagnostic services, ISO 14229-1 (from memory). */

export const SERVICE = {
  session: 0x10,
  clearCodes: 0x14,
  readCodes: 0x19,
  readData: 0x22,
  securityAccess: 0x27,
  writeData: 0x2e,
  routine: 0x31,
  testerPresent: 0x3e,
  codeSetting: 0x85,
} as const;

export const SESSION = { default: 1, programming: 2, extended: 3 } as const;

/** Identification of a control unit, by data identifier. */
export const IDENTIFICATION = {
  /** vehicle identification number */
  vin: 0xf190,
  /** part number of the spare part */
  part: 0xf187,
  /** version of the software */
  software: 0xf195,
} as const;

/** Why a control unit refuses, in words, and what to do. */
const REFUSALS: Readonly<Record<number, { say: string; remedy: string }>> = {
  17: { say: "It does not know this service.", remedy: "Check that the coding map is for this unit." },
  18: { say: "It does not know this form of the service.", remedy: "Check that the coding map is for this unit." },
  19: {
    say: "The length is wrong.",
    remedy: "The word in the coding map has another length than in the car; correct the map, write nothing.",
  },
  33: { say: "It is busy.", remedy: "Wait a few seconds and try again." },
  34: {
    say: "The conditions are not right.",
    remedy: "Ignition on, engine off, car standing, supply steady; then try again.",
  },
  36: { say: "The steps came in the wrong order.", remedy: "Start the session again." },
  49: {
    say: "It has no such data, or does not allow this value.",
    remedy: "Check identifier and value against the coding map.",
  },
  51: { say: "It is locked.", remedy: "This word needs access that is not open; nothing was written." },
  53: { say: "The key was wrong.", remedy: "Do not guess: a few wrong keys lock the unit for a time." },
  54: { say: "Too many wrong keys.", remedy: "Ignition off, wait ten minutes, then start again." },
  55: { say: "It is still locked after wrong keys.", remedy: "Wait, ignition on, then start again." },
  114: {
    say: "Writing failed inside the unit.",
    remedy: "Read the word back first; what stands there now is not known.",
  },
  120: { say: "It needs more time.", remedy: "Wait." },
  126: { say: "Not in this kind of session.", remedy: "Start the session again." },
  127: { say: "The service is not open in this kind of session.", remedy: "Start the session again." },
  146: { say: "The supply voltage is too high.", remedy: "Check maintainer and charger." },
  147: { say: "The supply voltage is too low.", remedy: "Connect a battery maintainer, then try again." },
};

export function refusalWords(code: number): { say: string; remedy: string } {
  return (
    REFUSALS[code] ?? {
      say: `It refuses with code ${hex(code)}.`,
      remedy: "Look the code up in the maker's papers; nothing was written.",
    }
  );
}

export const request = {
  session: (kind: number): number[] => [SERVICE.session, kind],
  /** `80`: no answer wanted. */
  testerPresent: (): number[] => [SERVICE.testerPresent, 0x80],
  readData: (id: number): number[] => [SERVICE.readData, id >> 8, id & 0xff],
  writeData: (id: number, data: readonly number[]): number[] => [SERVICE.writeData, id >> 8, id & 0xff, ...data],
  /** Codes that are confirmed, pending or failing now, by status mask. */
  readCodes: (mask = 0xff): number[] => [SERVICE.readCodes, 0x02, mask],
  /** Codes that the unit could store at all. */
  supportedCodes: (): number[] => [SERVICE.readCodes, 0x0a],
  /** What it keeps beside a stored code, all records. @param code two bytes and the kind */
  codeRecords: (code: readonly number[]): number[] => [SERVICE.readCodes, 0x06, ...code, 0xff],
  /** Storing of codes on or off, until the session ends. */
  codeSetting: (on: boolean): number[] => [SERVICE.codeSetting, on ? 0x01 : 0x02],
  clearCodes: (): number[] => [SERVICE.clearCodes, 0xff, 0xff, 0xff],
  seed: (level: number): number[] => [SERVICE.securityAccess, level],
  key: (level: number, key: readonly number[]): number[] => [SERVICE.securityAccess, level + 1, ...key],
  startRoutine: (id: number): number[] => [SERVICE.routine, 0x01, id >> 8, id & 0xff],
};

export type Answer =
  /** Data behind what the answer repeats of the request. */
  | { kind: "positive"; data: number[] }
  | { kind: "refused"; code: number }
  /** The real answer comes later. */
  | { kind: "pending" }
  /** An answer to something else, or none that can be read. */
  | { kind: "strange" };

/** Reads an answer to a request. */
export function readAnswer(asked: readonly number[], answer: readonly number[]): Answer {
  const [service = 0] = asked;
  if (answer[0] === 0x7f) {
    if (answer[1] !== service || answer[2] === undefined) return { kind: "strange" };
    return answer[2] === 0x78 ? { kind: "pending" } : { kind: "refused", code: answer[2] };
  }
  if (answer[0] !== service + 0x40) return { kind: "strange" };
  const repeated = repeatedBytes(service);
  const same = asked.slice(1, 1 + repeated).every((b, i) => answer[1 + i] === b);
  return same ? { kind: "positive", data: answer.slice(1 + repeated) } : { kind: "strange" };
}

/** How many bytes after the service an answer repeats of its request. */
function repeatedBytes(service: number): number {
  switch (service) {
    case SERVICE.readData:
    case SERVICE.writeData:
      return 2;
    case SERVICE.routine:
      return 3;
    case SERVICE.clearCodes:
      return 0;
    default:
      return 1;
  }
}

/** True for a request that asks for no answer. */
export function silent(asked: readonly number[]): boolean {
  return asked[0] === SERVICE.testerPresent && ((asked[1] ?? 0) & 0x80) !== 0;
}

function hex(byte: number): string {
  return byte.toString(16).toUpperCase().padStart(2, "0");
}
