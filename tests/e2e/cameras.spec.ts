import { randomUUID } from "node:crypto";
import { expect, type Page } from "@playwright/test";
import { usualRule } from "../../core/bus/translation/translation";
import { fromUnitSquare, mapPoint } from "../../core/geometry/unit-square";
import { PHOTO_SCREEN } from "../../sim/camera-photo";
import { hydrated, inHand, newJob, noViolations, openJob, plugEverything, signIn, stands, take, test } from "./helpers";

const SIZE = { width: 2400, height: 1600 };

/** Taps the photo as a finger does: at a place in its own pixels. */
async function tap(page: Page, { x, y }: { x: number; y: number }): Promise<void> {
  const photo = page.getByRole("application", { name: /^Photo to be tapped/ });
  const box = await photo.boundingBox();
  if (!box) throw new Error("no photo");
  const scale = Math.min(box.width / SIZE.width, box.height / SIZE.height);
  await page.mouse.move(
    box.x + (box.width - SIZE.width * scale) / 2 + x * scale,
    box.y + (box.height - SIZE.height * scale) / 2 + y * scale,
  );
  await page.mouse.down();
  await page.mouse.up();
}

/** Where the marks stand on the photo that the stand-in car gives, by their numbers. */
async function marksOn(page: Page, job: string, at: number): Promise<Map<string, { x: number; y: number }>> {
  const svg = await (await page.request.get(`${job}/camera-photo/rearCamera?at=${at}`)).text();
  // The number stands 14 pixels beside and above its cross.
  return new Map(
    [...svg.matchAll(/<text x="([\d.-]+)" y="([\d.-]+)"[^>]*>(\d+)</g)].map(([, x, y, id]) => [
      id ?? "",
      { x: Number(x) - 14, y: Number(y) + 14 },
    ]),
  );
}

async function photograph(page: Page): Promise<void> {
  await inHand(page).getByRole("button", { name: "Photo of the stand-in car" }).click();
  await expect(inHand(page).getByRole("status")).toHaveText("Corner of the picture: upper left");
  for (const corner of PHOTO_SCREEN) await tap(page, corner);
}

async function tapMarks(page: Page, marks: ReadonlyMap<string, { x: number; y: number }>, exchanged: string[] = []) {
  const said = inHand(page).getByRole("status");
  for (let id = 1; ; id++) {
    await expect(said).toHaveText(new RegExp(`^(Mark ${id}|Everything is tapped\\.)$`));
    if ((await said.textContent()) !== `Mark ${id}`) return;
    const [a, b] = exchanged;
    const name = String(id) === a ? b : String(id) === b ? a : String(id);
    const place = marks.get(name ?? "");
    const seen = place && place.x > 0 && place.x < SIZE.width && place.y > 0 && place.y < SIZE.height;
    if (seen) await tap(page, place);
    else
      await inHand(page)
        .getByRole("button", { name: `${id} is not in the picture` })
        .click();
  }
}

/** A job of its own with everything plugged and the ignition on. */
async function plugged(page: Page, title: string, at: string): Promise<string> {
  const job = await newJob(page, {
    title,
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
    practice: true,
  });
  await plugEverything(page, job);
  await stands(page, job, { key: "on" });
  await page.goto(`${job}/${at}`);
  await hydrated(page);
  return job;
}

test("a tilted rear camera is measured, turned, proven, and stands on the certificate", async ({ page }) => {
  await signIn(page);
  const job = await plugged(page, "Quay patrol: tilted camera", "prove?at=rearCamera+measure");
  await expect(inHand(page).getByRole("heading", { name: /^Set these marks on the floor/ })).toBeVisible();
  await noViolations(page);
  const sheet = await page.request.get(`${job}/marks/rearCamera`);
  expect([sheet.status(), sheet.headers()["content-type"]]).toEqual([200, "application/pdf"]);

  // Two marks in each other's place are told by name; nothing is kept.
  await photograph(page);
  await tapMarks(page, await marksOn(page, job, 0), ["4", "8"]);
  await expect(inHand(page).getByText("Marks 4 and 8 were tapped in each other's place.")).toBeVisible();
  await expect(inHand(page).getByRole("button", { name: "Keep it" })).toHaveCount(0);
  await inHand(page).getByRole("button", { name: "Another photo" }).click();

  // Right taps: how far it is to be turned.
  await photograph(page);
  await tapMarks(page, await marksOn(page, job, 0));
  await noViolations(page);
  await inHand(page).getByRole("button", { name: "Keep it" }).click();
  await expect(inHand(page).getByRole("heading", { name: /^Turn/ })).toBeVisible();
  await expect(
    inHand(page)
      .getByRole("listitem")
      .filter({ hasText: /(down|up) \d\.\d°/ }),
  ).toBeVisible();

  // The lines of the module are drawn for a straight camera, so they are beside the car's way now.
  await take(page, /^Guide lines/);
  await photograph(page);
  const lines = await linesOn(page, job);
  for (const at of lines.left) await tap(page, at);
  await inHand(page).getByRole("button", { name: "Left line is done" }).click();
  for (const at of lines.right) await tap(page, at);
  await inHand(page).getByRole("button", { name: "Keep the lines" }).click();
  await expect(inHand(page).getByRole("heading", { name: /lie at most \d+ cm beside/ })).toBeVisible();

  await take(page, /^Measure it by marks/);
  await inHand(page).getByRole("button", { name: "Turned: measure again" }).click();
  await expect(inHand(page).getByRole("heading", { name: /^Turned\./ })).toBeVisible();
  await photograph(page);
  await tapMarks(page, await marksOn(page, job, 1));
  await inHand(page).getByRole("button", { name: "Keep it" }).click();
  // What is done leaves the hand.
  await take(page, /^Measure it by marks.*straight$/);
  await expect(inHand(page).getByRole("heading", { name: "It looks as it should" })).toBeVisible();

  // Two seconds: counted by the frames of a video.
  await take(page, /^Required rear view/);
  await inHand(page).getByLabel("or frames of a video").fill("42");
  await inHand(page).getByRole("button", { name: "1.40 s" }).click();
  await expect(inHand(page).getByRole("heading", { name: "Picture 1.40 s after reverse" })).toBeVisible();
  await noViolations(page);
  const { entries } = await (await page.request.get(`${job}/export.json`)).json();
  expect(entries.filter((e: { kind: string }) => e.kind === "prove.sight")).toHaveLength(2);
  const pdf = await page.request.get(`${job}/certificate.pdf`);
  expect(pdf.status()).toBe(200);
  await page.goto(`${job}/handover?at=log`);
  await expect(page.getByText(/^Rear camera turned (down|up) \d\.\d°/).first()).toBeVisible();
});

/** Points along the lines that the module of the stand-in car draws, in order from below. */
async function linesOn(page: Page, job: string) {
  const svg = await (await page.request.get(`${job}/camera-photo/rearCamera?wheel=0`)).text();
  const drawn = [...svg.matchAll(/stroke="#f4d35e"[^>]*points="([^"]+)"/g)].map(([, points = ""]) =>
    points.split(" ").map((p) => {
      const [x = 0, y = 0] = p.split(",").map(Number);
      return { x, y };
    }),
  );
  const middle = mapPoint(fromUnitSquare(PHOTO_SCREEN), { x: 0.5, y: 0.5 }).x;
  const some = (side: (x: number) => boolean) =>
    (drawn.find((d) => side(d[0]?.x ?? 0)) ?? []).filter((_, i) => i % 5 === 0).slice(0, 9);
  return { left: some((x) => x < middle), right: some((x) => x >= middle) };
}

test("a camera is placed by dragging its picture, and the ground that it sees follows", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "prove?at=rearCamera+place");
  const ground = page.getByRole("img", { name: /^From above/ }).last();
  const before = await ground.getAttribute("aria-label");
  const picture = inHand(page).getByRole("img", { name: /would show$/ });
  const box = await picture.boundingBox();
  if (!box) throw new Error("no picture");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height * 0.95, { steps: 6 });
  await page.mouse.up();
  await expect(ground).not.toHaveAttribute("aria-label", before ?? "");
  await inHand(page).getByLabel("Upper edge of the bumper over the ground, mm").fill("640");
  await inHand(page).getByLabel("Upper edge of the bumper over the ground, mm").press("Enter");
  await expect(inHand(page).getByText("measured here")).toBeVisible();
  await inHand(page).getByRole("button", { name: "It is to look so" }).click();
  await take(page, /^Place it.*placed$/);
  await expect(inHand(page).getByText("Placed", { exact: true })).toBeVisible();
});

test("a sequence is gone through on the stand-in car, and breaks where the picture is lost", async ({ page }) => {
  await signIn(page);
  const job = await plugged(page, "Quay patrol: sequence", "prove");
  await take(page, /^Reverse during the phone picture/);
  await expect(inHand(page).getByText("You must see: phone picture")).toBeVisible();
  await noViolations(page);
  await inHand(page).getByRole("button", { name: "As said", exact: true }).click();
  await expect(inHand(page).getByText("You must see: rear camera")).toBeVisible();
  await inHand(page).getByRole("button", { name: "Blue or black picture" }).click();
  await expect(inHand(page).getByRole("heading", { name: /^Select reverse: blue or black picture/ })).toBeVisible();
  await inHand(page).getByRole("button", { name: "Find the cause of it" }).click();
  await take(page, /^Find the cause/);
  const { entries } = await (await page.request.get(`${job}/export.json`)).json();
  expect(entries.at(-1)).toMatchObject({ kind: "prove.result", data: { answer: "nothing" } });
});

test("guide lines move with the steering of a recorded log", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Quay patrol: steering",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  // Ten seconds in which the wheel goes from straight to 180° to the right: tenths of a degree in two bytes.
  const lines = Array.from({ length: 101 }, (_, i) => {
    const raw = (18 * i).toString(16).padStart(4, "0").toUpperCase();
    return `(${(1_700_000_000 + i / 10).toFixed(6)}) can0 025#${raw}000000000000`;
  });
  await page.goto(`${job}/bus`);
  await hydrated(page);
  await page.getByLabel("Upload a log or a bus description").setInputFiles({
    name: "round.log",
    mimeType: "text/plain",
    buffer: Buffer.from(`${lines.join("\n")}\n`),
  });
  await expect(page.getByText("round.log: stored.")).toBeVisible();
  const { entries } = await (await page.request.get(`${job}/export.json`)).json();
  const file: string = entries.find((e: { kind: string }) => e.kind === "bus.file").data.file;
  const write = async (body: unknown) => {
    const answer = await page.request.post(`${job}/log`, {
      headers: { origin: new URL(page.url()).origin },
      form: { entry: randomUUID(), body: JSON.stringify(body) },
    });
    expect(answer.ok()).toBe(true);
  };
  const at = { startBit: 7, length: 16, littleEndian: false, signed: true, factor: 0.1, offset: 0, unit: "°" };
  const named = { signal: "Angle", message: "Steering", id: 0x25, extended: false, bytes: 8, values: [], page: null };
  await write({ kind: "bus.signal", data: { ...named, ...at, file, thing: "steering" } });
  const level = { signal: "Steering.Angle", factor: 1, offset: 0 };
  await write({ kind: "bus.translation", data: { rules: [{ ...usualRule("steering"), level }] } });

  await page.goto(`${job}/prove?at=rearCamera+lines`);
  await hydrated(page);
  await expect(inHand(page).getByText("Steering wheel 0° straight")).toBeVisible();
  await inHand(page).getByLabel("Steering of a log").selectOption("round.log");
  await inHand(page).getByLabel("Second of the log").fill("5");
  await expect(inHand(page).getByText("Steering wheel 90° to the right")).toBeVisible();
  await inHand(page).getByRole("button", { name: "Replay" }).click();
  await expect(inHand(page).getByText("Steering wheel 180° to the right")).toBeVisible();
  await noViolations(page);
});
