import type { JointEnd, JointWire } from "~/core/connect/joints";
import type { JointKind } from "~/core/model/types";
import { wireColour } from "../library/wire-look";

const WIDTH = 320;
const HEIGHT = 92;

/** Where there is no plug: each wire of the car with the one that is joined to it, or the cavity into which it goes. */
export function JointView({ joint, joined }: { joint: JointKind; joined: readonly JointWire[] }) {
  return (
    <ul className="grid grid-cols-[minmax(0,1fr)] gap-4 sm:grid-cols-2">
      {joined.map((w) => (
        <li key={w.id}>
          <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full max-w-md" aria-hidden="true">
            {joint === "wire" ? <Spliced {...w} /> : <IntoCavity {...w} />}
          </svg>
          <p>
            <strong className="font-medium">{joint === "wire" ? "The car's wire" : "Cavity"}</strong>{" "}
            {endWords(w.there, joint === "wire" ? ", colour not said: find it with the meter" : "")}
          </p>
          <p>
            <strong className="font-medium">Comes to it</strong> {endWords(w.branch, "")}
          </p>
        </li>
      ))}
    </ul>
  );
}

function endWords({ stamp, words, wire }: JointEnd, unknown: string): string {
  const colour = wire ? `, ${wire.base}${wire.tracer ? ` with ${wire.tracer} tracer` : ""}` : unknown;
  return `${[stamp, words].filter(Boolean).join(" ")}${colour}`;
}

/** The wire runs through; the branch lies against it under one sleeve. */
function Spliced({ there, branch }: JointWire) {
  return (
    <>
      <Wire d={`M 4 30 H ${WIDTH - 4}`} end={there} />
      <Wire d={`M 60 ${HEIGHT - 4} C 60 42 90 42 130 42 H 178`} end={branch} />
      <g stroke="var(--ink)" strokeWidth="1.5">
        <path d="M 132 30 H 188 M 132 42 H 180 M 140 33 V 39 M 150 33 V 39 M 160 33 V 39 M 170 33 V 39" fill="none" />
        <rect
          x="126"
          y="18"
          width="68"
          height="36"
          rx="10"
          fill="var(--ink)"
          fillOpacity="0.12"
          strokeDasharray="4 3"
        />
      </g>
      <text x="204" y="50" fontSize="13" fill="var(--ink)">
        joint, insulated
      </text>
    </>
  );
}

/** One contact on its way into the cavity. */
function IntoCavity({ there, branch }: JointWire) {
  return (
    <>
      <rect x="196" y="10" width="112" height="72" rx="6" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <rect x="196" y="32" width="72" height="28" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <text x="284" y="51" fontSize="16" fontWeight={600} fill="var(--ink)">
        {there.stamp}
      </text>
      <Wire d="M 4 46 H 120" end={branch} />
      <path
        d="M 120 40 H 150 V 44 H 184 V 48 H 150 V 52 H 120 Z"
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
    </>
  );
}

/** A wire along a path as it looks; one whose colour nobody said is drawn open. */
function Wire({ d, end: { wire } }: { d: string; end: JointEnd }) {
  return (
    <g fill="none" strokeLinecap="butt">
      <path d={d} stroke="var(--ink)" strokeWidth="11" />
      <path d={d} stroke={wire ? wireColour(wire.base) : "var(--paper)"} strokeWidth="8.5" />
      {wire?.tracer && <path d={d} stroke={wireColour(wire.tracer)} strokeWidth="2.5" />}
    </g>
  );
}
