import { spawn } from "node:child_process";
import net from "node:net";
import { describe, expect, it } from "vitest";
import { endProcess, freePortFrom, isOurs, portFree, run, using } from "./common.mjs";

describe("processes", () => {
  it("are recognised by number and command line together, so that a recycled number is not taken for ours", async () => {
    const child = spawn(process.execPath, ["-e", "setTimeout(() => {}, 20000) // iteron-test-mark"]);
    const pid = child.pid ?? 0;
    await expect.poll(() => isOurs(pid, "iteron-test-mark")).toBe(true);
    expect(isOurs(pid, "some other mark")).toBe(false);
    expect(isOurs(1, "iteron-test-mark")).toBe(false);
    expect(isOurs(-1, "")).toBe(false);
    await endProcess(pid, "some other mark");
    expect(isOurs(pid, "iteron-test-mark")).toBe(true);
    await endProcess(pid, "iteron-test-mark");
    expect(isOurs(pid, "iteron-test-mark")).toBe(false);
  });

  it("that ignore the request to end are ended all the same", async () => {
    const child = spawn(process.execPath, [
      "-e",
      "process.on('SIGTERM', () => {}); console.log('up'); setTimeout(() => {}, 20000) // iteron-deaf-mark",
    ]);
    await new Promise((resolve) => child.stdout.once("data", resolve));
    const ended = new Promise((resolve) => child.once("exit", (_, signal) => resolve(signal)));
    await endProcess(child.pid ?? 0, "iteron-deaf-mark", 300);
    expect(await ended).toBe("SIGKILL");
  });

  it("that fail tell their last lines", async () => {
    await expect(run(process.execPath, ["-e", "console.error('the reason'); process.exit(3)"])).rejects.toThrow(
      /the reason/,
    );
    expect((await run(process.execPath, ["-e", "process.exit(3)"], { allowFailure: true })).code).toBe(3);
    await expect(run("no-such-program", [])).rejects.toThrow(/no-such-program cannot be started/);
  });
});

describe("work with something that must be ended", () => {
  it("ends the newest first when the work is over, when it fails, and when the program is interrupted", async () => {
    const ended: string[] = [];
    const end = (name: string) => async () => void ended.push(name);
    expect(await using(end("outer"), () => using(end("inner"), async () => 7))).toBe(7);
    await expect(using(end("failed"), () => Promise.reject(new Error("no")))).rejects.toThrow("no");
    expect(ended).toEqual(["inner", "outer", "failed"]);

    const program = `
      const { using } = await import(${JSON.stringify(new URL("./common.mjs", import.meta.url).href)});
      const say = (text) => async () => console.log(text);
      await using(say("database"), () => using(say("server"), async () => {
        process.kill(process.pid, "SIGTERM");
        await new Promise((resolve) => setTimeout(resolve, 20_000));
      }));`;
    const args = ["--input-type=module", "-e", program];
    const { code, output } = await run(process.execPath, args, { allowFailure: true });
    expect([code, output.trim().split("\n")]).toEqual([130, ["server", "database"]]);
  });
});

describe("ports", () => {
  it("that are taken are passed over", async () => {
    const server = net.createServer();
    await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
    const { port } = server.address() as net.AddressInfo;
    expect(await portFree(port)).toBe(false);
    expect(await freePortFrom(port)).toBeGreaterThan(port);
    await new Promise((resolve) => server.close(resolve));
    expect(await portFree(port)).toBe(true);
  });
});
