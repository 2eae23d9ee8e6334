/** The pages of a job, in the order of the work. */
export const SURFACES = [
  "intake",
  "fit",
  "strip",
  "connect",
  "connect/feed",
  "connect/lengths",
  "connect/system",
  "configure",
  "bus",
  "bus/hunt",
  "bus/translation",
  "prove",
  "handover",
] as const;
