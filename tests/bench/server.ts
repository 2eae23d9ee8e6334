/** A signed-in job page under 20 parallel clients on loopback, for a bounded number of requests. */
import { DEMO_PASSWORD } from "../../demo/people";
import { report } from "./report";

const CLIENTS = 20;
const REQUESTS = 1200;
const origin = process.env.ITERON_URL ?? "";

const signedIn = await fetch(`${origin}/sign-in`, {
  method: "POST",
  body: new URLSearchParams({ email: "technician@skerry.example", password: DEMO_PASSWORD }),
  headers: { origin },
  redirect: "manual",
});
const cookie = /iteron_session=[^;]+/.exec(signedIn.headers.get("set-cookie") ?? "")?.[0] ?? "";
const board = await (await fetch(`${origin}/board`, { headers: { cookie } })).text();
const job = /href="(\/jobs\/[0-9a-f-]{36})"/.exec(board)?.[1];
if (!job) throw new Error("the board shows no job");

const times: number[] = [];
let left = REQUESTS;
await load(40);
times.length = 0;
left = REQUESTS;
const start = performance.now();
await load(REQUESTS);
const seconds = (performance.now() - start) / 1000;
times.sort((a, b) => a - b);
report({ case: `job page under ${CLIENTS} parallel clients`, value: REQUESTS / seconds, unit: "requests/s" });
report({
  case: `job page under ${CLIENTS} parallel clients, 95th percentile`,
  value: times[Math.floor(0.95 * times.length)] ?? 0,
  unit: "ms",
});

async function load(requests: number): Promise<void> {
  left = requests;
  await Promise.all(Array.from({ length: CLIENTS }, client));
}

async function client(): Promise<void> {
  while (left-- > 0) {
    const begun = performance.now();
    const answer = await fetch(`${origin}${job}/connect`, { headers: { cookie } });
    await answer.arrayBuffer();
    if (answer.status !== 200) throw new Error(`status ${answer.status}`);
    times.push(performance.now() - begun);
  }
}
