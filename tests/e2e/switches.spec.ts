import { expect, type Page } from "@playwright/test";
import { withLamp } from "../support/lamp-kit";
import { hydrated, inHand, newJob, plugEverything, rows, signIn, take, test } from "./helpers";

/** A photo of a bank of eight, held askew, drawn by the browser itself. */
function photo(page: Page): Promise<string> {
  return page.evaluate(() => {
    const canvas = document.createElement("canvas");
    canvas.width = 800;
    canvas.height = 500;
    const c = canvas.getContext("2d");
    if (!c) throw new Error("no canvas");
    c.fillStyle = "#ccc";
    c.fillRect(0, 0, 800, 500);
    c.fillStyle = "#224";
    c.beginPath();
    for (const [x, y] of [
      [120, 140],
      [660, 80],
      [700, 260],
      [100, 330],
    ] as const)
      c.lineTo(x, y);
    c.fill();
    return canvas.toDataURL("image/png").split(",")[1] ?? "";
  });
}

/** The bank is read from a photo by tapping, its power cycle runs by a clock, its history stays. */
test("a switch bank is read from a photo and power-cycled by the clock", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Halden: bank by photo",
    car: "Kestrane Halden, 2012 to 2017, manual",
    variant: "Radio K1, screen 800x480, line input",
    kit: "Orvanto OM-8 Ring",
  });
  await plugEverything(page, job);
  await page.goto(`${job}/configure`);
  await hydrated(page);
  await take(page, "Switch bank");
  await page.getByText("Read it from a photo").click();
  await page
    .getByLabel("Take or choose a photo")
    .setInputFiles({ name: "bank.png", mimeType: "image/png", buffer: Buffer.from(await photo(page), "base64") });
  await expect(inHand(page).getByText(/corner of the row of switches: upper left/)).toBeVisible();
  const picture = page.getByRole("img", { name: "Photo of the switch bank, to be tapped" });
  await picture.scrollIntoViewIfNeeded();
  const { width = 0, height = 0 } = (await picture.boundingBox()) ?? {};
  const scale = Math.min(width / 800, height / 500);
  const [left, top] = [(width - 800 * scale) / 2, (height - 500 * scale) / 2];
  const tap = (x: number, y: number) => picture.click({ position: { x: left + x * scale, y: top + y * scale } });
  for (const [x, y] of [
    [120, 140],
    [660, 80],
    [700, 260],
    [100, 330],
  ] as const)
    await tap(x, y);
  await expect(inHand(page).getByText(/lever of switch 1/)).toBeVisible();
  const takeOver = page.getByRole("button", { name: "Take these positions over" });
  await expect(takeOver).toBeDisabled();
  // Levers 1 and 8 are up, the others down.
  for (let i = 0; i < 8; i++) {
    const u = (i + 0.5) / 8;
    const v = i === 0 || i === 7 ? 0.28 : 0.72;
    await tap(120 + 540 * u + (-20 + 60 * u) * v, 140 - 60 * u + (190 - 10 * u) * v);
  }
  await expect(inHand(page).getByText("Every lever is read.")).toBeVisible();
  await takeOver.click();
  await expect(page.getByRole("switch", { name: "Switch 1" })).toHaveAttribute("aria-checked", "true");
  await expect(page.getByRole("switch", { name: "Switch 2" })).toHaveAttribute("aria-checked", "false");
  await expect(page.getByRole("switch", { name: "Switch 8" })).toHaveAttribute("aria-checked", "true");
  await page.getByRole("button", { name: "This is how it stands" }).click();
  await expect(page.getByRole("button", { name: "Saved" })).toBeVisible();
  await page.getByRole("switch", { name: "Switch 8" }).click();
  await page.getByRole("button", { name: "This is how it stands" }).click();
  // The bench goes on to what comes next.
  await expect(rows(page).getByRole("link", { name: /^Switch bank/ })).not.toHaveAttribute("aria-current", "true");
  await take(page, "Switch bank");
  await page.getByText(/^History/).click();
  await expect(inHand(page).getByText(/changed: 8/)).toBeVisible();

  // It was changed under power, which took its plug out first.
  await take(page, "Power cycle");
  await expect(inHand(page).getByRole("timer")).toBeVisible();
  await expect(page.getByRole("button", { name: "Plugged in again" })).toBeDisabled();
  await expect(rows(page).getByText("The plug is out")).toBeVisible();
  await expect(page.getByRole("button", { name: "Plugged in again" })).toBeEnabled({ timeout: 14_000 });
  await page.getByRole("button", { name: "Plugged in again" }).click();
  await expect(rows(page).getByText("Done after the last change")).toBeVisible();
});

test("what cannot be had together is chosen before a switch is drawn, and chosen again", async ({ page }) => {
  await signIn(page, "lead@skerry.example");
  await page.goto("/library/kit/orvanto-om8");
  const file = await page.locator('a[href$=".json"]').first().getAttribute("href");
  const kit = await (await page.request.get(file ?? "")).json();
  await page.goto("/library");
  await hydrated(page);
  await page.getByLabel("Profile file or bundle").setInputFiles({
    name: "lamp.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify(withLamp(kit))),
  });
  await page.getByRole("button", { name: "Import", exact: true }).click();
  await expect(page.getByText(/^Stored “Orvanto OM-8 with a lamp”/)).toBeVisible();
  await page.goto("/board");
  const job = await newJob(page, {
    title: "Corrie: a lamp as well",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 with a lamp",
  });
  const clash = /Lamp on the module cannot be had together/;

  await page.goto(`${job}/fit`);
  await expect(inHand(page)).toContainText(clash);
  const changes = page.getByRole("main").getByRole("listitem").filter({ hasText: "Lamp on the module" });
  await expect(changes.first()).toContainText("Not available");

  await page.goto(`${job}/configure`);
  await hydrated(page);
  await take(page, "What the car is to do without");
  await expect(inHand(page)).toContainText(clash);
  await take(page, "Switch bank");
  // Nothing is drawn before somebody has chosen.
  await expect(inHand(page)).toContainText(clash);
  await expect(page.getByRole("img", { name: /switch/i })).toHaveCount(0);
  await page.getByRole("button", { name: "Do without: Lamp on the module" }).click();
  await take(page, "Switch bank");
  await expect(inHand(page)).toContainText("This car does without: Lamp on the module");
  await page.getByRole("button", { name: "Choose again" }).click();
  await expect(page.getByRole("button", { name: "Do without: Lamp on the module" })).toBeVisible();
});
