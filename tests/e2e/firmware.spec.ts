import { expect, test } from "@playwright/test";
import { hydrated, inHand, newJob, rows, signIn, take } from "./helpers";

/** A floor that is not met: supply guarded, broken off, saved; what the version changed is made good. */
test("a radio is updated, and the loudspeakers that it exchanges are put right", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Owner's Osk: phone in the old radio",
    car: "Velmora Osk, 2016 to 2020, automatic",
    variant: "Radio O1, 1024x600, mirroring after update",
    kit: "Velmora socket upgrade B",
  });
  await hydrated(page);
  await page.getByLabel("Radio firmware").fill("Screen: FW:O1-2.4");
  await page.getByRole("button", { name: "Save the car" }).click();
  await expect(page.getByText("Saved").or(page.getByText("O1-2.4")).first()).toBeVisible();

  await page.goto(`${job}/fit`);
  await hydrated(page);
  await take(page, "What it takes");
  await expect(page.getByText(/Firmware O1-2.4 → O1-3.1/).first()).toBeVisible();
  await expect(page.getByText(/left and right are exchanged/).first()).toBeVisible();

  await page.goto(`${job}/configure`);
  await hydrated(page);
  await take(page, /^Update to O1-3.1/);
  await expect(inHand(page).getByText("The loudspeakers left and right are exchanged")).toBeVisible();
  const supply = page.getByLabel("Supply at the battery, V");
  await supply.fill("11,8");
  await page.getByRole("button", { name: "Start the update" }).click();
  await expect(page.getByText(/11.8 V is too little/)).toBeVisible();
  await supply.fill("13,2");
  await page.getByRole("button", { name: "Start the update" }).click();
  await expect(inHand(page).getByRole("timer")).toBeVisible();
  await page.getByRole("button", { name: "It broke off" }).click();
  await expect(inHand(page).getByRole("heading", { name: "Which version the radio has is not known" })).toBeVisible();
  await supply.fill("13.4");
  await page.getByRole("button", { name: "Start it again" }).click();
  await page.getByRole("button", { name: "The version screen says O1-3.1" }).click();
  await expect(rows(page).getByRole("link", { name: /Firmware O1-3.1/ })).toBeVisible();

  // What follows from the version is done; the contacts are still to be moved.
  await expect(rows(page).getByRole("link", { name: /^Mirroring is open.*made/ })).toBeVisible();
  await take(page, /^Move the eight loudspeaker contacts/);
  await page.getByRole("button", { name: "Made", exact: true }).click();
  await expect(rows(page).getByText("2 of 2")).toBeVisible();
});
