import { statSync } from "node:fs";
import { expect } from "@playwright/test";
import { hydrated, inHand, newJob, noViolations, openJob, plugEverything, signIn, stands, take, test } from "./helpers";

test("loudspeakers exchanged all round are cured in eight moves", async ({ page }) => {
  await signIn(page);
  const job = await openJob(page, "Mail van 2", "prove?at=walk");
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    inHand(page).getByRole("button", { name: "For a stick (WAV)" }).click(),
  ]);
  expect(file.suggestedFilename()).toBe("pink.wav");
  // Twenty seconds, two sides, two bytes a sample.
  expect(statSync(await file.path()).size).toBe(44 + 20 * 48_000 * 4);
  await inHand(page).getByRole("button", { name: "Play here" }).click();
  await inHand(page).getByRole("button", { name: "Stop" }).click();
  const hear = async (corner: RegExp, plays: string) => {
    await expect(inHand(page).getByRole("heading", { name: corner })).toBeVisible();
    await inHand(page).getByRole("button", { name: plays, exact: true }).click();
  };
  await hear(/^Balance left, fader front/, "Right front");
  await hear(/^Balance right, fader front/, "Right rear");
  await expect(inHand(page).getByText(/often exchanged the rear too/)).toBeVisible();
  await hear(/^Balance left, fader rear/, "Left front");
  await hear(/^Balance right, fader rear/, "Nothing");
  await expect(inHand(page).getByText(/plays elsewhere and nothing plays at its own corner/)).toBeVisible();
  await inHand(page).getByRole("button", { name: "Hear right rear again" }).click();
  await hear(/^Balance right, fader rear/, "Left rear");
  await expect(
    inHand(page).getByRole("heading", { name: "In a round: left front, right front, right rear, left rear" }),
  ).toBeVisible();
  await expect(
    inHand(page)
      .getByRole("listitem")
      .filter({ hasText: /plus|minus/ }),
  ).not.toHaveCount(0);
  await expect(inHand(page).getByRole("heading", { name: /: 8 contacts$/ })).toBeVisible();
  await noViolations(page);
  await inHand(page).getByRole("button", { name: "Moved: walk again" }).click();
  for (const [corner, own] of [
    [/^Balance left, fader front/, "Left front"],
    [/^Balance right, fader front/, "Right front"],
    [/^Balance left, fader rear/, "Left rear"],
    [/^Balance right, fader rear/, "Right rear"],
  ] as const)
    await hear(corner, own);
  // The next thing comes into the hand by itself.
  await take(page, /^Balance and fader walk .*, right$/);
  await expect(inHand(page).getByText("Cured: every loudspeaker at its place")).toBeVisible();
  await page.goto(`${job}/handover?at=log`);
  await expect(page.getByText(/^Contacts moved in .*left rear plus from 1 to 4/).first()).toBeVisible();
});

test("a mirrored touch panel is measured, and right after it was turned", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Quay patrol: touch",
    car: "Sundrey Heron, 2018 to 2023, automatic",
    variant: "Radio H2, screen above the radio",
    kit: "Brackwater Bare 2, video and power leads only",
  });
  await plugEverything(page, job);
  await stands(page, job, { key: "on" });
  await page.goto(`${job}/prove`);
  await hydrated(page);
  await take(page, /^Touch in the phone picture corners and centre/);
  const names = ["top left", "top right", "centre", "bottom left", "bottom right"];
  const touch = async (reacts: (name: string) => string) => {
    for (const name of names) {
      await expect(inHand(page).getByRole("heading", { name: `Touch ${name} on the car's screen` })).toBeVisible();
      await inHand(page)
        .getByRole("button", { name: `It reacts ${reacts(name)}` })
        .click();
    }
  };
  const swap: Record<string, string> = { left: "right", right: "left" };
  await touch((name) => name.replace(/left|right/, (side) => swap[side] ?? side));
  await expect(inHand(page).getByRole("heading", { name: "The touch is mirrored left to right" })).toBeVisible();
  await expect(inHand(page).getByText("One of these settings alone would explain it:")).toBeVisible();
  await expect(
    inHand(page)
      .getByRole("listitem")
      .filter({ hasText: /Touch panel.*mirrored left to right/ }),
  ).toHaveCount(1);
  await noViolations(page);
  await inHand(page).getByRole("button", { name: "Touch all again" }).click();
  await touch((name) => name);
  await take(page, /^Touch in the phone picture corners and centre , right$/);
  await expect(inHand(page).getByRole("heading", { name: /^Every touch arrives/ })).toBeVisible();
});

test("keys, knob and the signs of the bus are answered by a tap each; a hold is counted and a time taken", async ({
  page,
}) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Quay patrol: keys",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  await plugEverything(page, job);
  await stands(page, job, { key: "on" });
  await page.goto(`${job}/prove`);
  await hydrated(page);
  await take(page, /^Keys and knob/);
  await noViolations(page);
  await expect(inHand(page).getByText("Expected: Wheel volume keys")).toBeVisible();
  await inHand(page).getByRole("button", { name: "As it must be" }).click();
  await expect(inHand(page).getByText(/^Keys and knob, 1 of \d+ tried/)).toBeVisible();
  await take(page, /^Clock, lighting, chimes/);
  for (let i = 1; i <= 6; i++) {
    await inHand(page).getByRole("button", { name: "As it must be" }).click();
    if (i < 6) await expect(inHand(page).getByText(`Clock, lighting, chimes, ${i} of 6 tried`)).toBeVisible();
  }
  await take(page, /^Clock, lighting, chimes.*, right$/);

  // The key that changes the picture is held as long as it is counted.
  await take(page, /^Phone picture phone by cable/);
  await inHand(page).getByRole("button", { name: "Count 2 to 4 s" }).click();
  await expect(inHand(page).getByText("let go now")).toBeVisible();
  await expect(inHand(page).getByText("too long: once more")).toBeVisible();

  // The time of the rear camera is judged by what its test allows.
  await take(page, /^Rear camera factory picture/);
  await inHand(page).getByRole("button", { name: "Take the time, at most 2 s" }).click();
  await inHand(page).getByRole("button", { name: "There it is" }).click();
  await take(page, /^Rear camera factory picture.*works$/);
  await expect(inHand(page).getByText(/“\d\.\d s”/)).toBeVisible();
});
