import type { Cavity, Face } from "~/core/connect/face";
import { tappable } from "./tappable";

/** Strokes, not colours, tell supply, control and content apart. */
const LAYERS = ["2 3", "6 3", undefined].map((strokeDasharray) => ({ strokeWidth: 1.75, strokeDasharray }));
const EMPTY = { fill: "var(--raised)", strokeOpacity: 0.3 };
const IN_HAND = { fill: "var(--watch-ground)", strokeWidth: 3 };
const LOOKS = [EMPTY, ...LAYERS, IN_HAND];
const CELL = 44;
const MIDDLE = CELL / 2;
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
  const arrows = face.cavities.map((c) => arrow(c, moves[c.id])).join("");
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
      <g fill="var(--paper)" stroke="var(--ink)">
        {LOOKS.map((look) => {
          const alike = face.cavities.filter((c) => lookOf(c, at) === look);
          const outlines = alike.map((c) => outline(c, face.gender));
          return alike[0] && <path key={placeOf(alike[0])} d={outlines.join("")} {...look} />;
        })}
      </g>
      {arrows && <path d={arrows} fill="none" stroke="var(--accent)" strokeWidth={2.5} />}
      <g textAnchor="middle" fontSize={12} fontFamily="var(--font-mono)" fill="var(--quiet)">
        {face.cavities.map((c) => (
          <text key={placeOf(c)} x={left(c) + MIDDLE} y={top(c) + 17}>
            {onTap ? c.id : c.stamp}
          </text>
        ))}
      </g>
      <g textAnchor="middle" fontSize={12} fontFamily="var(--font-mono)" fill="var(--ink)" fontWeight={600}>
        {face.cavities.map(
          (c) =>
            c.tag && (
              <text key={placeOf(c)} x={left(c) + MIDDLE} y={top(c) + 33}>
                {c.tag}
              </text>
            ),
        )}
      </g>
      {onTap && (
        <g fill="transparent">
          {face.cavities.map((c) => (
            <g key={placeOf(c)} {...tappable(`${c.id} ${c.tag || "empty"}`, () => onTap(c), c.id === at)}>
              <rect x={left(c)} y={top(c)} width={CELL} height={CELL} />
            </g>
          ))}
        </g>
      )}
    </svg>
  );
}

/** A draft may have two contacts of one name; two cavities never have one place. */
const placeOf = ({ row, column }: Cavity) => `${row}-${column}`;
const left = (c: Cavity) => 8 + c.column * CELL;
const top = (c: Cavity) => 17 + c.row * CELL;

/** Cavities that look alike are one path: a plug has up to fifty. */
function lookOf(c: Cavity, at: string | null) {
  return c.id === at ? IN_HAND : (LAYERS[c.layer] ?? EMPTY);
}

/** The edge of a cavity: that of a male half is rounder. */
function outline(c: Cavity, gender: Face["gender"]): string {
  const r = gender === "female" ? 3 : 10;
  const side = CELL - 4 - 2 * r;
  const corner = (x: number, y: number) => `a${r} ${r} 0 0 1 ${x} ${y}`;
  return `M${left(c) + 2 + r} ${top(c) + 2}h${side}${corner(r, r)}v${side}${corner(-r, r)}h${-side}${corner(-r, -r)}v${-side}${corner(r, -r)}z`;
}

/** In the corner of a cavity whose contact goes elsewhere, or comes from there. */
function arrow(c: Cavity, move: string | undefined): string {
  if (!move) return "";
  return `M${left(c)} ${top(c)}${move.startsWith("goes") ? "m31 13l8-8m0 6v-6h-6" : "m39 5l-8 8m0-6v6h6"}`;
}
