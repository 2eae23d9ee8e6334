/** Without events the page asks by itself, this often. */
const POLL_MS = 1000;
/** So many breaks in a row without a word in between: events do not get through here. */
const MAX_BREAKS = 3;

/** Somebody else who has the job open. */
export interface Other {
  name: string;
  surface: string;
}

/**
 * Calls `tell` with the version of a job when it is known and when it changes, as long as the page is looked at: by
 * server-sent events, or by asking where these do not get through. Returns how to stop.
 *
 * @param page the surface that is open, which others see; and what to call with the others who have the job open
 */
export function watchVersion(
  jobId: string,
  tell: (version: number) => void,
  page?: { surface: string; others: (others: Other[]) => void },
): () => void {
  let source: EventSource | null = null;
  let poll: number | null = null;
  let breaks = 0;

  const listen = () => {
    source = new EventSource(`/jobs/${jobId}/events${page ? `?at=${page.surface}` : ""}`);
    source.addEventListener("here", (e) => page?.others(JSON.parse(e.data)));
    source.onmessage = (e) => {
      breaks = 0;
      tell(Number(e.data));
    };
    source.onerror = () => {
      breaks++;
      if (breaks < MAX_BREAKS && source?.readyState !== EventSource.CLOSED) return;
      source?.close();
      source = null;
      poll ??= window.setInterval(ask, POLL_MS);
    };
  };
  const ask = async () => {
    const answer = await fetch(`/jobs/${jobId}/version`).catch(() => null);
    if (answer?.ok) tell(Number(await answer.text()));
  };
  const pause = () => {
    source?.close();
    source = null;
    if (poll !== null) clearInterval(poll);
    poll = null;
  };
  // A hidden page holds no connection: a browser has few for one server.
  const follow = () => {
    pause();
    breaks = 0;
    if (!document.hidden) listen();
  };
  follow();
  document.addEventListener("visibilitychange", follow);
  window.addEventListener("online", follow);
  return () => {
    pause();
    document.removeEventListener("visibilitychange", follow);
    window.removeEventListener("online", follow);
  };
}
