/** Generated traffic of a car's bus with things planted in it, and the cues on which they were done. Seeded. */
import { signalBits } from "../../core/bus/dbc-messages";
import { FrameBuilder, type Frames } from "../../core/bus/frames";
import type { Cue, Thing } from "../../core/bus/hunt/cues";
import { seededRandom } from "../../sim/random";

export interface Planted {
  thing: Thing;
  id: number;
  startBit: number;
  length: number;
  littleEndian: boolean;
  signed?: boolean;
  factor?: number;
  codes?: Record<string, number>;
  page?: number;
}

export interface Traffic {
  frames: Frames;
  things: Thing[];
  /** As they were called out; people acted later, and the clock of the log runs otherwise. */
  cues: Cue[];
  planted: Planted[];
  shiftS: number;
  drift: number;
}

const CYCLES = [0.02, 0.05, 0.1, 0.1, 0.1, 0.2, 0.2, 0.2, 0.5, 1];
const KEYS = ["volume up", "volume down", "next", "back", "phone"];

/** A value that changes with time, and where it lies in its message. */
interface Part {
  startBit: number;
  length: number;
  littleEndian: boolean;
  page?: number;
  at(timeS: number): number;
}

interface Message {
  id: number;
  cycleS: number;
  bytes: number;
  counter: boolean;
  checksum: boolean;
  mux: boolean;
  parts: Part[];
}

/**
 * @param ids identifiers on the bus
 * @param times how often each thing is done
 */
export function traffic(seed: number, ids = 200, times = 3): Traffic {
  const random = seededRandom(seed * 7919 + 13);
  const between = (a: number, b: number) => a + (b - a) * random();
  const whole = (a: number, b: number) => Math.floor(between(a, b + 1));
  const pick = <T>(list: readonly T[]): T => list[whole(0, list.length - 1)] as T;
  const shiftS = between(-1.8, 1.8);
  const drift = between(-0.002, 0.002);

  const things: Thing[] = [];
  const cues: Cue[] = [];
  const acts: Cue[] = [];
  let clock = 5;
  const act = (thing: Thing, label: string, holdS: number, value?: number) => {
    const cue = { thing: thing.id, label, fromS: clock, toS: clock + holdS, ...(value === undefined ? {} : { value }) };
    cues.push(cue);
    const real = (s: number) => s + shiftS + drift * (s - 5);
    acts.push({ ...cue, fromS: real(cue.fromS) + between(0, 0.25), toS: real(cue.toS) + between(0, 0.25) });
    clock += holdS + between(0.8, 2.5);
  };

  const wheel: Thing = { id: "wheel", name: "wheel keys", kind: "keys", rest: "none" };
  const selector: Thing = { id: "selector", name: "selector", kind: "positions", rest: "P" };
  const lights: Thing = { id: "lights", name: "lights", kind: "positions", rest: "off" };
  const doors = ["front left", "front right"].map(
    (name, i): Thing => ({ id: `door${i}`, name: `door ${name}`, kind: "positions", rest: "closed" }),
  );
  const horn: Thing = { id: "horn", name: "horn", kind: "keys", rest: "none" };
  const toggled: Thing = { id: "source", name: "source key", kind: "keys", rest: "none" };
  const counted: Thing = { id: "menu", name: "menu key", kind: "keys", rest: "none" };
  const paged: Thing = { id: "hazard", name: "hazard lights", kind: "positions", rest: "off" };
  const steering: Thing = { id: "steering", name: "steering", kind: "level", rest: "0", unit: "deg" };
  const speed: Thing = { id: "speed", name: "speed", kind: "level", rest: "0", unit: "km/h" };
  const dimmer: Thing = { id: "dimmer", name: "dimming", kind: "level", rest: "100", unit: "%" };
  things.push(wheel, selector, lights, ...doors, horn, toggled, counted, paged, steering, speed, dimmer);
  for (let k = 0; k < times; k++) {
    for (const key of KEYS) act(wheel, key, between(0.8, 1.6));
    for (const p of ["R", "N", "D"]) act(selector, p, between(1.5, 3));
    act(lights, "on", between(2, 4));
    for (const d of doors) act(d, "open", between(1.5, 3));
    act(horn, "pressed", between(0.8, 1.5));
    act(paged, "on", between(2.5, 4));
    for (let j = 0; j < 2; j++) act(toggled, "pressed", between(0.6, 1));
    for (let j = 0; j < 2; j++) act(counted, "pressed", between(0.6, 1));
    for (const a of [-360, 360, 180]) act(steering, String(a), 3, a);
    for (const v of [10, 20, 30]) act(speed, String(v), 3, v);
    for (const v of [50, 20]) act(dimmer, String(v), 3, v);
  }
  const endS = clock + 5;

  // Messages: filler of every sort, in which the things are planted.
  const messages = Array.from({ length: ids }, (_, i): Message => {
    const bytes = pick([8, 8, 8, 8, 6, 4, 2]);
    return {
      id: 0x80 + i * 7 + whole(0, 5),
      cycleS: pick(CYCLES),
      bytes,
      counter: random() < 0.5 && bytes > 2,
      checksum: random() < 0.3 && bytes > 4,
      mux: false,
      parts: [],
    };
  });
  const used = new Map<Message, Set<number>>();
  const free = (m: Message, place: { startBit: number; length: number; littleEndian: boolean }) => {
    const taken = used.get(m) ?? new Set();
    const bits = signalBits(place);
    const top = 8 * (m.bytes - (m.checksum ? 1 : 0)) - (m.counter ? 4 : 0);
    return bits.every((b) => b >= (m.mux ? 8 : 0) && b < top && !taken.has(b));
  };
  const occupy = (m: Message, part: Part) => {
    const taken = used.get(m) ?? new Set();
    for (const b of signalBits(part)) taken.add(b);
    used.set(m, taken);
    m.parts.push(part);
  };

  const last = (of: (c: Cue) => boolean, timeS: number) => acts.find((c) => of(c) && timeS >= c.fromS && timeS < c.toS);
  const planted: Planted[] = [];
  const plant = (
    thing: Thing,
    length: number,
    at: (t: number) => number,
    more: Partial<Planted> & { inByte?: boolean; page?: number } = {},
  ) => {
    for (let attempt = 0; ; attempt++) {
      const m =
        more.page === undefined
          ? pick(messages.filter((x) => x.cycleS <= 0.2 && !x.mux))
          : pick(messages.filter((x) => x.mux));
      const littleEndian = more.littleEndian ?? true;
      const startBit = more.inByte
        ? 8 * whole(0, m.bytes - 1) + whole(0, 8 - length)
        : littleEndian
          ? whole(0, 8 * m.bytes - length)
          : 8 * whole(0, m.bytes - 1) + 7;
      const place = { startBit, length, littleEndian };
      if (!free(m, place)) {
        if (attempt > 5000) throw new Error(`no room for ${thing.id}`);
        continue;
      }
      // A code lies apart from what else may move.
      const neighbours = new Set(signalBits(place).flatMap((b) => [b - 1, b + 1]));
      if (used.get(m) && [...neighbours].some((b) => used.get(m)?.has(b))) continue;
      occupy(m, { ...place, at, ...(more.page === undefined ? {} : { page: more.page }) });
      planted.push({ thing, id: m.id, ...place, ...more });
      return m;
    }
  };
  for (const m of messages.filter((x) => x.bytes >= 6 && x.cycleS <= 0.05).slice(0, 3))
    Object.assign(m, { mux: true, counter: false, checksum: false });
  const codeOf = (codes: Record<string, number>, thing: Thing) => (t: number) =>
    codes[last((c) => c.thing === thing.id, t)?.label ?? ""] ?? 0;
  const keyCodes = Object.fromEntries(KEYS.map((k, i) => [k, i + 1]));
  plant(wheel, 3, codeOf(keyCodes, wheel), { codes: keyCodes, inByte: true });
  const positions = { R: 1, N: 2, D: 3 };
  const home = plant(selector, 2, codeOf(positions, selector), { codes: positions, inByte: true });
  for (const [thing, label] of [
    [lights, "on"],
    [doors[0], "open"],
    [doors[1], "open"],
    [horn, "pressed"],
  ] as [Thing, string][])
    plant(thing, 1, codeOf({ [label]: 1 }, thing), { codes: { [label]: 1 } });
  plant(paged, 1, codeOf({ on: 1 }, paged), { codes: { on: 1 }, page: 1 });
  const pressed = (thing: Thing, t: number) => acts.filter((c) => c.thing === thing.id && c.fromS <= t).length;
  plant(toggled, 1, (t) => pressed(toggled, t) & 1);
  plant(counted, 3, (t) => pressed(counted, t) & 7, { inByte: true });
  const follow = (thing: Thing, rest: number, rate: number) => {
    const own = acts.filter((c) => c.thing === thing.id);
    let [value, timeBefore] = [rest, 0];
    return (t: number) => {
      if (t < timeBefore) [value, timeBefore] = [rest, 0];
      const target = own.find((c) => t >= c.fromS - 1 && t < c.toS)?.value ?? rest;
      const most = rate * (t - timeBefore);
      value += Math.max(-most, Math.min(most, target - value));
      timeBefore = t;
      return value;
    };
  };
  const number = (at: (t: number) => number, factor: number, length: number) => (t: number) => {
    const raw = Math.round(at(t) / factor);
    return raw < 0 ? raw + 2 ** length : raw;
  };
  plant(steering, 16, number(follow(steering, 0, 700), 0.1, 16), { littleEndian: false, signed: true, factor: 0.1 });
  plant(speed, 16, number(follow(speed, 0, 25), 0.01, 16), { factor: 0.01, inByte: false, littleEndian: true });
  plant(dimmer, 8, number(follow(dimmer, 100, 90), 0.5, 8), { factor: 0.5 });
  // A gateway repeats the selector on another identifier.
  messages.push({
    ...home,
    id: 0x7e8 - 8,
    parts: home.parts.map((p) => ({ ...p, at: (t: number) => p.at(t - 0.12) })),
  });

  // Filler: sensors, states, noise.
  for (const m of messages) {
    const n = whole(1, 4);
    for (let i = 0; i < n; i++) {
      const kind = pick(["sensor", "sensor", "state", "state", "noise", "constant"] as const);
      const length = kind === "sensor" ? pick([8, 10, 12, 16]) : kind === "state" ? pick([1, 1, 2]) : 8;
      const place = {
        startBit: kind === "state" ? whole(0, 8 * m.bytes - length) : 8 * whole(0, m.bytes - 1),
        length,
        littleEndian: true,
      };
      if (!free(m, place) || m.id === 0x7e8 - 8) continue;
      // Not beside something planted.
      const beside = planted.some(
        (p) => p.id === m.id && signalBits(p).some((b) => signalBits(place).some((o) => Math.abs(o - b) <= 1)),
      );
      if (beside) continue;
      occupy(m, {
        ...place,
        at: filler(kind, length, seededRandom(seed * 131 + m.id * 17 + i)),
        ...(m.mux ? { page: whole(0, 3) } : {}),
      });
    }
  }
  return { frames: record(messages, endS, random), things, cues, planted, shiftS, drift };
}

function filler(
  kind: "sensor" | "state" | "noise" | "constant",
  length: number,
  random: () => number,
): (t: number) => number {
  const size = 2 ** length;
  if (kind === "constant") {
    const value = Math.floor(random() * size);
    return () => value;
  }
  if (kind === "noise") return () => Math.floor(random() * size);
  if (kind === "sensor") {
    let value = size * (0.3 + 0.4 * random());
    let before = 0;
    const pace = size * 0.02 * random();
    return (t) => {
      value = Math.max(0, Math.min(size - 1, value + (random() - 0.5) * pace * Math.sqrt(Math.max(0, t - before)) * 4));
      before = t;
      return Math.round(value);
    };
  }
  let value = Math.floor(random() * size);
  let next = random() * 40;
  return (t) => {
    while (t > next) {
      value = Math.floor(random() * size);
      next += 1 + random() * 40;
    }
    return value;
  };
}

function record(messages: readonly Message[], endS: number, random: () => number): Frames {
  const sent: { timeS: number; message: Message; n: number }[] = [];
  for (const message of messages) {
    let n = 0;
    for (let t = random() * message.cycleS; t < endS; t += message.cycleS)
      sent.push({ timeS: t + (random() - 0.5) * 0.06 * message.cycleS, message, n: n++ });
  }
  sent.sort((a, b) => a.timeS - b.timeS);
  const builder = new FrameBuilder();
  for (const { timeS, message: m, n } of sent) {
    const data = new Uint8Array(m.bytes);
    if (m.mux) data[0] = n % 4;
    for (const p of m.parts) {
      const value = p.at(timeS);
      if (p.page !== undefined && p.page !== n % 4) continue;
      signalBits(p).forEach((bit, i) => {
        if (Math.floor(value / 2 ** i) & 1) data[bit >> 3] = (data[bit >> 3] as number) | (1 << (bit & 7));
      });
    }
    const end = m.bytes - 1;
    if (m.counter) {
      const at = m.checksum ? end - 1 : end;
      data[at] = ((data[at] as number) & 0x0f) | ((n % 16) << 4);
    }
    if (m.checksum) data[end] = data.subarray(0, end).reduce((a, b) => a ^ b, m.id & 0xff);
    builder.add({ timeS, id: m.id, flags: 0, channel: 0, length: m.bytes, data });
  }
  return builder.finish(["can0"]);
}
