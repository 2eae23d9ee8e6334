/** What stands before every answer: who may ask under which name, from where, and what browsers may do with it. */

/** Names under which a server on this machine is reached. */
const OWN = ["localhost", "127.0.0.1", "[::1]"];

/**
 * Handlers that come before all others.
 *
 * @param settings `hosts` more names under which it is reached; `proxy` addresses of proxies whose word is taken on who
 *   asks, as Express takes them ("loopback", "10.0.0.1")
 */
export function front({ hosts = [], proxy = "" } = {}) {
  const names = new Set([...OWN, ...hosts].map((h) => h.toLowerCase()));
  return [
    function careful(_req, res, next) {
      res.set({ "X-Content-Type-Options": "nosniff", "Referrer-Policy": "same-origin" });
      // What does not say how long it may be kept is not kept.
      const { writeHead } = res;
      res.writeHead = (...args) => {
        if (!res.hasHeader("Cache-Control")) res.setHeader("Cache-Control", "no-store");
        return writeHead.apply(res, args);
      };
      next();
    },
    function alive(req, res, next) {
      // A check of a proxy names no host.
      if (req.path === "/health") return res.type("text/plain").send("ok");
      if (req.path === "/ready" && !req.headers.host) req.headers.host = OWN[0];
      next();
    },
    function named(req, res, next) {
      const own = nameIn(req.headers.host);
      const host = proxy ? req.hostname : own;
      // Taken from a proxy that is believed, name and port together: what is behind here sees one name only.
      if (proxy && host !== own) req.headers.host = req.get("x-forwarded-host");
      if (host && names.has(host.toLowerCase())) return next();
      res
        .status(host ? 421 : 400)
        .type("text/plain")
        .send(
          host
            ? "Iteron does not answer under this name. Whoever runs it can add the name to ITERON_HOSTS."
            : "A request needs a Host header.",
        );
    },
    function caller(req, _res, next) {
      if (!proxy)
        for (const name of Object.keys(req.headers)) if (name.startsWith("x-forwarded-")) delete req.headers[name];
      req.headers["x-iteron-caller"] = req.ip ?? "";
      next();
    },
  ];
}

/** Host without the port. */
function nameIn(header) {
  return /^(\[[0-9a-f:.]+\]|[^:/\s]+)(?::\d+)?$/i.exec(header ?? "")?.[1] ?? "";
}

/** The settings as the environment has them. */
export function frontSettings(env) {
  return {
    hosts: [env.HOST, ...(env.ITERON_HOSTS ?? "").split(",")].flatMap((h) => h?.trim() || []),
    proxy: env.ITERON_PROXY ?? "",
  };
}
