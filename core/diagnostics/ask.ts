/** Asking a control unit through an adapter. The adapter brings bus and clock; everything else is decided here. */
import { idleTester, type Reply, type TesterStep, tester, testerDue } from "./tester";
import { type TimedFrame, testerSide, type UnitAddress } from "./transcript";

/** The way to the bus: a stand-in car, or an adapter on a wire. */
export interface Adapter {
  /** Milliseconds on a clock that does not jump. */
  nowMs(): number;
  /** @throws {AdapterError} when the way to the car is broken */
  send(frame: TimedFrame): Promise<void>;
  /** The next frame that came, or null when none has come by then. */
  receive(untilMs: number): Promise<TimedFrame | null>;
  /** Supply of the car in volt; null where the adapter cannot tell. */
  volts(): Promise<number | null>;
  close(): Promise<void>;
}

/** The way to the car is broken: unplugged, out of reach, refused. */
export class AdapterError extends Error {}

/** Asks one unit and waits for the answer. Every frame, sent or received, goes into `record`. */
export async function askUnit(
  adapter: Adapter,
  unit: UnitAddress,
  request: readonly number[],
  record: (frame: TimedFrame) => void,
): Promise<Reply> {
  const side = testerSide(unit);
  let step: TesterStep = tester(idleTester(), { kind: "ask", request }, adapter.nowMs(), side);
  while (true) {
    for (const data of step.frames) {
      const frame: TimedFrame = { atMs: adapter.nowMs(), id: unit.request, extended: Boolean(unit.extended), data };
      record(frame);
      await adapter.send(frame);
    }
    if (step.reply) return step.reply;
    const frame = await adapter.receive(testerDue(step.state) ?? adapter.nowMs());
    if (frame) record(frame);
    const mine = frame && frame.id === unit.answer && Boolean(frame.extended) === Boolean(unit.extended);
    // What somebody else on the bus says does not stop the clock.
    step = tester(step.state, mine ? { kind: "frame", data: frame.data } : { kind: "time" }, adapter.nowMs(), side);
  }
}
