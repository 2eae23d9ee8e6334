/**
 * A serial CAN adapter in front of the stand-in car: it speaks the slcan text protocol as the Linux kernel's slcan driver
 * and can-utils do, so that what is written for real adapters can be tried without one.
 */
import { readSlcan, SLCAN_SPEEDS, slcanLine } from "../core/diagnostics/slcan";
import { hear, type StandInCar, type StandInUnits } from "./control-units";

const OK = "\r";
const REFUSED = "\u0007";

/** Text that the adapter sends, and when (milliseconds on the clock of the caller). */
export interface Said {
  atMs: number;
  text: string;
}

export class SlcanStandIn {
  private rest = "";
  private speed: number | null = null;
  private mode: "closed" | "listen" | "send" = "closed";

  /** @param kbit speed of the car's bus; at another one nothing is understood */
  constructor(
    private readonly car: StandInCar,
    public units: StandInUnits,
    private readonly kbit: number,
  ) {}

  /** What was written to its port, and what it says to that. */
  hear(text: string, nowMs: number): Said[] {
    const lines = (this.rest + text).split("\r");
    this.rest = lines.pop() ?? "";
    return lines.flatMap((line) => this.line(line, nowMs));
  }

  private line(line: string, nowMs: number): Said[] {
    const answer = (text: string): Said[] => [{ atMs: nowMs, text }];
    if (line === "C") {
      this.mode = "closed";
      return answer(OK);
    }
    if (/^S\d$/.test(line)) {
      const speed = SLCAN_SPEEDS[Number(line.slice(1))];
      if (this.mode !== "closed" || speed === undefined) return answer(REFUSED);
      this.speed = speed;
      return answer(OK);
    }
    if (line === "O" || line === "L") {
      if (this.mode !== "closed" || this.speed === null) return answer(REFUSED);
      this.mode = line === "O" ? "send" : "listen";
      return answer(OK);
    }
    const [frame] = readSlcan(`${line}\r`).frames;
    if (!frame || this.mode !== "send") return answer(REFUSED);
    if (this.speed !== this.kbit) return answer("z\r");
    const { state, frames } = hear(this.car, this.units, { ...frame, atMs: nowMs });
    this.units = state;
    return [
      { atMs: nowMs, text: frame.extended ? "Z\r" : "z\r" },
      ...frames.map((f) => ({ atMs: f.atMs, text: slcanLine(f) })),
    ];
  }
}
