/** The disk runs full under people who write: files are refused first, nothing acknowledged is lost, and with room it works again. */
import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { sleep } from "../../cli/common.mjs";
import { missing, type RunningShop, ready, report, startShop, unsoundTables, writersAt } from "./shop";

const DISK_MB = 420;
const FLOOR_MB = 60;
/** Longer than the command gives a database that has no such reason. */
const FULL_S = 40;
const folder = mkdtempSync(join(tmpdir(), "iteron-full-"));
const disk = join(folder, "disk");
let shop: RunningShop | null = null;
let mounted = false;

beforeAll(async () => {
  mkdirSync(disk);
  try {
    execFileSync("mount", ["-t", "tmpfs", "-o", `size=${DISK_MB}m`, "tmpfs", disk], { stdio: "ignore" });
    mounted = true;
  } catch {
    report("disk full", "not tried: a small disk can be mounted by root only");
    return;
  }
  shop = await startShop(
    join(disk, "state"),
    { web: 5220, db: 23710 },
    { ITERON_WORKERS: "1", ITERON_FLOOR_MB: String(FLOOR_MB) },
  );
});
afterAll(async () => {
  await shop?.stop();
  if (mounted) execFileSync("umount", [disk]);
  rmSync(folder, { recursive: true, force: true });
});

const freeMb = () => {
  const { bavail, bsize } = statfsSync(disk);
  return (bavail * bsize) / 1e6;
};
/** Takes all room but so much. */
const fill = (name: string, leaveMb: number) => {
  const bytes = Math.floor((freeMb() - leaveMb) * 1e6);
  if (bytes > 0) {
    try {
      writeFileSync(join(disk, name), Buffer.alloc(bytes));
    } catch {
      // Full is full.
    }
  }
};

describe("a full disk", () => {
  it("refuses files below the floor, loses nothing when it is full, and works again when there is room", async ({
    skip,
  }) => {
    if (!shop) return skip();
    const { origin } = shop;
    const writers = await writersAt(origin, 4, 3);
    for (const w of writers) w.start();
    await sleep(2500);
    const counts = () => ({
      presses: writers.reduce((s, w) => s + w.pressed.length, 0),
      photos: writers.reduce((s, w) => s + w.photos.size, 0),
    });
    expect(counts().photos).toBeGreaterThan(3);

    // Below the floor: photos are refused with words, presses go on.
    fill("nearly", FLOOR_MB / 2);
    await sleep(2500);
    const refused = await fetch(`${origin}/jobs/${writers[0]?.job}/photos?photo=00000000-0000-7000-8000-000000000000`, {
      method: "POST",
      body: Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
      headers: { cookie: await cookieOf(origin), origin },
    });
    expect([refused.status, await refused.text()]).toEqual([507, expect.stringContaining("nearly full")]);

    // Quite full, for a while, with people who go on trying; half-way the database dies and finds no room to begin.
    const before = counts();
    for (let i = 0; i < FULL_S; i++) {
      fill(`full-${i}`, 0);
      if (i === FULL_S / 2) process.kill(shop.pids().database, "SIGKILL");
      await sleep(1000);
    }
    const full = freeMb();
    for (const name of ["nearly", ...Array.from({ length: FULL_S }, (_, i) => `full-${i}`)])
      rmSync(join(disk, name), { force: true });
    const after = await ready(origin, 60_000);
    expect(after).toBeGreaterThan(0);
    const then = counts();
    await sleep(4000);
    for (const w of writers) await w.stop();
    const now = counts();
    const found = await missing(origin, writers);
    const odd = writers.flatMap((w) => w.odd);
    report(
      "disk full",
      `${full.toFixed(1)} MB left for ${FULL_S} s, the database killed meanwhile, ${then.presses - before.presses} presses taken; ${found.presses} presses and ${found.photos} photos acknowledged: ${found.lost} and ${found.photosLost} lost, ${found.doubled} doubled; works again ${(after / 1000).toFixed(1)} s after there is room; other answers ${odd.length}`,
    );
    expect(now.presses).toBeGreaterThan(then.presses);
    expect(now.photos).toBeGreaterThan(then.photos);
    expect(found).toMatchObject({ lost: 0, photosLost: 0, doubled: 0 });
    expect(odd).toEqual([]);
    expect(unsoundTables(shop.dbEnv())).toEqual([]);
  });
});

async function cookieOf(origin: string) {
  const { signedIn } = await import("./shop");
  return signedIn(origin, "technician@skerry.example");
}
