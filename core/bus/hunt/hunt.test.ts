import { describe, expect, it } from "vitest";
import { traffic } from "../../../tests/support/bus-traffic";
import { parseDbc } from "../dbc";
import { signalBits } from "../dbc-messages";
import { addToDbc, EMPTY_DBC } from "../dbc-write";
import { decodeSeries } from "../decode";
import { FrameBuilder, type Frames } from "../frames";
import type { Candidate } from "./candidates";
import { type Cue, replaced, segments, type Thing } from "./cues";
import { findingOf, signalName } from "./finding";
import { messagesOf } from "./found";
import { HuntStopped, hunt } from "./hunt";

const bitsOf = (c: Candidate) => signalBits({ littleEndian: true, ...c });

describe("planted signals", () => {
  // Invented traffic, seeded: keys with codes, single bits, toggles, press counters, angle and speed in both byte orders,
  // a bit on one page of a multiplexed message, a gateway that repeats one of them; cues up to 1.8 s off and drifting.
  const runs = [1, 2, 3].map((seed) => {
    const made = traffic(seed);
    return { ...made, result: hunt(made.frames, made.things, made.cues) };
  });

  it("are found among 200 identifiers, within the first three candidates", { timeout: 180_000 }, () => {
    const missed = runs.flatMap(({ planted, result }, run) =>
      planted
        .filter((p) => {
          const bits = new Set(signalBits(p));
          const { candidates = [] } = result.things.find((t) => t.thing.id === p.thing.id) ?? {};
          return !candidates
            .slice(0, 3)
            .some((c) => c.sure && c.stream.id === p.id && bitsOf(c).some((b) => bits.has(b)));
        })
        .map((p) => `${run}: ${p.thing.id}`),
    );
    expect(runs.flatMap((r) => r.planted)).toHaveLength(36);
    expect(missed).toEqual([]);
  });

  it("are nearly all of what is told as found", () => {
    const told = runs.flatMap(({ planted, result }) =>
      result.things.flatMap(({ thing, candidates }) => {
        const p = planted.find((x) => x.thing.id === thing.id);
        const bits = new Set(p ? signalBits(p) : []);
        return candidates.filter((c) => c.sure).map((c) => c.stream.id === p?.id && bitsOf(c).some((b) => bits.has(b)));
      }),
    );
    expect(told.filter((right) => !right).length).toBeLessThanOrEqual(0.05 * told.length);
  });

  it("are known with their codes, byte order, sign and scale", () => {
    for (const { planted, result } of runs) {
      for (const p of planted) {
        const [first] = result.things.find((t) => t.thing.id === p.thing.id)?.candidates ?? [];
        if (first?.kind === "state") expect(Object.fromEntries(first.codes)).toMatchObject(p.codes ?? {});
        if (first?.kind === "press")
          expect([first.change, first.length]).toEqual(p.length === 1 ? ["toggle", 1] : ["counter", 3]);
        if (first?.kind === "level") {
          expect([first.factor, first.offset, first.signed]).toEqual([p.factor, 0, p.signed === true]);
          const low = (place: typeof p | typeof first) => signalBits(place)[0];
          expect(low(first)).toBe(low(p));
          if (p.length > 8) expect(first.littleEndian).toBe(p.littleEndian);
        }
      }
    }
  });

  it("bring the clocks together, and say how sure that is", () => {
    for (const { cues, shiftS, drift, result } of runs) {
      const { alignment: a } = result;
      // People act 0 to 0.25 s after the cue.
      for (const c of [cues[0], cues.at(-1)] as Cue[]) {
        const is = a.shiftS + a.drift * (c.fromS - a.startS);
        const was = shiftS + drift * (c.fromS - 5) + 0.125;
        expect(Math.abs(is - was)).toBeLessThan(0.3);
      }
      expect(a.sure).toBeGreaterThan(0.5);
    }
  });

  it("tell what repeats them later, with the reason", () => {
    for (const { result } of runs) {
      const selector = result.things.find((t) => t.thing.id === "selector");
      expect(selector?.candidates[0]?.repeats).toContainEqual(
        expect.objectContaining({ byS: expect.closeTo(0.12, 1) }),
      );
      expect(selector?.excluded).toContainEqual(
        expect.objectContaining({ reason: expect.stringMatching(/says the same as a better one, \d+ ms later/) }),
      );
    }
  });

  it("become signals of a description that decodes what was done", () => {
    const run = runs[0] as (typeof runs)[number];
    const [first] = run.result.things.find((t) => t.thing.id === "wheel")?.candidates ?? [];
    const [page] = run.result.things.find((t) => t.thing.id === "hazard")?.candidates ?? [];
    const named = (c: Candidate | undefined, signal: string) => ({
      ...findingOf(c as Candidate),
      signal,
      message: `M_${c?.stream.id}`,
      file: "",
      thing: signal,
    });
    const found = messagesOf([named(first, "WheelKeys"), named(page, "Hazard")], () => "found by cues");
    const { messages, problems } = parseDbc(addToDbc(EMPTY_DBC, { messages: found }));
    expect(problems).toEqual([]);
    const [m, paged] = messages;
    const signal = m?.signals[0];
    if (!m || !signal || !paged) throw new Error("nothing was written");
    expect(signal.values.get(1)).toBe("volume up");
    const { timeS, value } = decodeSeries(run.frames, m, signal);
    const up = run.cues.find((c) => c.label === "volume up") as Cue;
    const middle = (up.fromS + up.toS) / 2 + run.shiftS + 0.12;
    expect(value[timeS.findIndex((t) => t >= middle)]).toBe(1);
    expect(paged.signals.map((s) => [s.name, s.multiplex?.by ?? null])).toEqual([
      ["Page", null],
      ["Hazard", "Page"],
    ]);
  });
});

/** Two minutes of one message at 50 Hz; each function gives the value of one bit. */
function log(...bits: ((t: number) => boolean)[]): Frames {
  const builder = new FrameBuilder();
  for (let i = 0; i < 6000; i++) {
    const t = i / 50;
    const byte = bits.reduce((v, b, k) => v + (b(t) ? 2 ** (2 * k) : 0), 0);
    builder.add({ timeS: t, id: 0x300, flags: 0, channel: 0, length: 2, data: [byte & 255, byte >> 8] });
  }
  return builder.finish(["can0"]);
}
const keys: Thing = { id: "keys", name: "wheel keys", kind: "keys", rest: "none" };
const cue = (label: string, fromS: number, holdS = 1): Cue => ({ thing: "keys", label, fromS, toS: fromS + holdS });
const within = (cues: readonly Cue[], labels: readonly string[]) => (t: number) =>
  cues.some((c) => labels.includes(c.label) && t >= c.fromS + 0.1 && t < c.toS + 0.1);

describe("the next cue", () => {
  const up = [10, 25, 41].map((s) => cue("up", s));
  const down = [60, 73, 95].map((s) => cue("down", s));
  const labels = { keys: ["up", "down"] };
  const result = (frames: Frames, cues: readonly Cue[]) => hunt(frames, [keys], cues, { labels }).things[0];

  it("is the other key when two bits answer alike, and then tells them apart", () => {
    const all = [...up, ...down];
    const frames = log(within(all, ["up"]), within(all, ["up", "down"]));
    expect(result(frames, up)?.next).toMatchObject({ label: "down", how: "press" });
    const both = result(frames, all);
    const code = both?.candidates.map((c) => c.kind === "state" && [c.startBit, [...c.codes]]);
    // The bit of any key is named beside the field that tells them apart.
    expect(code?.[0]).toEqual([
      0,
      [
        ["none", 0],
        ["up", 1],
        ["down", 0],
      ],
    ]);
    expect(both?.candidates.some((c) => c.startBit === 2)).toBe(true);
  });

  it("is more of the same after a single press, and a long hold when all was short", () => {
    const frames = log(within(up, ["up"]), (t) => within(up, ["up"])(t));
    expect(hunt(frames, [keys], up.slice(0, 1), { labels: { keys: ["up"] } }).things[0]?.next).toMatchObject({
      label: "up",
      how: "again",
    });
    expect(hunt(frames, [keys], up, { labels: { keys: ["up"] } }).things[0]?.next).toMatchObject({
      label: "up",
      how: "hold",
    });
  });

  it("is asked for when nothing follows", () => {
    const frames = log((t) => t > 50);
    expect(result(frames, up)).toMatchObject({ candidates: [], next: { how: "hold" } });
  });
});

describe("what is no evidence", () => {
  it("is a log of another car: nothing is told as found", () => {
    const a = traffic(21, 60, 2);
    const b = traffic(22, 60, 2);
    const found = hunt(
      b.frames,
      a.things,
      a.cues.map((c) => ({ ...c })),
    );
    const own = hunt(b.frames, b.things, b.cues);
    const sure = (r: typeof found) => r.things.flatMap((t) => t.candidates.filter((c) => c.sure)).length;
    expect(sure(own)).toBeGreaterThan(8);
    // Levels are long and few: one may fit by chance.
    expect(sure(found)).toBeLessThanOrEqual(1);
  });

  it("is a counter that seems to follow; no cues find nothing, and an empty log neither", () => {
    const { frames } = traffic(23, 20, 1);
    expect(hunt(frames, [keys], []).things).toEqual([]);
    const none = hunt(new FrameBuilder().finish([]), [keys], [cue("up", 1)]);
    expect(none.things[0]).toMatchObject({ candidates: [] });
  });

  it("says what was missed and what was too much", () => {
    const cues = [10, 25, 41, 60].map((s) => cue("up", s));
    const frames = log((t) => within(cues.slice(0, 3), ["up"])(t) || (t > 80 && t < 119));
    const [c] = hunt(frames, [keys], cues, { rounds: 4 }).things[0]?.candidates ?? [];
    expect(c?.kind === "state" && c.misses.map((m) => Math.round(m.fromS))).toEqual([60]);
    expect(c?.kind === "state" && c.falseAlarms.map((m) => m.label)).toEqual(["none"]);
  });
});

describe("running it", () => {
  it("tells how far it is and can be stopped", () => {
    const { frames, things, cues } = traffic(24, 20, 1);
    const shares: number[] = [];
    hunt(frames, things, cues, { progress: (s) => void shares.push(s) });
    expect(shares.length).toBeGreaterThan(10);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(() => hunt(frames, things, cues, { progress: (s) => s < 0.5 })).toThrow(HuntStopped);
  });

  it("gives the same for the same seed", () => {
    const { frames, things, cues } = traffic(25, 20, 1);
    const told = () =>
      hunt(frames, things, cues, { seed: 3 }).things.map((t) =>
        t.candidates.map((c) => [c.startBit, c.score, c.falseShare]),
      );
    expect(told()).toEqual(told());
  });
});

describe("stretches of time", () => {
  it("are the cues and the rests between, without their ends, and cover no time twice", () => {
    const cues = [cue("up", 10), cue("down", 12, 3)];
    const list = segments(keys, cues, { fromS: 0, toS: 20 });
    expect(list.map((s) => [s.label, s.cued])).toEqual([
      ["none", false],
      ["up", true],
      ["none", false],
      ["down", true],
      ["none", false],
    ]);
    list.forEach((s, i) => {
      expect(s.fromS).toBeLessThan(s.toS);
      expect(s.fromS).toBeGreaterThanOrEqual(list[i - 1]?.toS ?? 0);
    });
  });

  it("at random times are as many, as long, and inside the log", () => {
    let state = 1;
    const random = () => {
      state = (state * 16807) % 2147483647;
      return state / 2147483647;
    };
    const cues = [cue("up", 1), cue("down", 5, 3), cue("up", 9, 2)];
    for (let k = 0; k < 50; k++) {
      const other = replaced(cues, { fromS: 0, toS: 30 }, random).sort((a, b) => a.fromS - b.fromS);
      expect(other.map((c) => c.toS - c.fromS).reduce((a, b) => a + b)).toBeCloseTo(6, 6);
      expect(other.every((c, i) => c.fromS >= (other[i - 1]?.toS ?? 0) - 1e-9 && c.toS <= 30 + 1e-9)).toBe(true);
    }
  });
});

describe("names of signals", () => {
  it.each([
    ["wheel keys", "WheelKeys"],
    ["door front-left", "DoorFrontLeft"],
    ["Öl °C", "OlC"],
    ["4 wheel", "S4Wheel"],
    ["", "S"],
  ])("%j becomes %s", (words, name) => expect(signalName(words)).toBe(name));
});
