import type { FloorMark } from "~/core/camera/tape-plan";
import type { SeenRow } from "~/core/camera/view";

/** A metre of ground in units of the drawing. */
const M = 60;
const SIDE_M = 3;
const FAR_M = 6;
/** Of `seenRows`. */
const ROW_M = 0.1;

/** The ground at the car from above, as somebody sees it who sits in the car: what is seen, marks with their distances. */
export function GroundPlan({
  looks,
  widthM,
  seen = [],
  marks = [],
  far = FAR_M,
  label,
}: {
  looks: "back" | "ahead";
  widthM: number;
  seen?: readonly SeenRow[];
  marks?: readonly FloorMark[];
  far?: number;
  label: string;
}) {
  // Ahead is up: behind the car the ground lies below it, and what is right for the camera is left for the driver.
  const side = looks === "back" ? -1 : 1;
  const x = (m: number) => M * (SIDE_M + side * m);
  const y = (m: number) => (looks === "back" ? 40 + M * m : M * far - M * m);
  const height = M * far + 50;
  const rows = Array.from({ length: far }, (_, i) => i + 1);
  return (
    <svg viewBox={`-52 0 ${2 * SIDE_M * M + 60} ${height}`} className="w-full max-w-md" role="img" aria-label={label}>
      <g opacity="0.35" fill="var(--accent)">
        {seen.map((r) => (
          <rect
            key={`${r.y},${r.fromX}`}
            x={Math.min(x(r.fromX), x(r.toX)) - (M * ROW_M) / 2}
            y={y(r.y) - (M * ROW_M) / 2 - 0.5}
            width={Math.abs(x(r.toX) - x(r.fromX)) + M * ROW_M}
            height={M * ROW_M + 1}
          />
        ))}
      </g>
      {rows.map((m) => (
        <g key={m}>
          <line x1={0} x2={2 * SIDE_M * M} y1={y(m)} y2={y(m)} stroke="var(--rule)" />
          <text x={-8} y={y(m) + 6} fontSize="20" textAnchor="end" fill="var(--quiet)">
            {m} m
          </text>
        </g>
      ))}
      {Array.from({ length: 2 * SIDE_M + 1 }, (_, i) => i - SIDE_M).map((m) => (
        <line
          key={m}
          x1={x(m)}
          x2={x(m)}
          y1={y(0)}
          y2={y(far)}
          stroke="var(--rule)"
          strokeDasharray={m === 0 ? "6 5" : undefined}
        />
      ))}
      <rect
        x={x(0) - (M * widthM) / 2}
        y={looks === "back" ? -20 : y(0)}
        width={M * widthM}
        height={60}
        rx="10"
        fill="var(--raised)"
        stroke="var(--ink)"
        strokeWidth="3"
      />
      <text x={x(0)} y={looks === "back" ? 26 : y(0) + 28} fontSize="18" textAnchor="middle" fill="var(--ink)">
        {looks === "back" ? "rear" : "front"}
      </text>
      {marks.map((m) => (
        <g key={m.id}>
          <path
            d={`M${x(m.at.x) - 8} ${y(m.at.y)}h16M${x(m.at.x)} ${y(m.at.y) - 8}v16`}
            stroke="var(--ink)"
            strokeWidth="3"
          />
          <text x={x(m.at.x) + 9} y={y(m.at.y) - 7} fontSize="22" fontWeight="600" fill="var(--ink)">
            {m.id}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** The marks as rows for a tape: one row for each distance from the bumper. */
export function MarkList({ marks, looks }: { marks: readonly FloorMark[]; looks: "back" | "ahead" }) {
  const distances = [...new Set(marks.map((m) => m.at.y))];
  const right = (m: FloorMark) => (looks === "back" ? -m.at.x : m.at.x);
  return (
    <table className="num w-full max-w-lg">
      <thead>
        <tr className="text-left font-sans text-sm text-quiet">
          <th className="font-normal">From the bumper</th>
          <th className="font-normal">Left of the middle</th>
          <th className="font-normal">Middle</th>
          <th className="font-normal">Right</th>
        </tr>
      </thead>
      <tbody>
        {distances.map((y) => (
          <tr key={y} className="h-11 border-t border-rule">
            <th className="text-left font-medium">{y.toFixed(2)} m</th>
            {[-1, 0, 1].map((side) => (
              <td key={side}>
                {marks
                  .filter((m) => m.at.y === y && Math.sign(right(m)) === side)
                  .map((m) => (
                    <span key={m.id}>
                      <span className="mr-2 text-lg font-semibold">{m.id}</span>
                      {side !== 0 && `${Math.abs(m.at.x).toFixed(2)} m`}
                    </span>
                  ))}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
