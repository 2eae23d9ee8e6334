/** One server process of the production build. `cli/cluster.mjs` starts as many as there are cores. */
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express from "express";

const PORT = Number(process.env.PORT ?? 3000);
const HOST = process.env.HOST ?? "127.0.0.1";
/** Half-sent requests are given up after this. */
const HEADERS_TIMEOUT_MS = 20_000;

const path = resolve(process.argv[2] ?? "build/server/index.js");
const build = await import(pathToFileURL(path).href);

const app = express();
app.disable("x-powered-by");
app.use(compression());
app.use("/assets", express.static(resolve(build.assetsBuildDirectory, "assets"), { immutable: true, maxAge: "1y" }));
app.use(express.static(build.assetsBuildDirectory));
app.all("*", createRequestHandler({ build, mode: process.env.NODE_ENV ?? "production" }));

const server = app.listen(PORT, HOST);
server.headersTimeout = HEADERS_TIMEOUT_MS;
server.on("error", (error) => {
  console.error(error.message);
  process.exit(1);
});

/** No new connections; what is under way may finish. The primary process insists after a while. */
process.on("SIGTERM", () => {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
});
