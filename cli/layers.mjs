#!/usr/bin/env node
// Dependencies point one way: core <- profiles <- sim <- db <- app. Tests may look further down the line.
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";

const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const ORDER = ["core", "profiles", "sim", "db", "app"];
/** What `core/` may import from outside: pure packages that need neither browser nor Node. */
const BARE_IN_CORE = ["ml-matrix", "papaparse", "graphology", "graphology-shortest-path"];

const problems = [];
for (const [level, house] of ORDER.entries()) {
  for (const file of files(join(root, house))) {
    if (/\.test\.tsx?$/.test(file)) continue;
    for (const target of imports(readFileSync(file, "utf8"))) check(level, house, file, target);
  }
}
if (problems.length > 0) {
  console.error(problems.join("\n"));
  process.exit(1);
}

function check(level, house, file, target) {
  const where = relative(root, file);
  if (!target.startsWith(".") && !target.startsWith("~/")) {
    if (house === "core" && !BARE_IN_CORE.includes(target.split("/")[0]))
      problems.push(`${where}: core/ is pure and may not import “${target}”.`);
    return;
  }
  const path = target.startsWith("~/") ? target.slice(2) : relative(root, join(dirname(file), target));
  const other = ORDER.indexOf(path.split("/")[0]);
  if (other > level) problems.push(`${where}: ${house}/ may not import from ${ORDER[other]}/ (${target}).`);
}

function files(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return files(path);
    return /\.tsx?$/.test(entry.name) ? [path] : [];
  });
}

function imports(source) {
  return [...source.matchAll(/(?:from|import)\s*\(?\s*"([^"]+)"/g)].map((m) => m[1]);
}
