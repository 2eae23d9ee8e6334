import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { constants } from "node:zlib";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express from "express";
import { frontSettings } from "./front.mjs";

/**
 * The production build as an Express application.
 *
 * @param buildPath the built server
 * @param before handlers that come before those of the build
 */
export async function application(buildPath, before = []) {
  const build = await import(pathToFileURL(resolve(buildPath)).href);
  const app = express();
  app.disable("x-powered-by");
  const { proxy } = frontSettings(process.env);
  if (proxy) app.set("trust proxy", proxy);
  for (const handler of before) app.use(handler);
  // A page in half the time of the usual levels, a twentieth larger.
  app.use(compression({ level: 4, brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 3 } } }));
  app.use("/assets", express.static(resolve(build.assetsBuildDirectory, "assets"), { immutable: true, maxAge: "1y" }));
  app.use(express.static(build.assetsBuildDirectory));
  app.all("*", createRequestHandler({ build, mode: process.env.NODE_ENV ?? "production" }));
  return app;
}
