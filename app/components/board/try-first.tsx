import { useSyncExternalStore } from "react";
import { Link } from "react-router";
import { Button } from "../controls";

/** What to try first in the demonstration: job by its title, page, and what is to be seen there. */
const TRIES = [
  { job: "Lighthouse road 4", page: "intake?at=variant", say: "Nobody knows its radio: a few questions find it." },
  { job: "Harbour taxi 3", page: "hands", say: "Step by step, on a phone too; take its network away." },
  {
    job: "District nurse car 7",
    page: "prove?at=cause",
    say: "A test fails: find the fault with the checks proposed.",
  },
  { job: "Mail van 2", page: "configure", say: "Code the radio of a sister car, least change first." },
  { job: "Pilot station 8", page: "bus/hunt", say: "The module is blank: find the signals it needs on the bus." },
] as const;

const KEY = "iteron-try-first";
const CHANGED = "iteron-try-first";

function isAway(): boolean {
  try {
    return localStorage.getItem(KEY) === "away";
  } catch {
    return false;
  }
}

function listen(tell: () => void): () => void {
  window.addEventListener(CHANGED, tell);
  return () => window.removeEventListener(CHANGED, tell);
}

/** Five lines for whoever sees the demonstration first; put away they stay away on this device. */
export function TryFirst({ jobs }: { jobs: readonly { id: string; title: string }[] }) {
  const away = useSyncExternalStore(listen, isAway, () => false);
  const lines = TRIES.flatMap((t) => {
    const job = jobs.find((j) => j.title.startsWith(t.job));
    return job ? [{ ...t, to: `/jobs/${job.id}/${t.page}` }] : [];
  });
  if (away || lines.length === 0) return null;
  const put = () => {
    try {
      localStorage.setItem(KEY, "away");
    } catch {
      // A browser without a store shows them again.
    }
    window.dispatchEvent(new Event(CHANGED));
  };
  return (
    <section aria-labelledby="try-first" className="mb-6 border-l-4 border-accent pl-4">
      <div className="flex items-center justify-between gap-4">
        <h2 id="try-first">Try first</h2>
        <Button look="quiet" onClick={put}>
          Put away
        </Button>
      </div>
      <ul>
        {lines.map((l) => (
          <li key={l.job} className="py-1">
            <Link to={l.to} className="font-medium underline">
              {l.job}
            </Link>{" "}
            <span className="text-quiet">{l.say}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
