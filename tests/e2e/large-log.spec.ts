import { once } from "node:events";
import { createWriteStream, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect } from "@playwright/test";
import { hydrated, newJob, signIn, take, test } from "./helpers";

/** Ten million with `--long`; three tell a log that is held in pieces from one that is not. */
const FRAMES = process.env.ITERON_LONG ? 10_000_000 : 3_000_000;
const PER_SECOND = 5000;
const SECONDS = FRAMES / PER_SECOND;
const EACH = FRAMES / 200;

const hex = (n: number, digits: number) => n.toString(16).toUpperCase().padStart(digits, "0");

/** A log of so many frames of 200 identifiers, 0.2 ms apart: every second as the first, a number counted up. */
async function write(path: string): Promise<void> {
  const out = createWriteStream(path);
  const afterSecond = Array.from({ length: PER_SECOND }, (_, i) => {
    const data = (i * 2_654_435_761) % 2 ** 32;
    return `.${String(i * 200).padStart(6, "0")}) can0 ${hex(0x100 + (i % 200), 3)}#${hex(data, 8)}0011`;
  });
  for (let s = 0; s < SECONDS; s++) {
    const before = `(${1_700_000_000 + s}`;
    const after = `${hex(s, 4)}\n`;
    let second = "";
    for (const frame of afterSecond) second += before + frame + after;
    if (!out.write(second)) await once(out, "drain");
  }
  out.end();
  await once(out, "finish");
}

test("a log of millions of frames is opened, zoomed, left and opened again", async ({ page }) => {
  test.setTimeout(600_000);
  const folder = mkdtempSync(join(tmpdir(), "iteron-log-"));
  try {
    const path = join(folder, "long.log");
    await write(path);
    await signIn(page);
    const job = await newJob(page, {
      title: "Ferry deck: a long recording",
      car: "Velmora Osk, 2016 to 2020, automatic",
      variant: "Radio O2, 1024x600 without mirroring",
      kit: "Orvanto OM-9 with harness B, loaded for the car",
    });
    await page.goto(`${job}/bus`);
    await hydrated(page);
    await page.getByLabel("Upload a log or a bus description").setInputFiles(path);
    await expect(page.getByText("long.log: stored.")).toBeVisible({ timeout: 240_000 });
    const { entries } = await (await page.request.get(`${job}/export.json`)).json();
    const file: string = entries.find((e: { kind: string }) => e.kind === "bus.file").data.file;
    await take(page, /^What is on the bus/);
    const all = page.getByText(`${FRAMES.toLocaleString("en-GB")} frames in ${SECONDS}.0 s`);
    await expect(all).toBeVisible({ timeout: 240_000 });
    await expect(page.getByRole("row", { name: `1C7 not named ${EACH}` })).toBeVisible();

    // Named by a description, drawn whole, and zoomed in.
    await take(page, /^Files/);
    await page.getByLabel("Upload a log or a bus description").setInputFiles({
      name: "one.dbc",
      mimeType: "text/plain",
      buffer: Buffer.from('BO_ 455 Deck: 8 X\n SG_ Level : 0|8@1+ (1,0) [0|0] "" X\n'),
    });
    await take(page, /^What is on the bus/);
    await expect(page.getByRole("row", { name: `1C7 Deck ${EACH}` })).toBeVisible({ timeout: 20_000 });
    await take(page, /^Signals over time/);
    await page.getByRole("checkbox", { name: "Level Deck" }).check();
    const chart = page.getByRole("img", { name: /^Signals over time: Level/ });
    await expect(chart).toHaveAccessibleName(new RegExp(`; 0 s to ${SECONDS} s$`));
    await expect(chart).toHaveAttribute("aria-busy", "false", { timeout: 60_000 });
    // The list of signals may still be growing: the chart is looked for again before each turn of the wheel.
    await expect(async () => {
      await chart.hover({ position: { x: 500, y: 60 } });
      await page.keyboard.down("Control");
      for (let i = 0; i < 10; i++) await page.mouse.wheel(0, -240);
      await page.keyboard.up("Control");
      await expect(chart).toHaveAccessibleName(/; \d+\.\d+ s to \d+\.\d+ s$/, { timeout: 1000 });
    }).toPass({ timeout: 120_000 });

    // Left and opened again: once it is kept in the browser nothing is fetched a second time.
    let asked = 0;
    page.on("request", (r) => {
      if (/\/files\/.*$/.test(r.url()) && r.url().includes(file)) asked++;
    });
    await expect(async () => {
      await page.goto(`${job}/prove`);
      asked = 0;
      await page.goto(`${job}/bus`);
      await expect(all).toBeVisible({ timeout: 60_000 });
      expect(asked).toBe(0);
    }).toPass({ timeout: 240_000 });
  } finally {
    rmSync(folder, { recursive: true });
  }
});
