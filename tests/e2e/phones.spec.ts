import { expect } from "@playwright/test";
import { hydrated, inHand, newJob, plugEverything, rows, signIn, take, test } from "./helpers";

/** The first pairing goes by kit, kind of phone and sound path; a phone that remembers the cable is met and cured. */
test("a phone that remembers the cable is paired all the same, and the card tells how", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Halden: phone on the screen",
    car: "Kestrane Halden, 2012 to 2017, manual",
    variant: "Radio K1, screen 800x480, line input",
    kit: "Orvanto OM-8 Ring",
  });
  await page.goto(`${job}/configure`);
  await hydrated(page);
  await take(page, "Pair the first phone");
  await expect(inHand(page).getByText("The module has no power.")).toBeVisible();
  await expect(inHand(page).getByRole("button", { name: "Tern phones" })).toBeDisabled();

  await plugEverything(page, job);
  await page.reload();
  await hydrated(page);
  await take(page, "Pair the first phone");
  await inHand(page).getByLabel("Which phone").fill("Nurse's phone");
  await inHand(page).getByRole("button", { name: "Tern phones" }).click();
  // The line input of this kit takes the pairing with the car away.
  await expect(inHand(page).getByRole("heading", { name: "Remove the phone's pairing with the car" })).toBeVisible();
  await inHand(page).getByRole("button", { name: "Removed on both sides, or never there" }).click();
  await expect(inHand(page).getByRole("heading", { name: /ever on the cable/ })).toBeVisible();
  await inHand(page).getByRole("button", { name: "Never" }).click();
  await expect(inHand(page).getByText("Setup, Phones, Add")).toBeVisible();
  await inHand(page).getByRole("button", { name: "Added" }).click();
  await inHand(page).getByRole("button", { name: "Accepted" }).click();
  await inHand(page).getByRole("button", { name: "Allowed" }).click();
  await inHand(page).getByRole("button", { name: "No picture" }).click();
  await expect(inHand(page).getByText("Restart the phone.")).toBeVisible();
  await expect(rows(page).getByRole("link", { name: /Nurse's phone.*not as it should/ })).toBeVisible();

  // An unfinished pairing is an open point.
  await page.goto(`${job}/handover`);
  await expect(page.getByText(/Pairing of Nurse's phone not finished/).first()).toBeVisible();

  await page.goto(`${job}/configure`);
  await hydrated(page);
  await take(page, /^Nurse's phone/);
  await inHand(page).getByRole("button", { name: "Done, go on" }).click();
  for (const seen of ["Added", "Accepted", "Allowed", "The picture is there", "Heard", "Both hear each other"])
    await inHand(page).getByRole("button", { name: seen, exact: true }).click();
  await expect(rows(page).getByRole("link", { name: /Nurse's phone.*paired/ })).toBeVisible();

  await page.goto(`${job}/handover`);
  await hydrated(page);
  await take(page, /card/i);
  await expect(
    page.getByText(/First pairing, Tern phones: Add the phone on the module's screen/).first(),
  ).toBeVisible();
  await expect(page.getByText(/Lapwing phones/)).toHaveCount(0);
});

/** A module that is blank, or loaded for another car, is found before it is fitted. */
test("what is loaded in a module is looked at before it is fitted", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Corrie: module loaded before",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R3 with wide screen 1280x480",
    kit: "Orvanto OM-9, loaded for the car",
  });
  await hydrated(page);
  await page.getByRole("textbox", { name: "Identification number" }).fill("0VMCO21AAAA123456");
  await page.getByRole("button", { name: "Save the car" }).click();
  await expect(page.getByRole("button", { name: "Save the car" })).toBeEnabled();
  await page.goto(`${job}/configure`);
  await hydrated(page);
  await take(page, /^Load the data of this car/);
  await inHand(page).getByRole("button", { name: "It is blank" }).click();
  await expect(inHand(page).getByText("Do not fit it: it does nothing of its own.")).toBeVisible();
  const number = inHand(page).getByLabel("Loaded for the identification number");
  await number.fill("999999");
  await inHand(page).getByRole("button", { name: "It is loaded" }).click();
  await expect(inHand(page).getByText("Do not fit it: it is loaded for another car.")).toBeVisible();
  await number.fill("12345");
  await inHand(page).getByRole("button", { name: "It is loaded" }).click();
  await expect(page.getByText(/too short to tell one car from another/)).toBeVisible();
  await number.fill("123456");
  await inHand(page).getByRole("button", { name: "It is loaded" }).click();
  await expect(inHand(page).getByText("For this car")).toBeVisible();
  await expect(rows(page).getByRole("link", { name: /^Load the data.*made/ })).toBeVisible();
});
