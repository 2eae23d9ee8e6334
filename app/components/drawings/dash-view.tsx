import { type SVGProps, useId } from "react";
import { type DashMark, type DrawnDash, markDash } from "~/core/drawing/dash";
import { bounds, corners, type DrawnShape } from "~/core/drawing/drawing";
import { Hatch } from "./hatch";

/** The dash from the seats: what is off is hatched, what is in hand is outlined heavily and named. */
export function DashView({
  dash,
  off = [],
  now = null,
  at = [],
  title = "Dash from the seats",
}: {
  dash: DrawnDash;
  off?: readonly string[];
  now?: string | null;
  /** Parts and panels that are pointed at. */
  at?: readonly string[];
  title?: string;
}) {
  const hatch = useId();
  const marks = markDash(dash, { off, now, at });
  const named = (state: Mark["state"]) => marks.filter((m) => m.state === state).flatMap((m) => m.shape.name ?? []);
  const inHand = marks.filter((m) => m.state === "now" || m.state === "at");
  const words = [
    ["in hand", named("now")],
    ["pointed at", named("at")],
    ["off", named("off")],
  ] as const;
  const told = words.filter(([, of]) => of.length > 0).map(([word, of]) => `${word}: ${of.join(", ")}`);
  return (
    <figure>
      <svg
        viewBox={`-4 -4 ${dash.width + 8} ${dash.height + 8}`}
        className="w-full"
        role="img"
        aria-label={`${title}. ${told.join("; ") || "Nothing is off"}.`}
      >
        <Hatch id={hatch} size={26} />
        <g {...PLAIN}>
          {marks.map((m) => (
            <Shape key={m.shape.id} mark={m} hatch={hatch} />
          ))}
        </g>
        {inHand.length <= MAX_NAMES && inHand.map((m) => <Name key={m.shape.id} mark={m} width={dash.width} />)}
      </svg>
      <figcaption className="text-sm text-quiet">
        {title}
        {inHand.length > MAX_NAMES && `: ${inHand.flatMap((m) => m.shape.name ?? []).join(", ")}`}
        {off.length > 0 && "; what is off is hatched"}
      </figcaption>
    </figure>
  );
}

/** More names would lie over each other; then they stand below. */
const MAX_NAMES = 2;

type Mark = DashMark<DrawnShape>;

/** What the shapes of a dash look like; each says only how it differs. */
const PLAIN = {
  fill: "var(--raised)",
  stroke: "var(--ink)",
  strokeWidth: 2,
  strokeOpacity: 0.6,
  strokeLinejoin: "round",
} as const;

const LOOKS: Partial<Record<DrawnShape["what"], SVGProps<SVGPolygonElement>>> = {
  body: { strokeWidth: 3.5 },
  panel: { strokeWidth: 3.5 },
  radio: { strokeWidth: 3.5 },
  screen: { strokeWidth: 3.5, fill: "var(--rule)" },
  wheel: { strokeWidth: 7, fill: "none" },
  airbag: { strokeDasharray: "10 8" },
};

const STATES: Record<Mark["state"], SVGProps<SVGPolygonElement>> = {
  plain: {},
  off: { strokeOpacity: 1 },
  at: { strokeOpacity: 1, strokeWidth: 8 },
  now: { strokeOpacity: 1, strokeWidth: 9, stroke: "var(--accent)", fill: "var(--watch-ground)" },
};

function Shape({ mark: { shape, state }, hatch }: { mark: Mark; hatch: string }) {
  const looks = { ...LOOKS[shape.what], ...STATES[state] };
  return <polygon points={shape.points} {...looks} {...(state === "off" && { fill: `url(#${hatch})` })} />;
}

function Name({ mark: { shape }, width }: { mark: Mark; width: number }) {
  const { x, y, width: w, height: h } = bounds(corners(shape.points));
  const middle = Math.min(width - 150, Math.max(150, x + w / 2));
  const above = y > 60;
  return (
    <text
      x={middle}
      y={above ? y - 16 : y + h + 48}
      textAnchor="middle"
      fontSize="44"
      fontWeight="600"
      fill="var(--ink)"
      stroke="var(--paper)"
      strokeWidth="10"
      paintOrder="stroke"
    >
      {shape.name}
    </text>
  );
}

const AROUND = 24;

/** The front of a radio as it sits in the dash: its own shapes only. */
export function RadioLook({ shapes, title }: { shapes: readonly DrawnShape[]; title: string }) {
  const hatch = useId();
  const { x, y, width, height } = bounds(shapes.flatMap((s) => corners(s.points)));
  const named = shapes.flatMap((s) => s.name ?? []);
  return (
    <svg
      viewBox={`${x - AROUND} ${y - AROUND} ${width + 2 * AROUND} ${height + 2 * AROUND}`}
      className="w-full max-w-56"
      role="img"
      aria-label={`${title}: ${named.join(", ")}`}
    >
      <g {...PLAIN}>
        {shapes.map((shape) => (
          <Shape key={shape.id} mark={{ shape, state: "plain" }} hatch={hatch} />
        ))}
      </g>
    </svg>
  );
}
