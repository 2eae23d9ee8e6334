import type { Cavity, Face } from "~/core/connect/face";
import { tappable } from "./tappable";

/** Strokes, not colours, tell supply, control and content apart. */
const DASHES = ["2 3", "6 3", undefined];
const CELL = 44;
/** A wide plug is drawn smaller down to this; below it its letters cannot be read, and the frame scrolls. */
const MIN_WIDTH = 500;

/** The face of a plug with its cavities: number and kind of each, empty ones thin. */
export function FaceView({
  face,
  name,
  moves = {},
  at = null,
  onTap,
}: {
  face: Face;
  name: string;
  /** Contacts that change their cavity, by cavity: where they go, or come from. */
  moves?: Readonly<Record<string, string>>;
  /** Cavity in hand. */
  at?: string | null;
  /** A cavity was tapped; without it nothing can be. */
  onTap?: (cavity: Cavity) => void;
}) {
  const width = face.columns * CELL + 16;
  const height = face.rows * CELL + 26;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: "100%", maxWidth: Math.min(width * 1.1, 560), minWidth: Math.min(width, MIN_WIDTH) }}
      role={onTap ? "group" : "img"}
      aria-label={`${name}, ${face.side === "mating" ? "mating side" : "side of the wires"}: ${face.cavities
        .filter((c) => c.contact)
        .map((c) => `${c.id} ${c.tag}`)
        .join(", ")}`}
    >
      {/* The lock sits above the middle, so that the face has a top. */}
      <rect x={width / 2 - 16} y={1} width={32} height={9} rx={2} fill="var(--strong)" />
      <rect
        x={1}
        y={9}
        width={width - 2}
        height={height - 10}
        rx={5}
        fill="var(--raised)"
        stroke="var(--ink)"
        strokeWidth={2}
      />
      <g textAnchor="middle" fontSize={12} fontFamily="var(--font-mono)" fill="var(--ink)">
        {face.cavities.map((c) => (
          <g
            key={`${c.row}-${c.column}`}
            transform={`translate(${8 + c.column * CELL} ${17 + c.row * CELL})`}
            {...(onTap && tappable(`${c.id} ${c.tag || "empty"}`, () => onTap(c), c.id === at))}
          >
            <rect
              x={2}
              y={2}
              width={CELL - 4}
              height={CELL - 4}
              rx={face.gender === "female" ? 3 : 10}
              fill={c.id === at ? "var(--watch-ground)" : c.contact ? "var(--paper)" : "var(--raised)"}
              stroke="var(--ink)"
              strokeOpacity={c.contact ? 1 : 0.3}
              strokeWidth={c.id === at ? 3 : c.contact ? 1.75 : 1}
              strokeDasharray={c.layer >= 0 ? DASHES[c.layer] : undefined}
            />
            {moves[c.id] && (
              <path
                d={moves[c.id]?.startsWith("goes") ? "M31 13l8-8M39 11V5h-6" : "M39 5l-8 8M31 7v6h6"}
                fill="none"
                stroke="var(--accent)"
                strokeWidth={2.5}
              />
            )}
            <text x={CELL / 2} y={17} fill="var(--quiet)">
              {onTap ? c.id : c.stamp}
            </text>{" "}
            {c.tag && (
              <text x={CELL / 2} y={33} fontWeight={600}>
                {c.tag}
              </text>
            )}
          </g>
        ))}
      </g>
    </svg>
  );
}
