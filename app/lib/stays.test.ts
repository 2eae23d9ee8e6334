import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { answered, askedOrStays } from "./stays";

const ROUTES = join(import.meta.dirname, "..", "routes");
/** Not asked by a form: a script of the page asks, and says itself what went wrong. */
const ASKED_BY_SCRIPTS = ["units", "recording", "upload", "photos", "make", "check"];
/** Take nothing that somebody has typed. */
const NOTHING_TYPED = ["sign-out", "not-found", "fit"];

const acting = readdirSync(ROUTES, { recursive: true, encoding: "utf8" })
  .filter((file) => /\.tsx?$/.test(file))
  .map((file) => ({ name: file.replace(/^.*\/|\.tsx?$/g, ""), text: readFileSync(join(ROUTES, file), "utf8") }))
  .filter(({ text }) => /^export (async )?function action\b/m.test(text));

describe("what was typed", () => {
  it("stays on the page for every route that a form asks", () => {
    expect(acting.length).toBeGreaterThan(15);
    const exempt = [...ASKED_BY_SCRIPTS, ...NOTHING_TYPED];
    expect(acting.filter(({ text }) => !text.includes("clientAction")).map((r) => r.name)).toEqual(
      expect.arrayContaining(exempt),
    );
    for (const { name, text } of acting.filter((r) => !exempt.includes(r.name)))
      expect([name, text.includes("clientAction")]).toEqual([name, true]);
  });

  it("is no answer when the server is away, and a failure of the page is told apart", async () => {
    const stayed = await askedOrStays(() => Promise.reject(new TypeError("Failed to fetch")));
    expect(answered(stayed)).toBeUndefined();
    expect(answered({ ok: true })).toEqual({ ok: true });
    await expect(askedOrStays(() => Promise.reject(new RangeError("a mistake")))).rejects.toThrow("a mistake");
  });
});
