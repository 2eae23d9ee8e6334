import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { openJob, signIn, take, test } from "./helpers";

test("the recorded log is read, named and drawn", async ({ page }) => {
  await signIn(page);
  await openJob(page, "car 2", "bus");
  await expect(page.getByRole("row", { name: /1A4 Selector 2400/ })).toBeVisible();
  await expect(page.getByText(/frames in 120\.0 s/)).toBeVisible();
  await page.getByRole("button", { name: "Frames" }).click();
  await expect(page.getByRole("region", { name: "Identifiers on the bus" }).locator("tbody tr").first()).toContainText(
    "Cabin",
  );
  await take(page, /^Signals over time/);
  await expect(page.locator("canvas")).toBeVisible();
  await page.getByLabel("VehicleSpeed").check();
  await expect(page.getByRole("img", { name: /VehicleSpeed/ })).toBeVisible();
});

test("bad lines are named and the good ones used; other files are refused", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "bus");
  const input = page.getByLabel("Upload a log or a bus description");
  await input.setInputFiles({ name: "notes.log", mimeType: "text/plain", buffer: Buffer.from("dear diary\n") });
  await expect(page.getByText("notes.log is not read")).toBeVisible();
  await input.setInputFiles({
    name: "short.log",
    mimeType: "text/plain",
    buffer: Buffer.from("(1.000000) can0 123#0102\n(1.1) can0 12#01\n(1.200000) can0 123#0103\n"),
  });
  // The first log of a job is looked at once it is there.
  await expect(page.getByText("1 lines of the log could not be read")).toBeVisible();
  await page.getByText("Show where").click();
  await expect(page.getByText(/Line 2: an identifier has 3 hexadecimal digits/)).toBeVisible();
  await expect(page.getByRole("row", { name: /123 not named 2/ })).toBeVisible();
  await take(page, /^Files/);
  await input.setInputFiles({
    name: "odd.dbc",
    mimeType: "text/plain",
    buffer: Buffer.from('BO_ 291 Known: 2 X\n SG_ A : 0|8@1+ (1,0) [0|0] "" X\nMYSTERY_ 1;\n'),
  });
  await expect(page.getByText("odd.dbc: stored.")).toBeVisible();
  await take(page, /^What is on the bus/);
  await expect(page.getByText("1 lines of the bus description could not be read")).toBeVisible();
  await expect(page.getByRole("row", { name: /123 Known 2/ })).toBeVisible();
});

test("two logs of one car are compared", async ({ page }) => {
  await signIn(page);
  await openJob(page, "car 7", "bus");
  const log = (ids: string[]) =>
    ids
      .flatMap((id) => Array.from({ length: 40 }, (_, i) => `(${(i / 10).toFixed(6)}) can0 ${id}#0${i % 2}`))
      .sort()
      .join("\n");
  await take(page, /^Files/);
  await page.getByLabel("Upload a log or a bus description").setInputFiles([
    { name: "before.log", mimeType: "text/plain", buffer: Buffer.from(log(["100", "200"])) },
    { name: "after.log", mimeType: "text/plain", buffer: Buffer.from(log(["100", "300"])) },
  ]);
  await expect(page.getByText("before.log, after.log: stored.")).toBeVisible();
  await take(page, /^What is on the bus/);
  await expect(page.getByRole("heading", { name: "after.log: what is on the bus" })).toBeVisible();
  await take(page, /^Against a log recorded before/);
  await page.getByLabel("Before the kit, engine off, ...").selectOption("before.log");
  await expect(page.getByRole("row", { name: /200 not named Missing/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /300 not named New/ })).toBeVisible();
  await expect(page.getByRole("rowheader", { name: "100" })).toHaveCount(0);
});

test("a log is saved for another program, and a scope tells the bit rate", async ({ page }) => {
  await signIn(page);
  await openJob(page, "car 2", "bus");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: ".asc" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("on-cue.asc");
  expect(readFileSync(await download.path(), "utf8")).toMatch(
    /base hex {2}timestamps absolute[\s\S]*1 {2}1A4 +Rx {3}d 4 /,
  );
  const edges = [
    ...Array(15).fill(0),
    ...Array.from({ length: 200 }, (_, i) => ((i * 7) % 11 < 5 ? 1 : 0)),
    ...Array(15).fill(0),
  ];
  const table = edges.flatMap((bit, b) =>
    Array.from({ length: 10 }, (_, i) => `${((b * 10 + i) * 0.2).toFixed(1)},${bit ? 3.5 : 2.5}`),
  );
  await take(page, /^Bit rate from a scope/);
  await page.getByLabel("Choose the table (CSV)").setInputFiles({
    name: "line.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(`Time (us),V\n${table.join("\n")}\n`),
  });
  await expect(page.getByText("500 kbit/s", { exact: true }).last()).toBeVisible();
  await expect(page.getByText(/this is bus high/)).toBeVisible();
});
