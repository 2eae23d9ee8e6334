import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { recordOnCue } from "../../sim/on-cue";
import { openJob, signIn, test } from "./helpers";

async function record(page: Page) {
  await page.getByRole("button", { name: "Let the stand-in car do it" }).click();
  await expect(page.getByText(/What was done lies/)).toBeVisible({ timeout: 30_000 });
}

test("signals are found on cue, translated, and proven on a second recording", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Ferry office", "bus/hunt");
  await expect(page.getByRole("img", { name: "wheel keys: 12 cues" })).toBeVisible();
  await record(page);
  await expect(page.getByText("2C0, byte 0, bits 0 to 2", { exact: true })).toBeVisible();
  await expect(page.getByText("305, byte 0, 16 bits, high byte first")).toBeVisible();
  for (const [i, name] of ["WheelKeys", "Selector", "Lights", "SteeringAngle"].entries()) {
    await page.getByRole("button", { name: `Keep as ${name}` }).click();
    await expect(page.getByText(/^Kept as/)).toHaveCount(i + 1);
  }
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Bus description" }).click(),
  ]);
  const dbc = readFileSync(await download.path(), "utf8");
  expect(dbc).toContain("SG_ SteeringAngle : 7|16@0- (0.1,0)");
  expect(dbc).toMatch(/VAL_ 704 WheelKeys 0 "none" 1 "volume up"/);

  await page.getByRole("link", { name: "Translation" }).click();
  await page.getByRole("button", { name: "Begin with the signals that are known" }).click();
  await expect(page.getByText("Selector = R")).toBeVisible();
  // What cannot be is said at the rule, and is not saved.
  await page.getByRole("button", { name: "Reverse", exact: true }).click();
  await page.getByLabel("Comparison").selectOption(">");
  await page.getByRole("spinbutton", { name: "Value" }).fill("3");
  await expect(page.getByText("Its condition can never hold, so it never switches on.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Save the translation" })).toBeDisabled();
  await page.getByLabel("Comparison").selectOption("=");
  await page.getByLabel("Value", { exact: true }).selectOption("1");
  await page.getByRole("button", { name: "Save the translation" }).click();
  await expect(page.getByText("What was found in a log always fits it.")).toBeVisible();

  await page.getByRole("link", { name: "Find signals" }).click();
  await page.getByRole("button", { name: "Record again" }).click();
  await record(page);
  await page.getByRole("link", { name: "Translation" }).click();
  await page.getByRole("button", { name: "Prove it on this recording" }).click();
  await expect(page.getByText("Proven", { exact: true })).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole("row", { name: /Reverse 3 of 3/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /Steering angle 9 of 9/ })).toBeVisible();
  await expect(page.getByRole("img", { name: "Reverse: 3 cues, on 3 times" })).toBeVisible();
});

test("the cues of a log that is there already are tapped along", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Lighthouse road 4", "bus");
  const atS = [3, 6, 9.5];
  const cues = atS.map((s) => ({ thing: "wheelKeys", label: "volume up", fromS: s, toS: s + 1.2 }));
  const { log } = recordOnCue(cues, { seed: 5, startS: 1_700_000_000 });
  await page
    .getByLabel("Upload a log or a bus description")
    .setInputFiles({ name: "video.log", mimeType: "text/plain", buffer: Buffer.from(log) });
  await expect(page.getByText("video.log: stored.")).toBeVisible();
  await page.getByRole("link", { name: "Find signals" }).click();
  await page.getByLabel("Give the cues of a stored log").selectOption("video.log");
  await page.getByRole("button", { name: "Start now" }).click();
  // A touch counts from the moment that the browser gives it: that moment is set, not waited for.
  await page.getByRole("button", { name: "volume up" }).evaluate((key, atS) => {
    const began = performance.now();
    const touch = (name: string, s: number) => {
      const event = new PointerEvent(name, { bubbles: true });
      Object.defineProperty(event, "timeStamp", { value: began + 1000 * s });
      key.dispatchEvent(event);
    };
    for (const s of atS) {
      touch("pointerdown", s);
      touch("pointerup", s + 1.2);
    }
  }, atS);
  await expect(page.getByText("3 cues", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Take these cues" }).click();
  await expect(page.getByText(/2C0, byte 0, bit 0/).first()).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole("img", { name: /0 missed, 0 without a cue/ })).toBeVisible();
});
