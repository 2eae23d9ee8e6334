import { createRequire } from "node:module";
import { expect, type Page } from "@playwright/test";
import { DEMO_PASSWORD } from "../../demo/people";

const require = createRequire(import.meta.url);

/** Signs in and waits for the board. */
export async function signIn(page: Page, email = "technician@skerry.example"): Promise<void> {
  await page.goto("/sign-in");
  await page.getByLabel("Address").fill(email);
  await page.getByLabel("Password").fill(DEMO_PASSWORD);
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  await page.waitForURL("**/board");
}

/** Opens a job of the demonstration by a part of its title. */
export async function openJob(page: Page, title: string, surface?: string): Promise<string> {
  await page.goto("/board");
  const href =
    (await page
      .getByRole("link", { name: new RegExp(title) })
      .first()
      .getAttribute("href")) ?? "";
  await page.goto(surface ? `${href}/${surface}` : href);
  await expect(page.getByRole("complementary", { name: "Next action" })).toBeVisible();
  await hydrated(page);
  return href;
}

/** Waits until the client script has taken over, so that clicks are not lost. */
export async function hydrated(page: Page): Promise<void> {
  await page.waitForFunction(() =>
    Object.keys(document.querySelector("main") ?? {}).some((k) => k.startsWith("__react")),
  );
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
    const { violations } = await axe.run({ runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"] });
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
