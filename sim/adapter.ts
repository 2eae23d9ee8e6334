/** The adapter to a stand-in car in the same program, on a clock of its own: for tests and for practice. */
import type { Adapter } from "../core/diagnostics/ask";
import type { TimedFrame } from "../core/diagnostics/transcript";
import { hear, type StandInCar, type StandInUnits } from "./control-units";

export class StandInAdapter implements Adapter {
  private clock = 0;
  private coming: TimedFrame[] = [];

  constructor(
    private readonly car: StandInCar,
    public units: StandInUnits,
  ) {}

  nowMs(): number {
    return this.clock;
  }

  async send(frame: TimedFrame): Promise<void> {
    const heard = hear(this.car, this.units, frame);
    this.units = heard.state;
    this.coming = [...this.coming, ...heard.frames].sort((a, b) => a.atMs - b.atMs);
  }

  async receive(untilMs: number): Promise<TimedFrame | null> {
    const [next] = this.coming;
    if (!next || next.atMs > untilMs) {
      this.clock = Math.max(this.clock, untilMs);
      return null;
    }
    this.coming.shift();
    this.clock = Math.max(this.clock, next.atMs);
    return next;
  }

  async volts(): Promise<number | null> {
    return this.units.volts;
  }

  async close(): Promise<void> {
    this.coming = [];
  }
}
