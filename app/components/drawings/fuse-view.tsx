import { useId } from "react";
import type { Candidate } from "~/core/power/feed";
import { Hatch } from "./hatch";

/** The fuse panel as one looks at it: the position in hand outlined heavily, those never touched hatched. */
export function FuseView({ candidates, at }: { candidates: readonly Candidate[]; at: string | null }) {
  const hatch = useId();
  const placed = candidates.filter((c) => c.position.at);
  if (placed.length === 0)
    return (
      <p className="text-sm text-quiet">
        Where the positions sit is not in the document of the car; add column and row to each in the library.
      </p>
    );
  const columns = Math.max(...placed.map((c) => c.position.at?.[0] ?? 1));
  const rows = Math.max(...placed.map((c) => c.position.at?.[1] ?? 1));
  return (
    <figure>
      <svg
        viewBox={`0 0 ${columns * 80 + 16} ${rows * 62 + 16}`}
        className="w-full"
        role="img"
        aria-label={`Fuse panel, ${columns} columns and ${rows} rows. ${at ? `In hand: ${at}.` : ""} Never touched: ${placed
          .filter((c) => c.forbidden)
          .map((c) => c.position.id)
          .join(", ")}`}
      >
        <Hatch id={hatch} size={9} />
        <rect
          x="2"
          y="2"
          width={columns * 80 + 12}
          height={rows * 62 + 12}
          rx="6"
          fill="var(--raised)"
          stroke="var(--ink)"
          strokeWidth="2"
        />
        {placed.map((c) => {
          const [column, row] = c.position.at ?? [1, 1];
          const here = c.position.id === at;
          return (
            <g key={c.position.id} transform={`translate(${14 + (column - 1) * 80} ${14 + (row - 1) * 62})`}>
              <rect
                width="68"
                height="50"
                rx="4"
                fill={c.forbidden ? `url(#${hatch})` : "var(--paper)"}
                stroke={here ? "var(--accent)" : "var(--ink)"}
                strokeWidth={here ? 5 : 1.5}
                strokeDasharray={c.position.used ? undefined : "5 4"}
              />
              <text
                x="34"
                y="23"
                textAnchor="middle"
                fontSize="16"
                fontWeight="600"
                fill="var(--ink)"
                fontFamily="var(--font-mono)"
                stroke="var(--paper)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {c.position.id}
              </text>
              <text
                x="34"
                y="41"
                textAnchor="middle"
                fontSize="14"
                fill="var(--ink)"
                fontFamily="var(--font-mono)"
                stroke="var(--paper)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {c.position.used ? `${c.position.ratingA} A` : "free"}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="text-sm text-quiet">
        Fuse panel as one looks at it. Hatched: never touched. Broken outline: no fuse in it.
      </figcaption>
    </figure>
  );
}
