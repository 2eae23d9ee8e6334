import { expect, type Page } from "@playwright/test";
import { SURFACES } from "../support/surfaces";
import { hydrated, noViolations, openJob, signIn, signInByForm, take, test } from "./helpers";

for (const look of ["light", "dark"] as const) {
  test(`no accessibility violation and nothing wider than the screen, ${look}`, async ({ browser }) => {
    test.setTimeout(240_000);
    const context = await browser.newContext({
      colorScheme: look,
      viewport: look === "light" ? { width: 1280, height: 800 } : { width: 390, height: 844 },
      bypassCSP: true,
    });
    const page = await context.newPage();
    await page.goto("/sign-in");
    await noViolations(page);
    await signInByForm(page);
    await noViolations(page);
    for (const place of [
      "/library",
      "/library/kit/brackwater-duo",
      "/library/new",
      "/library/new?from=pellimar-inlay-5",
      "/library/colours",
    ]) {
      await page.goto(place);
      await hydrated(page);
      await noViolations(page);
      expect([place, await overflow(page)]).toEqual([place, 0]);
    }
    await openJob(page, "Lighthouse road 4", "intake");
    await noViolations(page);
    const job = await openJob(page, "car 2");
    for (const surface of SURFACES) {
      await page.goto(`${job}/${surface}`);
      await hydrated(page);
      if (surface === "bus") await expect(page.getByRole("row", { name: /Selector/ })).toBeVisible();
      await noViolations(page);
      expect([surface, await overflow(page)]).toEqual([surface, 0]);
    }
    await page.goto(`${job}/learned`);
    await hydrated(page);
    await noViolations(page);
    const waiting = await openJob(page, "Harbour taxi 3");
    await page.goto(`${waiting}/hands`);
    await hydrated(page);
    for (let step = 0; step < 9; step++) await page.getByRole("button", { name: "Step after" }).click();
    await noViolations(page);
    expect(["hands", await overflow(page)]).toEqual(["hands", 0]);
    await page.getByRole("button", { name: "Differs" }).click();
    await noViolations(page);
    await context.close();
  });
}

/** Pixels by which the page is wider than the screen. */
function overflow(page: Page): Promise<number> {
  return page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
}

test("works from the keyboard alone", async ({ page }) => {
  await signIn(page);
  await page.goto("/board");
  await hydrated(page);
  await page.keyboard.press("Tab");
  await expect(page.getByRole("link", { name: "Skip to the content" })).toBeFocused();
  await openJob(page, "car 2", "configure");
  await page
    .getByRole("navigation", { name: "Stages of the job", exact: true })
    .getByRole("link", { name: "Prove" })
    .focus();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/prove$/);
});

test("the look is switched by hand and remembered", async ({ page }) => {
  await signIn(page);
  await page.goto("/board");
  await hydrated(page);
  await page.getByRole("button", { name: /bay light and cab dark/ }).click();
  await expect(page.locator("html")).toHaveAttribute("data-look", "dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-look", "dark");
});

test("on paper there is what is in hand with its drawings, dark on light, and nothing to press", async ({ page }) => {
  // As wide as a sheet: on a screen of this width the drawings are in a sheet of their own.
  await page.setViewportSize({ width: 794, height: 1123 });
  await signIn(page);
  await openJob(page, "car 7", "strip");
  await page.emulateMedia({ media: "print", colorScheme: "dark" });
  await expect(page.getByRole("img", { name: /^Dash from the seats/ })).toBeVisible();
  await expect(page.getByRole("heading", { level: 2 }).first()).toBeVisible();
  await expect(page.getByRole("button")).toHaveCount(0);
  expect(await page.evaluate(() => getComputedStyle(document.body).backgroundColor)).toBe("rgb(246, 245, 241)");
});

test("two people on one job see each other's steps", async ({ browser }) => {
  const one = await (await browser.newContext()).newPage();
  const two = await (await browser.newContext()).newPage();
  await signIn(one);
  await signIn(two, "lead@skerry.example");
  await openJob(one, "Harbour taxi 3", "handover");
  await openJob(two, "Harbour taxi 3", "handover");
  await expect(one.getByRole("list", { name: "Also here" })).toContainText("is here, in Hand over", { timeout: 6000 });
  await take(one, /^Open points/);
  await take(two, /^Open points/);
  await one.getByLabel("New point").fill("Seen by both");
  await one.getByRole("button", { name: "Note", exact: true }).click();
  await expect(two.getByText("Noted Seen by both")).toBeVisible({ timeout: 6000 });
});

test("a refused profile leaves the library as it was", async ({ page }) => {
  await signIn(page, "lead@skerry.example");
  await page.goto("/library");
  await page.getByLabel("Profile file or bundle").setInputFiles({
    name: "x.json",
    mimeType: "application/json",
    buffer: Buffer.from('{"document":"kit","id":"x"}'),
  });
  await page.getByRole("button", { name: "Import", exact: true }).click();
  await expect(page.getByText("Not imported; nothing was changed")).toBeVisible();
});
