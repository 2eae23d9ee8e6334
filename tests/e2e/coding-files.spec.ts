import { expect } from "@playwright/test";
import { hydrated, inHand, newJob, rows, signIn, take, test } from "./helpers";

const LEAFLET = `Radio, 7A3, 7AB
Word 0600 Sound, 4 bytes, xor byte 3
Byte 0 bits 0-1: Loudspeakers, 0 two in front, 1 four
Byte 1 bit 5: Tweeters watched, 0 no, 1 yes
Something else that the leaflet says
Byte 9: too far`;

/** A coding map begins with its car, is pasted from a leaflet, mended by a table, released and given out as a table. */
test("a coding map is entered from a leaflet and comes back as a table", async ({ page }) => {
  await signIn(page, "lead@skerry.example");
  await page.goto("/library/new");
  await hydrated(page);
  await page.getByLabel("Which car").selectOption({ label: "Hollinby Marrow, 2015 to 2019, automatic" });
  await page.getByRole("button", { name: "New coding map" }).click();
  await page.waitForURL(/drafts/);
  await hydrated(page);
  await page.getByRole("button", { name: "Control units and their words" }).click();
  await page.getByText("Paste a table or a leaflet").click();
  await page.getByLabel(/A table with the columns/).fill(LEAFLET);
  await expect(page.getByText("2 fields in 1 word of 1 control unit read.")).toBeVisible();
  await expect(page.getByText(/Line 5: It says no control unit/)).toBeVisible();
  await expect(page.getByText(/Line 6: .*outside its word of 4 bytes/)).toBeVisible();
  await page.getByRole("button", { name: "Take over 2 fields" }).click();
  await expect(page.getByText("Draft, saved")).toBeVisible();
  await page.getByRole("button", { name: "Put into the library" }).click();
  await page.waitForURL(/library\/coding\//);
  await expect(page.getByRole("row", { name: /Tweeters watched/ })).toContainText("0: no, 1: yes");
  const href = await page.getByRole("link", { name: "Table (CSV)" }).getAttribute("href");
  const table = await (await page.request.get(href ?? "")).text();
  expect(table.split("\r\n")[1]).toMatch(/^Radio,7A3,7AB,Sound,0600,4,xor byte 3,Loudspeakers,0,0,2,,/);
});

/** Forty control units: each shows as it answers, and the scan can be stopped half way. */
test("a scan of forty units shows each one as it answers", async ({ page }) => {
  test.setTimeout(180_000);
  await signIn(page, "lead@skerry.example");
  await page.goto("/library/new");
  await hydrated(page);
  await page.getByLabel("Which car").selectOption({ label: "Sundrey Vale, 2017 to 2021, automatic" });
  await page.getByRole("button", { name: "New coding map" }).click();
  await page.waitForURL(/drafts/);
  await hydrated(page);
  await page.getByRole("button", { name: "Control units and their words" }).click();
  await page.getByText("Paste a table or a leaflet").click();
  const hex = (n: number) => n.toString(16).toUpperCase();
  const units = Array.from(
    { length: 40 },
    (_, i) => `Unit number ${i + 1}, ${hex(0x600 + 2 * i)}, ${hex(0x601 + 2 * i)}\nWord 0600 Word, 2 bytes`,
  );
  await page.getByLabel(/A table with the columns/).fill(units.join("\n"));
  await page.getByRole("button", { name: "Take over 0 fields" }).click();
  await expect(page.getByText("Draft, saved")).toBeVisible();
  await page.getByRole("button", { name: "Put into the library" }).click();
  await page.waitForURL(/library\/coding\//);

  await page.goto("/board");
  await page.getByRole("link", { name: "New job" }).click();
  await page.getByLabel("Job", { exact: true }).fill("Vale: forty units");
  await page.getByLabel("Car", { exact: true }).selectOption({ label: "Sundrey Vale, 2017 to 2021, automatic" });
  await page.getByLabel("Radio variant").selectOption({ label: "Radio V1, 800x480, standard amplifier" });
  await page.getByLabel("Kit", { exact: true }).selectOption({ label: "Sundrey Wide 10 module and screen" });
  await page.getByLabel(/^Practice/).check();
  await page.getByRole("button", { name: "Open the job" }).click();
  await page.waitForURL(/intake$/);
  await page.goto(page.url().replace("/intake", "/configure"));
  await hydrated(page);
  await take(page, "Coding map");
  await page.getByRole("button", { name: /^Use: Sundrey Vale/ }).click();
  await take(page, "Control units");
  await inHand(page)
    .getByRole("button", { name: /^Allow sending/ })
    .click();
  await inHand(page).getByRole("button", { name: "Scan the car" }).click();
  // The first ones answer while the last ones are still to be asked.
  await expect(inHand(page).getByText("Answers", { exact: true }).first()).toBeVisible();
  expect(await inHand(page).getByText("Not scanned").count()).toBeGreaterThan(10);
  await inHand(page).getByRole("button", { name: "Stop" }).click();
  await expect(inHand(page).getByText(/of 40 units were scanned; nothing was written/)).toBeVisible();
  await inHand(page).getByRole("button", { name: "Scan again" }).click();
  await expect(inHand(page).getByText("Every unit was asked.")).toBeVisible({ timeout: 100_000 });
  await expect(rows(page).getByText("40 of 40 answer")).toBeVisible();
});

/** Words of another tool come in at once, are saved, and two states are held against each other. */
test("words are taken from a text, compared and saved", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Fjell: words from another tool",
    car: "Kestrane Fjell, 2009 to 2014, manual",
    variant: "Radio F1 with text line",
    kit: "Kestrane S4 radio with adapter lead",
  });
  await page.goto(`${job}/configure`);
  await hydrated(page);
  await page
    .getByRole("button", { name: /use the coding map/ })
    .first()
    .click();
  await take(page, "Control units");
  const box = inHand(page);
  await box.getByText("Save words, or take them from a file").click();
  const field = box.getByLabel(/^Words as they were read elsewhere/);
  await field.fill("Instrument cluster: Menu 0x80 01 81\n0600: 01\nheater: 00");
  await expect(box.getByText(/Line 2: 0600 is the identifier of several words/)).toBeVisible();
  await expect(box.getByText(/Line 3: “heater: 00” names no word/)).toBeVisible();
  await box.getByRole("button", { name: "Take over 1 word" }).click();
  await field.fill("Instrument cluster: Menu: 80 00 80");
  await box.getByRole("button", { name: "Take over 1 word" }).click();
  await expect(box.getByText("as known already")).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    box.getByRole("button", { name: "Text" }).click(),
  ]);
  const saved = await (await import("node:fs/promises")).readFile((await download.path()) ?? "", "utf8");
  expect(saved).toMatch(/^cluster\.menu [0-9A-F]{4}: 80 00 80 {2}# Instrument cluster: Menu/m);

  await take(page, "Instrument cluster: Menu");
  await inHand(page).getByText("History").click();
  await inHand(page).getByRole("button", { name: "Compare" }).first().click();
  await expect(inHand(page).getByText("Choose a second one")).toBeVisible();
  await inHand(page).getByRole("button", { name: "Compare", exact: true }).first().click();
  const compared = page.getByRole("region", { name: "Compared" });
  await expect(compared).toContainText(/Units: mph and °F.*km\/h and °C/);
  await expect(rows(page).getByRole("link", { name: /Instrument cluster: Menu/ })).toBeVisible();
});
