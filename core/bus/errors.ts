/** A line that could not be read, with the reason; the good lines are kept. */
export interface LineProblem {
  /** 1-based. */
  line: number;
  code: "shape" | "time" | "identifier" | "length" | "data" | "remote" | "keyword" | "signal" | "message";
  problem: string;
  text: string;
}
