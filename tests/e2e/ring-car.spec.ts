/** A manual car with an optical ring gets mirroring and a camera; its mistakes are found before power is on. */
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { confirmOption, hydrated, inHand, newJob, noViolations, rows, signIn, take, test } from "./helpers";

test.describe.configure({ mode: "serial" });

let job = "";

test("the plan says what is unplugged, moved, parked and left in the box", async ({ page }) => {
  await signIn(page);
  job = await newJob(page, {
    title: "Ferry office 2: mirroring and front camera",
    car: "Kestrane Halden, 2012 to 2017, manual",
    variant: "Radio K1, screen 800x480, line input",
    kit: "Orvanto OM-8 Ring",
  });
  await confirmOption(page, job, { choice: "Front camera", option: "Fitted", brings: "Brings Front camera" });
  await page.goto(`${job}/connect`);
  await hydrated(page);
  await expect(rows(page)).not.toContainText(/to look at/);
  await expect(rows(page)).toContainText("Move the two optical contacts from the car's plug into the harness plug");
  await expect(rows(page)).toContainText("Car loom, radio plug out of Radio K1, main plug");
  await expect(rows(page)).toContainText("Reverse wire to the reverse lamp plug");
  await take(page, "Stays in the box");
  const box = page.getByRole("region", { name: "Stays in the box" });
  await expect(box).toContainText("Added rear camera");
  await expect(box).not.toContainText("Front camera");
  await noViolations(page);
});

test("the contact to move is marked on the face of both plugs, with where it goes", async ({ page }) => {
  await signIn(page);
  await page.goto(`${job}/connect`);
  await hydrated(page);
  await take(page, /^T-harness into the car's radio plug/);
  await expect(page.getByText(/It goes to T-harness, car end, ring, from the radio/)).toBeVisible();
  await expect(page.getByText(/It comes from Car loom, radio plug, ring, from the radio/)).toBeVisible();
});

test("three planted mistakes are found before power is on and put right by their one remedy", async ({ page }) => {
  await signIn(page);
  await page.goto(`${job}/connect`);
  await hydrated(page);
  // The optical contacts stay in the old plug, the video leads are exchanged, the microphone is in the wrong jack.
  await press(page, "Plugged: T-harness into the car's radio plug");
  await press(page, "Plugged: T-harness into the radio");
  await press(page, "Into VIDEO OUT: Video lead IN into VIDEO IN");
  await press(page, "Into VIDEO IN: Video lead OUT into VIDEO OUT");
  await press(page, "Into AUDIO jack: Added microphone into the MIC jack");
  const wrong = page.getByRole("region", { name: "Do not switch on" });
  for (const rule of ["exchanged-pair", "wrong-place", "ring-open"]) await expect(wrong).toContainText(`Rule ${rule}`);
  await expect(page.getByRole("complementary", { name: "Next action" })).toContainText("Put right");
  await noViolations(page);
  for (const remedy of [
    /^They are exchanged/,
    /^It is moved: Added microphone/,
    /^Done: Move the two optical contacts/,
  ]) {
    const button = wrong.getByRole("button", { name: remedy });
    await button.click();
    await expect(button).toHaveCount(0);
  }
  await expect(wrong).toHaveCount(0);
});

test("a lead is found by the code on its label", async ({ page }, info) => {
  await signIn(page);
  const pdf = info.outputPath("labels.pdf");
  writeFileSync(pdf, await (await page.request.get(`${job}/labels.pdf`)).body());
  const text = execFileSync("pdftotext", [pdf, "-"], { encoding: "utf8" });
  const code = /iteron \d+ k-mic/.exec(text)?.[0] ?? "";
  expect(code).not.toBe("");
  await page.goto(`${job}/connect`);
  await hydrated(page);
  await take(page, /^Which lead is this/);
  const field = page.getByLabel("Code on a lead");
  await field.fill("hello");
  await page.getByRole("button", { name: "Find it" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "no label of a lead" })).toBeVisible();
  await field.fill(code.toUpperCase());
  await field.press("Enter");
  await expect(inHand(page).getByRole("heading", { name: "Added microphone into the MIC jack" })).toBeVisible();
});

test("a lane is drawn in any situation", async ({ page }) => {
  await signIn(page);
  await page.goto(`${job}/connect`);
  await hydrated(page);
  await take(page, "Signal path");
  const lane = page.getByRole("region", { name: "Signal path" });
  await lane.getByLabel("Function").selectOption({ label: "Front camera, after reverse – not yet" });
  await expect(page).toHaveURL(/lane=/);
  await expect(lane.getByLabel("Selector")).toHaveValue("D");
  await lane.getByLabel("Selector").selectOption("P");
  await expect(page).toHaveURL(/selector=P/);
  await expect(lane).toContainText("Why it stops");
});

test("places change what is warned of, and the material is counted against the shelf", async ({ page }) => {
  await signIn(page);
  await page.goto(`${job}/connect/lengths`);
  await hydrated(page);
  await take(page, /^Module antenna ?\S+ (space|shaft)( ?,|$)/);
  const before = /: (.+)$/.exec((await inHand(page).getByRole("heading").first().textContent()) ?? "")?.[1] ?? "";
  await page.getByRole("button", { name: "Module antenna to: radio shaft" }).click();
  await expect(inHand(page)).toContainText("The antenna lies on metal");
  await page.getByRole("button", { name: `Module antenna to: ${before}` }).click();
  await expect(inHand(page)).not.toContainText("The antenna lies on metal");

  await take(page, "Consumables");
  const material = page.getByRole("region", { name: "Consumables" });
  await material.getByRole("button", { name: "Count the shelf: Fabric tape" }).click();
  await material.getByLabel(/^On the shelf/).fill("12,5");
  await material.getByRole("button", { name: "Keep" }).click();
  await expect(material).toContainText("shelf 12.5 m");
  await expect(material.getByRole("listitem").filter({ hasText: "Fabric tape" })).toContainText("On the shelf");
});

test("exports open in other programs", async ({ page }, info) => {
  await signIn(page);
  // CSV, read back by Python's own reader.
  const read =
    "import sys,csv; r=list(csv.DictReader(open(sys.argv[1],newline='',encoding='utf-8'))); print(len(r), r[0]['connection'])";
  const csv = async (path: string) => {
    const response = await page.request.get(`${job}/${path}`);
    expect(response.headers()["content-type"]).toContain("text/csv");
    const file = info.outputPath(path);
    writeFileSync(file, await response.body());
    return file;
  };
  const [rows, ...first] = execFileSync("python3", ["-c", read, await csv("connections.csv")], { encoding: "utf8" })
    .trim()
    .split(" ");
  expect(Number(rows)).toBeGreaterThan(30);
  expect(first.join(" ")).toMatch(/T-harness|Reverse|Video/);
  const total =
    "import sys,csv; print(sum(float(r['needed']) for r in csv.DictReader(open(sys.argv[1],newline='')) if r['unit']=='m' and r['needed']))";
  expect(
    Number(execFileSync("python3", ["-c", total, await csv("lengths.csv")], { encoding: "utf8" })),
  ).toBeGreaterThan(5);

  // PDF, its text extracted by poppler.
  const pdf = info.outputPath("system.pdf");
  const response = await page.request.get(`${job}/system.pdf?kind=opticalRing`);
  writeFileSync(pdf, await response.body());
  const text = execFileSync("pdftotext", [pdf, "-"], { encoding: "utf8" });
  expect(text).toContain("Only what carries optical ring.");
  expect(text).toContain("Amplifier on the optical ring");
  expect(text).not.toContain("Added microphone");
});

/** Takes the connection in hand and presses a button of it. */
async function press(page: Page, name: string): Promise<void> {
  const [, connection = ""] = /^(?:Plugged|Into [^:]+): (.+)$/.exec(name) ?? [];
  await take(page, new RegExp(`^${connection}`));
  const button = page.getByRole("button", { name: new RegExp(`^${name}`) }).first();
  await button.click();
  await expect(button).toHaveCount(0);
}
