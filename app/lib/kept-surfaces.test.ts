import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { SURFACES } from "./kept-surfaces";

const root = join(import.meta.dirname, "..", "..");
const job = "01a22404-840b-72a2-99ff-1cc6bc675962";

describe("surfaces that open without connection", () => {
  const worker = readFileSync(join(root, "public", "hands-worker.js"), "utf8");
  const pattern = /const KEPT =\s*\/(.+)\/;/.exec(worker)?.[1];
  if (!pattern) throw new Error("the worker says no addresses");
  const kept = new RegExp(pattern);
  const routes = readFileSync(join(root, "app", "routes.ts"), "utf8");

  it.each(Object.entries(SURFACES))("are answered for by the worker and computed by the page: %s", (address, route) => {
    expect(kept.test(`/jobs/${job}/${address}`)).toBe(true);
    expect(routes).toMatch(new RegExp(`route\\("(jobs/:job/)?${address}", "routes/jobs/${route}.tsx"\\)`));
    const file = join(root, "app", "routes", "jobs", `${route}.tsx`);
    expect(existsSync(file)).toBe(true);
    expect(readFileSync(file, "utf8")).toMatch(/orKept(<\w+>)?\(/);
  });

  it("are all that the worker answers for", () => {
    const named = (/\(([a-z|\\/]+)\)\$$/.exec(pattern)?.[1] ?? "").replaceAll("\\/", "/").split("|");
    expect(named.toSorted()).toEqual(Object.keys(SURFACES).toSorted());
    expect(kept.test(`/jobs/${job}/fit`)).toBe(false);
    expect(kept.test(`/jobs/${job}/handover/more`)).toBe(false);
  });
});
