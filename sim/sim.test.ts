import { describe, expect, it } from "vitest";
import { decodeSeries, messageFor } from "../core/bus/decode";
import { candump } from "../core/bus/formats/candump";
import { readAs } from "../core/bus/formats/format";
import { statistics } from "../core/bus/statistics";
import { planJob } from "../core/job/plan";
import { foldJob } from "../core/log/fold";
import { demoDocuments } from "../profiles/library";
import { observe } from "./bench";
import { DEMO_CUES, recordLog, standInDbc } from "./car";
import { recordOnCue } from "./on-cue";

describe("the stand-in car", () => {
  const text = recordLog({ seed: 7, durationS: 120, startS: 1_700_000_000, cues: DEMO_CUES });
  const { frames, badLines } = readAs(candump, new TextEncoder().encode(text));
  const dbc = standInDbc();

  it("records the same log for the same seed and another for another", () => {
    const short = { durationS: 3, startS: 0, cues: DEMO_CUES };
    expect(recordLog({ ...short, seed: 1 })).toBe(recordLog({ ...short, seed: 1 }));
    expect(recordLog({ ...short, seed: 1 })).not.toBe(recordLog({ ...short, seed: 2 }));
  });

  it("sends every message of its description at its cycle time", () => {
    expect(badLines).toBe(0);
    expect(dbc.problems).toEqual([]);
    const stats = statistics(frames);
    expect(stats.map((s) => s.id).sort()).toEqual(dbc.messages.map((m) => m.id).sort());
    expect(stats.find((s) => s.id === 773)?.cycleMs).toBeCloseTo(10, 0);
    expect(stats.find((s) => s.id === 1040)?.cycleMs).toBeCloseTo(1000, -2);
  });

  it("decodes to what the driver did", () => {
    const value = (id: number, name: string, atS: number) => {
      const message = messageFor(dbc, id, id > 0x7ff);
      const signal = message?.signals.find((s) => s.name === name);
      if (!message || !signal) throw new Error(`no ${name}`);
      const series = decodeSeries(frames, message, signal);
      const i = series.timeS.findIndex((t) => t >= 1_700_000_000 + atS);
      return series.value[i];
    };
    expect(value(0x1a4, "Position", 34)).toBe(1);
    expect(value(420, "Position", 60)).toBe(0);
    expect(value(704, "KeyCode", 10.5)).toBe(1);
    expect(value(773, "WheelAngle", 43)).toBeCloseTo(320, 0);
    expect(value(773, "WheelAngle", 49.5)).toBeCloseTo(-320, 0);
    expect(value(1040, "OutsideTemperature", 60)).toBe(11.5);
    expect(value(0x1a110001, "Supply", 90)).toBeCloseTo(14.2, 3);
  });

  it("shows the hidden fault until it is repaired", () => {
    const plan = planJob(demoDocuments(), { choices: null });
    const plugged = plan.connections.map((c, i) => ({
      kind: "connect.plug" as const,
      data: { link: c.link, plugged: true },
      id: `${i}`,
      at: "2026-01-01T08:00:00Z",
      by: "Test",
    }));
    const before = foldJob(plugged);
    expect(observe(plan, before, "open:videoOutLead", "phonePicture/wireless").answer).toBe("nothing");
    expect(observe(plan, before, null, "phonePicture/wireless").answer).toBe("pass");
    const after = foldJob([
      ...plugged,
      {
        kind: "prove.repair",
        data: { fault: "open:videoOutLead", title: "", remedy: "", normal: false, tests: [], again: null, looks: null },
        id: "r",
        at: "2026-01-01T09:00:00Z",
        by: "Test",
      },
    ]);
    expect(observe(plan, after, "open:videoOutLead", "phonePicture/wireless").answer).toBe("pass");
    expect(observe(plan, foldJob([]), null, "phonePicture/wireless").answer).toBe("nothing");
  });
});

describe("the stand-in car on cue", () => {
  const cue = (thing: string, label: string, fromS: number, value?: number) => ({
    thing,
    label,
    fromS,
    toS: fromS + 2,
    ...(value === undefined ? {} : { value }),
  });

  it("does what is called out a moment later, on a clock of its own, and says what it cannot do", () => {
    const cues = [cue("wheelKeys", "next", 5), cue("door", "open", 9), cue("steering", "90", 14, 90)];
    for (const seed of [1, 2, 3]) {
      const { log, notDone } = recordOnCue(cues, { seed, startS: 1000 });
      expect(notDone).toEqual(["open"]);
      const { frames } = readAs(candump, new TextEncoder().encode(log));
      const series = (id: number, name: string) => {
        const message = messageFor(standInDbc(), id, false);
        const signal = message?.signals.find((s) => s.name === name);
        if (!message || !signal) throw new Error(name);
        return decodeSeries(frames, message, signal);
      };
      const keys = series(704, "KeyCode");
      const pressed = (keys.timeS[keys.value.indexOf(3)] ?? 0) - 1000;
      expect(pressed).toBeGreaterThan(5 - 1.2);
      expect(pressed).toBeLessThan(5 + 1.6);
      // Held in the middle of its cue, whatever the shift.
      const angle = series(773, "WheelAngle");
      const middle = angle.timeS.findIndex((t) => t >= 1000 + 15 + (pressed - 5.15));
      expect(angle.value[middle]).toBeCloseTo(90, 0);
    }
  });
});
