import { randomUUID } from "node:crypto";
import { expect, type Page } from "@playwright/test";
import { STAND_IN_DBC } from "../../sim/bus-map";
import { hydrated, newJob, noViolations, openJob, plugEverything, signIn, stands, test } from "./helpers";

/** Writes entries as the buttons of the surfaces do. */
async function write(page: Page, job: string, ...bodies: object[]): Promise<void> {
  for (const body of bodies) {
    const answer = await page.request.post(`${job}/log`, {
      headers: { origin: new URL(page.url()).origin },
      form: { entry: randomUUID(), body: JSON.stringify(body) },
    });
    expect(await answer.json()).toMatchObject({ ok: true });
  }
}

async function record(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Let the stand-in car do it" }).click();
  await expect(page.getByText(/What was done lies|Nothing could be brought into line|No other shift/)).toBeVisible({
    timeout: 40_000,
  });
}

test("a module that comes blank is told the car: found on cue, translated, proven, loaded, and it works", async ({
  page,
}) => {
  test.setTimeout(180_000);
  await signIn(page);
  const job = await openJob(page, "Pilot station 8", "bus/hunt");
  await expect(page.getByText("0 of 8 messages known")).toBeVisible();

  // Keys, selector, lights, steering with the car standing; six functions and an angle.
  await record(page);
  for (const [i, name] of ["WheelKeys", "Selector", "Lights", "SteeringAngle"].entries()) {
    await page.getByRole("button", { name: `Keep as ${name}` }).click();
    await expect(page.getByText(/^Kept as/)).toHaveCount(i + 1);
  }
  await expect(page.getByText("6 of 8 messages known")).toBeVisible();

  // The speed by itself, with the car rolling.
  await page.getByRole("button", { name: "Record again" }).click();
  await page.getByLabel(/^speed/).check();
  await expect(page.getByText(/Closed yard, nobody in the way/)).toBeVisible();
  await record(page);
  await page.getByRole("button", { name: "Keep as Speed" }).click();
  await expect(page.getByText("7 of 8 messages known")).toBeVisible();
  await noViolations(page);

  await page.getByRole("link", { name: "Translation" }).click();
  await page.getByRole("button", { name: "Begin with the signals that are known" }).click();
  await page.getByRole("button", { name: "Save the translation" }).click();
  await page.getByRole("link", { name: "Find signals" }).click();
  await page.getByRole("button", { name: "Record again" }).click();
  await record(page);
  await page.getByRole("link", { name: "Translation" }).click();
  await page.getByRole("button", { name: "Prove it on this recording" }).click();
  await expect(page.getByText("Proven", { exact: true })).toBeVisible({ timeout: 20_000 });

  // Into the module, and the module into the car.
  await page.goto(`${job}/configure?at=module.data`);
  await hydrated(page);
  await page.getByRole("button", { name: "Load the translation into it" }).click();
  await expect(page.getByText("Translation loaded")).toBeVisible();
  await plugEverything(page, job);
  await stands(page, job, { battery: "connected", key: "on" });
  const { opened } = await (await page.request.get(`${job}/kept.json`)).json();
  const sets: { setting: string; means: string }[] = opened.kit.sets;
  await write(
    page,
    job,
    ...sets
      .filter((s) => s.means === "menu")
      .map((s) => ({ kind: "configure.set", data: { setting: s.setting, done: true } })),
  );
  await page.goto(`${job}/prove`);
  await hydrated(page);
  const tries = async (test: string) => {
    const answer = await page.request.post(`${job}/stand-in`, {
      headers: { origin: new URL(page.url()).origin },
      form: { entry: randomUUID(), test },
    });
    expect(await answer.json()).toMatchObject({ ok: true });
  };
  await tries("phonePicture/wired");
  await page.reload();
  await expect(page.getByRole("link", { name: /Phone picture phone by cable , works/ }).first()).toBeVisible();

  // A translation that has lost a key: the module has to be loaded again, and does less.
  await page.goto(`${job}/bus/translation`);
  await hydrated(page);
  await page.getByRole("button", { name: "Remove Key: back" }).click();
  // It is on its way when the page is left: a busy machine would break it off.
  const saved = page.waitForResponse((r) => r.request().method() === "POST" && r.url().includes("/log"));
  await page.getByRole("button", { name: "Save the translation" }).click();
  expect((await saved).ok()).toBe(true);
  await page.goto(`${job}/configure?at=module.data`);
  await hydrated(page);
  await expect(page.getByText("The translation has changed since: load it again")).toBeVisible();
  await page.getByRole("button", { name: "Load the translation into it" }).click();
  await expect(page.getByText("Translation loaded")).toBeVisible();
  await tries("phonePicture/wired");
  await page.goto(`${job}/prove`);
  await expect(page.getByText("The translation in the module has no rule for Key: back")).toBeVisible();
  await expect(page.getByRole("link", { name: /Phone picture phone by cable , fails/ }).first()).toBeVisible();
});

test("the bus map of the library is taken, added to and put back; a description gives signals too", async ({
  page,
}) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Quay patrol: what its bus says",
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  await page.goto(`${job}/bus`);
  await hydrated(page);
  await page
    .getByLabel("Upload a log or a bus description")
    .setInputFiles({ name: "car.dbc", mimeType: "text/plain", buffer: Buffer.from(STAND_IN_DBC) });
  await expect(page.getByText("car.dbc: stored.")).toBeVisible();
  await page.getByRole("link", { name: "Translation" }).click();
  await page.getByLabel(/^Signals of car\.dbc/).fill("speed");
  await page.getByRole("button", { name: "Take VehicleSpeed" }).click();
  await expect(page.getByText("taken", { exact: true })).toBeVisible();
  await page.getByLabel(/^Signals of car\.dbc/).fill("supply");
  await expect(page.getByText(/Cannot be taken: Its value is a floating point number/)).toBeVisible();
  await page.getByRole("link", { name: "Find signals" }).click();
  await page.getByRole("button", { name: "Into the library" }).click();
  await page.waitForURL(/library\/drafts/);
  await hydrated(page);
  await page.getByRole("button", { name: "Put into the library" }).click();
  await page.waitForURL(/library\/busMap\//);
  await expect(page.getByRole("rowheader", { name: "VehicleSpeed" })).toBeVisible();
  await noViolations(page);
  await page.goto(`${job}/bus/hunt`);
  await expect(page.getByRole("button", { name: "Take the bus map of the library" })).toBeVisible();
});
