import { CloudOff, X } from "lucide";
import { useState } from "react";
import { Link } from "react-router";
import type { Outbox } from "~/app/lib/outbox";
import { countWords } from "~/core/model/labels";
import { isOpen } from "~/core/offline/outbox";
import type { StripView } from "~/core/strip/view";
import { Button, buttonLook, ScrollX } from "../controls";
import { Icon } from "../icon";
import { Mark } from "../marks";

/** Job, connection and how far the way is. */
export function HandsBar({
  job,
  outbox,
  view,
  whole,
}: {
  job: { id: string; number: number; title: string };
  view: StripView;
  outbox: Outbox;
  whole: number;
}) {
  return (
    <header className="border-b border-rule">
      <div className="flex items-center gap-2 px-3 py-1">
        {/* Without connection nobody can be asked who is signed in: the page comes from this device as a whole. */}
        <Link
          to={`/jobs/${job.id}/strip`}
          reloadDocument={outbox.connection === "offline"}
          className={`${buttonLook("quiet")} px-2!`}
          aria-label="Leave this mode"
        >
          <Icon of={X} size={26} />
        </Link>
        <p className="min-w-0 flex-1 truncate text-quiet">
          <span className="num">{job.number}</span> {job.title}
        </p>
        <Connection outbox={outbox} />
      </div>
      <div
        role="progressbar"
        aria-label="Steps done"
        aria-valuenow={view.ticks}
        aria-valuemin={0}
        aria-valuemax={whole}
        className="h-1.5 bg-rule"
      >
        <div className="h-full bg-ink" style={{ width: `${whole === 0 ? 0 : (view.ticks / whole) * 100}%` }} />
      </div>
      <CarLine {...view} />
    </header>
  );
}

/** The car as it stands, in one line. */
function CarLine({ car, screwsOut }: Pick<StripView, "car" | "screwsOut">) {
  const parts = [
    `battery ${car.battery}`,
    car.keyKnown ? `key ${car.key}` : "key not known",
    `selector ${car.selector}`,
    `brake ${car.parkingBrake ? "set" : "not set"}`,
    `${countWords(car.panelsOff.length, "panel")} off`,
    `${countWords(car.plugsOpen.length, "plug")} open`,
    `${countWords(screwsOut, "screw")} out`,
  ];
  return (
    <ScrollX label="State of the car">
      <ul className="num flex gap-x-4 whitespace-nowrap px-4 py-1 text-sm sm:px-8">
        {parts.map((p) => (
          <li key={p}>{p}</li>
        ))}
      </ul>
    </ScrollX>
  );
}

export function Connection({ outbox }: { outbox: Outbox }) {
  const waiting = outbox.waiting.filter(isOpen).length;
  // Said when it is so: what is not in the device's database yet would be lost with the page.
  const waitingWords = outbox.stored === 0 ? "" : `, ${outbox.stored} kept here`;
  return (
    <span role="status">
      {outbox.connection === "online" && waiting === 0 && <Mark tone="good">Saved</Mark>}
      {outbox.connection === "online" && waiting > 0 && <Mark tone="none">Sending {waiting}</Mark>}
      {outbox.connection === "offline" && (
        <Mark tone="watch" icon={<Icon of={CloudOff} size={18} />}>
          No connection{waitingWords}
        </Mark>
      )}
      {outbox.connection === "signedOut" && (
        <a href="/sign-in" className="underline">
          <Mark tone="watch">Sign in again{waitingWords}</Mark>
        </a>
      )}
      {outbox.connection === "otherPerson" && <Mark tone="watch">Not yours{waitingWords}</Mark>}
      {outbox.connection === "server" && <Mark tone="watch">Server does not answer{waitingWords}</Mark>}
    </span>
  );
}

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
