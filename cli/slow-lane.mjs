/**
 * Requests that compute for longer than a page may are passed on to a thread of their own, which serves the same
 * application on a socket: whoever marks a plug meanwhile does not wait for somebody's certificate.
 */
import { readdirSync, rmSync } from "node:fs";
import { request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { isOurs } from "./common.mjs";

/** Papers, bundles, jobs that are read from a file, and proofs on a log. */
const SLOW = /\.(pdf|zip)$|^\/jobs\/import(\.data)?$|^\/jobs\/[^/]+\/proof$/;

/** How a reader that does not read on is noticed. */
const HUNG_UP = new Set(["EPIPE", "ECONNRESET"]);

/** Removes the sockets of servers that were killed and could not do it themselves. */
export function removeLeftSockets(folder) {
  for (const name of readdirSync(folder)) {
    const pid = /^iteron-(\d+)\.sock$/.exec(name)?.[1];
    if (pid && !isOurs(Number(pid), "node")) rmSync(join(folder, name), { force: true });
  }
}

/** The handler that passes slow requests on. The thread begins with the first of them and again when it has ended. */
export function slowLane(build) {
  const socketPath = join(tmpdir(), `iteron-${process.pid}.sock`);
  let listening = null;
  removeLeftSockets(tmpdir());
  process.on("exit", () => rmSync(socketPath, { force: true }));

  const begin = () =>
    new Promise((resolve, reject) => {
      rmSync(socketPath, { force: true });
      const thread = new Worker(new URL("./slow-thread.mjs", import.meta.url), { workerData: { build, socketPath } });
      thread.once("message", resolve);
      thread.once("error", reject);
      thread.once("exit", () => {
        listening = null;
        reject(new Error("The thread for slow requests ended."));
      });
    });

  return async (req, res, next) => {
    if (!SLOW.test(req.path)) return next();
    try {
      listening ??= begin();
      await listening;
      await passOn(req, res, socketPath);
    } catch (error) {
      if (res.headersSent) res.destroy();
      // Whoever stopped reading has said why; that answer is lost when the sender does not stop.
      else if (HUNG_UP.has(error.code) && !req.complete)
        res.status(413).type("text/plain").send("More than is taken here. Send less; nothing was changed.");
      else next(error);
    }
  };
}

function passOn(req, res, socketPath) {
  return new Promise((resolve, reject) => {
    const { originalUrl: path, method, headers } = req;
    const onward = request({ socketPath, path, method, headers }, (answer) => {
      res.writeHead(answer.statusCode, answer.headers);
      answer.on("error", reject);
      answer.pipe(res);
    });
    onward.on("error", reject);
    // Who goes away before the end is not worked for.
    res.on("close", () => {
      onward.destroy();
      resolve();
    });
    req.pipe(onward);
  });
}
