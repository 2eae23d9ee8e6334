/** The bench test between the way in and back: passed; everything tried that could be; passed over on purpose; to come. */
export type Gate = "passed" | "tried" | "passedOver" | "open";

export const GATE_WORDS: Record<Gate, string> = {
  passed: "Passed",
  tried: "Not all could be tried",
  passedOver: "Passed over on purpose",
  open: "Comes first",
};
