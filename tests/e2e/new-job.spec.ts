import { expect, type Page, test } from "@playwright/test";
import { hydrated, newJob, openJob, signIn } from "./helpers";

test("a car is taken in: number decoded as typed, baseline tried, choices previewed and confirmed", async ({
  page,
}) => {
  await signIn(page, "counter@skerry.example");
  await newJob(page, {
    title: "Nurse car 9: phone on the screen",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  await hydrated(page);

  const number = page.getByLabel("Identification number");
  await number.fill("0VMCRA18OK1000318");
  await expect(page.getByText("The letter O never occurs at position 9").first()).toBeVisible();
  await number.fill("0VMCRA18XK1000318");
  await expect(page.getByText("Check digit X agrees.").first()).toBeVisible();
  await expect(page.getByText("2019").first()).toBeVisible();
  await page.getByLabel("Odometer, km").fill("many");
  await page.getByRole("button", { name: "Save the car" }).click();
  await expect(page.getByText("Kilometres as a number.")).toBeVisible();
  await page.getByLabel("Odometer, km").fill("41200");
  await page.getByRole("button", { name: "Save the car" }).click();
  await expect(page.getByRole("complementary", { name: "Next action" })).toContainText("Baseline");

  const baseline = page.getByRole("region", { name: "Baseline" });
  for (let done = 0; done < 8; done++) {
    await expect(page.getByText(`${done} of 8 tried`)).toBeVisible();
    if (done === 2) await baseline.getByLabel("Note, stored with the answer").fill("Slow when cold.");
    await baseline.getByRole("button", { name: /: Works$/ }).click();
  }
  await expect(baseline).toContainText("Slow when cold.");
  await baseline.getByRole("button", { name: /^Change ?: Hazard switch/ }).click();
  await baseline.locator("input[type=file]").setInputFiles("docs/screenshots/lane.png");
  await expect(baseline.getByRole("img", { name: "Baseline: Hazard switch" }).first()).toBeVisible();
  await expect(page.getByText("8 of 8 tried")).toBeVisible();

  await page.getByRole("link", { name: "Go to Fit" }).click();
  await expect(page.getByText("1 lost")).toBeVisible();
  await page.getByLabel("The car's own Bluetooth").check();
  await expect(page.getByText("0 lost")).toBeVisible();
  await page.getByRole("button", { name: "Confirm kit and choices" }).click();
  await expect(page.getByRole("complementary", { name: "Next action" })).toContainText("Set the parking brake");
});

test("the way in stops at hazards, plugs and switches follow", async ({ page }) => {
  test.setTimeout(180_000);
  await signIn(page);
  const job = await openJob(page, "Nurse car 9", "strip");
  const next = page.getByRole("complementary", { name: "Next action" });
  const done = page.getByRole("button", { name: /^Done: / }).and(page.locator(".bg-accent"));
  const titles = [
    "Set the parking brake",
    "Cover: console, dash edge",
    "Ignition on",
    "Foot on the brake",
    "Console panel out",
    "Selector back to park",
    "Ignition off",
    "Battery negative off",
    "Column shroud apart",
    "Glovebox out",
    "Vent panel out",
    "Screen screws out",
    "Radio screws out",
    "Radio out",
  ];
  for (const title of titles) {
    await expect(next).toContainText(title);
    if (title === "Console panel out") await expect(page.getByText("Selector in N.")).toBeVisible();
    if (["Glovebox out", "Vent panel out"].includes(title)) await confirmHazard(page, /waiting time is not over/);
    await done.click();
  }
  await expect(next).toContainText("T-harness into the car's radio plug");
  await expect(page.getByRole("region", { name: "Trays" })).toContainText("Two lengths are out");
  await expect(page.getByRole("region", { name: "Open plugs" })).toContainText("hazard switch");

  await page.goto(`${job}/connect`);
  await hydrated(page);
  await expect(page.getByText("The plan holds together")).toBeVisible();
  const plugged = page.getByRole("button", { name: /^Plugged: / });
  for (let left = await plugged.count(); left > 1; left--) {
    await plugged.first().click();
    await expect(plugged).toHaveCount(left - 1);
  }
  await page
    .getByRole("combobox", { name: "Function" })
    .selectOption({ label: "Radio sound on four speakers, tuner playing – not yet" });
  await expect(page.getByText("Stops here")).toBeVisible();
  await plugged.first().click();
  await expect(next).toContainText("switch bank");

  await page.getByRole("link", { name: "Go to Configure" }).click();
  // Nobody has looked at the switches yet: each one says so, and nothing can be logged before all are known.
  await expect(page.getByRole("switch", { name: "not known" })).toHaveCount(8);
  for (let place = 1; place <= 8; place++)
    await page.getByRole("switch", { name: `Switch ${place}, not known` }).click();
  await page.getByRole("switch", { name: "Switch 2" }).click();
  await page.getByRole("button", { name: "This is how it stands" }).click();
  await expect(page.getByText("Switch 3 stands off, it must be on.")).toBeVisible();
  await page.getByRole("switch", { name: "Switch 3" }).click();
  await page.getByRole("switch", { name: "Switch 5" }).click();
  await page.getByRole("button", { name: "This is how it stands" }).click();
  await expect(page.getByText("Every switch stands as it must.")).toBeVisible();
  await page.getByRole("button", { name: "Power was taken away once" }).click();
  await expect(next).toContainText("Connect the battery");
});

test("an airbag step before the battery is isolated must be confirmed by the person", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "strip");
  const vents = page.getByRole("button", { name: "Done: Vent panel out" });
  await vents.click();
  await expect(page.getByText(/airbag zone next and the battery is connected/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Done: Vent panel out" })).toBeVisible();
});

/** Reads the hazard and confirms it as the person would. */
async function confirmHazard(page: Page, text: RegExp): Promise<void> {
  await expect(page.getByRole("listitem").getByText(text)).toBeVisible();
  await page.getByRole("checkbox", { name: "I have made sure myself; log it with my name" }).check();
}
