import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";

/** Modules that are read as soon as the command starts. */
function readAtOnce(file: string, seen = new Set<string>()): Set<string> {
  if (seen.has(file)) return seen;
  seen.add(file);
  const text = readFileSync(join(import.meta.dirname, file), "utf8");
  for (const [, from = ""] of text.matchAll(/^(?:import|export)\b[^;]*?from "([^"]+)";/gm))
    if (from.startsWith("./")) readAtOnce(from.slice(2), seen);
    else seen.add(from);
  return seen;
}

describe("the one command", () => {
  it("starts without any package, as in a fresh clone: it installs them", () => {
    const read = [...readAtOnce("main.mjs")];
    expect(read).toEqual(expect.arrayContaining(["serve.mjs", "install.mjs", "node:path"]));
    expect(read.filter((m) => !m.endsWith(".mjs") && !m.startsWith("node:"))).toEqual([]);
  });
});
