import { expect, type Page } from "@playwright/test";
import { SURFACES } from "../support/surfaces";
import { hydrated, openJob, signIn, test } from "./helpers";

/** What Chromium itself says was against the policy of a page. */
async function listen(page: Page): Promise<string[]> {
  const reported: string[] = [];
  await page.exposeFunction("reportViolation", (what: string) => void reported.push(what));
  await page.addInitScript(() => {
    document.addEventListener("securitypolicyviolation", (e) =>
      (window as unknown as { reportViolation(what: string): void }).reportViolation(
        `${location.pathname}: ${e.effectiveDirective} ${e.blockedURI} ${e.sample}`,
      ),
    );
  });
  return reported;
}

test("no page does what its policy forbids, and nothing is asked of another machine", async ({ page }) => {
  test.setTimeout(180_000);
  const reported = await listen(page);
  const elsewhere: string[] = [];
  page.on("request", (r) => {
    if (!/^(data|blob):/.test(r.url()) && new URL(r.url()).hostname !== "127.0.0.1") elsewhere.push(r.url());
  });
  await signIn(page);
  const job = await openJob(page, "car 7");
  const inJob = [...SURFACES, "prove?at=cause", "prove?at=unnoticed", "prove?at=cannot", "hands", "learned"];
  for (const path of ["/board", "/library", "/library/new", ...inJob.map((s) => `${job}/${s}`)]) {
    await page.goto(path);
    await hydrated(page);
  }
  expect(reported).toEqual([]);
  expect(elsewhere).toEqual([]);
});

test("a script that somebody has put into a page does not run, and the browser says so", async ({ page }) => {
  const reported = await listen(page);
  await signIn(page);
  await page.goto("/board");
  await page.evaluate(() => {
    const script = document.createElement("script");
    script.textContent = "window.ran = true";
    document.body.append(script);
    const image = document.createElement("img");
    image.src = "http://127.0.0.1:9/pixel";
    document.body.append(image);
  });
  await expect.poll(() => reported.map((r) => r.split(" ")[1])).toEqual(["script-src-elem", "img-src"]);
  expect(await page.evaluate(() => (window as unknown as { ran?: boolean }).ran)).toBeUndefined();
});
