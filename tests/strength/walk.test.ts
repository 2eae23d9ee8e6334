/**
 * Every route of the application, asked by everybody in every way: nothing leaks between shops or roles, and refused input
 * is answered with words, never with a failure of the server.
 */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newId } from "../../db/ids";
import { type DemoServer, jobNamed, startDemoServer } from "../integration/harness";
import { filled, PATHS } from "../support/routes";
import { report } from "./shop";

const PEOPLE = {
  technician: "technician@skerry.example",
  lead: "lead@skerry.example",
  counter: "counter@skerry.example",
  reader: "reader@skerry.example",
  stranger: "lead@mainland.example",
} as const;
type Person = keyof typeof PEOPLE | "nobody";

let server: DemoServer;
let origin: string;
let job: string;
const cookies = new Map<Person, string>([["nobody", ""]]);

beforeAll(async () => {
  server = await startDemoServer("test-walk", 23680, 5150);
  origin = server.origin;
  for (const [who, email] of Object.entries(PEOPLE)) cookies.set(who as Person, await server.signIn(email));
  job = await jobNamed(origin, cookies.get("technician") ?? "", "car 7");
});
afterAll(() => server.stop());

const fill = (path: string, value: () => string, own = job) => filled(path, (n) => (n === "job" ? own : value()));

const ask = (path: string, who: Person, init: RequestInit = {}) =>
  fetch(origin + path, {
    redirect: "manual",
    ...init,
    headers: { cookie: cookies.get(who) ?? "", origin, ...(init.headers as Record<string, string>) },
    signal: AbortSignal.timeout(15_000),
  });
/** Status of an answer whose body may go on for ever. */
async function statusOf(answer: Promise<Response>): Promise<number> {
  const { status, body } = await answer;
  await body?.cancel();
  return status;
}

/** Bodies that no page sends, with their content type. */
const BROKEN: readonly [name: string, type: string | null, body: string | Uint8Array][] = [
  ["nothing", null, ""],
  ["no type", null, "a=b"],
  ["multipart without boundary", "multipart/form-data", "--x\r\n"],
  [
    "multipart cut off",
    "multipart/form-data; boundary=x",
    '--x\r\nContent-Disposition: form-data; name="file"; filename="a"\r\n\r\nab',
  ],
  ["JSON", "application/json", '{"entry":1}'],
  ["broken percent signs", "application/x-www-form-urlencoded", "entry=%E0%A4%A&body=%"],
  [
    "fields of other pages",
    "application/x-www-form-urlencoded",
    "entry=x&body=%7B&say=%7B&opened=%7B&test=x&what=x&amount=x&draft=x&kind=x",
  ],
  [
    "an entry of null",
    "application/x-www-form-urlencoded",
    `entry=${"0".repeat(8)}-0000-7000-8000-000000000000&body=null`,
  ],
  [
    "deep JSON",
    "application/x-www-form-urlencoded",
    `entry=x&body=${"[".repeat(20_000)}&say=${"[".repeat(20_000)}&opened=${"[".repeat(20_000)}`,
  ],
  ["binary", "application/x-www-form-urlencoded", Uint8Array.from({ length: 2000 }, (_, i) => (i * 37) % 256)],
  [
    "a file where none belongs",
    "multipart/form-data; boundary=x",
    '--x\r\nContent-Disposition: form-data; name="entry"; filename="a"\r\n\r\nab\r\n--x--\r\n',
  ],
];
const ODD_IDS = ["..%2F..%2Fetc", "%00", "x".repeat(3000), "%F0%9F%99%82", "-1", "1e999", "null", "'%20OR%201=1"];

describe("the walk", () => {
  it("answers every path with every broken body in words, never with a failure", async () => {
    const failed: string[] = [];
    let asked = 0;
    for (const path of PATHS.filter((p) => p !== "/sign-out")) {
      for (const who of ["lead", "technician", "counter"] as const)
        for (const [name, type, body] of BROKEN) {
          const answer = await ask(fill(path, newId), who, {
            method: "POST",
            body: body as string,
            headers: type ? { "Content-Type": type } : {},
          });
          asked++;
          const text = await answer.text();
          if (answer.status >= 500) failed.push(`${who} ${path}, ${name}: ${answer.status}`);
          if (answer.status === 413 || answer.status === 400)
            expect([path, name, text.length > 20]).toEqual([path, name, true]);
        }
    }
    report("route walk, broken bodies", `${asked} requests: ${failed.length} failures of the server`);
    expect(asked).toBeGreaterThan(2000);
    expect(failed).toEqual([]);
  });

  it("answers odd identifiers with 404 or a page, never with a failure", async () => {
    const failed: string[] = [];
    let asked = 0;
    // In place of the job, and within a job that there is.
    for (const path of PATHS.filter((p) => p.includes(":")))
      for (const odd of ODD_IDS)
        for (const own of path.replace("/:job", "").includes(":") ? [job, odd] : [odd]) {
          const status = await statusOf(
            ask(
              fill(path, () => odd, own),
              "lead",
            ),
          );
          asked++;
          if (status >= 500) failed.push(`${path} with ${odd.slice(0, 12)}: ${status}`);
        }
    report("route walk, odd identifiers", `${asked} requests: ${failed.length} failures of the server`);
    expect(failed).toEqual([]);
  });

  it("shows a job to nobody of another shop and to nobody without a sign-in, and lets a reader change nothing", async () => {
    const leaks: string[] = [];
    let asked = 0;
    for (const path of PATHS.filter((p) => p.includes("/:job"))) {
      for (const who of ["stranger", "nobody"] as const)
        for (const method of ["GET", "POST", "PUT", "DELETE", "PATCH"]) {
          const answer = await ask(
            fill(path, newId),
            who,
            method === "GET"
              ? {}
              : { method, body: "x=1", headers: { "Content-Type": "application/x-www-form-urlencoded" } },
          );
          const text = await answer.text();
          asked++;
          if (answer.status < 300 || text.includes("car 7") || text.includes("Skerry"))
            leaks.push(`${who} ${method} ${path}: ${answer.status}`);
        }
      const status = await statusOf(
        ask(fill(path, newId), "reader", { method: "POST", body: new URLSearchParams({ x: "1" }) }),
      );
      if (status !== 403) leaks.push(`reader POST ${path}: ${status}`);
    }
    report("route walk, strangers and readers", `${asked} requests of strangers: ${leaks.length} leaks`);
    expect(leaks).toEqual([]);
  });

  it("says on every answer that it is not to be guessed at or kept", async () => {
    const missing: string[] = [];
    for (const path of [...PATHS, "/health", "/nowhere", "/board.data", "/assets/none.js"])
      for (const who of ["lead", "nobody"] as const) {
        const answer = await ask(fill(path, newId), who);
        await answer.body?.cancel();
        if (answer.headers.get("x-content-type-options") !== "nosniff") missing.push(`${path}: nosniff`);
        if (!/no-store|no-cache|private/.test(answer.headers.get("cache-control") ?? ""))
          missing.push(`${path}: ${answer.headers.get("cache-control")}`);
      }
    expect(missing).toEqual([]);
  });
});
