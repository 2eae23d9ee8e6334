import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { hydrated, openJob, rows, signIn, take, test } from "./helpers";

/** From “which radio is this?” to a signed offer. */
test("a private owner's car is taken from the unknown radio to the signed offer", async ({ page }, info) => {
  test.setTimeout(180_000);
  await signIn(page, "counter@skerry.example");
  const job = await openJob(page, "Lighthouse road 4", "intake");
  const next = page.getByRole("complementary", { name: "Next action" });
  await expect(next).toContainText("Find out which radio it is");
  const finder = page.getByRole("region", { name: "Which radio is it?" });
  await expect(finder).toContainText("4 of 4 remain");

  // Without a kit no surface says that all is well.
  for (const surface of ["connect", "configure"]) {
    await page.goto(`${job}/${surface}`);
    await expect(page.getByText("No kit is chosen yet")).toBeVisible();
    await expect(page.getByText(/Nothing found|Nothing to set/)).toHaveCount(0);
  }
  await page.goto(`${job}/intake`);
  await hydrated(page);

  // What the counter can see from outside: a telephone key, no screen.
  await finder.getByRole("link", { name: "Cannot tell" }).click();
  await expect(finder.getByRole("list", { name: "Answers so far" })).toContainText("Cannot tell");
  await finder.getByRole("link", { name: /^Undo/ }).click();
  await expect(finder.getByRole("list", { name: "Answers so far" })).toHaveCount(0);
  const answers: Record<string, string> = {
    "Is there a key with a telephone on the radio?": "No",
    "Where is the screen?": "No screen, a text line",
    "How many knobs are on the radio?": "One",
    "Is there a disc slot?": "In the front",
    "Does the menu offer navigation?": "No",
  };
  const found = finder.getByRole("button", { name: "This is the radio" });
  for (let asked = 0; asked < 5 && (await found.count()) === 0; asked++) {
    const question = (await finder.getByRole("heading", { level: 3 }).textContent()) ?? "";
    await finder.getByRole("link", { name: answers[question] ?? "", exact: true }).click();
    await expect(finder.getByRole("heading", { level: 3, name: question })).toHaveCount(0);
  }
  await expect(finder).toContainText("Radio level 1, text line");
  await found.click();
  await expect(rows(page)).toContainText("Radio level 1, text line");
  await take(page, /^What the customer wants/);

  await page.getByLabel("Calls on the car's hands-free").check();
  await expect(page.getByRole("region", { name: "What the customer wants" })).toContainText("1 of");
  await page.goto(`${job}/fit`);
  await hydrated(page);
  await expect(rows(page)).toContainText("1 of 1 wishes");
  await rows(page).getByText("Do not fit").click();
  await expect(rows(page)).toContainText("listens to the phone key, which this radio does not have");

  await take(page, "Compare kits");
  await page.getByLabel(/^Ostrel Talk, with its own button/).check();
  await page.getByLabel(/^Hollinby radio level 3, used/).check();
  await page.getByRole("link", { name: "Compare 2 kits" }).click();
  await expect(page.getByRole("heading", { name: "Kits side by side" })).toBeVisible();
  await expect(page.getByRole("row", { name: /Calls on the car's hands-free/ }).getByText("Gained")).toHaveCount(2);
  await page.getByRole("link", { name: "Ostrel Talk, with its own button" }).click();
  await hydrated(page);

  await page.getByRole("button", { name: "Choose this kit" }).click();
  await expect(page.getByRole("button", { name: "Kit and choices are confirmed" })).toBeVisible();
  await expect(page.getByText("Ostrel Talk, with its own button").first()).toBeVisible();
  const href = await page.getByRole("link", { name: "Offer as PDF" }).getAttribute("href");
  const pdf = await page.request.get(href ?? "");
  const file = info.outputPath("offer.pdf");
  writeFileSync(file, await pdf.body());
  const text = execFileSync("pdftotext", ["-layout", file, "-"], { encoding: "utf8" }).replace(/\s+/g, " ");
  for (const wanted of [
    "Offer",
    "Hollinby Dunlin",
    "What you get",
    "Calls on the car's hands-free",
    "Signature of the customer",
    "€150",
  ])
    expect(text).toContain(wanted);

  await take(page, "The customer's word");
  await page.getByLabel("Name of the person who signed the offer").fill("A. Holm");
  await page.getByRole("button", { name: "Signed" }).click();
  await expect(rows(page).getByRole("link", { name: /^The customer's word ?, signed$/ })).toBeVisible();
  await take(page, "The customer's word");
  await expect(page.getByRole("region", { name: "The customer's word" })).toContainText("A. Holm");
});

test("a lost function is shown on its lane with the first hop that fails", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "fit");
  await page.getByLabel("Line input").check();
  await expect(page).toHaveURL(/soundPath=line/);
  await take(page, "Gained, kept, lost");
  await page.getByRole("link", { name: "Show where it stops" }).first().click();
  const why = page.getByRole("region", { name: /^Why not: / });
  await expect(why).toContainText("Stops here");
});

test("fault codes and firmware are read while they are typed or from the stand-in car", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "intake");
  await take(page, /^The car/);
  await page.getByLabel("Radio firmware").fill("Label 0VM-1 SW R2-118");
  await expect(page.getByText("version R2-118")).toBeVisible();
  await page.getByLabel("Fault codes before").fill("Radio\n01 33\nU0100 lost\nP9999");
  await expect(page.getByText("P0133", { exact: true })).toBeVisible();
  await expect(page.getByText(/Line 4, “P9999”/)).toBeVisible();
  await page.getByRole("button", { name: "Read from the stand-in car" }).click();
  await expect(page.getByLabel("Fault codes before")).toHaveValue(/^(Radio R2|Body computer):/);
  await page.getByRole("button", { name: "Save the car" }).click();
  await expect(page.getByRole("button", { name: "Save the car" })).toBeEnabled();
  await page.reload();
  await hydrated(page);
  await take(page, /^The car/);
  await expect(page.getByLabel("Radio firmware")).toHaveValue("Label 0VM-1 SW R2-118");
  await expect(page.getByText("version R2-118")).toBeVisible();
});
