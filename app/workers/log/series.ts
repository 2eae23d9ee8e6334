/** Signals of a log over time, thinned to what a chart can show. */
import type { Dbc, DbcMessage, DbcSignal } from "~/core/bus/dbc-messages";
import { decodeSeries, valueNames } from "~/core/bus/decode";
import type { Frames } from "~/core/bus/frames";
import { drawnPoints, type Pyramid, pyramidOf } from "~/core/bus/pyramid";

export interface DrawnSeries {
  key: string;
  name: string;
  unit: string;
  /** Time in seconds from the beginning of the log, and value. */
  points: [number, number][];
  values: [number, string][];
}
/** The signals of one log under one description; each is decoded once. */
export class SignalSeries {
  private readonly pyramids = new Map<string, Pyramid>();

  constructor(
    private readonly log: Frames,
    private readonly dbc: Dbc,
  ) {}

  /** Between two times (seconds from the beginning of the log), on so many pixel columns. Key: message/signal. */
  drawn(keys: readonly string[], fromS: number, toS: number, columns: number): DrawnSeries[] {
    return keys.flatMap((key) => {
      const [messageName, signalName] = key.split("/");
      const message = this.dbc.messages.find((m) => m.name === messageName);
      const signal = message?.signals.find((s) => s.name === signalName);
      if (!message || !signal) return [];
      const { name, unit } = signal;
      const points = drawnPoints(this.pyramid(key, message, signal), fromS, toS, columns);
      return [{ key, name, unit, points, values: [...valueNames(signal)] }];
    });
  }

  private pyramid(key: string, message: DbcMessage, signal: DbcSignal): Pyramid {
    const known = this.pyramids.get(key);
    if (known) return known;
    const { timeS, value } = decodeSeries(this.log, message, signal);
    const startS = this.log.timeS[0] ?? 0;
    const made = pyramidOf({ timeS: timeS.map((t) => t - startS), value });
    this.pyramids.set(key, made);
    return made;
  }
}
