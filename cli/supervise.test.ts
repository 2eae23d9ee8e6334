import { spawn } from "node:child_process";
import { describe, expect, it } from "vitest";
import { backOffMs, supervised } from "./supervise.mjs";

const node = (script: string) => {
  const child = spawn(process.execPath, ["-e", script], { stdio: "ignore" });
  return { child, started: child.pid, stop: async () => void child.kill() };
};
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

describe("the wait before a start again", () => {
  it("grows with the deaths of the last minute and ends in giving up", () => {
    const waits = Array.from({ length: 9 }, (_, i) => backOffMs(Array(i + 1).fill(1000), 1000));
    expect(waits).toEqual([100, 200, 400, 800, 1600, 3200, 5000, null, null]);
    expect(backOffMs(Array(20).fill(0), 60_001)).toBe(50);
  });
});

describe("a supervised process", () => {
  it("is started again when it dies, and not when it is stopped", async () => {
    const pids: (number | undefined)[] = [];
    const stopping: (() => Promise<void>)[] = [];
    const start = async () => {
      const one = node("setTimeout(() => {}, 30_000)");
      pids.push(one.child.pid);
      return one;
    };
    await supervised("Test", start, { stopping, giveUp: () => {} });
    process.kill(pids[0] as number, "SIGKILL");
    for (let i = 0; i < 60 && pids.length < 2; i++) await wait(50);
    expect(pids).toHaveLength(2);
    await stopping[0]?.();
    await wait(400);
    expect(pids).toHaveLength(2);
  });

  it("is given up when it dies again and again, with a word why", async () => {
    let starts = 0;
    const told: string[] = [];
    const said = await new Promise<string>((giveUp) => {
      const start = async () => {
        starts++;
        if (starts > 1) throw new Error("no door");
        return node("process.exit(3)");
      };
      supervised("Test", start, { stopping: [], giveUp, tell: (t) => told.push(t), pause: async () => {} });
    });
    expect(said).toBe("Test cannot be started again (no door), again and again.");
    expect(told[0]).toBe("Test ended by itself (3); it is started again.");
    expect(starts).toBe(8);
  });

  it("is not started while there is a reason that may pass, nor given up, and lives when it has passed", async () => {
    let [starts, looks, gaveUp] = [0, 0, ""];
    const told: string[] = [];
    const stopping: (() => Promise<void>)[] = [];
    const begin = async () => (starts++ === 0 ? node("process.exit(3)") : node("setTimeout(() => {}, 30_000)"));
    await supervised("Test", begin, {
      stopping,
      giveUp: (why) => {
        gaveUp = why;
      },
      tell: (t) => told.push(t),
      passing: () => (++looks < 50 ? "its disk is full" : null),
      pause: async () => {
        if (looks < 50) expect(starts).toBe(1);
      },
    });
    for (let i = 0; i < 60 && starts < 2; i++) await wait(50);
    expect([starts, looks, gaveUp]).toEqual([2, 50, ""]);
    expect(told).toEqual(["Test ended by itself (3): its disk is full. It is started again when that has passed."]);
    await stopping[0]?.();
  });
});
