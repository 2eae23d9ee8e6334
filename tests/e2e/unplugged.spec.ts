import { expect } from "@playwright/test";
import { hydrated, newJob, signIn, test } from "./helpers";

/** A serial port with a listening adapter behind it: answers every command, tells frames, and can be pulled out. */
function adapter(): void {
  const w = window as never as Record<string, unknown>;
  const said = (text: string) => new TextEncoder().encode(text);
  const port = {
    readable: null as ReadableStream<Uint8Array> | null,
    writable: null as WritableStream<Uint8Array> | null,
    async open() {
      let out: ReadableStreamDefaultController<Uint8Array> | null = null;
      let frames = 0;
      const talk = setInterval(() => out?.enqueue(said(`t1A440${(frames++ % 4).toString(16)}000000\r`)), 20);
      port.readable = new ReadableStream({
        start(to) {
          out = to;
        },
      });
      port.writable = new WritableStream({
        write(bytes) {
          for (const command of new TextDecoder().decode(bytes).split("\r"))
            if (command !== "") out?.enqueue(said(command === "V" ? "V1013\r" : "\r"));
        },
      });
      w.pullOut = () => {
        clearInterval(talk);
        out?.error(new Error("gone"));
        out = null;
      };
    },
    async close() {},
  };
  Object.defineProperty(navigator, "serial", { value: { requestPort: async () => port } });
}

test("an adapter is pulled out while it records: what was heard is kept, with the cues that were called", async ({
  page,
}) => {
  await page.addInitScript(adapter);
  await signIn(page);
  const job = await newJob(page, {
    title: "Ferry deck: a short recording",
    car: "Velmora Osk, 2016 to 2020, automatic",
    variant: "Radio O2, 1024x600 without mirroring",
    kit: "Orvanto OM-9 with harness B, loaded for the car",
  });
  await page.goto(`${job}/bus/hunt`);
  await hydrated(page);
  await page.getByRole("button", { name: "Record with an adapter" }).click();
  await expect(page.getByText(/[1-9]\d* frames heard/)).toBeVisible();
  // Two cues are over after some twelve seconds.
  await page.waitForTimeout(13_000);
  await page.evaluate(() => (window as never as { pullOut(): void }).pullOut());
  await expect(page.getByText(/^The adapter went away after 1\d s\. What was heard until then is kept\.$/)).toBeVisible(
    {
      timeout: 20_000,
    },
  );
  await expect(page.getByText(/What was done lies/)).toBeVisible();
  await page.goto(`${job}/bus`);
  await expect(page.getByRole("row", { name: /1A4 not named .*\b[2-9]\d\d 2\d\.\d/ })).toBeVisible();
});
