import { type BrowserContext, expect, type Page } from "@playwright/test";
import { hydrated, inHand, newJob, openHands, openJob, rows, signIn, take, test } from "./helpers";

test("plugs, settings and tests go on without connection, and reach the log when it is back", async ({
  page,
  context,
}) => {
  await signIn(page);
  const href = await openJob(page, "Ferry office", "connect");
  await cutOff(context, page);

  // A plug: done, counted and drawn on the device.
  const plugged = inHand(page)
    .getByRole("button", { name: /^(Unplugged|Plugged|Parked)/ })
    .first();
  const first = (await inHand(page).getByRole("heading").first().textContent()) ?? "";
  await plugged.click();
  await expect(page.getByText(/No connection, 1 kept here/)).toBeVisible();
  await expect(inHand(page).getByRole("heading", { name: first, exact: true })).toHaveCount(0);

  // Another surface opens, and what is done there is kept behind it.
  await stage(page, "Prove");
  await expect(rows(page).getByText("With the dash open")).toBeVisible();
  const tried = (await inHand(page).getByRole("heading").first().textContent()) ?? "";
  await inHand(page)
    .getByRole("button", { name: /: Works$/ })
    .click();
  await expect(page.getByText(/2 kept here/)).toBeVisible();

  // Opened again without connection it stands as it was left.
  await page.reload();
  await hydrated(page);
  await expect(page.getByText(/2 kept here/)).toBeVisible();
  await expect(rows(page).getByRole("link", { name: tried }).first()).toContainText("works");

  await context.setOffline(false);
  await expect(page.getByText(/kept here/)).toHaveCount(0, { timeout: 20_000 });
  const { entries } = await (await page.request.get(`${href}/export.json`)).json();
  const kinds = (entries as { kind: string }[]).slice(-2).map((e) => e.kind);
  expect(kinds).toEqual([expect.stringMatching(/^connect\./), "prove.result"]);
});

test("a device whose clock is wrong says so, and what is done on it is dated right", async ({ page, context }) => {
  await signIn(page);
  await page.clock.setSystemTime(Date.now() + 12 * 60_000);
  const href = await openJob(page, "Ferry office", "connect");
  await expect(page.getByText("The clock of this device is 12 minutes fast.")).toBeVisible();
  await cutOff(context, page);
  await inHand(page)
    .getByRole("button", { name: /^(Unplugged|Plugged|Parked)/ })
    .first()
    .click();
  await expect(page.getByText(/1 kept here/)).toBeVisible();
  // The moment is still right when the page was closed in between.
  await page.reload();
  await hydrated(page);
  await context.setOffline(false);
  await expect(page.getByText(/kept here/)).toHaveCount(0, { timeout: 20_000 });
  const { entries } = await (await page.request.get(`${href}/export.json`)).json();
  const [last] = (entries as { at: string }[]).slice(-1);
  expect(Math.abs(Date.now() - Date.parse(last?.at ?? ""))).toBeLessThan(60_000);
});

test("steps are ticked and points are noted out of reach of the workshop, and the shelf is not guessed", async ({
  page,
  context,
}) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Nurse car 18: out of reach",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  await openHands(page, job);
  await expect(page.getByRole("status")).toHaveText("Saved");
  await page.goto(`${job}/strip`);
  await hydrated(page);
  await cutOff(context, page);

  // A step of the list, done on the device.
  const step = (await inHand(page).getByRole("heading").first().textContent()) ?? "";
  await inHand(page)
    .getByRole("button", { name: /^Done: / })
    .click();
  await expect(page.getByText(/No connection, 1 kept here/)).toBeVisible();
  await expect(rows(page).getByRole("link", { name: step })).toContainText("done");

  // The step-by-step mode opens there too, and goes on from it.
  await page.getByRole("link", { name: "Step-by-step mode" }).click();
  const title = page.getByRole("heading", { level: 1 });
  await expect(title).toHaveText("Cover: console, dash edge");
  await expect(page.getByRole("status")).toContainText("1 kept here");
  // A step takes no tap before it has been shown.
  await expect(async () => {
    await page.keyboard.press(" ");
    await expect(title).toHaveText("Ignition on", { timeout: 3000 });
  }).toPass();
  await page.reload();
  await hydrated(page);
  await expect(title).toHaveText("Ignition on");
  await page.getByRole("link", { name: "Leave this mode" }).click();
  await expect(page.getByText(/2 kept here/)).toBeVisible();
  await expect(rows(page).getByRole("link", { name: "Cover: console, dash edge" })).toContainText("done");

  // What is in the box is known on the device, what lies on the shelf is not.
  await stage(page, "Connect");
  await page.getByRole("link", { name: /^Places and lengths/ }).click();
  await take(page, "Consumables");
  await expect(
    inHand(page)
      .getByText(/shelf not known without connection/)
      .first(),
  ).toBeVisible();
  await expect(inHand(page).getByText(/missing/)).toHaveCount(0);
  await page.getByRole("link", { name: "Feed and power" }).click();
  await expect(inHand(page).getByRole("heading", { name: /feed/i }).first()).toBeVisible();

  // The hand-over counts what was done here.
  await stage(page, "Hand over");
  await take(page, "Open points");
  await inHand(page).getByLabel("New point").fill("Scratch at the tailgate, was there before");
  await inHand(page).getByRole("button", { name: "Note", exact: true }).click();
  await expect(inHand(page).getByText("Scratch at the tailgate, was there before")).toBeVisible();
  await page.reload();
  await hydrated(page);
  await expect(page.getByText(/3 kept here/)).toBeVisible();

  await context.setOffline(false);
  await expect(page.getByText(/kept here/)).toHaveCount(0, { timeout: 20_000 });
  const { entries } = await (await page.request.get(`${job}/export.json`)).json();
  const kinds = (entries as { kind: string }[]).slice(-3).map((e) => e.kind);
  expect(kinds).toEqual(["strip.step", "strip.step", "handover.point"]);
});

async function stage(page: Page, name: string): Promise<void> {
  await page
    .getByRole("navigation", { name: "Stages of the job" })
    .getByRole("link", { name: new RegExp(`^${name}`) })
    .click();
}

/** Waits until the job is kept on the device, then takes the connection away. */
async function cutOff(context: BrowserContext, page: Page): Promise<void> {
  await expect(page.getByText("This job is kept on this device.")).toBeAttached();
  await context.setOffline(true);
}
