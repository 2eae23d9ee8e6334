import { expect, type Page } from "@playwright/test";
import type { CodingMap } from "../../core/coding/map";
import { Job, type OpenedWith } from "../../core/job/job";
import { standInCar } from "../../sim/bench";
import { newUnits } from "../../sim/control-units";
import { SlcanStandIn } from "../../sim/slcan-adapter";
import { hydrated, inHand, newJob, plugEverything, rows, signIn, take, test } from "./helpers";

const KBIT = 500;

/** Gives the browser a serial port behind which the stand-in adapter and the stand-in car sit. */
async function plugIn(page: Page, job: string): Promise<void> {
  const { opened } = (await (await page.request.get(`${job}/kept.json`)).json()) as { opened: OpenedWith };
  const shelf = await page.request.get("/library/coding/kestrane-fjell-11-words");
  const href = /\/library\/[0-9a-f-]{36}\.json/.exec(await shelf.text())?.[0] ?? "";
  const map = (await (await page.request.get(href)).json()) as CodingMap;
  const { plan, state } = new Job(opened, [], {
    document: () => null,
    file: () => null,
    proof: () => null,
    wish: () => null,
    currency: "EUR",
  });
  const plugged = { ...state, plugged: new Set(plan.connections.map((c) => c.link)), tapLit: true };
  const car = standInCar(plan, plugged, null, map);
  const adapter = new SlcanStandIn(car, newUnits(car, 11), KBIT);
  await page.exposeFunction("toAdapter", (text: string) => {
    for (const { atMs, text: said } of adapter.hear(text, Date.now()))
      setTimeout(
        () =>
          page
            .evaluate((t) => (window as never as { fromAdapter(t: string): void }).fromAdapter(t), said)
            .catch(() => {}),
        Math.max(0, atMs - Date.now()),
      );
  });
  await page.addInitScript(() => {
    const w = window as never as Record<string, unknown> & { toAdapter(t: string): Promise<void> };
    const port = {
      readable: null as ReadableStream<Uint8Array> | null,
      writable: null as WritableStream<Uint8Array> | null,
      async open() {
        port.readable = new ReadableStream({
          start(to) {
            w.fromAdapter = (text: string) => to.enqueue(new TextEncoder().encode(text));
            w.pullOut = () => to.error(new Error("gone"));
          },
        });
        port.writable = new WritableStream({ write: (bytes) => w.toAdapter(new TextDecoder().decode(bytes)) });
      },
      async close() {
        if (port.readable?.locked || port.writable?.locked) throw new TypeError("a stream is locked");
        w.portClosed = true;
      },
    };
    Object.defineProperty(navigator, "serial", { value: { requestPort: async () => port } });
  });
}

/** A real adapter listens until it may send, writes only with a known supply, and may be pulled out at any time. */
test("control units are reached through an adapter on a serial port", async ({ page }) => {
  test.setTimeout(90_000);
  await signIn(page);
  const job = await newJob(page, {
    title: "Fjell: radio by adapter",
    car: "Kestrane Fjell, 2009 to 2014, manual",
    variant: "Radio F1 with text line",
    kit: "Kestrane S4 radio with adapter lead",
  });
  await plugEverything(page, job);
  await plugIn(page, job);
  await page.goto(`${job}/configure`);
  await hydrated(page);
  await page
    .getByRole("button", { name: /use the coding map/ })
    .first()
    .click();
  await take(page, "Control units");
  await inHand(page).getByLabel("Speed of the bus").selectOption(`${KBIT}`);
  await inHand(page).getByRole("button", { name: "Connect an adapter" }).click();
  await expect(inHand(page).getByText("Adapter at 500 kbit/s")).toBeVisible();
  await expect(inHand(page).getByText("Listening only")).toBeVisible();
  await inHand(page)
    .getByRole("button", { name: /^Allow sending/ })
    .click();
  await inHand(page).getByRole("button", { name: "Scan the car" }).click();
  await expect(inHand(page).getByText("Every unit was asked.")).toBeVisible({ timeout: 40_000 });
  await expect(rows(page).getByText("5 of 6 answer")).toBeVisible();

  for (const word of ["Gateway: Buses", "Gateway: List of fitted units"]) {
    await take(page, word);
    await inHand(page).getByRole("button", { name: "Read from the car" }).click();
    await expect(inHand(page).getByText("Read.", { exact: true })).toBeVisible();
  }
  const write = inHand(page).getByRole("button", { name: /^Write/ });
  await write.click();
  await expect(inHand(page).getByText("The supply is not known.")).toBeVisible();
  await inHand(page).getByLabel("Supply at the battery, V").fill("13,1");
  await write.click();
  await expect(inHand(page).getByText("Written, and read back as it was sent.")).toBeVisible({ timeout: 15_000 });

  await page.evaluate(() => (window as never as { pullOut(): void }).pullOut());
  await inHand(page).getByRole("button", { name: "Read again" }).click();
  await expect(inHand(page).getByText(/The adapter is gone/)).toBeVisible();
});

test("an adapter that does not take the speed is not left open", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Fjell: another adapter",
    car: "Kestrane Fjell, 2009 to 2014, manual",
    variant: "Radio F1 with text line",
    kit: "Kestrane S4 radio with adapter lead",
  });
  await plugIn(page, job);
  await page.addInitScript(() => {
    // It answers everything with a refusal.
    Object.defineProperty(window, "toAdapter", {
      value: async () => (window as never as { fromAdapter(t: string): void }).fromAdapter("\u0007"),
    });
  });
  await page.goto(`${job}/configure`);
  await hydrated(page);
  await page
    .getByRole("button", { name: /use the coding map/ })
    .first()
    .click();
  await take(page, "Control units");
  await inHand(page).getByRole("button", { name: "Connect an adapter" }).click();
  await expect(inHand(page).getByText(/does not take 500 kbit\/s/)).toBeVisible();
  await expect(inHand(page).getByText("Car not connected")).toBeVisible();
  expect(await page.evaluate(() => (window as never as { portClosed?: boolean }).portClosed)).toBe(true);
});
