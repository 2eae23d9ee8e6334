import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { BackDrawing } from "~/core/drawing/drawing";
import { crossing, type DashDrawing, type Outline, type PlanDrawing, type Point, points } from "~/core/drawing/drawing";
import { Button } from "../controls";

/** Something that is moved on a drawing: an outline by its corners, a spot as a whole. */
interface Movable {
  id: string;
  name: string;
  outline: Outline;
}

/** Corners lie on whole steps of this many millimetres; the arrow keys move them by one. */
const STEP_MM = 5;
const LEAST_CORNERS = 3;

/** Outlines with corners and spots that are dragged, or moved by the arrow keys. A change is one step of undo. */
function DrawingEditor({
  label,
  width,
  height,
  items,
  onMove,
}: {
  label: string;
  width: number;
  height: number;
  items: readonly Movable[];
  onMove: (id: string, outline: Outline) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [chosen, setChosen] = useState(items[0]?.id ?? "");
  const [drag, setDrag] = useState<{ corner: number; at: Point } | null>(null);
  const item = items.find((i) => i.id === chosen) ?? items[0];
  if (!item) return <p className="text-quiet">Nothing is drawn yet; add a shape below.</p>;
  const outline = drag ? moved(item.outline, drag.corner, drag.at) : item.outline;
  const crossed = outline.length > 1 ? crossing(outline) : null;
  const unit = Math.max(width, height) / 60;
  const at = (e: PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const scale = (width + 2 * unit) / box.width;
    return [(e.clientX - box.left) * scale - unit, (e.clientY - box.top) * scale - unit].map((mm, i) =>
      Math.min(i === 0 ? width : height, Math.max(0, Math.round(mm / STEP_MM) * STEP_MM)),
    ) as Point;
  };
  const byKey = (corner: number) => (e: KeyboardEvent) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    const [x, y] = item.outline[corner] as Point;
    if (way) {
      e.preventDefault();
      onMove(item.id, moved(item.outline, corner, [x + (way[0] ?? 0) * STEP_MM, y + (way[1] ?? 0) * STEP_MM]));
    }
    if (e.key === "Delete" && item.outline.length > LEAST_CORNERS)
      onMove(
        item.id,
        item.outline.filter((_, i) => i !== corner),
      );
  };
  return (
    <figure>
      <label className="mb-2 block">
        <span className="text-sm text-quiet">In hand</span>
        <select className="field mt-1" value={item.id} onChange={(e) => setChosen(e.currentTarget.value)}>
          {items.map((i) => (
            <option key={i.id} value={i.id}>
              {i.name}
            </option>
          ))}
        </select>
      </label>
      <svg
        ref={svg}
        viewBox={`${-unit} ${-unit} ${width + 2 * unit} ${height + 2 * unit}`}
        className="w-full touch-none border border-rule bg-raised"
        aria-label={label}
        role="application"
        onPointerMove={(e) => drag && setDrag({ ...drag, at: at(e) })}
        onPointerUp={() => {
          if (drag) onMove(item.id, outline);
          setDrag(null);
        }}
      >
        {items.map((i) => (
          <Shape
            key={i.id}
            outline={i.id === item.id ? outline : i.outline}
            inHand={i.id === item.id}
            unit={unit}
            onChoose={() => setChosen(i.id)}
          />
        ))}
        {outline.map(([x, y], corner) => (
          // biome-ignore lint/a11y/useSemanticElements: a corner of a drawing is no button element
          <circle
            // biome-ignore lint/suspicious/noArrayIndexKey: corners have no identity but their number
            key={corner}
            role="button"
            tabIndex={0}
            aria-label={`${outline.length === 1 ? item.name : `Corner ${corner + 1} of ${item.name}`}: ${x}, ${y} mm`}
            cx={x}
            cy={y}
            r={unit * 0.8}
            fill="var(--paper)"
            stroke="var(--accent)"
            strokeWidth={unit / 4}
            className="cursor-grab"
            onKeyDown={byKey(corner)}
            onPointerDown={(e) => {
              svg.current?.setPointerCapture(e.pointerId);
              setDrag({ corner, at: at(e) });
            }}
          />
        ))}
      </svg>
      <figcaption className="text-sm text-quiet">
        Drag a corner, or move it with the arrow keys; Delete takes it out. Steps of {STEP_MM} mm.
      </figcaption>
      {crossed && (
        <p className="text-stop">
          Sides {crossed[0] + 1} and {crossed[1] + 1} of {item.name} cross each other.
        </p>
      )}
      {item.outline.length >= LEAST_CORNERS && (
        <Button look="quiet" className="px-2!" onClick={() => onMove(item.id, withCorner(item.outline))}>
          One more corner
        </Button>
      )}
    </figure>
  );
}

function Shape({
  outline,
  inHand,
  unit,
  onChoose,
}: {
  outline: Outline;
  inHand: boolean;
  unit: number;
  onChoose: () => void;
}) {
  const [first] = outline;
  if (outline.length === 1 && first)
    return <circle cx={first[0]} cy={first[1]} r={unit / 2} fill="var(--ink)" onPointerDown={onChoose} />;
  return (
    <polygon
      points={points(outline)}
      fill={inHand ? "var(--watch-ground)" : "none"}
      stroke="var(--ink)"
      strokeWidth={inHand ? unit / 3 : unit / 6}
      strokeOpacity={inHand ? 1 : 0.5}
      onPointerDown={onChoose}
    />
  );
}

function moved(outline: Outline, corner: number, to: Point): Outline {
  return outline.map((p, i) => (i === corner ? to : p));
}

/** A corner in the middle of the longest side. */
function withCorner(outline: Outline): Outline {
  const length = (i: number) => {
    const [a, b] = [outline[i], outline[(i + 1) % outline.length]] as [Point, Point];
    return Math.hypot(b[0] - a[0], b[1] - a[1]);
  };
  const longest = outline.reduce((best, _, i) => (length(i) > length(best) ? i : best), 0);
  const [a, b] = [outline[longest], outline[(longest + 1) % outline.length]] as [Point, Point];
  const middle: Point = [Math.round((a[0] + b[0]) / 2), Math.round((a[1] + b[1]) / 2)];
  return [...outline.slice(0, longest + 1), middle, ...outline.slice(longest + 1)];
}

export function DashEditor({ value, onChange }: { value: DashDrawing; onChange: (value: DashDrawing) => void }) {
  const items = value.shapes.map((s) => ({ id: s.id, name: s.name ?? s.panel ?? s.id, outline: s.outline }));
  return (
    <DrawingEditor
      label="Dash from the seats"
      width={value.width}
      height={value.height}
      items={items}
      onMove={(id, outline) =>
        onChange({ ...value, shapes: value.shapes.map((s) => (s.id === id ? { ...s, outline } : s)) })
      }
    />
  );
}

export function PlanEditor({ value, onChange }: { value: PlanDrawing; onChange: (value: PlanDrawing) => void }) {
  const items = [
    { id: "body", name: "outline of the car", outline: value.body },
    ...value.zones.map((z, i) => ({ id: `zone ${i}`, name: z.name, outline: z.outline })),
    ...value.places.map((p, i) => ({ id: `place ${i}`, name: p.name, outline: [p.at] })),
  ];
  const move = (id: string, outline: Outline) => {
    const [what, number] = id.split(" ");
    const i = Number(number);
    const [spot] = outline;
    if (what === "body") onChange({ ...value, body: outline });
    else if (what === "zone")
      onChange({ ...value, zones: value.zones.map((z, j) => (j === i ? { ...z, outline } : z)) });
    else if (spot) onChange({ ...value, places: value.places.map((p, j) => (j === i ? { ...p, at: spot } : p)) });
  };
  return <DrawingEditor label="Car from above" width={value.width} height={value.height} items={items} onMove={move} />;
}

export function BackEditor({ value, onChange }: { value: BackDrawing; onChange: (value: BackDrawing) => void }) {
  const items = value.sockets.map((s) => ({ id: s.port, name: s.port, outline: [s.at] }));
  return (
    <DrawingEditor
      label="Side of the sockets"
      width={value.width}
      height={value.height}
      items={items}
      onMove={(port, [at]) =>
        at && onChange({ ...value, sockets: value.sockets.map((s) => (s.port === port ? { ...s, at } : s)) })
      }
    />
  );
}
