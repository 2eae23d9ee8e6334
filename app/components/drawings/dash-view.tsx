import { useId } from "react";
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
        {marks.map((m) => (
          <Shape key={m.shape.id} mark={m} hatch={hatch} />
        ))}
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

function Shape({ mark: { shape, state }, hatch }: { mark: Mark; hatch: string }) {
  const look = shape.what === "panel" || shape.what === "radio" || shape.what === "screen" || shape.what === "body";
  const fill =
    state === "off"
      ? `url(#${hatch})`
      : state === "now"
        ? "var(--watch-ground)"
        : shape.what === "screen"
          ? "var(--rule)"
          : shape.what === "wheel"
            ? "none"
            : "var(--raised)";
  return (
    <polygon
      points={shape.points}
      fill={fill}
      stroke={state === "now" ? "var(--accent)" : "var(--ink)"}
      strokeWidth={state === "now" ? 9 : state === "at" ? 8 : shape.what === "wheel" ? 7 : look ? 3.5 : 2}
      strokeOpacity={state === "plain" ? 0.6 : 1}
      strokeDasharray={shape.what === "airbag" ? "10 8" : undefined}
      strokeLinejoin="round"
    />
  );
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
      {shapes.map((shape) => (
        <Shape key={shape.id} mark={{ shape, state: "plain" }} hatch={hatch} />
      ))}
    </svg>
  );
}
