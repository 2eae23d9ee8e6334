import { execFileSync } from "node:child_process";
import { expect, type Page } from "@playwright/test";
import { confirmOption, hydrated, inHand, newJob, openJob, rows, signIn, take, test } from "./helpers";

test("a missing accessory feed is found at the fuse panel, fused, wired and measured", async ({ page }) => {
  await signIn(page);
  // As delivered the kit needs no feed, and the page says so before anything else.
  await openJob(page, "Harbour taxi 3", "connect");
  await page.getByRole("link", { name: "Feed and power" }).click();
  await expect(inHand(page)).toContainText("No feed is needed");

  const job = await newJobFromBoard(page);
  await confirmOption(page, job, {
    choice: "Accessory feed",
    option: "From a switched position of the fuse panel",
    brings: "fuse panel",
  });
  await page.goto(`${job}/connect/feed`);
  await hydrated(page);
  await take(page, "This job needs a switched feed");
  await expect(inHand(page)).toContainText("Until a position is taken, this connection counts as open");
  await take(page, "Never touched");
  await expect(inHand(page)).toContainText("F1 Airbag unit");
  await expect(inHand(page)).toContainText("F9 Low beam left");

  await take(page, /^F8/);
  await answer(page, "F8, Ignition on: Dark");
  await expect(inHand(page).getByText("Dark with the ignition on.")).toBeVisible();
  await take(page, /^F10/);
  await answer(page, "F10, Ignition on: Lit");
  await answer(page, "F10, Key off, car asleep: Dark");
  await answer(page, "F10, Key off again, driver's door opened: Dark");
  await page.getByRole("button", { name: "Take F10" }).click();
  await expect(rows(page)).toContainText("The feed is taken");
  await take(page, /^F10/);
  await expect(inHand(page).getByText("Taken", { exact: true })).toBeVisible();
  await expect(inHand(page)).toContainText("Tap, mini: 10 A red stays, 2 A grey for the kit.");

  await take(page, "Load, wire, battery");
  const budget = page.getByRole("region", { name: "Load, wire, battery" });
  await expect(budget).toContainText("0.35 mm²");
  await budget.getByLabel("Feed wire, m").fill("19");
  await expect(budget).toContainText("the drop asks for it");
  await budget.getByLabel("Feed wire, m").fill("-2");
  await expect(budget.getByText("Above 0, up to 20.")).toBeVisible();

  await take(page, "Meter readings");
  const readings = page.getByRole("region", { name: "Meter readings" });
  const value = readings.getByLabel(/^Reading/);
  await value.fill("twelve");
  await expect(readings.getByText(/not a number. Write it like 12,4/)).toBeVisible();
  await value.fill("12,4");
  await expect(readings.getByText("As a resting battery gives.")).toBeVisible();
  await readings.getByRole("button", { name: "Keep" }).click();
  await expect(readings.getByText("12.4 V")).toBeVisible();
  await readings.getByLabel("What is measured").selectOption({ label: "Resistance across the bus pair" });
  await value.fill("120");
  await expect(readings.getByText(/One terminator is missing/)).toBeVisible();
});

test("a lead that is too short is found at planning, with what its length is made of", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "connect");
  await page.getByRole("link", { name: /Places and lengths.*1 lead too short/ }).click();
  await hydrated(page);
  // The short lead is in hand at once, drawn on its way through the car.
  await expect(inHand(page).getByRole("heading", { name: "USB lead" })).toBeVisible();
  await expect(inHand(page)).toContainText("Too short by 30 cm");
  await expect(inHand(page)).toContainText("Service loop at console space");
  await expect(page.getByRole("img", { name: /^The car from above.*USB lead: / })).toBeVisible();
  await take(page, "Consumables");
  await expect(page.getByRole("region", { name: "Consumables" })).toContainText("Ties");
});

test("on a phone what is picked in the list below comes into view", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  const job = await openJob(page, "District nurse car 7", "connect");
  await take(page, "Module antenna, hand-tight");
  await expect(inHand(page).getByRole("heading", { name: "Module antenna, hand-tight" })).toBeInViewport();
  // Rows that ask the server as well.
  await page.goto(`${job}/fit`);
  await hydrated(page);
  await rows(page)
    .getByRole("link", { name: /Brackwater View/ })
    .click();
  await expect(inHand(page).getByRole("heading", { name: /Brackwater View/ })).toBeInViewport();
});

test("the whole system is walked part by part: what each is connected to, whether it is plugged, and to its plug", async ({
  page,
}) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "connect/system");
  // A part is taken from the drawing of everything, the next one from what it is connected to.
  await page
    .getByRole("group", { name: /\d+ parts/ })
    .getByRole("button", { name: "Interface module" })
    .click();
  const hand = page.getByRole("region", { name: "In hand" });
  await expect(hand.getByRole("heading", { level: 2 })).toHaveText("Interface module");
  await expect(page.getByRole("complementary", { name: "The car" })).toContainText("Interface module");
  await hand.getByRole("button", { name: /USB lead, / }).click();
  await expect(hand.getByRole("heading", { level: 2 })).toHaveText("USB lead");
  await expect(page.getByRole("link", { name: /^USB lead/ })).toHaveAttribute("aria-current", "true");
  await expect(page.getByRole("group", { name: "3 parts, 2 connections" })).toBeVisible();
  const plug = hand.getByRole("link", { name: /^Show its plug, .*Interface module/ });
  const plugged = /, plugged:/.test((await plug.getAttribute("aria-label")) ?? "");
  await plug.click();
  await expect(page).toHaveURL(/connect\?at=/);
  await expect(hand.getByRole("heading", { level: 2 })).toContainText("USB lead");
  await expect(page.getByRole("button", { name: /^Plugged/ })).toHaveCount(plugged ? 0 : 1);
});

test("a plug is shown from both sides, and the whole system is drawn, filtered and saved as SVG", async ({
  page,
}, info) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "connect");
  await take(page, /^T-harness into the car's radio plug/);
  const face = page.getByRole("img", { name: /Car loom, radio plug, mating side: .*B\+/ });
  await expect(face).toBeVisible();
  await page.getByRole("button", { name: /Turn to the wires/ }).click();
  await expect(page.getByRole("img", { name: /Car loom, radio plug, side of the wires/ })).toBeVisible();

  await page.getByRole("link", { name: "Whole system" }).click();
  const drawing = page.getByRole("group", { name: /\d+ parts, \d+ connections/ });
  await expect(drawing).toBeVisible();
  const whole = await drawing.getAttribute("aria-label");
  await page.getByRole("checkbox", { name: "Picture, sound, data" }).uncheck();
  await expect(drawing).not.toHaveAttribute("aria-label", whole ?? "");
  const saving = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as SVG" }).click();
  const file = info.outputPath("system.svg");
  await (await saving).saveAs(file);
  // Read by an independent parser: Python's XML reader.
  const read =
    "import sys,xml.etree.ElementTree as t; r=t.parse(sys.argv[1]).getroot(); print(r.tag, len(list(r.iter('{http://www.w3.org/2000/svg}rect'))))";
  const [tag, rects] = execFileSync("python3", ["-c", read, file], { encoding: "utf8" }).trim().split(" ");
  expect(tag).toBe("{http://www.w3.org/2000/svg}svg");
  expect(Number(rects)).toBeGreaterThan(4);
});

test("exchanged video leads are found before power is on, and exchanged in one press", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "connect");
  await take(page, /^Video lead IN into VIDEO IN/);
  await page.getByRole("button", { name: /^Into .*out.*: Video lead IN into VIDEO IN/i }).click();
  const wrong = page.getByRole("region", { name: "Do not switch on" });
  await expect(wrong).toContainText("Rule wrong-place");
  await take(page, /^Video lead OUT into VIDEO OUT/);
  await page.getByRole("button", { name: /^Into .*in.*: Video lead OUT into VIDEO OUT/i }).click();
  await expect(wrong).toContainText("Rule exchanged-pair");
  await expect(wrong).toContainText("Power on now would damage");
  await expect(page.getByRole("complementary", { name: "Next action" })).toBeVisible();
  await wrong.getByRole("button", { name: /^They are exchanged/ }).click();
  await expect(wrong).toHaveCount(0);
});

test("an aftermarket radio without accessory is fed from the fuse panel, and only then plugged", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Boat yard 5: radio without feed",
    car: "Kestrane Fjell, 2009 to 2014, manual",
    variant: "Radio F1 with text line",
    kit: "Pellimar Free 7 radio with bus module",
  });
  const tap = { choice: "Accessory feed", option: "From a fuse tap", brings: "Brings Fuse tap lead" };
  await confirmOption(page, job, tap);
  await page.goto(`${job}/connect`);
  await hydrated(page);
  const plug = page.getByRole("button", { name: /^Plugged: Fuse tap into a switched/ });
  await take(page, /^Fuse tap into a switched/);
  await plug.click();
  await expect(page.getByText(/take a fuse position first, in Connect under Feed/)).toBeVisible();

  await page.getByRole("link", { name: "Feed and power" }).click();
  await hydrated(page);
  await expect(rows(page)).toContainText("This job needs a switched feed");
  // Unused positions come first; they are dark. The first used one is what was looked for.
  for (let asked = 0; asked < 12; asked++) {
    const first = page.getByRole("button", { name: /Ignition on: Lit$/ });
    await expect(first).toBeVisible();
    const name = (await first.getAttribute("aria-label")) ?? "";
    const position = name.split(",")[0];
    if (/Unused position/.test((await inHand(page).textContent()) ?? "")) {
      await answer(page, `${position}, Ignition on: Dark`);
      continue;
    }
    await answer(page, `${position}, Ignition on: Lit`);
    await answer(page, `${position}, Key off, car asleep: Dark`);
    await answer(page, `${position}, Key off again, driver's door opened: Dark`);
    await page.getByRole("button", { name: `Take ${position}` }).click();
    break;
  }
  await expect(rows(page)).toContainText("The feed is taken");
  await page.getByRole("button", { name: "New branch with the original fuse out: Dark" }).click();
  await expect(inHand(page).getByText("Turn the tap round")).toBeVisible();

  await page.goto(`${job}/connect`);
  await hydrated(page);
  const wrong = page.getByRole("region", { name: "Do not switch on" });
  await expect(wrong).toContainText("Rule tap-turned");
  await wrong.getByRole("button", { name: /^It is turned and lit/ }).click();
  await expect(wrong).toHaveCount(0);
  await take(page, /^Fuse tap into a switched/);
  await plug.click();
  await expect(plug).toHaveCount(0);
});

async function newJobFromBoard(page: Page): Promise<string> {
  await page.goto("/board");
  return newJob(page, {
    title: "Nurse car 11: feed from the fuse panel",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Brackwater View camera interface",
  });
}

async function answer(page: Page, name: string): Promise<void> {
  const button = page.getByRole("button", { name, exact: true });
  await button.click();
  await expect(button).toHaveCount(0);
}
