import { Connection } from "~/app/components/hands/bar";
import { LeftByOthers, Refused } from "~/app/components/hands/left";
import type { Outbox } from "~/app/lib/outbox";

/** What was done without connection: how much waits here, and what the server did not take. Nothing when all is sent. */
export function KeptHere({ outbox, isKept }: { outbox: Outbox; isKept: boolean }) {
  if (outbox.waiting.length === 0 && outbox.connection !== "offline")
    return isKept ? <p className="sr-only">This job is kept on this device.</p> : null;
  return (
    <div className="border-b border-rule bg-watch-ground">
      <div className="flex flex-wrap items-center gap-x-4 px-4 py-1">
        <Connection outbox={outbox} />
        {outbox.connection === "offline" && (
          <p className="text-sm">Go on: what you do is kept on this device and sent when the connection is back.</p>
        )}
      </div>
      <LeftByOthers outbox={outbox} />
      <Refused outbox={outbox} />
    </div>
  );
}
