import { spawn } from "node:child_process";
import net from "node:net";
import { describe, expect, it } from "vitest";
import { endProcess, freePortFrom, isOurs, portFree, run } from "./common.mjs";

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
