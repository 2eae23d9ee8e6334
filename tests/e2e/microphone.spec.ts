import { writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { TEST_SIGNALS, wavFile } from "../../core/sound/test-signals";
import config from "../../playwright.config";
import { inHand, noViolations, openJob, signIn, take } from "./helpers";

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
  await openJob(page, "car 7", "prove?at=polarity");
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
