/** A line that could not be read, with the reason; the good lines are kept. */
export interface LineProblem {
  /** 1-based; in a capture of packets the number of the packet. */
  line: number;
  code: "shape" | "time" | "identifier" | "length" | "data" | "keyword" | "signal" | "message" | "bus";
  problem: string;
  text: string;
}
