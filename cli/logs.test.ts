import {
  appendFileSync,
  closeSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { rotate } from "./logs.mjs";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "iteron-logs-"));
});
afterEach(() => rmSync(folder, { recursive: true }));

describe("a log", () => {
  it("is turned over while somebody has it open, and nothing that is written afterwards goes elsewhere", () => {
    const file = join(folder, "server.log");
    const open = openSync(file, "a");
    for (let turn = 0; turn < 9; turn++) {
      writeSync(open, `${turn} `.repeat(60));
      rotate(file, 100);
    }
    writeSync(open, "last");
    closeSync(open);
    expect(readFileSync(file, "utf8")).toBe("last");
    expect(readdirSync(folder).sort()).toEqual(["server.log", ...[1, 2, 3, 4, 5].map((n) => `server.log.${n}`)]);
    expect(readFileSync(`${file}.1`, "utf8")).toMatch(/^8 /);
    expect(readFileSync(`${file}.5`, "utf8")).toMatch(/^4 /);
  });

  it("is left alone while it is small or not there", () => {
    const file = join(folder, "small.log");
    rotate(file, 100);
    appendFileSync(file, "few words");
    rotate(file, 100);
    expect(readdirSync(folder)).toEqual(["small.log"]);
  });
});
