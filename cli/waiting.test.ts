import { spawn } from "node:child_process";
import { appendFileSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { waitFor } from "./waiting.mjs";

const log = () => {
  const file = join(mkdtempSync(join(tmpdir(), "iteron-wait-")), "log");
  writeFileSync(file, "first line\n");
  return file;
};
const never = async () => false;

describe("waiting for a start", () => {
  it("lasts as long as the process gets on, and ends with the answer", async () => {
    const file = log();
    let looks = 0;
    const answers = async () => {
      appendFileSync(file, "more\n");
      return ++looks > 4;
    };
    await waitFor({ name: "The server", answers, pid: process.pid, log: file, stuckMs: 400 });
    expect(looks).toBe(5);
  });

  it("ends at once when the process is dead, with the last lines of its log", async () => {
    const child = spawn("true");
    await new Promise((resolve) => child.once("exit", resolve));
    await expect(waitFor({ name: "The server", answers: never, pid: child.pid ?? 0, log: log() })).rejects.toThrow(
      /The server did not start.*first line/s,
    );
  });

  it("ends when nothing has moved for long", async () => {
    const child = spawn("sleep", ["30"], { detached: true });
    const waited = waitFor({ name: "The server", answers: never, pid: child.pid ?? 0, log: log(), stuckMs: 300 });
    await expect(waited).rejects.toThrow(/has not got on for/);
    child.kill();
  });
});
