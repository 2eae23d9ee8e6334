import type { HuntCandidate } from "~/app/workers/log/hunt";
import type { Cue, Thing } from "~/core/bus/hunt/cues";
import { ScrollX } from "../../controls";

const WIDTH = 1000;
const LANE = 30;

/** What is done when: one lane a thing, a bar a cue. `atS` draws where the recording is. */
export function CueLanes({
  things,
  cues,
  endS,
  atS,
}: {
  things: readonly Thing[];
  cues: readonly Cue[];
  endS: number;
  atS?: number;
}) {
  const x = (s: number) => (WIDTH * s) / Math.max(1, endS);
  return (
    <ScrollX label="What is done when">
      <div className="grid min-w-[40rem] grid-cols-[9rem_minmax(0,1fr)] gap-x-3">
        {things.map((thing) => (
          <div key={thing.id} className="contents">
            <div className="flex items-center text-sm">{thing.name}</div>
            <svg
              viewBox={`0 0 ${WIDTH} ${LANE}`}
              preserveAspectRatio="none"
              className="h-8 w-full border-b border-rule"
              role="img"
              aria-label={`${thing.name}: ${cues.filter((c) => c.thing === thing.id).length} cues`}
            >
              {cues
                .filter((c) => c.thing === thing.id)
                .map((c) => (
                  <rect
                    key={`${c.label}-${c.fromS}`}
                    x={x(c.fromS)}
                    y={5}
                    width={Math.max(2, x(c.toS - c.fromS))}
                    height={LANE - 10}
                    fill={atS !== undefined && atS >= c.fromS && atS < c.toS ? "var(--accent)" : "var(--quiet)"}
                  >
                    <title>{c.label}</title>
                  </rect>
                ))}
              {atS !== undefined && (
                <line
                  x1={x(atS)}
                  x2={x(atS)}
                  y1={0}
                  y2={LANE}
                  stroke="var(--accent)"
                  strokeWidth={2}
                  vectorEffect="non-scaling-stroke"
                />
              )}
            </svg>
          </div>
        ))}
      </div>
    </ScrollX>
  );
}

const TOP = 26;
const TRACE = 64;

/** The evidence for a candidate: what was done above, what the field stood at below, and where the two disagree. */
export function Evidence({
  candidate,
  cues,
  durationS,
}: {
  candidate: HuntCandidate;
  cues: readonly Cue[];
  durationS: number;
}) {
  const x = (s: number) => (WIDTH * Math.max(0, s)) / Math.max(1, durationS);
  const values = candidate.points.map(([, v]) => v);
  const least = Math.min(...values);
  const range = Math.max(...values) - least || 1;
  const y = (v: number) => TOP + 8 + TRACE * (1 - (v - least) / range);
  const step = candidate.kind !== "level";
  const path = candidate.points
    .map(([t, v], i) => (i === 0 ? `M${x(t)} ${y(v)}` : step ? `H${x(t)}V${y(v)}` : `L${x(t)} ${y(v)}`))
    .join("");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${TOP + TRACE + 18}`}
      preserveAspectRatio="none"
      className="h-28 w-full"
      role="img"
      aria-label={`Cues above, the field below: ${candidate.misses.length} missed, ${candidate.falseAlarms.length} without a cue`}
    >
      {cues.map((c) => (
        <g key={`${c.label}-${c.fromS}`}>
          <rect x={x(c.fromS)} y={4} width={Math.max(2, x(c.toS) - x(c.fromS))} height={TOP - 8} fill="var(--quiet)">
            <title>{c.label}</title>
          </rect>
          <rect
            x={x(c.fromS)}
            y={TOP}
            width={Math.max(2, x(c.toS) - x(c.fromS))}
            height={TRACE + 14}
            fill="var(--rule)"
            opacity={0.5}
          />
        </g>
      ))}
      <path d={path} fill="none" stroke="var(--ink)" strokeWidth={2} vectorEffect="non-scaling-stroke" />
      {[...candidate.misses, ...candidate.falseAlarms].map(([from, to]) => (
        <rect
          key={from}
          x={x(from)}
          y={TOP + 1}
          width={Math.max(3, x(to) - x(from))}
          height={TRACE + 12}
          fill="none"
          stroke="var(--stop)"
          strokeWidth={2}
          strokeDasharray="5 4"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}
