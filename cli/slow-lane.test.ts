import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { removeLeftSockets } from "./slow-lane.mjs";

const folder = mkdtempSync(join(tmpdir(), "iteron-sockets-"));
afterAll(() => rmSync(folder, { recursive: true }));

describe("sockets of servers that were killed", () => {
  it("are removed; those of living ones and other files stay", () => {
    const { pid: dead } = spawnSync(process.execPath, ["-e", ""]);
    const names = [`iteron-${dead}.sock`, `iteron-${process.pid}.sock`, "iteron-notes.sock", `other-${dead}.sock`];
    for (const name of names) writeFileSync(join(folder, name), "");
    removeLeftSockets(folder);
    expect(readdirSync(folder).sort()).toEqual(names.slice(1).sort());
  });
});
