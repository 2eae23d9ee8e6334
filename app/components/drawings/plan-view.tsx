import { type PointerEvent, useId, useRef, useState } from "react";
import { type Outline, type PlanDrawing, type Point, points } from "~/core/drawing/drawing";
import { type DrawnLead, lineOf, nearestPlace } from "~/core/drawing/plan";
import { Hatch } from "./hatch";

interface PlacedPart {
  id: string;
  name: string;
  place: string;
}

/** The car from above with leads on their way and parts where they lie; a part can be dragged to another place. */
export function PlanView({
  plan,
  leads = [],
  parts = [],
  at = null,
  onPlace,
}: {
  plan: PlanDrawing;
  leads?: readonly (DrawnLead & { short?: boolean })[];
  parts?: readonly PlacedPart[];
  /** Lead or part in hand. */
  at?: string | null;
  /** Called with the part and the place it was dragged to; without it nothing can be dragged. */
  onPlace?: (part: string, place: string) => void;
}) {
  const hatch = useId();
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ part: string; at: Point } | null>(null);
  const where = new Map(plan.places.map((p) => [p.name, p.at]));
  const view = frame(plan, [...leads.flatMap((l) => l.way), ...parts.map((p) => p.place)]);
  const known = new Set(where.keys());
  const target = drag && nearestPlace(plan, drag.at, known);
  const hand = leads.find((l) => l.id === at);

  const point = (e: PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const scale = view.width / box.width;
    const [across, along] = [view.x + (e.clientX - box.left) * scale, view.y + (e.clientY - box.top) * scale];
    return [along, plan.height - across];
  };
  const turned = (outline: Outline) => points(outline.map((p) => upright(plan, p)));
  return (
    <figure>
      <svg
        ref={svg}
        viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
        className="w-full touch-none"
        role="img"
        aria-label={`The car from above. ${parts.map((p) => `${p.name}: ${p.place}`).join("; ")}${hand ? `; ${hand.name}: ${hand.way.join(", ")}` : ""}`}
        onPointerMove={(e) => drag && setDrag({ ...drag, at: point(e) })}
        onPointerUp={() => {
          if (drag && target && target !== parts.find((p) => p.id === drag.part)?.place) onPlace?.(drag.part, target);
          setDrag(null);
        }}
      >
        <Hatch id={hatch} size={70} colour="var(--strong)" />
        <polygon
          points={turned(plan.body)}
          fill="var(--raised)"
          stroke="var(--ink)"
          strokeWidth="12"
          strokeLinejoin="round"
        />
        {plan.zones.map((z) => (
          <polygon
            key={z.name}
            points={turned(z.outline)}
            fill={z.what === "airbag" ? `url(#${hatch})` : "none"}
            stroke="var(--strong)"
            strokeWidth="7"
            strokeDasharray={z.what === "airbag" ? undefined : "34 22"}
          />
        ))}
        {plan.places.map((p) => (
          <circle
            key={p.name}
            cx={upright(plan, p.at)[0]}
            cy={upright(plan, p.at)[1]}
            r={target === p.name ? 52 : 18}
            fill={target === p.name ? "var(--watch-ground)" : "var(--paper)"}
            stroke="var(--strong)"
            strokeWidth="8"
          />
        ))}
        {leads.map((l) => {
          const line = lineOf(plan, l);
          return (
            line && (
              <polyline
                key={l.id}
                points={turned(line)}
                fill="none"
                stroke={l.id === at ? "var(--accent)" : l.short ? "var(--stop)" : "var(--ink)"}
                strokeWidth={l.id === at ? 34 : 14}
                strokeOpacity={l.id === at ? 1 : 0.55}
                strokeDasharray={l.short ? "50 34" : undefined}
                strokeLinejoin="round"
                strokeLinecap="round"
              />
            )
          );
        })}
        {parts.map((p, i) => {
          const home = where.get(p.place);
          const here = drag?.part === p.id ? drag.at : home;
          if (!here) return null;
          const [x, y] = upright(plan, here);
          // Parts in one place stand side by side.
          const beside = parts.slice(0, i).filter((o) => o.place === p.place).length;
          return (
            <g
              key={p.id}
              transform={`translate(${x + (drag?.part === p.id ? 0 : beside * 150)} ${y})`}
              className={onPlace ? "cursor-grab" : undefined}
              onPointerDown={(e) => {
                if (!onPlace) return;
                svg.current?.setPointerCapture(e.pointerId);
                setDrag({ part: p.id, at: point(e) });
              }}
            >
              <rect
                x="-64"
                y="-64"
                width="128"
                height="128"
                rx="16"
                fill={p.id === at ? "var(--accent)" : "var(--ink)"}
                stroke="var(--paper)"
                strokeWidth="10"
              />
              <text
                y="32"
                textAnchor="middle"
                fontSize="92"
                fontWeight="600"
                fill={p.id === at ? "var(--on-accent)" : "var(--paper)"}
              >
                {p.name.charAt(0)}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="text-sm text-quiet">
        The car from above, front up. Airbag zones are hatched.{" "}
        {target ? `To: ${target}.` : onPlace && parts.length > 0 ? "Drag a part to another place." : ""}
      </figcaption>
      {parts.length > 0 && (
        <ul className="mt-1 text-sm">
          {parts.map((p) => (
            <li key={p.id}>
              <span className="num mr-2 inline-block w-5 bg-ink text-center text-paper">{p.name.charAt(0)}</span>
              {p.name}: {p.place}
            </li>
          ))}
        </ul>
      )}
    </figure>
  );
}

/** Plans are drawn with the front to the left; on the screen the front is up, the driver's left on the left. */
function upright(plan: PlanDrawing, [x, y]: Point): Point {
  return [plan.height - y, x];
}

const MARGIN = 320;

/** The part of the car that is used, in its whole width. */
function frame(plan: PlanDrawing, used: readonly string[]) {
  const along = plan.places.filter((p) => used.includes(p.name)).map((p) => p.at[0]);
  const from = along.length > 0 ? Math.max(-40, Math.min(...along) - MARGIN) : -40;
  const to = along.length > 0 ? Math.min(plan.width + 40, Math.max(...along) + MARGIN) : plan.width + 40;
  return { x: -40, y: from, width: plan.height + 80, height: to - from };
}
