import type { Port } from "./types";

export interface MatingProblem {
  rule: "no-connector" | "family" | "ways" | "gender" | "keying";
  text: string;
}

/** Whether two connector halves go together: null when they do, else the first rule that forbids it. */
export function mates(x: Port, y: Port): MatingProblem | null {
  const [a, b] = [x.connector, y.connector];
  if (!a || !b) return { rule: "no-connector", text: "One of the ends has no connector." };
  if (a.family !== b.family) return { rule: "family", text: `${a.family} does not go into ${b.family}.` };
  if (a.ways !== b.ways) return { rule: "ways", text: `${a.ways} ways do not go into ${b.ways} ways.` };
  if (a.gender === b.gender) return { rule: "gender", text: `Both halves are ${a.gender}.` };
  if ((a.keying ?? "") !== (b.keying ?? "")) {
    return { rule: "keying", text: `Keying ${a.keying || "none"} does not go into keying ${b.keying || "none"}.` };
  }
  return null;
}
