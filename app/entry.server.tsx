import { randomBytes } from "node:crypto";
import { Writable } from "node:stream";
import { renderToPipeableStream } from "react-dom/server";
import { type EntryContext, isRouteErrorResponse, ServerRouter } from "react-router";
import { cacheReport } from "~/db/cache";
import { NonceContext } from "./lib/nonce";
import { log } from "./server/log.server";

const RENDER_TIMEOUT_MS = 8_000;

/** Renders a page; scripts run only with the nonce of this answer. */
export default function handleRequest(request: Request, status: number, headers: Headers, context: EntryContext) {
  const nonce = randomBytes(16).toString("base64");
  headers.set("Content-Type", "text/html");
  for (const [name, value] of Object.entries(securityHeaders(nonce))) headers.set(name, value);
  return new Promise<Response>((resolve, reject) => {
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext value={nonce}>
        <ServerRouter context={context} url={request.url} nonce={nonce} />
      </NonceContext>,
      {
        nonce,
        // Parts of a page that come in a script of their own are in the page, too; so it goes out in one piece, which is
        // compressed and sent once instead of every 4 kB.
        onAllReady() {
          const pieces: Buffer[] = [];
          pipe(
            new Writable({
              write(piece: Buffer, _encoding, next) {
                pieces.push(piece);
                next();
              },
              final(next) {
                resolve(new Response(Buffer.concat(pieces), { headers, status }));
                next();
              },
            }).on("error", reject),
          );
        },
        onShellError: reject,
        onError: (error) => log.error(error, "render"),
      },
    );
    setTimeout(abort, RENDER_TIMEOUT_MS).unref();
  });
}

/** How well the cache of this process serves, now and then in its log. */
setInterval(() => log.info(cacheReport(), "cache"), 10 * 60_000).unref();

export const streamTimeout = RENDER_TIMEOUT_MS;

function securityHeaders(nonce: string): Record<string, string> {
  return {
    "Content-Security-Policy": [
      "default-src 'self'",
      `script-src 'self' 'nonce-${nonce}'`,
      "style-src 'self' 'unsafe-inline'",
      "img-src 'self' data: blob:",
      "font-src 'self' data:",
      "worker-src 'self' blob:",
      "connect-src 'self'",
      "object-src 'none'",
      "base-uri 'self'",
      "form-action 'self'",
      "frame-ancestors 'none'",
    ].join("; "),
    "Permissions-Policy": "camera=(self), microphone=(self), geolocation=()",
  };
}

/** Errors that nobody threw on purpose go to the log with the request, refusals do not. */
export function handleError(error: unknown, { request }: { request: Request }) {
  if (request.signal.aborted || isRouteErrorResponse(error)) return;
  log.error(error, `${request.method} ${new URL(request.url).pathname}`);
}
