import { describe, expect, it } from "vitest";
import { readForm } from "./form.server";

const URL_ENCODED = { "Content-Type": "application/x-www-form-urlencoded" };
const post = (body: BodyInit, headers: Record<string, string> = URL_ENCODED) =>
  new Request("http://127.0.0.1/x", { method: "POST", body, headers, duplex: "half" } as RequestInit);
const status = async (form: Promise<FormData>) =>
  form.then(
    () => 200,
    (e: { init?: { status?: number } }) => e.init?.status,
  );

/** A body that does not announce its length, and how much of it was read. */
function pieces(count: number, size: number) {
  let sent = 0;
  const stream = new ReadableStream<Uint8Array>(
    {
      pull(controller) {
        if (sent === count) return controller.close();
        sent++;
        controller.enqueue(new Uint8Array(size).fill(97));
      },
    },
    { highWaterMark: 0 },
  );
  return { stream, sent: () => sent };
}

describe("the form of a request", () => {
  it("is read as the browser sent it, with files", async () => {
    const plain = await readForm(post(new URLSearchParams({ a: "1", b: "ä & ö" })));
    expect([plain.get("a"), plain.get("b")]).toEqual(["1", "ä & ö"]);
    const given = new FormData();
    given.set("file", new File(["{}"], "x.json"));
    const form = await readForm(new Request("http://127.0.0.1/x", { method: "POST", body: given }));
    expect(await (form.get("file") as File).text()).toBe("{}");
  });

  it("that announces too much is refused before a byte is read", async () => {
    const body = pieces(10, 10);
    const announced = post(body.stream, { ...URL_ENCODED, "Content-Length": "5000" });
    expect(await status(readForm(announced, 1000))).toBe(413);
    expect(body.sent()).toBeLessThanOrEqual(1);
  });

  it("that says nothing of its length is counted as it comes, and the rest is left unread", async () => {
    const body = pieces(1000, 100);
    expect(await status(readForm(post(body.stream), 1000))).toBe(413);
    expect(body.sent()).toBeLessThan(20);
    expect(await status(readForm(post(pieces(9, 100).stream), 1000))).toBe(200);
  });

  it("that is no form is refused in words", async () => {
    expect(await status(readForm(post("x", { "Content-Type": "text/plain" })))).toBe(400);
    expect(await status(readForm(post("x", { "Content-Type": "multipart/form-data; boundary=y" })))).toBe(400);
  });
});
