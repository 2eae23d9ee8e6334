import { useEffect, useRef } from "react";
import type { LaidOut } from "~/app/lib/lay-out";
import { toMiddle } from "~/app/lib/to-middle";
import { LAYER_DASHES } from "~/core/connect/drawing";
import { KIND_NAMES } from "~/core/model/kinds";
import { ScrollX } from "../controls";
import { tappable } from "../drawings/tappable";

const LAYER_NAMES = ["supply", "control", "picture, sound, data"];

/** A wide system is drawn smaller down to this; below it the frame scrolls. */
const LEAST_SCALE = 0.62;

/**
 * The system as boxes and lines: devices square, leads round, new parts heavy. Without a scale it fills its frame.
 *
 * @param heavy what is drawn heavy, in words
 */
export function SystemDrawing({
  drawing,
  heavy = "what this document brings",
  scale,
  at = null,
  onTap,
}: {
  drawing: LaidOut;
  heavy?: string;
  scale?: number | undefined;
  /** Part in hand. */
  at?: string | null;
  /** A part was tapped; without it none can be. */
  onTap?: (part: string) => void;
}) {
  const inHand = useRef<SVGGElement>(null);
  // On a narrow screen the frame scrolls: the part in hand comes to its middle.
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn decides where the part stands
  useEffect(() => {
    toMiddle(inHand.current?.closest(".scroll-x"), inHand.current);
  }, [at, drawing]);
  if (drawing.boxes.length === 0) return <p className="text-quiet">Nothing is connected yet.</p>;
  return (
    <figure>
      <ScrollX label="Drawing of the system">
        <svg
          style={
            scale === undefined
              ? { width: "100%", minWidth: drawing.width * LEAST_SCALE, maxWidth: drawing.width + 8 }
              : { width: drawing.width * scale, maxWidth: "none" }
          }
          viewBox={`-4 -4 ${drawing.width + 8} ${drawing.height + 8}`}
          role={onTap ? "group" : "img"}
          aria-label={`${drawing.boxes.length} parts, ${drawing.lines.length} connections`}
        >
          {drawing.lines.map((l) => (
            <polyline
              key={l.id}
              points={l.points.map((p) => `${p.x},${p.y}`).join(" ")}
              fill="none"
              stroke="var(--ink)"
              strokeOpacity={l.ofKit ? 1 : 0.45}
              strokeWidth={l.ofKit ? 2 : 1.25}
              strokeDasharray={l.air ? "1 6" : LAYER_DASHES[l.layer]}
            >
              <title>{l.kinds.map((k) => KIND_NAMES[k]).join(", ")}</title>
            </polyline>
          ))}
          {drawing.boxes.map((b) => (
            <g
              key={b.id}
              ref={b.id === at ? inHand : undefined}
              transform={`translate(${b.x} ${b.y})`}
              {...(onTap && b.id !== at && tappable(b.name, () => onTap(b.id)))}
            >
              <rect
                width={b.width}
                height={b.height}
                rx={b.type === "device" ? 3 : b.height / 2}
                fill={b.id === at ? "var(--watch-ground)" : "var(--raised)"}
                stroke="var(--ink)"
                strokeWidth={b.id === at ? 3.5 : b.ofKit ? 2.5 : 1}
                strokeOpacity={b.ofKit ? 1 : 0.6}
              />
              <text
                x={b.width / 2}
                y={b.height / 2 + 5}
                textAnchor="middle"
                fontSize="14"
                fontWeight={b.ofKit ? 600 : 400}
                fill="var(--ink)"
              >
                {b.name}
              </text>
            </g>
          ))}
        </svg>
      </ScrollX>
      <figcaption className="mt-1 text-sm text-quiet">
        Heavy: {heavy}. Square: devices, round: leads and looms. Lines: {LAYER_NAMES[0]} dotted, {LAYER_NAMES[1]}{" "}
        dashed, {LAYER_NAMES[2]} drawn through.
      </figcaption>
    </figure>
  );
}

/** Where the boxes of the shape stand: columns from left to right, as a system is laid out. */
const SHAPE = [2, 3, 5, 4].flatMap((rows, column) =>
  Array.from({ length: rows }, (_, row) => ({ x: 40 + column * 220, y: 30 + row * 72 + (5 - rows) * 36 })),
);

/** The shape of a system that is being laid out. */
export function SystemShape() {
  return (
    <div role="status" aria-label="The system is being drawn">
      <svg viewBox="0 0 880 400" className="w-full max-w-4xl" aria-hidden="true">
        {SHAPE.map(({ x, y }) => (
          <rect key={`${x} ${y}`} x={x} y={y} width="130" height="44" rx="4" fill="var(--rule)" opacity="0.6" />
        ))}
      </svg>
    </div>
  );
}
