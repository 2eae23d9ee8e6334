import { useState } from "react";
import type { Outbox } from "~/app/lib/outbox";
import { isOpen } from "~/core/offline/outbox";
import { Button } from "../controls";

/** Ticks that somebody else has left on this device. */
export function LeftByOthers({ outbox }: { outbox: Outbox }) {
  if (outbox.connection !== "otherPerson") return null;
  const open = outbox.waiting.filter(isOpen);
  const others = [...new Set(open.map((w) => w.by))].join(" and ");
  const one = open.length === 1;
  return (
    <section aria-label="Left by somebody else" className="border-b border-rule bg-watch-ground px-4 py-2">
      <p>
        <span className="font-medium">
          {open.length} {one ? "tick" : "ticks"} of {others} {one ? "waits" : "wait"} on this device.
        </span>{" "}
        {one ? "It is" : "They are"} sent when {others} signs in here. If you answer for {one ? "it, it" : "them, they"}{" "}
        can go in under your name.
      </p>
      <Button className="mt-1" onClick={() => outbox.takeOver()}>
        Send under my name
      </Button>
    </section>
  );
}

/** Entries that the server did not take: each with its reason, to be logged as it was done or thrown away. */
export function Refused({ outbox }: { outbox: Outbox }) {
  const refused = outbox.waiting.filter((w) => w.refused !== undefined);
  const [open, setOpen] = useState(true);
  if (refused.length === 0 && !outbox.full) return null;
  return (
    <section aria-label="Needs you" className="border-b border-rule bg-watch-ground px-4 py-2">
      {outbox.full && (
        <p>
          <span className="font-medium">This device has no room left.</span> What is ticked stays only while this page
          is open: keep it open until it says “Saved”, or free some space.
        </p>
      )}
      {refused.length > 0 && (
        <details open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
          <summary className="min-h-11 cursor-pointer py-2 font-medium">
            {refused.length} {refused.length === 1 ? "tick was" : "ticks were"} not taken
          </summary>
          <ul>
            {refused.map((w) => (
              <li key={w.id} className="flex flex-wrap items-center gap-2 py-1">
                <span className="min-w-0 basis-64 flex-1">{w.refused}</span>
                <Button onClick={() => outbox.again(w.id, w.body)}>Put right: log it</Button>
                <Button look="quiet" onClick={() => outbox.drop(w.id)}>
                  Throw away
                </Button>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
