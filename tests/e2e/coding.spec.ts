import { expect, type Page } from "@playwright/test";
import { hydrated, inHand, openJob, rows, signIn, take, test } from "./helpers";

/** Presses a button of the thing in hand and waits until the act has ended with these words. */
async function act(page: Page, name: string | RegExp, words: string | RegExp): Promise<void> {
  const allow = page.getByRole("button", { name: /^Allow sending/ });
  if ((await allow.count()) > 0) await allow.click();
  const button = inHand(page).getByRole("button", { name });
  await expect(button).toBeEnabled();
  await button.click();
  await expect(inHand(page).getByRole("status")).toContainText(words, { timeout: 15_000 });
}

/** Reads the word in hand, which then says how it stands. */
async function readWord(page: Page, word: string): Promise<void> {
  await take(page, word);
  await act(page, "Read from the car", "Read.");
  await expect(inHand(page).getByText("Now", { exact: true })).toBeVisible();
}

const next = (page: Page) => page.getByRole("complementary", { name: "Next action" });

/** The radio of a sister car: found, listed, its code predicted, seen, avoided; a fault while writing; the way back. */
test("a sister-car radio is added to the gateway and coded", async ({ page }) => {
  test.setTimeout(180_000);
  await signIn(page);
  const job = await openJob(page, "Mail van 2", "configure");
  await expect(next(page)).toContainText("gateway's list");
  await page.getByRole("button", { name: /use the coding map/ }).click();

  // Nothing is sent before the person allows it; the radio that is not listed is silent.
  await take(page, "Control units");
  await expect(inHand(page).getByText("Listening only")).toBeVisible();
  await expect(page.getByRole("button", { name: "Scan the car" })).toBeDisabled();
  await act(page, "Scan the car", "Every unit was asked");
  await expect(rows(page).getByText("5 of 6 answer")).toBeVisible();
  await expect(inHand(page).getByText("Silent: not in the gateway's list?")).toBeVisible();
  await expect(inHand(page).getByText(/Seen, never written here: it is part of the airbag/)).toBeVisible();

  await readWord(page, "Gateway: List of fitted units");
  // What the list needs of another word is not known yet, so nothing is proposed.
  await expect(page.getByRole("button", { name: /^Write/ })).toHaveCount(0);
  await expect(inHand(page).getByText("Cannot be judged yet")).toBeVisible();
  await expect(inHand(page).getByText("Read first: Gateway: Buses.")).toBeVisible();
  await readWord(page, "Gateway: Buses");
  const buses = page.getByRole("button", { name: /^Write 1 change/ });
  if ((await buses.count()) > 0) await act(page, /^Write/, "read back as it was sent");

  // A supply that is too low, then one that is not: nothing was written in between.
  await take(page, "Gateway: List of fitted units");
  await expect(inHand(page).getByText(/^For Factory picture, /)).toBeVisible();
  await page.getByText("Practise with a fault").click();
  await page.getByLabel("Supply of the stand-in car, V").fill("11.9");
  await act(page, /^Write/, "The supply is 11.9 V");
  await expect(inHand(page).getByRole("status")).toContainText("Nothing was written");
  await page.getByLabel("Supply of the stand-in car, V").fill("13.1");

  await act(page, /^Write/, "read back as it was sent");
  await expect(inHand(page).getByText("Stands as it should")).toBeVisible();

  // Now the radio answers, with the code that was predicted.
  await readWord(page, "Radio: Sound");
  await readWord(page, "Radio: Vehicle");
  await take(page, "Radio: Sound");
  await expect(inHand(page)).toContainText(/predicted as it stands: .*B1A15.* After the change: none/);
  await take(page, "Control units");
  await act(page, "Scan again", "Every unit was asked");
  await expect(inHand(page).getByText("as predicted")).toBeVisible();
  await expect(rows(page).getByText("6 of 6 answer")).toBeVisible();

  await take(page, "Radio: Sound");
  // It loses its supply in the middle: how it stands is not known, then read as something that cannot be; restored.
  await page.getByText("Practise with a fault").click();
  await page.getByLabel("What goes wrong").selectOption("losesSupply");
  await act(page, /^Write 1 change/, "how it stands is not known");
  await expect(inHand(page).getByText("How this word stands is not known.")).toBeVisible();
  await page.getByLabel("What goes wrong").selectOption("");
  await page.getByRole("button", { name: "Ignition off and on" }).click();
  await act(page, "Read from the car", "Read.");
  await expect(inHand(page).getByText(/cannot be this word: its check byte/)).toBeVisible();
  await act(page, /^Restore/, "read back as it was sent");
  await expect(inHand(page).getByText("To change")).toBeVisible();
  await act(page, /^Write 1 change/, "read back as it was sent");
  await expect(next(page)).toContainText("Scan the control units again");
  await take(page, "Control units");
  await act(page, /^Clear codes/, "Codes cleared");
  await act(page, "Scan again", "Every unit was asked");
  await expect(inHand(page).getByText("B1A15")).toHaveCount(0);
  await expect(next(page)).not.toContainText("Scan the control units");

  // The first word can be had back; the plan then wants the change again.
  await take(page, "Radio: Sound");
  await page.getByText("History").click();
  await page.getByRole("button", { name: "Restore" }).first().click();
  await expect(inHand(page).getByText("To change")).toBeVisible({ timeout: 15_000 });

  // Every frame is kept: the job is exported with its sessions as logs that other tools read.
  const file = await (await page.request.get(`${job}/export.json`)).json();
  const sessions = file.entries.filter((e: { kind: string }) => e.kind === "configure.session");
  expect(sessions.length).toBeGreaterThan(8);
  expect(sessions[0].data.log).toMatch(/^\(\d+\.\d{6}\) can0 710#0322F18755555555\n/);
  expect(file.documents.others.map((d: { id: string }) => d.id)).toContain("kestrane-fjell-11-words");
});

test("a word read with another tool is typed in, and a wrong one is refused by name", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Mail van 2", "configure");
  const use = page.getByRole("button", { name: /use the coding map/ });
  if ((await use.count()) > 0) await use.click();
  await take(page, "Instrument cluster: Menu");
  await page.getByText("Read with another tool").click();
  const field = page.getByLabel("The word as it was read");
  await field.fill("80 01");
  await page.getByRole("button", { name: "Enter", exact: true }).click();
  await expect(page.getByText(/2 bytes, in the coding map 3/)).toBeVisible();
  await field.fill("0x80,01-82");
  await page.getByRole("button", { name: "Enter", exact: true }).click();
  await expect(page.getByText(/its check byte is 82; the others give 81/i)).toBeVisible();
  await field.fill("8001 81");
  await page.getByRole("button", { name: "Enter", exact: true }).click();
  await expect(inHand(page).getByText("mph and °F")).toBeVisible();
});

test("a coding map is read in the library", async ({ page }) => {
  await signIn(page);
  await page.goto("/library?kind=coding");
  await hydrated(page);
  await page.getByRole("link", { name: /Kestrane Fjell.*coded words/ }).click();
  await expect(page.getByRole("heading", { name: "Gateway" })).toBeVisible();
  await expect(page.getByText("Never written here: it is part of the brakes.")).toBeVisible();
  await expect(page.getByRole("row", { name: /Tweeters watched/ })).toContainText("0: no, 1: yes");
});

test("the maker's table is held against the switch bank while it is typed", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "configure");
  await take(page, "Switch bank");
  await page.getByText("Compare with the maker's table").click();
  const table = page.getByLabel("The row for this car");
  await table.fill("1 on, 99 off, red");
  await expect(inHand(page).getByText("Not read: 99 off, red.")).toBeVisible();
  await expect(inHand(page).getByText("It says nothing of 2, 3, 4, 5, 6, 7 and 8.")).toBeVisible();
});
