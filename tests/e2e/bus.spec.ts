import { expect, test } from "@playwright/test";
import { openJob, signIn } from "./helpers";

test("the recorded log is read, named and drawn", async ({ page }) => {
  await signIn(page);
  await openJob(page, "car 2", "bus");
  await expect(page.getByRole("row", { name: /1A4 Selector 2400/ })).toBeVisible();
  await expect(page.getByText(/frames in 120\.0 s/)).toBeVisible();
  await expect(page.locator("canvas")).toBeVisible();
  await page.getByRole("button", { name: "Frames" }).click();
  await expect(page.getByRole("region", { name: "Identifiers on the bus" }).locator("tbody tr").first()).toContainText(
    "Cabin",
  );
  await page.getByLabel("VehicleSpeed").check();
  await expect(page.getByRole("img", { name: /VehicleSpeed/ })).toBeVisible();
});

test("bad lines are named and the good ones used; other files are refused", async ({ page }) => {
  await signIn(page);
  await openJob(page, "Harbour taxi 3", "bus");
  const input = page.locator("input[type=file]");
  await input.setInputFiles({ name: "notes.log", mimeType: "text/plain", buffer: Buffer.from("dear diary\n") });
  await expect(page.getByText("notes.log is not read")).toBeVisible();
  await input.setInputFiles({
    name: "short.log",
    mimeType: "text/plain",
    buffer: Buffer.from("(1.000000) can0 123#0102\n(1.1) can0 12#01\n(1.200000) can0 123#0103\n"),
  });
  await expect(page.getByText("1 lines of the log could not be read")).toBeVisible();
  await page.getByText("Show where").click();
  await expect(page.getByText(/Line 2: an identifier has 3 hexadecimal digits/)).toBeVisible();
  await expect(page.getByRole("row", { name: /123 not named 2/ })).toBeVisible();
  await input.setInputFiles({
    name: "odd.dbc",
    mimeType: "text/plain",
    buffer: Buffer.from('BO_ 291 Known: 2 X\n SG_ A : 0|8@1+ (1,0) [0|0] "" X\nMYSTERY_ 1;\n'),
  });
  await expect(page.getByText("1 lines of the bus description could not be read")).toBeVisible();
  await expect(page.getByRole("row", { name: /123 Known 2/ })).toBeVisible();
});
