import { delMany, keys } from "idb-keyval";
import { SURFACES } from "./kept-surfaces";
import { fetchAhead } from "./later";

/** The same name as in `public/hands-worker.js`. */
const CACHE = "iteron-hands-1";

/** Keeps this page with its scripts and fonts, so that it opens without connection, too. */
export async function keepPage(pages = [window.location.href], scripts: readonly string[] = []): Promise<void> {
  if (!("serviceWorker" in navigator) || !("caches" in window)) return;
  try {
    await navigator.serviceWorker.register("/hands-worker.js", { scope: "/jobs/" });
    const assets = performance
      .getEntriesByType("resource")
      .map((r) => r.name)
      .filter((n) => new URL(n).pathname.startsWith("/assets/"));
    const cache = await caches.open(CACHE);
    const wanted = [...pages, ...scripts, ...assets].map((u) => new URL(u, window.location.href).href);
    const missing = [];
    for (const url of new Set(wanted)) if (!(await cache.match(url))) missing.push(url);
    await cache.addAll(missing);
  } catch {
    // The browser does not allow it here; the mode still works while the page stays open.
  }
}

/** What React Router knows of its routes in the browser. */
interface Manifest {
  routes: Record<string, { id: string; module: string; imports?: string[] } | undefined>;
}

/** Keeps the surfaces of a job with all their scripts, so that each opens without connection. */
export async function keepPages(job: string): Promise<void> {
  const { routes = {} } = (window as { __reactRouterManifest?: Manifest }).__reactRouterManifest ?? {};
  const wanted = ["routes/jobs/log", ...Object.values(SURFACES).map((s) => `routes/jobs/${s}`)];
  const known = wanted.flatMap((id) => routes[id] ?? []);
  const scripts = known.flatMap((route) => [route.module, ...(route.imports ?? [])]);
  // Once loaded, a surface has said what it shows later.
  await Promise.all(known.map((route) => import(/* @vite-ignore */ route.module)));
  await fetchAhead();
  await keepPage(
    Object.keys(SURFACES).map((s) => `/jobs/${job}/${s}`),
    scripts,
  );
}

/** Forgets kept pages and snapshots when somebody leaves the device. Ticks that were not sent yet stay. */
export async function forgetPages(): Promise<void> {
  try {
    if ("caches" in window) await caches.delete(CACHE);
    await delMany((await keys()).filter((k) => typeof k === "string" && k.startsWith("snapshot/")));
  } catch {
    // A browser without a store has kept nothing.
  }
}
