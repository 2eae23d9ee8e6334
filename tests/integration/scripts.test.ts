/** What the built pages ask a browser for before they can be used. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { describe, expect, it } from "vitest";

const ASSETS = join(import.meta.dirname, "../../build/client/assets");
const MOST_BYTES = 200_000;

interface Route {
  id: string;
  parentId?: string;
  module: string;
  imports?: string[];
}

/** What the framework tells the browser of its routes. */
const manifest: { entry: { module: string; imports: string[] }; routes: Record<string, Route> } = (() => {
  const file = readdirSync(ASSETS).find((f) => f.startsWith("manifest-")) ?? "";
  const text = readFileSync(join(ASSETS, file), "utf8");
  return JSON.parse(text.slice(text.indexOf("=") + 1).replace(/;\s*$/, ""));
})();

const read = new Map<string, { bytes: number; imports: string[] }>();
function script(name: string) {
  const known = read.get(name);
  if (known) return known;
  const text = readFileSync(join(ASSETS, name), "utf8");
  const imports = [...text.matchAll(/(?:import|from)\s*"\.\/([^"]+\.js)"/g)].flatMap((m) => m[1] ?? []);
  const one = { bytes: gzipSync(text).length, imports };
  read.set(name, one);
  return one;
}

/** Everything that is loaded with a page: the framework, its layouts, and what they import, however deep. */
function scriptsOf(route: Route): Set<string> {
  const roots = [manifest.entry.module, ...manifest.entry.imports];
  for (let at: Route | undefined = route; at; at = at.parentId ? manifest.routes[at.parentId] : undefined)
    roots.push(at.module, ...(at.imports ?? []));
  const found = new Set<string>();
  const left = roots.map((r) => r.replace("/assets/", ""));
  for (let name = left.pop(); name !== undefined; name = left.pop()) {
    if (found.has(name)) continue;
    found.add(name);
    left.push(...script(name).imports);
  }
  return found;
}

describe("scripts of a page, compressed", () => {
  const pages = Object.values(manifest.routes);

  it("are all found", () => {
    expect(pages.length).toBeGreaterThan(30);
    for (const page of pages) expect(scriptsOf(page).size, page.id).toBeGreaterThan(5);
  });

  it.each(pages.map((page) => [page.id, page] as const))("are 200 kB at most: %s", (_, page) => {
    const bytes = [...scriptsOf(page)].reduce((n, name) => n + script(name).bytes, 0);
    expect(bytes).toBeLessThanOrEqual(MOST_BYTES);
  });
});
