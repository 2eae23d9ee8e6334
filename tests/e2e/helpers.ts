import { execFileSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { createRequire } from "node:module";
import { test as base, expect, type Locator, type Page } from "@playwright/test";
import { DEMO_PASSWORD } from "../../demo/people";

const require = createRequire(import.meta.url);

/** A server with a demonstration of its own, and how its database is reached. */
interface Lane {
  url: string;
  env: Record<string, string>;
}

const LANES: Lane[] = JSON.parse(process.env.ITERON_LANES ?? "[]");

/** Every test here is this one: it runs on the lane of its worker. */
export const test = base.extend<{ freshAtRetry: undefined }>({
  baseURL: async ({ baseURL }, use, { parallelIndex }) => {
    await use(LANES[parallelIndex]?.url ?? baseURL);
  },
  // What the car, as it stands, asks before a press is answered by its one tap; a test of that takes it away.
  page: async ({ page }, use) => {
    await page.addLocatorHandler(goesOn(page), (tap) => tap.click());
    await use(page);
  },
  // A second try finds the demonstration as new, for the first has ticked, typed and closed things in it.
  freshAtRetry: [
    // biome-ignore lint/correctness/noEmptyPattern: how a fixture says that it needs no other
    async ({}, use, { retry, parallelIndex }) => {
      const lane = LANES[parallelIndex];
      if (retry > 0 && lane)
        execFileSync(process.execPath, ["--import", "tsx", "cli/prepare.ts", "--demo", "--reset"], {
          env: { ...process.env, ...lane.env },
        });
      await use(undefined);
    },
    { auto: true, timeout: 120_000 },
  ],
});

/** The tap that sets the car right and goes on. */
function goesOn(page: Page): Locator {
  return page.getByRole("dialog").getByRole("button", { name: /: go on$/ });
}

/** Signs in as the form does; no page is opened, as most tests begin with another one. */
export async function signIn(page: Page, email = "technician@skerry.example"): Promise<void> {
  const form = await page.request.get("/sign-in");
  const answer = await page.request.post("/sign-in", {
    headers: { origin: new URL(form.url()).origin },
    form: { email, password: DEMO_PASSWORD },
    maxRedirects: 0,
  });
  expect(answer.status()).toBe(302);
}

/** Signs in as a person does, and waits for the board. */
export async function signInByForm(page: Page, email = "technician@skerry.example"): Promise<void> {
  await page.goto("/sign-in");
  await page.getByLabel("E-mail").fill(email);
  await page.getByLabel("Password").fill(DEMO_PASSWORD);
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  await page.waitForURL("**/board");
}

/** Opens a job of the demonstration by a part of its title. */
export async function openJob(page: Page, title: string, surface?: string): Promise<string> {
  const board = await (await page.request.get("/board")).text();
  const cards = board.split(/(?=href="\/jobs\/[0-9a-f-]{36}")/).slice(1);
  const href = /^href="([^"]+)"/.exec(cards.find((c) => c.includes(title)) ?? "")?.[1] ?? "";
  expect(href, `a job with “${title}” on the board`).toMatch(/^\/jobs\/[0-9a-f-]{36}$/);
  await page.goto(surface ? `${href}/${surface}` : href);
  await expect(page.getByRole("complementary", { name: "Next action" })).toBeVisible();
  await hydrated(page);
  return href;
}

/** The list of a surface. */
export function rows(page: Page): Locator {
  return page.getByRole("main").getByRole("navigation");
}

/** Takes a thing of a surface in hand by its row. */
export async function take(page: Page, name: string | RegExp): Promise<void> {
  const row = rows(page).getByRole("link", { name }).first();
  await row.click();
  await expect(row).toHaveAttribute("aria-current", "true");
}

/** The thing in hand. */
export function inHand(page: Page): Locator {
  return page.getByRole("region", { name: "In hand" });
}

/** Opens a new job by its form; the page shows its intake. Returns the address of the job. */
export async function newJob(
  page: Page,
  { title, car, variant, kit, practice }: { title: string; car: string; variant: string; kit: string; practice?: true },
): Promise<string> {
  await page.goto("/jobs/new");
  await hydrated(page);
  await page.getByLabel("Job", { exact: true }).fill(title);
  await page.getByLabel("Car", { exact: true }).selectOption({ label: car });
  await page.getByLabel("Radio variant").selectOption({ label: variant });
  await page.getByLabel("Kit", { exact: true }).selectOption({ label: kit });
  if (practice) await page.getByLabel(/^Practice/).check();
  await page.getByRole("button", { name: "Open the job" }).click();
  await page.waitForURL(/intake$/);
  return new URL(page.url()).pathname.replace("/intake", "");
}

/** Marks every connection of the kit as plugged, as the buttons of Connect do. */
export async function plugEverything(page: Page, job: string): Promise<void> {
  const { opened } = await (await page.request.get(`${job}/kept.json`)).json();
  const links: string[] = opened.kit.plug.filter((l: { air?: boolean }) => !l.air).map((l: { id: string }) => l.id);
  expect(links.length).toBeGreaterThan(5);
  // Contacts are moved before their plug goes in.
  for (const { setting, moves } of opened.kit.sets as { setting: string; moves?: unknown[] }[])
    if (moves?.length) await pressed(page, job, { kind: "configure.set", data: { setting, done: true } });
  for (const link of links)
    await page.request.post(`${job}/log`, {
      headers: { origin: new URL(page.url()).origin },
      form: { entry: randomUUID(), body: JSON.stringify({ kind: "connect.plug", data: { link, plugged: true } }) },
    });
}

/** A car whose airbags ask for two seconds instead of ten minutes, which no test can wait, with its radio. */
export const QUICK = { car: "Corrie of the tests, two seconds to wait", variant: "Radio R2 of that Corrie" };

/** Takes that car and its radio into the library; signs in as the lead. */
export async function shortWait(page: Page): Promise<void> {
  await signIn(page, "lead@skerry.example");
  const document = async (kind: string, slug: string) => {
    await page.goto(`/library/${kind}/${slug}`);
    const file = await page.locator('a[href$=".json"]').first().getAttribute("href");
    return (await page.request.get(file ?? "")).json();
  };
  const car = await document("car", "velmora-corrie-19");
  const variant = await document("variant", "velmora-corrie-19-r2");
  const quick = { ...car, id: "quick-corrie", title: QUICK.car };
  const own = [
    { ...quick, stripPlan: { ...car.stripPlan, batteryWaitMin: 0.03 } },
    { ...variant, id: "quick-corrie-r2", car: "quick-corrie", title: QUICK.variant },
  ];
  for (const one of own) {
    await page.goto("/library");
    await hydrated(page);
    if ((await page.getByText(one.title).count()) > 0) continue;
    await page.getByLabel("Profile file or bundle").setInputFiles({
      name: `${one.id}.json`,
      mimeType: "application/json",
      buffer: Buffer.from(JSON.stringify(one)),
    });
    await page.getByRole("button", { name: "Import", exact: true }).click();
    await expect(page.getByText(`Stored “${one.title}”`, { exact: false })).toBeVisible();
  }
}

/** Opens step-by-step mode and does what comes on the bench, before the first cover. */
export async function openHands(page: Page, job: string): Promise<void> {
  await page.goto(`${job}/hands`);
  await hydrated(page);
  const title = page.getByRole("heading", { level: 1 });
  for (const bench of ["Set the switch bank and enter how it stands", "Lay the kit out on the bench"]) {
    if ((await title.textContent()) !== bench) continue;
    await expect(async () => {
      await page.locator("footer button.bg-accent").click({ timeout: 900 });
      await expect(title).not.toHaveText(bench, { timeout: 900 });
    }).toPass({ timeout: 20_000 });
  }
}

/** Says how the car stands, as the buttons of its state do. */
export async function stands(page: Page, job: string, sets: Record<string, string | boolean>): Promise<void> {
  await pressed(page, job, { kind: "strip.stands", data: { sets } });
}

async function pressed(page: Page, job: string, ...bodies: object[]): Promise<void> {
  const form = new FormData();
  for (const body of bodies) {
    form.append("entry", randomUUID());
    form.append("body", JSON.stringify(body));
  }
  const answer = await page.request.post(`${job}/log`, {
    headers: { origin: new URL(page.url()).origin },
    multipart: form,
  });
  expect([answer.status(), await answer.text()]).toEqual([200, expect.any(String)]);
}

/** Takes an option of a kit in Fit and confirms it, once the preview shows what follows from it. */
export async function confirmOption(
  page: Page,
  job: string,
  { choice, option, brings }: { choice: string; option: string; brings: string },
): Promise<void> {
  await page.goto(`${job}/fit`);
  await hydrated(page);
  const group = page.getByRole("group", { name: choice });
  await expect(page.getByRole("region", { name: "Choices" })).toBeVisible();
  if (!(await group.isVisible())) await page.getByText(/^Ways of working/).click();
  await group.getByLabel(option).check();
  // The preview has come when the address names the choices.
  await expect(page).toHaveURL(/\?kit=/);
  await expect(group).toContainText(brings);
  const kept = page.waitForResponse((r) => r.request().method() === "POST");
  await page.getByRole("button", { name: "Confirm kit and choices" }).click();
  await kept;
}

/** Waits until the client script has taken over, also the parts that come later, so that nothing is lost. */
export async function hydrated(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    const taken = (e: Element | null) => Object.keys(e ?? {}).some((k) => k.startsWith("__react"));
    return taken(document.querySelector("main")) && !document.querySelector("main [inert]");
  });
}

/** No accessibility violation of WCAG A and AA on the page as it stands. */
export async function noViolations(page: Page): Promise<void> {
  await page.addScriptTag({ path: require.resolve("axe-core") }).catch(() => page.evaluate(require("axe-core").source));
  const found = await page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: {
        run(
          o: unknown,
        ): Promise<{ violations: { id: string; nodes: { target: string[]; failureSummary: string }[] }[] }>;
      };
    };
    const { violations } = await axe.run({
      runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"],
      resultTypes: ["violations"],
    });
    return violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .slice(0, 3)
          .map((n) => `${n.target.join(" ")} ${n.failureSummary}`)
          .join(" | ")}`,
    );
  });
  expect(found).toEqual([]);
}
