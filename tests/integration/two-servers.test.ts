/** Two server processes on one database: what one decides the other knows, and of two contradicting presses one counts. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { endProcess, freePortFrom } from "../../cli/common.mjs";
import { serving, startServer } from "../../cli/serve.mjs";
import { newId } from "../../db/ids";
import { type DemoServer, jobNamed, SERVER_MARK, startDemoServer } from "./harness";

const ROUNDS = 50;
let first: DemoServer;
let second: { pid: number };
const origins: string[] = [];
let technician: string;
let counter: string;
let job: string;

beforeAll(async () => {
  first = await startDemoServer("test-two", 23640, 5090);
  const port = await freePortFrom(5110);
  second = startServer({ ...first.env, PORT: String(port) });
  origins.push(first.origin, `http://127.0.0.1:${port}`);
  await serving(port);
  technician = await first.signIn("technician@skerry.example");
  counter = await first.signIn("counter@skerry.example");
  job = await jobNamed(first.origin, technician, "car 7");
});
afterAll(async () => {
  await endProcess(second.pid, SERVER_MARK, 5000);
  await first.stop();
});

const get = (server: number, path: string) => fetch(origins[server] + path, { headers: { cookie: technician } });
async function press(server: number, body: unknown, cookie = technician) {
  const origin = origins[server] ?? "";
  const answer = await fetch(`${origin}/jobs/${job}/log`, {
    method: "POST",
    body: new URLSearchParams({ entry: newId(), body: JSON.stringify(body) }),
    headers: { cookie, origin },
  });
  return { status: answer.status, text: await answer.text() };
}
interface Exported {
  entries: { kind: string; data: { test?: string; answer?: string } }[];
}
const entriesNow = async (server: number) =>
  ((await (await get(server, `/jobs/${job}/export.json`)).json()) as Exported).entries;

describe("two contradicting presses at the same moment, through two servers", () => {
  it(`closing, and something noted: nothing is written between closing and reopening, ${ROUNDS} times`, async () => {
    const close = async (server: number) => {
      const id = newId();
      const reason = { entry: id, guard: "unfinished", reason: "The ferry leaves" };
      const form = new FormData();
      for (const [entry, body] of [
        [newId(), { kind: "despite", data: reason }],
        [id, { kind: "handover.close", data: { as: "unfinished" } }],
      ] as const) {
        form.append("entry", entry);
        form.append("body", JSON.stringify(body));
      }
      const origin = origins[server] ?? "";
      const headers = { cookie: technician, origin };
      return (await fetch(`${origin}/jobs/${job}/log`, { method: "POST", body: form, headers })).status;
    };
    let noted = 0;
    for (let round = 0; round < ROUNDS; round++) {
      const [closed, note] = await Promise.all([
        close(round % 2),
        press((round + 1) % 2, { kind: "handover.point", data: { text: `Round ${round}` } }, counter),
      ]);
      expect(closed).toBe(200);
      if (note.status === 200) noted++;
      else expect(note).toMatchObject({ status: 409, text: expect.stringContaining("closed") });
      expect((await press(0, { kind: "handover.reopen", data: { reason: "next round" } })).status).toBe(200);
    }
    let isClosed = false;
    let points = 0;
    for (const e of await entriesNow(1)) {
      if (e.kind === "handover.close") isClosed = true;
      else if (e.kind === "handover.reopen") isClosed = false;
      else expect([e.kind, isClosed]).toEqual([e.kind, false]);
      if (e.kind === "handover.point") points++;
    }
    expect(points).toBe(noted);
  });

  it("says to the slower one what the other person did", async () => {
    const answers: string[] = [];
    for (let round = 0; round < 20 && !answers.some((a) => a.includes("was quicker")); round++) {
      const point = { kind: "handover.point", data: { text: `Rattle ${round}` } };
      const both = await Promise.all([press(0, point), press(1, point, counter)]);
      expect(both.map((b) => b.status).sort()).toEqual([200, 422]);
      answers.push(...both.map((b) => b.text));
    }
    expect(answers.find((a) => a.includes("was quicker"))).toMatch(/Noted for the customer: Rattle \d+/);
  });

  it("what one has written the other shows at once", async () => {
    for (let i = 0; i < 5; i++) {
      await press(i % 2, { kind: "handover.point", data: { text: `Seen by the other ${i}` } });
      expect(await (await get((i + 1) % 2, `/jobs/${job}/handover`)).text()).toContain(`Seen by the other ${i}`);
    }
    expect(await entriesNow(0)).toEqual(await entriesNow(1));
  });
});

describe("who else has a job open", () => {
  /** Reads the events of a page until one holds the words; null when the stream ends or half a minute is over. */
  async function heard(server: number, cookie: string, at: string, words: RegExp, whileOpen = async () => {}) {
    const ending = AbortSignal.timeout(30_000);
    const leave = new AbortController();
    const answer = await fetch(`${origins[server]}/jobs/${job}/events?at=${at}`, {
      headers: { cookie },
      signal: AbortSignal.any([ending, leave.signal]),
    });
    const reader = answer.body?.pipeThrough(new TextDecoderStream()).getReader();
    let text = "";
    try {
      while (reader) {
        const { value, done } = await reader.read();
        if (done) return null;
        text += value;
        if (words.test(text)) {
          await whileOpen();
          return text;
        }
      }
      return null;
    } finally {
      leave.abort();
    }
  }

  it("is told across servers, with the surface, and taken back when the page is closed", async () => {
    const both = await heard(0, technician, "prove", /^data: \d+/m, async () => {
      expect(await heard(1, counter, "fit", /event: here\ndata: \[\{.*"surface":"prove"\}\]/)).not.toBeNull();
    });
    expect(both).not.toBeNull();
    // A third page sees nobody any more, once both are closed: it hears the version, and no one beside it.
    const alone = await heard(1, technician, "connect", /^data: \d+/m, () => new Promise((go) => setTimeout(go, 2500)));
    expect(alone).not.toMatch(/event: here/);
  });
});

describe("the control units of a stand-in car, through two servers", () => {
  const say = async (server: number, what: object, cookie = technician) => {
    const origin = origins[server] ?? "";
    const answer = await fetch(`${origin}/jobs/${coded}/units`, {
      method: "POST",
      body: new URLSearchParams({ say: JSON.stringify(what) }),
      headers: { cookie, origin },
    });
    return { status: answer.status, ...((await answer.json()) as { message: string; frames: { data: number[] }[] }) };
  };
  let coded: string;
  let clock = Date.now();
  const frame = (...data: number[]) => ({ do: "frame", frame: { atMs: clock++, id: 0x710, data } });

  it("keep their session when the next frame comes through the other server", async () => {
    coded = await jobNamed(first.origin, technician, "Mail van 2");
    const before = job;
    job = coded;
    const map = { slug: "kestrane-fjell-11-words", version: 1 };
    expect((await press(0, { kind: "configure.map", data: { map } })).status).toBe(200);
    // With the key off they sleep.
    expect((await say(0, frame(2, 0x10, 3))).frames).toEqual([]);
    expect((await press(0, { kind: "strip.stands", data: { sets: { key: "on" } } })).status).toBe(200);
    job = before;
    // Extended session on one server, a write of the wrong length on the other: refused for its length, not its session.
    expect((await say(0, frame(2, 0x10, 3))).frames[0]?.data.slice(0, 3)).toEqual([6, 0x50, 3]);
    expect((await say(1, frame(4, 0x2e, 0x04, 0xa4, 0))).frames[0]?.data.slice(0, 4)).toEqual([3, 0x7f, 0x2e, 0x13]);
  });

  it("talk to one person at a time", async () => {
    expect((await say(0, frame(3, 0x22, 0x04, 0xa4))).status).toBe(200);
    const other = await say(1, frame(3, 0x22, 0x04, 0xa4), counter);
    expect(other.status).toBe(409);
    expect(other.message).toContain("Tomas Ebdal is talking to the control units");
  });
});
