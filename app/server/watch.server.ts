import { type Here, newsOf } from "~/db/presence";
import { database } from "./db.server";
import { log } from "./log.server";

const EVERY_MS = 1000;

type Listener = (version: number, here: readonly Here[]) => void;

/**
 * Tells open pages when a job has a new version, and who else has it open. However many pages are open, one query a second asks the database for
 * all of their jobs; so it works with any number of servers on one database.
 */
class JobWatch {
  private readonly listeners = new Map<string, Set<Listener>>();
  private timer: NodeJS.Timeout | null = null;
  private asking = false;

  /** Calls `tell` with the version of a job, and with who has it open, now and then. Returns how to stop it. */
  watch(jobId: string, tell: Listener): () => void {
    const others = this.listeners.get(jobId) ?? new Set();
    this.listeners.set(jobId, others.add(tell));
    this.timer ??= setInterval(() => void this.ask(), EVERY_MS);
    this.timer.unref();
    return () => {
      others.delete(tell);
      if (others.size === 0 && this.listeners.get(jobId) === others) this.listeners.delete(jobId);
      if (this.listeners.size > 0 || !this.timer) return;
      clearInterval(this.timer);
      this.timer = null;
    };
  }

  private async ask(): Promise<void> {
    if (this.asking) return;
    this.asking = true;
    try {
      for (const { id, version, here } of await newsOf(database(), [...this.listeners.keys()]))
        for (const tell of this.listeners.get(id) ?? []) tell(version, here);
    } catch (error) {
      // Away for a moment: the next second asks again, and the pages keep what they show.
      log.warn(error, "watch");
    } finally {
      this.asking = false;
    }
  }
}

export const jobWatch = new JobWatch();
