import { expect, type Page, test } from "@playwright/test";
import { hydrated, openJob, signIn } from "./helpers";

test("a missing accessory feed is found at the fuse panel, fused, wired and measured", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "connect");
  await page.getByRole("link", { name: "Feed, wire, battery, meter readings" }).click();
  await hydrated(page);
  const feeds = page.getByRole("region", { name: "Switched feed from the fuse panel" });
  await expect(feeds).toContainText("Never touched: F1 Airbag unit");
  await expect(feeds).toContainText("F9 Low beam left");

  await answer(page, "F8, Ignition on: Dark");
  await expect(feeds.getByText("Dark with the ignition on.")).toBeVisible();
  await answer(page, "F10, Ignition on: Lit");
  await answer(page, "F10, Key off, car asleep: Dark");
  await answer(page, "F10, Key off again, driver's door opened: Dark");
  await feeds.getByRole("button", { name: "Take F10" }).click();
  await expect(feeds.getByText("Taken")).toBeVisible();
  await expect(feeds).toContainText("Tap, mini: 10 A red stays, 2 A grey for the kit.");

  const budget = page.getByRole("region", { name: "Load, wire, battery" });
  await expect(budget).toContainText("0.35 mm²");
  await budget.getByLabel("Feed wire, m").fill("19");
  await expect(budget).toContainText("the drop asks for it");
  await budget.getByLabel("Feed wire, m").fill("-2");
  await expect(budget.getByText("Above 0, up to 20.")).toBeVisible();

  const readings = page.getByRole("region", { name: "Meter readings" });
  const value = readings.getByLabel(/^Reading/);
  await value.fill("twelve");
  await expect(readings.getByText(/not a number. Write it like 12,4/)).toBeVisible();
  await value.fill("12,4");
  await expect(readings.getByText("As a resting battery gives.")).toBeVisible();
  await readings.getByRole("button", { name: "Keep" }).click();
  await expect(readings.getByText("12.4 V")).toBeVisible();
  await readings.getByLabel("What is measured").selectOption({ label: "Resistance across the bus pair" });
  await value.fill("120");
  await expect(readings.getByText(/One terminator is missing/)).toBeVisible();
});

test("a lead that is too short is found at planning, with what its length is made of", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "connect");
  await page.getByRole("link", { name: /Lengths and small material.*1 lead too short/ }).click();
  await hydrated(page);
  await expect(page.getByText("Known before the dash is open: USB lead.")).toBeVisible();
  const usb = page.getByRole("listitem").filter({ hasText: "USB lead" }).first();
  await expect(usb).toContainText("Too short by 30 cm");
  await usb.getByText("How long it must be").click();
  await expect(usb).toContainText("Service loop at console space");
  await expect(page.getByRole("region", { name: "Small material" })).toContainText("Ties");
});

async function answer(page: Page, name: string): Promise<void> {
  const button = page.getByRole("button", { name, exact: true });
  await button.click();
  await expect(button).toHaveCount(0);
}
