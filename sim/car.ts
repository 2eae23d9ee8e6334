import { parseDbc } from "../core/bus/dbc";
import { type Dbc, type DbcMessage, type DbcSignal, signalBits } from "../core/bus/dbc-messages";
import { idText } from "../core/bus/identifier";
import { STAND_IN_DBC } from "./bus-map";
import { seededRandom } from "./random";

/** What the driver of the stand-in car does: from a second on, these values hold. */
export interface Cue {
  atS: number;
  set: Partial<DriverState>;
}

/** How a log of the stand-in car is made. */
export interface Recording {
  seed: number;
  durationS: number;
  startS: number;
  cues: readonly Cue[];
  /** How the car stands when it begins; at rest where nothing is said. */
  begin?: Partial<DriverState>;
}

export interface DriverState {
  key: number;
  selector: number;
  footBrake: number;
  parkingBrake: number;
  speedKmh: number;
  wheelKey: number;
  steeringDeg: number;
  lowBeam: number;
  dimming: number;
}

const AT_REST: DriverState = {
  key: 0,
  selector: 0,
  footBrake: 0,
  parkingBrake: 1,
  speedKmh: 0,
  wheelKey: 0,
  steeringDeg: 0,
  lowBeam: 0,
  dimming: 100,
};
/** How slowly the stand-in car gains speed. */
const SECONDS_PER_KMH = 0.6;

/** Cycle time of each message in milliseconds. */
const CYCLES: Readonly<Record<string, number>> = {
  KeyState: 100,
  Selector: 50,
  Speed: 20,
  WheelKeys: 50,
  Steering: 10,
  Lights: 200,
  Cabin: 1000,
  ModulePresence: 500,
};

/** Two minutes on cue: key on, volume keys, next key, reverse and back, steering, lights, a slow roll, key off. */
export const DEMO_CUES: readonly Cue[] = [
  { atS: 0, set: { key: 1 } },
  { atS: 3, set: { key: 2 } },
  { atS: 10, set: { wheelKey: 1 } },
  { atS: 11, set: { wheelKey: 0 } },
  { atS: 15, set: { wheelKey: 2 } },
  { atS: 16.5, set: { wheelKey: 0 } },
  { atS: 20, set: { wheelKey: 3 } },
  { atS: 20.6, set: { wheelKey: 0 } },
  { atS: 25, set: { wheelKey: 4 } },
  { atS: 28, set: { wheelKey: 0 } },
  { atS: 32, set: { footBrake: 1 } },
  { atS: 33, set: { selector: 1 } },
  { atS: 38, set: { steeringDeg: 320 } },
  { atS: 44, set: { steeringDeg: -320 } },
  { atS: 50, set: { steeringDeg: 0 } },
  { atS: 53, set: { selector: 0 } },
  { atS: 56, set: { lowBeam: 1, dimming: 45 } },
  { atS: 64, set: { lowBeam: 0, dimming: 100 } },
  { atS: 70, set: { key: 3 } },
  { atS: 71, set: { key: 4 } },
  { atS: 76, set: { selector: 3, parkingBrake: 0, footBrake: 0, speedKmh: 12 } },
  { atS: 95, set: { speedKmh: 0, footBrake: 1 } },
  { atS: 100, set: { selector: 0, parkingBrake: 1 } },
  { atS: 108, set: { key: 0, footBrake: 0 } },
];

/**
 * The bus of the stand-in car as a candump log: every message at its cycle time with a little jitter, values from
 * the cues. The same seed gives the same text.
 */
export function recordLog(options: Recording): string {
  const dbc = parseDbc(STAND_IN_DBC);
  const random = seededRandom(options.seed);
  const frames: { t: number; line: string }[] = [];
  for (const message of dbc.messages) {
    const cycleS = (CYCLES[message.name] ?? 1000) / 1000;
    const driver = new Driver(options.cues, { ...AT_REST, ...options.begin });
    let number = 0;
    for (let t = random() * cycleS; t < options.durationS; t += cycleS) {
      const sentS = Math.max(0, t + (random() - 0.5) * 0.08 * cycleS);
      const state = driver.at(sentS);
      if (state.key === 0 && message.name !== "KeyState" && message.name !== "Selector") continue;
      const data = encode(message, valuesOf(message.name, state, sentS, number++, driver));
      const hex = [...data].map((b) => b.toString(16).toUpperCase().padStart(2, "0")).join("");
      frames.push({
        t: sentS,
        line: `(${(options.startS + sentS).toFixed(6)}) can0 ${idText(message.id, message.extended)}#${hex}`,
      });
    }
  }
  frames.sort((a, b) => a.t - b.t);
  return `${frames.map((f) => f.line).join("\n")}\n`;
}

/** Walks through the cues in time; speed and steering follow with limited rate. */
class Driver {
  private next = 0;
  private speed: number;
  private angle: number;
  private lastS = 0;
  heldSinceS = 0;
  distanceM = 0;

  constructor(
    private readonly cues: readonly Cue[],
    private target: DriverState,
  ) {
    this.speed = target.speedKmh;
    this.angle = target.steeringDeg;
  }

  at(timeS: number): DriverState {
    for (let cue = this.cues[this.next]; cue && cue.atS <= timeS; cue = this.cues[++this.next]) {
      if (cue.set.wheelKey !== undefined && cue.set.wheelKey !== this.target.wheelKey) this.heldSinceS = cue.atS;
      this.target = { ...this.target, ...cue.set };
    }
    const dt = Math.max(0, timeS - this.lastS);
    this.lastS = timeS;
    this.speed +=
      Math.sign(this.target.speedKmh - this.speed) *
      Math.min(Math.abs(this.target.speedKmh - this.speed), dt / SECONDS_PER_KMH);
    this.angle +=
      Math.sign(this.target.steeringDeg - this.angle) *
      Math.min(Math.abs(this.target.steeringDeg - this.angle), 180 * dt);
    this.distanceM += (this.speed / 3.6) * dt;
    return { ...this.target, speedKmh: this.speed, steeringDeg: this.angle };
  }
}

function valuesOf(
  message: string,
  s: DriverState,
  timeS: number,
  number: number,
  driver: Driver,
): Record<string, number> {
  switch (message) {
    case "KeyState":
      return { Key: s.key, RunCounter: number % 16 };
    case "Selector":
      return { Position: s.selector, FootBrake: s.footBrake, ParkingBrake: s.parkingBrake };
    case "Speed":
      return { VehicleSpeed: s.speedKmh, Distance: driver.distanceM };
    case "WheelKeys":
      return { KeyCode: s.wheelKey, Held: s.wheelKey === 0 ? 0 : Math.min(25.5, timeS - driver.heldSinceS) };
    case "Steering":
      return { WheelAngle: s.steeringDeg };
    case "Lights":
      return { LowBeam: s.lowBeam, Dimming: s.dimming };
    case "Cabin":
      return number % 2 === 0
        ? { Page: 0, OutsideTemperature: 11.5 }
        : { Page: 1, ClockMinutes: 9 * 60 + 42 + Math.floor(timeS / 60) };
    default:
      return { PartLevel: 214, Supply: s.key === 3 ? 9.8 : s.key === 4 ? 14.2 : 12.4 };
  }
}

/** Packs physical values into the data bytes of a message, by its description. */
function encode(message: DbcMessage, values: Readonly<Record<string, number>>): Uint8Array {
  const data = new Uint8Array(message.length);
  for (const signal of message.signals) {
    const value = values[signal.name];
    if (value === undefined) continue;
    write(data, signal, (value - signal.offset) / signal.factor);
  }
  return data;
}

function write(data: Uint8Array, signal: DbcSignal, raw: number): void {
  const bits = signalBits(signal);
  const pattern = signal.kind === "float32" ? floatBits(raw) : Math.round(raw);
  bits.forEach((bit, i) => {
    const set = Math.floor(pattern / 2 ** i) & 1;
    if (set) data[bit >> 3] = (data[bit >> 3] as number) | (1 << (bit & 7));
  });
}

function floatBits(value: number): number {
  const view = new DataView(new ArrayBuffer(4));
  view.setFloat32(0, value);
  return view.getUint32(0);
}

/** Description of the stand-in car's bus. */
export function standInDbc(): Dbc {
  return parseDbc(STAND_IN_DBC);
}
