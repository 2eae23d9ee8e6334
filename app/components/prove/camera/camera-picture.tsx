import type { ReactNode } from "react";
import type { Camera, OnGlass, Spot } from "~/core/camera/pose";
import { onGlass, within } from "~/core/camera/pose";
import type { FloorMark } from "~/core/camera/tape-plan";
import { drawn, groundGrid } from "~/core/camera/view";

const WIDTH = 800;
const HEIGHT = 480;
const GRID = groundGrid();

/** What a camera shows, as lines on the screen: the ground in metres, the edge of the bumper, marks and other lines. */
export function CameraPicture({
  camera,
  bumper,
  marks = [],
  lines = [],
  label,
  children,
}: {
  camera: Camera;
  /** Metres; null: not known, then it is not drawn. */
  bumper: { heightM: number; widthM: number } | null;
  marks?: readonly FloorMark[];
  lines?: readonly { id: string; line: readonly Spot[]; strong?: boolean }[];
  label: string;
  children?: ReactNode;
}) {
  const edge: Spot[] = bumper
    ? Array.from({ length: 41 }, (_, i) => ({ x: (i / 40 - 0.5) * bumper.widthM, y: 0, z: bumper.heightM }))
    : [];
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full rounded-lg border-2 border-ink bg-raised"
      role="img"
      aria-label={label}
    >
      {GRID.map(({ line, whole }) => (
        <Line
          key={`${line[0]?.x},${line[0]?.y}`}
          camera={camera}
          line={line}
          look={whole ? "stroke-strong" : "stroke-rule"}
          width={whole ? 2 : 1}
        />
      ))}
      {[1, 2, 4].map((y) => (
        <Label key={y} camera={camera} at={{ x: 0, y, z: 0 }} text={`${y} m`} />
      ))}
      {edge.length > 0 && <Line camera={camera} line={edge} look="stroke-ink" width={5} />}
      {lines.map((l) => (
        <Line
          key={l.id}
          camera={camera}
          line={l.line}
          look={l.strong ? "stroke-accent" : "stroke-ink"}
          width={l.strong ? 5 : 3}
        />
      ))}
      {marks.map(({ id, at }) => {
        const place = onGlass(camera, { ...at, z: 0 });
        if (!place || !within(place)) return null;
        const { x, y } = scaled(place);
        return (
          <g key={id}>
            <path d={`M${x - 9} ${y}h18M${x} ${y - 9}v18`} stroke="var(--ink)" strokeWidth="3" />
            <text x={x + 10} y={y - 8} fontSize="28" fill="var(--ink)" fontWeight="600">
              {id}
            </text>
          </g>
        );
      })}
      {children}
    </svg>
  );
}

function scaled({ u, v }: OnGlass): { x: number; y: number } {
  return { x: WIDTH * u, y: HEIGHT * v };
}

function Line({ camera, line, look, width }: { camera: Camera; line: readonly Spot[]; look: string; width: number }) {
  return drawn(camera, line).map((piece) => (
    <polyline
      key={`${piece[0]?.u},${piece[0]?.v}`}
      fill="none"
      className={look}
      strokeWidth={width}
      points={piece.map((p) => `${(WIDTH * p.u).toFixed(1)},${(HEIGHT * p.v).toFixed(1)}`).join(" ")}
    />
  ));
}

function Label({ camera, at, text }: { camera: Camera; at: Spot; text: string }) {
  const place = onGlass(camera, at);
  if (!place || !within(place)) return null;
  const { x, y } = scaled(place);
  return (
    <text x={x + 4} y={y - 4} fontSize="26" fill="var(--quiet)">
      {text}
    </text>
  );
}
