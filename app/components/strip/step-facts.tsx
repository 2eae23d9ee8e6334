import type { Fastener, StripStep } from "~/core/model/profile";
import { lockWord } from "~/core/strip/back-points";

/** What the hands meet in a step: clips, fasteners with their tray, plugs with their lock. */
export function StepFacts({ step, direction }: { step: StripStep; direction: "in" | "back" }) {
  const clips = step.clips;
  return (
    <ul className="mt-1 space-y-1">
      {direction === "back" && step.hooks && <li>Hooks first: {step.hooks}.</li>}
      {direction === "back" && step.transfer?.length && <li>Move over: {step.transfer.join(", ")}.</li>}
      {clips && (
        <li>
          <span className="num">{clips.count}</span> clips, start at the {clips.start}
          {clips.stay === "dash" &&
            (direction === "in" ? "; they stay in the dash" : "; put them back on the panel first")}
        </li>
      )}
      {(step.fasteners ?? []).map((f, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: groups have no other identity than their place
        <li key={i}>
          <FastenerLine fastener={f} direction={direction} />
        </li>
      ))}
      {(step.opens ?? []).map((o) => (
        <li key={o.b}>
          Plug {direction === "in" ? "off" : "on"}: <span className="font-medium">{o.name ?? o.b}</span>,{" "}
          {lockWord(o.lock)}
          {o.how ? `. ${o.how}` : ""}
          {o.airbag ? " – airbag plug" : ""}
        </li>
      ))}
    </ul>
  );
}

function FastenerLine({ fastener: f, direction }: { fastener: Fastener; direction: "in" | "back" }) {
  return (
    <span className="flex flex-wrap items-center gap-x-2">
      <span className="num font-medium">
        {f.count} × {f.kind}
      </span>
      {f.lengthMm !== undefined && (
        <>
          <Screw lengthMm={f.lengthMm} />
          <span className="num">{f.lengthMm} mm</span>
        </>
      )}
      <span>
        {direction === "in" ? "into" : "from"} tray <TrayLetter tray={f.tray} />
      </span>
      {f.place && <span className="text-quiet">{f.place}</span>}
      {direction === "in" && f.hiddenBehind && <span className="text-quiet">hidden behind {f.hiddenBehind}</span>}
    </span>
  );
}

export function TrayLetter({ tray }: { tray: string }) {
  return <span className="num inline-block border border-strong px-1.5 font-medium leading-6">{tray}</span>;
}

/** A screw in its own length, so that two lengths are told apart at a glance. */
export function Screw({ lengthMm }: { lengthMm: number }) {
  const w = lengthMm * 2.4;
  return (
    <svg
      width={w + 10}
      height="12"
      viewBox={`0 0 ${w + 10} 12`}
      className="inline-block max-w-full align-middle"
      aria-hidden="true"
    >
      <rect x="0" y="1" width="5" height="10" rx="1.5" fill="currentColor" />
      <path d={`M5 4h${w - 3}l4 2-4 2H5z`} fill="currentColor" opacity=".65" />
    </svg>
  );
}
