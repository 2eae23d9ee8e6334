/** From messages of the car to what a module does: conditions over signals switch outputs. */

/** What a module can be told. */
export const OUTPUTS = {
  accessory: { name: "Accessory on", kind: "switch" },
  reverse: { name: "Reverse", kind: "switch" },
  lights: { name: "Lights on", kind: "switch" },
  volumeUp: { name: "Key: volume up", kind: "key" },
  volumeDown: { name: "Key: volume down", kind: "key" },
  next: { name: "Key: next", kind: "key" },
  back: { name: "Key: back", kind: "key" },
  phone: { name: "Key: phone", kind: "key" },
  voice: { name: "Key: voice", kind: "key" },
  steering: { name: "Steering angle", kind: "level" },
  /** On: moving pictures are shut off. */
  motionLock: { name: "Lock of moving pictures", kind: "lock" },
} as const satisfies Record<string, { name: string; kind: "switch" | "key" | "level" | "lock" }>;

export type OutputId = keyof typeof OUTPUTS;
export const OUTPUT_IDS = Object.keys(OUTPUTS) as [OutputId, ...OutputId[]];

export const COMPARISONS = ["=", "≠", "<", "≤", ">", "≥"] as const;

/** A comparison of the physical value of a signal. */
export interface Comparison {
  /** `Message.Signal`. */
  signal: string;
  is: (typeof COMPARISONS)[number];
  value: number;
}

/** What holds while the message of one of its signals does not come. */
export const MISSING = ["off", "on", "last"] as const;

export interface Rule {
  output: OutputId;
  /** One of the groups must hold, each with all its comparisons. Empty for a level. */
  when: Comparison[][];
  /** The signal that a level follows, and how: output = factor · value + offset. */
  level: { signal: string; factor: number; offset: number } | null;
  /** The condition must hold so long before the output switches on. */
  debounceMs: number;
  /** So long it stays on after the condition has ended. */
  holdMs: number;
  /** After so long without a message it counts as missing. */
  timeoutMs: number;
  missing: (typeof MISSING)[number];
  /** A key held so long is a long press. */
  longMs: number;
}

export interface Translation {
  rules: Rule[];
}

/** A rule with the times that are usual (common practice: debounce of two cycles, long press after 0.7 s). */
export function usualRule(output: OutputId): Rule {
  const lock = OUTPUTS[output].kind === "lock";
  return {
    output,
    when: [],
    level: null,
    debounceMs: 50,
    holdMs: lock ? 1000 : 0,
    timeoutMs: 1000,
    missing: lock ? "on" : "off",
    longMs: 700,
  };
}

export function compares({ is, value }: Comparison, now: number): boolean {
  switch (is) {
    case "=":
      return now === value;
    case "≠":
      return now !== value;
    case "<":
      return now < value;
    case "≤":
      return now <= value;
    case ">":
      return now > value;
    case "≥":
      return now >= value;
  }
}

/** Every signal that a rule looks at, as `Message.Signal`. */
export function signalsOf({ when, level }: Rule): string[] {
  return [...new Set([...when.flat().map((c) => c.signal), ...(level ? [level.signal] : [])])];
}
