import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { standInDbc } from "../../../sim/car";
import { recordOnCue } from "../../../sim/on-cue";
import { parseDbc } from "../dbc";
import { candump } from "../formats/candump";
import { readAs } from "../formats/format";
import { FrameBuilder, type Frames } from "../frames";
import type { Cue } from "../hunt/cues";
import { checkTranslation } from "./check";
import { draftRules } from "./draft";
import { proveTranslation } from "./proof";
import { replay } from "./replay";
import { type Rule, usualRule } from "./translation";

const DBC = parseDbc(`BO_ 256 Keys: 2 X
 SG_ Code : 0|4@1+ (1,0) [0|15] "" X
 SG_ Held : 8|8@1- (0.5,-10) [0|0] "" X
BO_ 257 Speed: 2 X
 SG_ Kmh : 0|16@1+ (0.01,0) [0|0] "km/h" X
 SG_ Standing : 15|1@1+ (1,0) [0|0] "" X
`);
const rule = (more: Partial<Rule>): Rule => ({ ...usualRule(more.output ?? "volumeUp"), ...more });
const code = (value: number, is: "=" | "≠" | "<" | "≤" | ">" | "≥" = "=") => ({ signal: "Keys.Code", is, value });
const speed = (value: number, is: ">" | "<" | "≥" = ">") => ({ signal: "Speed.Kmh", is, value });

/** Frames of Keys at times in milliseconds with a code. */
function keys(list: readonly (readonly [number, number])[]): Frames {
  const builder = new FrameBuilder();
  for (const [ms, value] of list)
    builder.add({ timeS: ms / 1000, id: 256, flags: 0, channel: 0, length: 2, data: [value, 0] });
  return builder.finish(["can0"]);
}
/** Every 10 ms from 0 to `end`, with the code that `at` gives. */
const every10 = (end: number, at: (ms: number) => number) =>
  keys(Array.from({ length: end / 10 }, (_, i) => [10 * i, at(10 * i)] as const));
const stretches = (frames: Frames, more: Partial<Rule>) =>
  replay(frames, { rules: [rule({ when: [[code(1)]], ...more })] }, DBC)[0]?.on.map((s) => [
    Math.round(1000 * s.fromS),
    Math.round(1000 * s.toS),
  ]);

describe("an output", () => {
  it("waits for its debounce, stays for its hold, and forgets what was too short", () => {
    const frames = every10(2000, (ms) => ((ms >= 500 && ms < 800) || (ms >= 1000 && ms < 1030) ? 1 : 0));
    expect(stretches(frames, { debounceMs: 0 })).toEqual([
      [500, 800],
      [1000, 1030],
    ]);
    expect(stretches(frames, { debounceMs: 50 })).toEqual([[550, 800]]);
    expect(stretches(frames, { debounceMs: 50, holdMs: 300 })).toEqual([[550, 1330]]);
    // It comes back within its hold and stays on.
    expect(stretches(frames, { debounceMs: 0, holdMs: 300 })).toEqual([[500, 1330]]);
  });

  it("takes its default when the message stays away, at the moment at which the patience ends", () => {
    const frames = keys([
      [0, 1],
      [100, 1],
      [200, 1],
      [1500, 1],
      [1600, 0],
      [5000, 0],
    ]);
    const options = { debounceMs: 0, timeoutMs: 400 };
    expect(stretches(frames, { ...options, missing: "off" })).toEqual([
      [0, 600],
      [1500, 1600],
    ]);
    expect(stretches(frames, { ...options, missing: "last" })).toEqual([[0, 1600]]);
    expect(stretches(frames, { ...options, missing: "on" })).toEqual([
      [0, 1600],
      [2000, 5000],
    ]);
  });

  it("tells short from long presses", () => {
    const frames = every10(4000, (ms) => ((ms >= 500 && ms < 800) || (ms >= 2000 && ms < 3500) ? 1 : 0));
    const [trace] = replay(frames, { rules: [rule({ when: [[code(1)]], debounceMs: 0, longMs: 700 })] }, DBC);
    expect(trace?.presses.map((p) => [Math.round(1000 * p.atS), p.long])).toEqual([
      [800, false],
      [2700, true],
    ]);
  });

  it("follows a level, and says where it is missing", () => {
    const builder = new FrameBuilder();
    for (const [t, raw] of [
      [0, 100],
      [0.1, 200],
      [0.2, 200],
      [2, 300],
    ] as const)
      builder.add({ timeS: t, id: 257, flags: 0, channel: 0, length: 2, data: [raw & 255, raw >> 8] });
    const [trace] = replay(
      builder.finish(["can0"]),
      { rules: [rule({ output: "steering", level: { signal: "Speed.Kmh", factor: 10, offset: 1 }, timeoutMs: 500 })] },
      DBC,
    );
    expect(trace?.level.timeS.map((t) => Number(t.toFixed(3)))).toEqual([0, 0, 0.1, 0.7, 2]);
    expect(trace?.level.value.map((v) => Number(v.toFixed(3)))).toEqual([Number.NaN, 11, 21, Number.NaN, 31]);
  });

  it("is never on twice at once, and only while its condition could hold it", () => {
    const list = fc.array(fc.tuple(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 0, max: 2 })), {
      minLength: 1,
      maxLength: 60,
    });
    const times = fc.record({
      debounceMs: fc.integer({ min: 0, max: 300 }),
      holdMs: fc.integer({ min: 0, max: 300 }),
      timeoutMs: fc.integer({ min: 50, max: 800 }),
    });
    fc.assert(
      fc.property(list, times, fc.constantFrom("off" as const, "last" as const), (gaps, more, missing) => {
        let ms = 0;
        const frames = keys(
          gaps.map(([gap, value]) => {
            ms += gap;
            return [ms, value] as const;
          }),
        );
        const on = replay(frames, { rules: [rule({ when: [[code(1)]], ...more, missing })] }, DBC)[0]?.on ?? [];
        on.forEach((s, i) => {
          expect(s.fromS).toBeGreaterThanOrEqual(on[i - 1]?.toS ?? Number.NEGATIVE_INFINITY);
          expect(s.toS).toBeGreaterThanOrEqual(s.fromS);
          // At some frame before it came on the condition held.
          const held = Array.from({ length: frames.count }, (_, k) => k).some(
            (k) => frames.data[2 * k] === 1 && (frames.timeS[k] ?? 0) <= s.fromS + 1e-9,
          );
          expect(held).toBe(true);
        });
      }),
    );
  });
});

describe("a translation is refused", () => {
  const problems = (...rules: Partial<Rule>[]) =>
    checkTranslation({ rules: rules.map(rule) }, DBC, (m) => (m === "Keys" ? 100 : null)).map(
      (p) => `${p.output}: ${p.problem}`,
    );

  it("for a signal that is not there, an empty condition, two rules for one output", () => {
    expect(problems({ when: [[{ signal: "No.Where", is: "=", value: 1 }]] })).toEqual([
      expect.stringMatching(/No\.Where is in no description/),
    ]);
    expect(problems({ when: [] })).toEqual([expect.stringMatching(/no condition/)]);
    expect(problems({ when: [[code(1)]] }, { when: [[code(2)]] })).toEqual([expect.stringMatching(/two rules/)]);
    expect(problems({ output: "steering" })).toEqual([expect.stringMatching(/follows no signal/)]);
  });

  it("for what can never switch, and what can never switch off", () => {
    for (const when of [
      [[code(16)]],
      [[code(1), code(2)]],
      [[code(5, ">"), code(5, "<")]],
      [[{ signal: "Keys.Held", is: ">", value: 60 } as const]],
    ])
      expect(problems({ when })).toEqual([expect.stringMatching(/never switches on/)]);
    for (const when of [[[code(0, "≥")]], [[code(3, "<")], [code(3, "≥")]], [[code(3, "≠")], [code(3)]]])
      expect(problems({ when })).toEqual([expect.stringMatching(/never switches off/)]);
    expect(problems({ when: [[code(1)], [code(99)]] })).toEqual([
      expect.stringMatching(/One of its conditions can never hold/),
    ]);
    expect(problems({ when: [[code(5, "≥"), code(5, "≤")]] })).toEqual([]);
  });

  it("for two keys at one value, and for a patience shorter than the message takes", () => {
    expect(
      problems({ output: "volumeUp", when: [[code(1, "≥")]] }, { output: "volumeDown", when: [[code(2)]] }),
    ).toEqual([expect.stringMatching(/volumeDown: One value presses it together with “Key: volume up”/)]);
    expect(problems({ output: "volumeUp", when: [[code(1)]] }, { output: "volumeDown", when: [[code(2)]] })).toEqual(
      [],
    );
    expect(problems({ when: [[code(1)]], timeoutMs: 120 })).toEqual([expect.stringMatching(/every 100 ms/)]);
  });

  it("for pictures released in motion: by a gap, by another condition, without messages, too late", () => {
    const lock = (more: Partial<Rule>) => problems({ output: "motionLock", ...more });
    expect(lock({ when: [[speed(5)]] })).toEqual([]);
    expect(lock({ when: [[speed(3, "≥")]] })).toEqual([]);
    const released = [expect.stringMatching(/a speed above 5 km\/h at which it would release/)];
    expect(lock({ when: [[speed(20)]] })).toEqual(released);
    expect(lock({ when: [[speed(5), speed(100, "<")]] })).toEqual(released);
    expect(lock({ when: [[speed(5), code(1)]] })).toEqual(released);
    expect(lock({ when: [[speed(5)]], missing: "off" })).toEqual([expect.stringMatching(/Without messages/)]);
    expect(lock({ when: [[speed(5)]], missing: "last" })).toEqual([expect.stringMatching(/Without messages/)]);
    expect(lock({ when: [[speed(5)]], debounceMs: 2000 })).toEqual([expect.stringMatching(/half a second/)]);
    expect(lock({ when: [[code(1)]] })).toEqual([expect.stringMatching(/None of its signals is a speed/)]);
  });

  it("never passes a lock that some speed opens, whatever the rule", () => {
    const comparison = fc.record({
      signal: fc.constantFrom("Speed.Kmh", "Keys.Code"),
      is: fc.constantFrom("<" as const, ">" as const, "≥" as const, "≤" as const),
      value: fc.integer({ min: 0, max: 14 }),
    });
    fc.assert(
      fc.property(
        fc.array(fc.array(comparison, { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 3 }),
        fc.integer({ min: 501, max: 60_000 }),
        fc.integer({ min: 0, max: 15 }),
        (when, raw, key) => {
          const passed = problems({ output: "motionLock", when }).every(
            (p) => !/release/.test(p) && !/None of its/.test(p),
          );
          if (!passed) return;
          const value = (s: string) => (s === "Speed.Kmh" ? raw * 0.01 : key);
          const holds = when.some((g) =>
            g.every((c) =>
              c.is === "<"
                ? value(c.signal) < c.value
                : c.is === ">"
                  ? value(c.signal) > c.value
                  : c.is === "≥"
                    ? value(c.signal) >= c.value
                    : value(c.signal) <= c.value,
            ),
          );
          expect(holds).toBe(true);
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe("a proof", () => {
  const dbc = standInDbc();
  const act = (thing: string, label: string, fromS: number, toS: number, value?: number): Cue => ({
    thing,
    label,
    fromS,
    toS,
    ...(value === undefined ? {} : { value }),
  });
  const cues: Cue[] = [
    act("wheelKeys", "volume up", 8, 9.5),
    act("wheelKeys", "volume down", 12, 13.2),
    act("selector", "R", 16, 19),
    act("lights", "on", 22, 25),
    act("steering", "-360", 30, 34, -360),
    act("wheelKeys", "volume up", 39, 40.4),
    act("selector", "R", 44, 47),
    act("steering", "180", 52, 56, 180),
    act("wheelKeys", "volume down", 61, 62.5),
    act("lights", "on", 66, 69),
    act("speed", "20", 74, 90, 20),
  ];
  const frames = (seed: number) =>
    readAs(candump, new TextEncoder().encode(recordOnCue(cues, { seed, startS: 1_700_000_000 }).log)).frames;
  const rules = draftRules(dbc.messages);

  it("of the rules that names tell passes on the stand-in car, whose clock runs otherwise", () => {
    expect(rules.map((r) => r.output)).toEqual([
      "accessory",
      "reverse",
      "lights",
      "volumeUp",
      "volumeDown",
      "next",
      "back",
      "steering",
      "motionLock",
    ]);
    expect(checkTranslation({ rules }, dbc)).toEqual([]);
    for (const seed of [1, 2, 3]) {
      const { outputs } = proveTranslation(frames(seed), { rules }, dbc, cues);
      const by = Object.fromEntries(outputs.map((o) => [o.output, o]));
      for (const o of ["reverse", "lights", "volumeUp", "volumeDown", "steering"])
        expect([seed, o, by[o]?.passed, by[o]?.cued]).toEqual([seed, o, true, 2]);
      expect(by.reverse?.worstDelayS).toBeLessThan(0.7);
      expect(by.steering?.worstError).toBeLessThan(1);
      // What was not tried is not passed.
      expect([by.next?.cued, by.next?.passed]).toEqual([0, false]);
    }
  });

  it("counts what was missed and what came without a cue", () => {
    const wrong = rules.map((r) =>
      r.output === "reverse"
        ? { ...r, when: [[{ signal: "Selector.Position", is: "=" as const, value: 3 }]] }
        : r.output === "lights"
          ? { ...r, when: [[{ signal: "WheelKeys.KeyCode", is: "≥" as const, value: 1 }]] }
          : r,
    );
    const { outputs } = proveTranslation(frames(4), { rules: wrong }, dbc, cues);
    const by = Object.fromEntries(outputs.map((o) => [o.output, o]));
    expect(by.reverse).toMatchObject({ cued: 2, met: 0, passed: false, falseAlarms: [] });
    expect(by.lights).toMatchObject({ met: 0, passed: false });
    expect(by.lights?.falseAlarms).toHaveLength(4);
  });
});
