import { expect, type Page } from "@playwright/test";
import { hydrated, inHand, newJob, noViolations, openJob, plugEverything, rows, signIn, take, test } from "./helpers";

/** A job on which everything is plugged and set, by a person who answers for himself. */
async function pluggedJob(page: Page, title: string): Promise<string> {
  await signIn(page);
  const job = await newJob(page, {
    title,
    car: "Velmora Corrie, 2018 to 2022, automatic",
    variant: "Radio R2 with separate screen 1024x600",
    kit: "Orvanto OM-8 mirroring kit",
  });
  await plugEverything(page, job);
  await page.goto(`${job}/prove`);
  await hydrated(page);
  return job;
}

/** Answers a test in one tap. */
async function seen(page: Page, row: RegExp, word: string): Promise<void> {
  await take(page, row);
  await inHand(page)
    .getByRole("button", { name: new RegExp(`: ${word}$`) })
    .click();
  await expect(rows(page).getByRole("link", { name: row }).first()).toHaveAccessibleName(
    word === "Works" ? /works/ : /fails|too late/,
  );
}

const cause = async (page: Page) => {
  await take(page, /^Find the cause/);
  await expect(page.getByRole("heading", { name: "What it can be" })).toBeVisible();
};
const causes = (page: Page) => page.getByRole("region", { name: "What it can be" }).getByRole("listitem");

test("a picture that stays instead of going black tells the key from the lead", async ({ page }) => {
  await pluggedJob(page, "Slip road 1: stays");
  await seen(page, /^Factory picture ignition on/, "Works");
  await seen(page, /^Phone picture phone by wireless/, "Other picture stays");
  await cause(page);
  await expect(causes(page).first()).toContainText("The toggle key was let go too early");
  await expect(causes(page).first()).toContainText("Nothing is broken: rule it out first");
  await expect(inHand(page).getByRole("heading").first()).toContainText(/toggle key/i);
  await noViolations(page);
  // The same test, black this time, sends one elsewhere.
  await seen(page, /^Phone picture phone by wireless/, "Black");
  await cause(page);
  await expect(causes(page).first()).not.toContainText("toggle key");
  await causes(page)
    .first()
    .getByText("Why, and what then")
    .or(causes(page).first().getByText("min to look"))
    .first()
    .click();
  await expect(causes(page).first()).toContainText("For it");
});

test("a start that only needs waiting is waited for before any part is suspected", async ({ page }) => {
  await pluggedJob(page, "Slip road 2: starts up");
  await seen(page, /^Factory picture engine running/, "Black");
  await cause(page);
  await expect(causes(page).first()).toContainText("Nothing is broken");
  await expect(page.getByText("None of these")).toBeVisible();
  // It was only that: nothing is repaired, and what failed is tried again.
  await expect(inHand(page).getByRole("heading").first()).toHaveText("Wait and try again: the module starts up");
  await inHand(page)
    .getByRole("button", { name: /Works now$/ })
    .first()
    .click();
  await expect(inHand(page).getByRole("heading").first()).toHaveText("No fault: the module starts up");
  await inHand(page)
    .getByRole("button", { name: /^Nothing to repair, test again/ })
    .click();
  await expect(rows(page).getByRole("link", { name: /^Factory picture engine running/ })).toHaveAccessibleName(
    /not tried/,
  );
  await take(page, /^Causes found/);
  await expect(inHand(page).getByRole("listitem")).toContainText("No fault");
});

test("a result that speaks against the rest is tried again, and counts when it is the same", async ({ page }) => {
  await pluggedJob(page, "Slip road 7: against");
  await seen(page, /^Radio sound on four speakers tuner playing/, "Works");
  await seen(page, /^Factory picture ignition on/, "Black");
  await seen(page, /^Touch in the factory picture/, "Nothing happens");
  await seen(page, /^Wheel volume keys short press/, "Nothing happens");
  await seen(page, /^Next-track wheel key/, "Works");
  await cause(page);
  const notice = inHand(page).getByText("One result speaks against the rest").locator("..");
  await expect(notice).toContainText("Radio sound on four speakers, tuner playing works");
  await notice.getByText("Try it again").click();
  await notice.getByRole("button", { name: /: Works$/ }).click();
  await cause(page);
  await expect(inHand(page).getByText("Try it again").locator("..")).not.toContainText("Radio sound");
});

test("exchanged loudspeakers are tapped on the car and found in the plug", async ({ page }) => {
  await pluggedJob(page, "Slip road 3: loudspeakers");
  await take(page, /^Radio sound on four speakers tuner playing/);
  for (const corner of ["left rear", "right rear"])
    await inHand(page)
      .getByRole("button", { name: new RegExp(`^${corner} loudspeaker: silent`, "i") })
      .click();
  await inHand(page)
    .getByRole("button", { name: /from other loudspeakers/ })
    .click();
  await expect(
    rows(page).getByRole("link", { name: /^Radio sound on four speakers tuner playing.*fails/ }),
  ).toBeVisible();
  await cause(page);
  await expect(causes(page).first()).toContainText("Loudspeakers exchanged in the plug: left front and right front");
});

test("where nothing that is known fits, the page says so", async ({ page }) => {
  await pluggedJob(page, "Slip road 4: strange");
  await seen(page, /^Hazard switch key off/, "Something else happens");
  await seen(page, /^Factory picture ignition on/, "Frozen");
  await seen(page, /^Wheel volume keys short press/, "Something else happens");
  await take(page, /^Radio sound on four speakers tuner playing/);
  await inHand(page)
    .getByRole("button", { name: /: Breaks off$/ })
    .click();
  await inHand(page)
    .getByRole("button", { name: /Breaks off, when warm/ })
    .click();
  await expect(
    rows(page).getByRole("link", { name: /^Radio sound on four speakers tuner playing.*fails/ }),
  ).toBeVisible();
  await cause(page);
  await expect(inHand(page).getByText("it may be none of those that are known")).toBeVisible();
  await expect(causes(page).first()).toContainText("None of these");
  // What is typed is kept with the answer.
  await take(page, /^Phone picture phone by cable/);
  await inHand(page)
    .getByRole("button", { name: /: Message on the screen$/ })
    .click();
  await inHand(page).getByLabel("What does the screen say?").fill("No device");
  await inHand(page).getByRole("button", { name: "note it" }).or(inHand(page).getByText("Note it")).first().click();
  await take(page, /^Phone picture phone by cable/);
  await expect(inHand(page).getByText(/message on the screen.*No device/)).toBeVisible();
});

test("a second fault is found without starting again", async ({ page }) => {
  test.setTimeout(180_000);
  await signIn(page);
  await openJob(page, "car 4", "prove");
  const accent = page.locator(".bg-accent");
  const onTheCar = page.getByRole("button", { name: /^(Try|Check) on the stand-in car/ }).and(accent);
  const repair = page.getByRole("button", { name: /^Repaired, test again: / }).and(accent);
  const title = inHand(page).getByRole("heading").first();
  const answered = async (act: () => Promise<void>) => {
    const before = (await title.textContent()) ?? "";
    await act();
    await expect(title).not.toHaveText(before);
  };
  await seenOnTheCar(page, /^Phone sound on four speakers/, /fails/);
  await seenOnTheCar(page, /^Front camera after reverse/, /fails/);
  const repaired: string[] = [];
  for (let i = 0; i < 40 && repaired.length < 2; i++) {
    await take(page, /^Find the cause/);
    await expect(onTheCar.or(repair).first()).toBeVisible();
    if ((await repair.count()) === 0) {
      await answered(() => onTheCar.first().click());
      continue;
    }
    repaired.push(((await repair.getAttribute("aria-label")) ?? "").replace("Repaired, test again: ", ""));
    await repair.click();
    await expect(rows(page).getByRole("link", { name: /^Causes found/ })).toContainText(String(repaired.length));
    // What the repair can have changed is tried again; what it cannot is still known.
    for (const again of [/^Phone sound on four speakers.*not tried/, /^Front camera after reverse.*not tried/])
      if ((await rows(page).getByRole("link", { name: again }).count()) > 0) await seenOnTheCar(page, again, /./);
  }
  expect(repaired.sort()).toEqual([expect.stringMatching(/audio/i), expect.stringMatching(/camera/i)]);
});

/** Lets the stand-in car answer a test. */
async function seenOnTheCar(page: Page, row: RegExp, then: RegExp): Promise<void> {
  await take(page, row);
  const name = rows(page).getByRole("link", { name: row }).first();
  await inHand(page)
    .getByRole("button", { name: /^Try on the stand-in car/ })
    .click();
  await expect(name.or(rows(page).getByRole("link", { name: then })).first()).toBeVisible();
  await page.waitForTimeout(300);
}

test("a code that came with the work starts the search, and names what a control unit watches", async ({ page }) => {
  await signIn(page);
  const job = await newJob(page, {
    title: "Slip road 9: a code",
    car: "Sundrey Heron, 2018 to 2023, automatic",
    variant: "Radio H2, screen above the radio",
    kit: "Sundrey Wide 10 module and screen",
  });
  await plugEverything(page, job);
  await page.goto(`${job}/prove`);
  await hydrated(page);
  await expect(rows(page).getByRole("link", { name: /^Find the cause/ })).toHaveCount(0);
  await take(page, "Fault codes after the work");
  await page.getByRole("textbox", { name: "Fault codes after the work" }).fill("Body computer: B1A45 loop open");
  await page.getByRole("button", { name: "Note these codes" }).click();
  await take(page, /^Find the cause B1A45/);
  await expect(page.getByRole("heading", { name: "What it can be" })).toBeVisible();
  // The monitor watches the loop of the emergency call; the dummy plug that closes it is the first to look at.
  await expect(causes(page).first()).toContainText(/dummy|emergency call/i);
  await noViolations(page);
});
