import { CloudOff, X } from "lucide";
import { Link } from "react-router";
import type { Outbox } from "~/app/lib/outbox";
import { countWords } from "~/core/model/labels";
import { isOpen } from "~/core/offline/outbox";
import type { HandsView } from "~/core/views/hands";
import { buttonLook, ScrollX } from "../controls";
import { Icon } from "../icon";
import { Mark } from "../marks";

/** Job, connection and how far the work is. */
export function HandsBar({ view, outbox }: { view: HandsView; outbox: Outbox }) {
  const { job, done, order, act } = view;
  const whole = done + order.length;
  return (
    <header className="border-b border-rule">
      <div className="flex items-center gap-2 px-3 py-1">
        {/* Without connection nobody can be asked who is signed in: the page comes from this device as a whole. */}
        <Link
          to={`/jobs/${job.id}/${act?.stage ?? "handover"}`}
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
        aria-label="Done"
        aria-valuenow={done}
        aria-valuemin={0}
        aria-valuemax={whole}
        className="h-1.5 bg-rule"
      >
        <div className="h-full bg-ink" style={{ width: `${whole === 0 ? 0 : (done / whole) * 100}%` }} />
      </div>
      <CarLine {...view.strip} />
    </header>
  );
}

/** The car as it stands, in one line. */
function CarLine({ car, screwsOut }: HandsView["strip"]) {
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
