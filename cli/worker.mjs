/** One server process of the production build. `cli/cluster.mjs` starts as many as there are cores. */
import { createServer } from "node:http";
import { application } from "./app.mjs";
import { front, frontSettings } from "./front.mjs";
import { slowLane } from "./slow-lane.mjs";

const PORT = Number(process.env.PORT ?? 3000);
const HOST = process.env.HOST ?? "127.0.0.1";
/** Half-sent requests are given up after this: their first lines, the whole, and when nothing comes or goes any more. */
const HEADERS_TIMEOUT_MS = 20_000;
const REQUEST_TIMEOUT_MS = 120_000;
/** Open event streams say something every 15 seconds. */
const SILENCE_MS = 45_000;
const LOOK_EVERY_MS = 3000;

const build = process.argv[2] ?? "build/server/index.js";
const app = await application(build, [...front(frontSettings(process.env)), slowLane(build)]);

const server = createServer(
  {
    headersTimeout: HEADERS_TIMEOUT_MS,
    requestTimeout: REQUEST_TIMEOUT_MS,
    connectionsCheckingInterval: LOOK_EVERY_MS,
  },
  app,
);
server.listen(PORT, HOST);
server.setTimeout(SILENCE_MS);
server.on("error", (error) => {
  console.error(error.message);
  process.exit(1);
});

/** No new connections; what is under way may finish. The primary process insists after a while. */
process.on("SIGTERM", () => {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
});
