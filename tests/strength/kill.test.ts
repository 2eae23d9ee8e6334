/** Database and servers are killed in turn while people write: nothing acknowledged is lost, nothing is there twice. */
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { isOurs, sleep } from "../../cli/common.mjs";
import { median, missing, type RunningShop, ready, report, startShop, unsoundTables, writersAt } from "./shop";

const CYCLES = process.env.ITERON_LONG ? 100 : 20;
/** The command gives up what dies eight times in a minute. */
const APART_MS = 6500;
const folder = mkdtempSync(join(tmpdir(), "iteron-kill-"));
let shop: RunningShop;

beforeAll(async () => {
  shop = await startShop(join(folder, "state"), { web: 5210, db: 23700 }, { ITERON_WORKERS: "2" });
});
afterAll(async () => {
  await shop.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** One of the server's processes that take requests. */
function workerOf(server: number): number {
  const out = execFileSync("ps", ["--no-headers", "-o", "pid", "--ppid", String(server)], { encoding: "utf8" });
  const pids = out.trim().split(/\s+/).map(Number);
  return pids[Math.floor(Math.random() * pids.length)] ?? 0;
}

describe("kill -9", () => {
  it(`of database, server and one of its processes, ${CYCLES} times while four write`, async () => {
    const writers = await writersAt(shop.origin, 4);
    for (const w of writers) w.start();
    const times: number[] = [];
    for (let cycle = 0; cycle < CYCLES; cycle++) {
      const begun = Date.now();
      await sleep(300 + Math.random() * 900);
      const { server, database } = shop.pids();
      const [pid, mark] = [
        [database, join(shop.state, "main", "data")],
        [server, "cli/cluster.mjs"],
        [workerOf(server), "worker.mjs"],
      ][cycle % 3] as [number, string];
      expect(isOurs(pid, mark)).toBe(true);
      process.kill(pid, "SIGKILL");
      for (let i = 0; i < 100 && isOurs(pid, mark); i++) await sleep(10);
      times.push(await ready(shop.origin, 30_000));
      expect(times.at(-1)).toBeGreaterThan(0);
      await sleep(Math.max(0, APART_MS - (Date.now() - begun)));
    }
    for (const w of writers) await w.stop();
    const found = await missing(shop.origin, writers);
    const odd = writers.flatMap((w) => w.odd);
    report(
      `kill -9, ${CYCLES} cycles`,
      `${found.presses} presses and ${found.photos} photos acknowledged: ${found.lost} and ${found.photosLost} lost, ${found.doubled} doubled; serving again after ${(median(times) / 1000).toFixed(2)} s median, ${(Math.max(...times) / 1000).toFixed(2)} s at most; other answers ${odd.length}`,
    );
    expect(found.presses).toBeGreaterThan(100);
    expect(found.photos).toBeGreaterThan(5);
    expect(found).toMatchObject({ lost: 0, photosLost: 0, doubled: 0 });
    expect(odd).toEqual([]);
    expect(median(times)).toBeLessThan(5000);
  });

  it("leaves tables that the database's own check finds sound", () => {
    expect(unsoundTables(shop.dbEnv())).toEqual([]);
  });
});
