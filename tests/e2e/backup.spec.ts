import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { hydrated, noViolations, signIn, test } from "./helpers";

test("the lead backs the shop up and takes the copy along", async ({ page }) => {
  await signIn(page, "lead@skerry.example");
  await page.goto("/board");
  await page.getByRole("link", { name: "Backup of the shop" }).click();
  await hydrated(page);
  await page.getByRole("button", { name: "Back up now" }).click();
  const save = page.getByRole("link", { name: "Save it elsewhere" }).first();
  await expect(save).toBeVisible();
  await expect(page.getByText("Read to its end").first()).toBeVisible();
  await noViolations(page);
  const coming = page.waitForEvent("download");
  await save.click();
  const download = await coming;
  expect(download.suggestedFilename()).toMatch(/^iteron-\d{8}-\d{6}\.backup$/);
  const bytes = readFileSync((await download.path()) ?? "");
  expect(bytes.subarray(0, 13).toString()).toBe("manifest.json");
  expect(bytes.subarray(257, 262).toString()).toBe("ustar");

  // Months later: is the copy still one?
  const copy = page.locator('input[type="file"]');
  await copy.setInputFiles({ name: "kept.backup", mimeType: "application/x-tar", buffer: bytes });
  await expect(page.getByText(/^Whole: this shop as it was on /)).toBeVisible();
  const spoilt = Buffer.from(bytes);
  spoilt[Math.floor(spoilt.length / 2)] = (spoilt[Math.floor(spoilt.length / 2)] ?? 0) ^ 0x55;
  await copy.setInputFiles({ name: "spoilt.backup", mimeType: "application/x-tar", buffer: spoilt });
  await expect(page.getByText("Not to be relied on")).toBeVisible();
  await expect(page.getByText(/^spoilt\.backup: /)).toBeVisible();
});

test("nobody else finds a way to it", async ({ page }) => {
  await signIn(page);
  await page.goto("/board");
  await expect(page.getByRole("heading", { name: "Board" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Backup of the shop" })).toHaveCount(0);
  await page.goto("/backup");
  await expect(page.getByText("This needs the role lead")).toBeVisible();
});
