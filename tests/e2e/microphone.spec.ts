import { writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect } from "@playwright/test";
import { TEST_SIGNALS, wavFile } from "../../core/sound/test-signals";
import config from "../../playwright.config";
import { hydrated, inHand, newJob, noViolations, openJob, plugEverything, signIn, stands, take, test } from "./helpers";

/** The browser's microphone hears a file: the pulse, once a second. */
const heard = join(tmpdir(), "iteron-pulse.wav");
writeFileSync(heard, wavFile(TEST_SIGNALS.polarity.make()));
const launch = config.use?.launchOptions;
test.use({
  launchOptions: {
    ...launch,
    args: [...(launch?.args ?? []), "--use-fake-device-for-media-stream", `--use-file-for-fake-audio-capture=${heard}`],
  },
});

test("polarity by microphone and by ear, and hum with and without a ground lead", async ({ page, context }) => {
  await signIn(page);
  const job = await openJob(page, "Mail van 2", "prove?at=polarity");
  await noViolations(page);

  // Not allowed: said, and nothing is lost.
  await inHand(page).getByRole("button", { name: "Hear left front by microphone" }).click();
  await expect(page.getByText(/^The microphone was not allowed/)).toBeVisible();

  await context.grantPermissions(["microphone"]);
  for (const corner of ["left front", "right front", "left rear", "right rear"]) {
    if (corner === "right rear") await take(page, /^Polarity of the loudspeakers/);
    await inHand(page)
      .getByRole("button", { name: `Hear ${corner} by microphone` })
      .click();
    if (corner !== "right rear")
      await expect(inHand(page).getByText("steep side first")).toHaveCount(
        ["left front", "right front", "left rear"].indexOf(corner) + 1,
        { timeout: 20_000 },
      );
  }
  await take(page, /^Polarity of the loudspeakers.*all the same way$/);
  await expect(inHand(page).getByRole("heading", { name: "Every loudspeaker moves the same way" })).toBeVisible();

  await take(page, /^Hum/);
  await inHand(page).getByRole("button", { name: "As it is" }).click();
  await expect(inHand(page).getByText("dBFS at the multiples of the mains")).toBeVisible({ timeout: 20_000 });
  await inHand(page).getByRole("button", { name: "With a ground lead" }).click();
  await take(page, /^Hum.*, measured$/);
  await expect(inHand(page).getByRole("heading", { name: /changes nothing that is heard/ })).toBeVisible({
    timeout: 20_000,
  });
  const { entries } = await (await page.request.get(`${job}/export.json`)).json();
  const signs = entries
    .filter((e: { kind: string }) => e.kind === "prove.polarity")
    .map((e: { data: { sign: number } }) => e.data.sign);
  expect(signs).toEqual([1, 1, 1, 1]);
});

test("a pair that is fuller turned round is cured on the plug", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Quay patrol: polarity",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  await plugEverything(page, job);
  await stands(page, job, { key: "on" });
  await page.goto(`${job}/prove?at=polarity`);
  await hydrated(page);
  await inHand(page).getByRole("button", { name: "B: right side turned round" }).click();
  await expect(inHand(page).getByRole("button", { name: "B: right side turned round" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await inHand(page).getByRole("button", { name: "Fuller as B" }).click();
  await expect(inHand(page).getByRole("heading", { name: /^Fader to the rear/ })).toBeVisible();
  await inHand(page).getByRole("button", { name: "Fuller as A" }).click();
  await expect(inHand(page).getByRole("heading", { name: "Right front: the two wires are exchanged" })).toBeVisible();
});

test("the sounds have their level in the browser as well: -20 dBFS by an offline context", async ({ page }) => {
  await signIn(page);
  await page.goto("/board");
  for (const [id, rms] of [
    ["pink", -20],
    ["opposite", -20],
    ["sweep", -20],
  ] as const) {
    const file = Buffer.from(wavFile(TEST_SIGNALS[id].make())).toString("base64");
    const level = await page.evaluate(async (wav) => {
      const bytes = Uint8Array.from(atob(wav), (c) => c.charCodeAt(0));
      const context = new OfflineAudioContext(2, 1, 48_000);
      const sound = await context.decodeAudioData(bytes.buffer);
      const offline = new OfflineAudioContext(2, sound.length, 48_000);
      const source = new AudioBufferSourceNode(offline, { buffer: sound });
      source.connect(offline.destination);
      source.start();
      const rendered = (await offline.startRendering()).getChannelData(0);
      let sum = 0;
      for (const s of rendered) sum += s * s;
      // A sine that just reaches full scale is 0 dBFS (AES17).
      return 20 * Math.log10(Math.sqrt(sum / rendered.length) * Math.SQRT2);
    }, file);
    expect(Math.abs(level - rms)).toBeLessThan(0.2);
  }
});
