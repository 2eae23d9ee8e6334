/**
 * Surfaces of a job that open without connection: address and route. The worker that answers for them
 * (`public/hands-worker.js`) names the same addresses.
 */
export const SURFACES: Readonly<Record<string, string>> = {
  intake: "intake",
  strip: "strip",
  hands: "hands",
  connect: "connect",
  "connect/feed": "feed",
  "connect/lengths": "lengths",
  configure: "configure",
  prove: "prove",
  handover: "handover",
};
