import { delMany, keys } from "idb-keyval";

/** The same name as in `public/hands-worker.js`. */
const CACHE = "iteron-hands-1";

/** Keeps this page with its scripts and fonts, so that it opens without connection, too. */
export async function keepPage(): Promise<void> {
  if (!("serviceWorker" in navigator) || !("caches" in window)) return;
  try {
    await navigator.serviceWorker.register("/hands-worker.js", { scope: "/jobs/" });
    const assets = performance
      .getEntriesByType("resource")
      .map((r) => r.name)
      .filter((n) => new URL(n).pathname.startsWith("/assets/"));
    const cache = await caches.open(CACHE);
    await cache.addAll([window.location.href, ...new Set(assets)]);
  } catch {
    // The browser does not allow it here; the mode still works while the page stays open.
  }
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
