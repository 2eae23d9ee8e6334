/** The two ways to the control units of a car: the stand-in car of a practice job, and an adapter on a serial port. */
import type { UnitsAnswer } from "~/app/routes/jobs/units";
import { type Adapter, AdapterError } from "~/core/diagnostics/ask";
import { CLOSE_COMMAND, openCommands, readSlcan, type SlcanSpeed, slcanLine } from "~/core/diagnostics/slcan";
import type { TimedFrame } from "~/core/diagnostics/transcript";

/** Frames that came or will come, given out when they are due. */
class Inbox {
  private frames: TimedFrame[] = [];
  private waiting: (() => void) | null = null;

  constructor(private readonly clock: () => number) {}

  put(frames: readonly TimedFrame[]): void {
    this.frames = [...this.frames, ...frames].sort((a, b) => a.atMs - b.atMs);
    this.waiting?.();
  }

  async take(untilMs: number): Promise<TimedFrame | null> {
    while (true) {
      const [next] = this.frames;
      const now = this.clock();
      if (next && next.atMs <= now) return this.frames.shift() ?? null;
      if (now >= untilMs) return null;
      await this.wait(Math.min(untilMs, next?.atMs ?? untilMs) - now);
    }
  }

  private wait(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.waiting = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}

/** Milliseconds since 1970, on a clock that does not jump. */
function nowMs(): number {
  return performance.timeOrigin + performance.now();
}

/** The stand-in car of a job; its units live on the server. Its clock stands still while a frame is on the network. */
export class StandInWay implements Adapter {
  private readonly inbox = new Inbox(() => this.nowMs());
  private onTheWayMs = 0;

  constructor(private readonly job: string) {}

  nowMs(): number {
    return nowMs() - this.onTheWayMs;
  }

  async send(frame: TimedFrame): Promise<void> {
    const before = nowMs();
    const { frames } = await sayToUnits(this.job, { do: "frame", frame });
    this.onTheWayMs += nowMs() - before;
    this.inbox.put(frames);
  }

  receive(untilMs: number) {
    return this.inbox.take(untilMs);
  }

  async volts() {
    return (await sayToUnits(this.job, { do: "look" })).volts;
  }

  async close() {}
}

/** @throws {AdapterError} when the server refuses or cannot be reached */
export async function sayToUnits(job: string, say: object): Promise<UnitsAnswer> {
  const body = new FormData();
  body.set("say", JSON.stringify(say));
  // A resource route answers with the bare value.
  const response = await fetch(`/jobs/${job}/units`, { method: "POST", body }).catch(() => null);
  if (!response)
    throw new AdapterError("The server cannot be reached. What stands in the car is not known; read it again.");
  const answer: UnitsAnswer | null = await response.json().catch(() => null);
  if (!answer?.ok)
    throw new AdapterError(answer?.message ?? "The server did not answer as expected. Load the page again.");
  return answer;
}

/** So long an adapter takes to answer a command. */
const ANSWER_MS = 150;

/** What of the browser's serial ports is used here. */
interface SerialPort {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
  writable: WritableStream<Uint8Array> | null;
}

export function serialPorts(): { requestPort(): Promise<SerialPort> } | null {
  return "serial" in navigator ? (navigator.serial as { requestPort(): Promise<SerialPort> }) : null;
}

/** A CAN adapter on a serial port that speaks the slcan text protocol. It listens until sending is turned on. */
export class SerialWay implements Adapter {
  private readonly inbox = new Inbox(nowMs);
  private rest = "";
  private readonly writer: WritableStreamDefaultWriter<Uint8Array>;
  private reader: ReadableStreamDefaultReader<Uint8Array> | null = null;
  private broken: string | null = null;
  /** Commands that it refused since they were last asked for. */
  private refused = 0;

  private constructor(
    private readonly port: SerialPort,
    private readonly kbit: SlcanSpeed,
  ) {
    if (!port.writable) throw new AdapterError("The port cannot be written to. Plug the adapter in again.");
    this.writer = port.writable.getWriter();
    void this.listen();
  }

  /** Asks the person for a port and opens it, listening only. */
  static async open(kbit: SlcanSpeed): Promise<SerialWay> {
    const ports = serialPorts();
    if (!ports)
      throw new AdapterError("This browser has no serial ports. Use one that has, or enter the words by hand.");
    const port = await ports.requestPort();
    await port.open({ baudRate: 115_200 });
    const way = new SerialWay(port, kbit);
    try {
      await way.mode("listen");
    } catch (error) {
      await way.close();
      throw error;
    }
    return way;
  }

  nowMs = nowMs;

  async mode(mode: "listen" | "send"): Promise<void> {
    this.refused = 0;
    for (const command of openCommands(this.kbit, mode)) await this.write(command);
    await new Promise((resolve) => setTimeout(resolve, ANSWER_MS));
    // An adapter that is closed already may refuse to be closed.
    if (this.refused > 1)
      throw new AdapterError(
        `The adapter does not take ${this.kbit} kbit/s, or speaks another language than slcan. Choose another speed or adapter.`,
      );
  }

  /** Why nothing more will come; null while it is there. */
  get gone(): string | null {
    return this.broken;
  }

  send(frame: TimedFrame): Promise<void> {
    return this.write(slcanLine(frame));
  }

  receive(untilMs: number) {
    return this.inbox.take(untilMs);
  }

  async volts() {
    return null;
  }

  async close() {
    await this.write(CLOSE_COMMAND).catch(() => undefined);
    // A port closes only when nothing holds its two ends.
    await this.reader?.cancel().catch(() => undefined);
    this.writer.releaseLock();
    await this.port.close().catch(() => undefined);
  }

  private async write(text: string): Promise<void> {
    if (this.broken) throw new AdapterError(this.broken);
    await this.writer.write(new TextEncoder().encode(text));
  }

  private async listen(): Promise<void> {
    const reader = this.port.readable?.getReader();
    this.reader = reader ?? null;
    const decoder = new TextDecoder();
    try {
      while (reader) {
        const { value, done } = await reader.read();
        if (done) break;
        const read = readSlcan(this.rest + decoder.decode(value, { stream: true }));
        this.rest = read.rest;
        this.refused += read.refused;
        this.inbox.put(read.frames.map((f) => ({ ...f, atMs: nowMs() })));
      }
    } catch {
      // Reported with the next frame that is to be sent.
    } finally {
      reader?.releaseLock();
    }
    this.broken = "The adapter is gone. Plug it in again, then read the word: how it stands is not known.";
  }
}
