import { expect, type Page } from "@playwright/test";
import { hydrated, newJob, rows, signIn, signInByForm, take, test } from "./helpers";

/** The session is gone while the page is open, as after a night. */
const sessionEnds = (page: Page) => page.context().clearCookies();

/** Signs in again in another tab. */
async function again(page: Page) {
  const tab = await page.context().newPage();
  await signInByForm(tab);
  await tab.close();
}

test("a car sheet that is saved after the session has ended is kept, and sent after signing in again", async ({
  page,
}) => {
  await signIn(page);
  const href = await newJob(page, {
    title: "Typed sheet",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  await page.goto(`${href}/intake`);
  await hydrated(page);
  await rows(page)
    .getByRole("link", { name: /^The car/ })
    .click();
  await expect(page.getByText("This job is kept on this device.")).toBeAttached({ timeout: 20_000 });
  const note = page.getByLabel("Note");
  await note.fill("Customer waits, key in the drawer");
  await sessionEnds(page);
  await page.getByRole("button", { name: "Save the car" }).click();
  await expect(page.getByText(/Sign in again, 1 kept here/)).toBeVisible();
  await expect(note).toHaveValue("Customer waits, key in the drawer");
  await again(page);
  await expect(page.getByText(/kept here/)).toHaveCount(0, { timeout: 20_000 });
  await page.reload();
  await expect(page.getByLabel("Note")).toHaveValue("Customer waits, key in the drawer");
});

test("a form outside of a job stays with its words until somebody has signed in again", async ({ page }) => {
  await signIn(page);
  await page.goto("/jobs/new");
  await hydrated(page);
  await page.getByLabel("Job", { exact: true }).fill("Typed before the night");
  await page.getByLabel("Car", { exact: true }).selectOption({ index: 1 });
  await sessionEnds(page);
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page.getByText(/session has ended\. What you typed stays here/)).toBeVisible();
  await expect(page.getByLabel("Job", { exact: true })).toHaveValue("Typed before the night");
  await again(page);
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page).toHaveURL(/\/intake/);
  await expect(page.getByText("Typed before the night").first()).toBeVisible();
});

test("a count of the shelf stays in its field until somebody has signed in again", async ({ page }) => {
  await signIn(page);
  const href = await newJob(page, {
    title: "Counted at night",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  await page.goto(`${href}/connect/lengths`);
  await hydrated(page);
  await take(page, /^Consumables/);
  const count = page.getByRole("button", { name: /^Count the shelf: / }).first();
  const what = (await count.getAttribute("aria-label")) ?? "";
  await count.click();
  const shelf = page.getByLabel(/^On the shelf/);
  await shelf.fill("twelve");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "as a number" })).toBeVisible();
  await shelf.fill("1234");
  await sessionEnds(page);
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText(/session has ended\. What you typed stays here/)).toBeVisible();
  await expect(shelf).toHaveValue("1234");
  await again(page);
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(shelf).toBeHidden();
  await expect(page.getByRole("listitem").filter({ has: page.getByRole("button", { name: what }) })).toContainText(
    /shelf 1234/,
  );
});
