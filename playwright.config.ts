import { defineConfig } from "@playwright/test";

/** Servers with a demonstration each, as `./iteron test e2e` starts them; without, the one that is running. */
const lanes: string | undefined = process.env.ITERON_LANES;

/** Debian's Chromium without background traffic. */
export default defineConfig({
  testDir: "tests/e2e",
  timeout: 90_000,
  // A machine that does other things at the same time loses a race now and then; what needed it is said as flaky.
  retries: 2,
  expect: { timeout: 15_000 },
  workers: lanes ? JSON.parse(lanes).length : 1,
  reporter: [["list"], ["json"]],
  use: {
    baseURL: "http://127.0.0.1:4870",
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
