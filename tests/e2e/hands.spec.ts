/** Step-by-step mode through a whole job, on a phone that has lost its connection. */
import { expect, type Page } from "@playwright/test";
import { hydrated, newJob, QUICK, shortWait, signIn, test } from "./helpers";

test.use({ viewport: { width: 390, height: 844 } });

const title = (page: Page) => page.getByRole("heading", { level: 1 });
const next = (page: Page) => page.locator("footer button.bg-accent");

test("from the bench to the last test without connection and without another page", async ({ page, context }) => {
  test.setTimeout(300_000);
  await shortWait(page);
  await signIn(page);
  const job = await newJob(page, { title: "Nurse car 21: step by step", ...QUICK, kit: "Orvanto OM-8 mirroring kit" });
  await page.goto(`${job}/hands`);
  await hydrated(page);
  await expect(title(page)).toHaveText("Set the switch bank and enter how it stands");
  await expect(next(page)).toBeEnabled();
  await context.setOffline(true);

  // Two quick taps are one: what has come under the finger takes none.
  await next(page).dblclick();
  await expect(title(page)).toHaveText("Lay the kit out on the bench");
  await page.waitForTimeout(1100);
  await expect(title(page)).toHaveText("Lay the kit out on the bench");

  const seen = ["Set the switch bank and enter how it stands"];
  const waited: string[] = [];
  const all = page.getByRole("button", { name: /^This and \d+ more works?$/ });
  for (let now = ""; seen.length < 160; seen.push(now)) {
    now = (await title(page).textContent()) ?? "";
    if (now === "Nothing left at the car") break;
    if ((await page.getByRole("button", { name: "Not yet" }).count()) > 0) waited.push(now);
    await expect(async () => {
      await (await all.or(next(page)).all())[0]?.click({ timeout: 900 });
      await expect(title(page)).not.toHaveText(now, { timeout: 900 });
    }).toPass({ timeout: 20_000 });
  }
  await expect(title(page)).toHaveText("Nothing left at the car");
  const at = (words: string) => seen.findIndex((s) => s.startsWith(words));
  for (const [before, after] of [
    ["Lay the kit out", "Set the parking brake"],
    ["Console panel out", "Battery negative off"],
    ["Radio out", "T-harness into the radio"],
    ["T-harness into the module, last", "Try hazard switch, key off"],
    ["Try rear camera out of the phone picture", "Radio in"],
    ["Battery negative on again", "Try hazard switch again"],
    ["Try video stays locked in motion", "Read the fault codes again"],
  ])
    expect([before, after, at(before ?? ""), at(after ?? "") > at(before ?? "") && at(before ?? "") >= 0]).toEqual([
      before,
      after,
      expect.any(Number),
      true,
    ]);
  expect(waited).toContain("Vent panel in");

  // The contradiction of the other tap: what was answered is taken back in the same place, and asked again.
  await page.getByRole("button", { name: /^Undo: / }).click();
  await expect(title(page)).not.toHaveText("Nothing left at the car");
  await page.waitForTimeout(1100);
  await next(page).click();
  await expect(title(page)).toHaveText("Nothing left at the car");

  await context.setOffline(false);
  await expect(page.getByRole("status")).toHaveText("Saved", { timeout: 60_000 });
  await expect(page.getByText(/not taken/)).toHaveCount(0);
  const { entries } = await (await page.request.get(`${job}/export.json`)).json();
  const kinds = new Set((entries as { kind: string }[]).map((e) => e.kind));
  for (const kind of [
    "configure.switches",
    "connect.laidOut",
    "strip.step",
    "connect.plug",
    "prove.result",
    "prove.codes",
  ])
    expect(kinds).toContain(kind);
  // Two taps on the first thing have left one entry.
  expect((entries as { kind: string }[]).filter((e) => e.kind === "configure.switches")).toHaveLength(1);
});
