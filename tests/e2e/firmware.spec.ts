import { expect } from "@playwright/test";
import { hydrated, inHand, newJob, plugEverything, rows, signIn, stands, take, test } from "./helpers";

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
  await expect(inHand(page).getByText(/the ignition is not on/)).toBeVisible();
  await inHand(page).getByRole("button", { name: "Ignition on, engine off, maintainer connected" }).click();
  await expect(inHand(page).getByText(/the ignition is not on/)).toHaveCount(0);
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

/** The ritual of the programming plug: too soon, pulled too early, and the car that does not leave with it. */
test("a programming plug is watched until it may come out", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Vale: bigger screen",
    car: "Sundrey Vale, 2017 to 2021, automatic",
    variant: "Radio V1, 800x480, standard amplifier",
    kit: "Sundrey Wide 10 module and screen",
  });
  await plugEverything(page, job);
  await stands(page, job, { key: "on", maintainer: true });
  await page.goto(`${job}/configure`);
  await hydrated(page);
  await take(page, /^Tell the car of the new module/);
  await page.getByRole("button", { name: "Ignition is on" }).click();
  await expect(page.getByRole("button", { name: "Plugged in" })).toBeDisabled();
  await expect(page.getByRole("button", { name: "Plugged in" })).toBeEnabled({ timeout: 14_000 });
  await page.getByRole("button", { name: "Plugged in" }).click();
  await expect(inHand(page).getByText("Never pull it out while it writes")).toBeVisible();
  await page.getByRole("button", { name: "The lamp blinks" }).click();
  await expect(page.getByRole("button", { name: "The lamp blinks" })).toBeHidden();

  await page.goto(`${job}/handover`);
  await hydrated(page);
  await expect(page.getByText("The programming plug is still in the diagnostic socket.").first()).toBeVisible();

  await page.goto(`${job}/configure`);
  await hydrated(page);
  await take(page, /^Tell the car of the new module/);
  await page.getByRole("button", { name: "Taken out" }).click();
  await expect(inHand(page).getByRole("heading", { name: "Taken out too early" })).toBeVisible();
  await expect(inHand(page).getByText("The car may know half of it.")).toBeVisible();
  await expect(rows(page).getByRole("link", { name: /^Tell the car.*to do/ })).toBeVisible();
});
