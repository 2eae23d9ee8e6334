import { expect } from "@playwright/test";
import { hydrated, noViolations, signIn, test } from "./helpers";

/**
 * The leaflet: “Tessaro Inlay 9, board inside the radio, for radios with the white 20-way plug C and the 50-way
 * ribbon. Screens 1024x600 and 800x480. Bank of eight. Car's own Bluetooth. 395.”
 */
const LEAFLET = `Price: 395
Price of the camera: 12
8 switches
switch 3: touch reader
White 20-pin main plug, code C.`;

/** Pictures of one dot, black and white. */
const DOTS = [
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNgAAAAAgABSK+kcQAAAABJRU5ErkJggg==",
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGP4DwABAQEAG7buVgAAAABJRU5ErkJggg==",
];

test("a new kit is entered from its leaflet by starting from the nearest one", async ({ page }) => {
  test.setTimeout(180_000);
  await signIn(page, "lead@skerry.example");
  await page.goto("/library");
  await page.getByRole("link", { name: "Enter a new one" }).click();
  await hydrated(page);
  await page.getByLabel("What kind of work is it?").fill("board inside");
  await page.getByRole("link", { name: "Pellimar Inlay 6 board" }).click();
  await hydrated(page);

  const started = Date.now();
  await page.getByLabel("Name of the kit").fill("Tessaro Inlay 9 board");
  await expect(page.getByLabel("Identifier")).toHaveValue("tessaro-inlay-9-board");
  await page.getByLabel("Maker").fill("Tessaro");
  // The rest is read from the text; the wrong reading of one line is not taken.
  await page.getByText("Paste the text of a leaflet").click();
  await page.getByLabel("Text of the leaflet").fill(LEAFLET);
  const found = page.getByRole("list", { name: "Found in the text" });
  await expect(found.getByRole("listitem")).toHaveCount(7);
  await found.getByLabel(/^Price: 12/).uncheck();
  await page.getByRole("button", { name: "Take over 6 of 7" }).click();
  await expect(page.getByLabel("Price")).toHaveValue("395");
  await expect(page.getByLabel("Switches in the bank")).toHaveValue("8");
  const gives = page.getByRole("region", { name: "What it gives" });
  await expect(gives).toContainText("Everything it names is there");
  await expect(gives.getByRole("listitem").filter({ hasText: /Phone picture$/ })).toContainText("Gained");
  // Answers that cannot stand together are named where they stand, and the way there is short.
  await page.getByLabel("Touch reader").fill("9");
  await expect(page.getByText("There are switches 1 to 8.", { exact: true })).toBeVisible();
  await page.getByLabel("Price").focus();
  await page.getByRole("button", { name: "1 answer to correct" }).click();
  await expect(page.getByLabel("Touch reader")).toBeFocused();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("3");
  await expect(page.getByRole("button", { name: "1 answer to correct" })).toBeHidden();
  // And what follows from an answer is said below it.
  await page.getByLabel("Comes blank and is loaded from a computer").check();
  await expect(page.getByText("5 more settings.", { exact: true })).toBeVisible();
  await page.getByLabel("Comes blank and is loaded from a computer").uncheck();
  await expect(page.getByText("5 settings fewer.", { exact: true })).toBeVisible();
  await page.getByLabel("Ways", { exact: true }).first().fill("2");
  await expect(gives).toContainText("contacts in a housing of 2 ways");
  await page.getByLabel("Ways", { exact: true }).first().fill("20");
  await expect(gives).toContainText("Everything it names is there");
  await expect(gives).toContainText("Left open");
  await page.getByRole("button", { name: "Build the document" }).click();
  await expect(page).toHaveURL(/library\/drafts\//);
  await hydrated(page);
  console.log(`a kit entered from its leaflet: 7 inputs, ${Math.round((Date.now() - started) / 1000)} s by machine`);

  // A line of the card stands only with one choice: a sentence with menus says so.
  await page.getByRole("button", { name: "Box and needs" }).click();
  await page
    .getByText(/^First pairing by cable/)
    .first()
    .click();
  await expect(page.getByText("With first pairing: first by cable, then wireless.")).toBeVisible();
  await page.getByRole("checkbox", { name: "Wireless from the start" }).check();
  await expect(
    page.getByText("With first pairing: wireless from the start or first by cable, then wireless."),
  ).toBeVisible();

  await page.getByRole("button", { name: "Parts and contacts" }).click();
  await page.getByText("Interface board", { exact: true }).first().click();
  await page.getByText("main plug", { exact: true }).first().click();
  await page.getByRole("button", { name: "Paste a table" }).first().click();
  await page.getByLabel("Table of contacts").fill("7;trigger;out;camera feed;purple\n8;nonsense;in");
  await expect(page.getByText("“nonsense” is no kind of signal")).toBeVisible();
  await page.getByRole("button", { name: "Take over 1 contacts" }).click();
  await expect(page.getByText("Draft, saved")).toBeVisible();

  await page.getByRole("button", { name: "Put into the library" }).click();
  await expect(page).toHaveURL(/library\/kit\/tessaro-inlay-9-board/);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Tessaro Inlay 9 board");
  await expect(page.getByText("Not tried yet")).toBeVisible();

  await page.getByRole("button", { name: "Edit" }).click();
  await expect(page).toHaveURL(/drafts/);
  await hydrated(page);
  await page.getByLabel("Price").press("End");
  await page.getByLabel("Price").pressSequentially(",5");
  await expect(page.getByLabel("Price")).toHaveValue("395,5");
  await page.getByLabel("Price").fill("405");
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(page.getByText("Draft, saved")).toBeVisible();
  await page.getByRole("button", { name: "Put into the library" }).click();
  await expect(page.getByText("What version 2 changed against version 1")).toBeVisible();
  await expect(page.getByText("405", { exact: true })).toBeVisible();

  await page.goto("/library");
  await hydrated(page);
  await page.getByRole("searchbox", { name: "Search" }).fill("tessaro 9");
  await expect(page.getByRole("region", { name: "Found profiles" }).getByRole("link")).toHaveCount(1);
  await page.goto("/library/colours");
  await expect(page.getByRole("listitem").filter({ hasText: "Tessaro Inlay 9 board" }).first()).toContainText("purple");
});

test("a draft that makes no sense is kept and not released", async ({ page }) => {
  await signIn(page, "lead@skerry.example");
  await page.goto("/library/kit/ostrel-line-1");
  await hydrated(page);
  await page.getByRole("button", { name: "Copy" }).click();
  await expect(page).toHaveURL(/drafts/);
  await hydrated(page);
  await page.getByLabel("Title").fill("");
  await expect(page.getByText("Draft, saved")).toBeVisible();
  await page.getByRole("button", { name: "Put into the library" }).click();
  await expect(page.getByText(/^title: .*The draft is kept\./)).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Without a name");
  await hydrated(page);
  await page.getByRole("button", { name: "Throw away" }).click();
  await expect(page).toHaveURL(/\/library$/);
});

test("contacts are entered on the drawn plug, one in hand", async ({ page }) => {
  await signIn(page, "lead@skerry.example");
  await page.goto("/library/kit/orvanto-om8");
  await hydrated(page);
  await page.getByRole("button", { name: "Copy" }).click();
  await expect(page).toHaveURL(/drafts/);
  await hydrated(page);
  await page.getByRole("button", { name: "Parts and contacts" }).click();
  await page
    .locator("summary")
    .filter({ hasText: /^T-harness$/ })
    .click();
  const port = page.locator("details").filter({ has: page.locator("summary", { hasText: /^plug to the module$/ }) });
  await port.last().locator("summary").first().click();
  const plug = page.getByRole("group", { name: /^plug to the module, mating side: 1 B\+, 2 GND, 3 CAN, 4 CAN$/ });
  await plug.getByRole("button", { name: "4 CAN" }).click();
  await expect(page.getByRole("group", { name: /^4 .*bus low/ })).toBeVisible();
  // A cavity without a contact gets one, from the keyboard too.
  await plug.getByRole("button", { name: "5 empty" }).press("Enter");
  const fifth = page.getByRole("group", { name: /^5 / }).first();
  await fifth.getByLabel("Kind").selectOption("ground");
  await page.getByRole("button", { name: "Done with contact 5" }).click();
  const grown = page.getByRole("group", { name: /^plug to the module, mating side: .*4 CAN, 5 GND$/ });
  await expect(grown).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(grown.or(plug).getByRole("button", { name: "5 empty" })).toBeVisible();

  // Photos of the part are chosen, two at once, and told what they show.
  const harness = page.getByRole("group", { name: "T-harness", exact: true });
  await harness.getByRole("button", { name: "Photos" }).first().click();
  const picture = (n: number) => ({
    name: `${n}.png`,
    mimeType: "image/png",
    buffer: Buffer.from(DOTS[n] ?? "", "base64"),
  });
  await Promise.all([
    page.getByLabel("Photo of a plug").setInputFiles(picture(0)),
    page.getByLabel("Photo of the label").setInputFiles(picture(1)),
  ]);
  await expect(harness.getByRole("img", { name: /^(Plug|Label): T-harness$/ })).toHaveCount(2);
  await page.getByLabel("What photo 1 shows").fill("grey, code M on its edge");
  await expect(page.getByRole("img", { name: /T-harness, grey, code M on its edge$/ })).toBeVisible();
  await page.getByLabel("Photo of the part").setInputFiles({ ...picture(0), buffer: Buffer.from("no picture") });
  await expect(page.getByText("photo: it is no picture that can be shown")).toBeVisible();
  await noViolations(page);
  await page.getByRole("button", { name: "Throw away" }).click();
});
