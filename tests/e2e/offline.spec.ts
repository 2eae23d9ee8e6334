import { type BrowserContext, expect, type Page } from "@playwright/test";
import { hydrated, inHand, openJob, rows, signIn, test } from "./helpers";

test("plugs, settings and tests go on without connection, and reach the log when it is back", async ({
  page,
  context,
}) => {
  await signIn(page);
  const href = await openJob(page, "Ferry office", "connect");
  await cutOff(context, page);

  // A plug: done, counted and drawn on the device.
  const plugged = inHand(page)
    .getByRole("button", { name: /^(Off|Plugged|Parked)/ })
    .first();
  const first = (await inHand(page).getByRole("heading").first().textContent()) ?? "";
  await plugged.click();
  await expect(page.getByText(/No connection, 1 kept here/)).toBeVisible();
  await expect(inHand(page).getByRole("heading", { name: first, exact: true })).toHaveCount(0);

  // Another surface opens, and what is done there is kept behind it.
  await page
    .getByRole("navigation", { name: "Stages of the job" })
    .getByRole("link", { name: /^Prove/ })
    .click();
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

/** Waits until the job is kept on the device, then takes the connection away. */
async function cutOff(context: BrowserContext, page: Page): Promise<void> {
  await expect(page.getByText("This job is kept on this device.")).toBeAttached();
  await context.setOffline(true);
}
