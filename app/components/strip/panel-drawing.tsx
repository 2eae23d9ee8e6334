import type { PanelDrawing as Drawing, StripStep } from "~/core/model/profile";

const WORDS: Record<Drawing["marks"][number]["what"], string> = {
  start: "start here",
  clip: "clip",
  screw: "screw",
  hook: "hook",
  plug: "plug behind",
};

/** A panel from the front with its clips, screws, hooks and plugs; every kind has its own shape and a word below. */
export function PanelDrawing({ step, className = "" }: { step: StripStep; className?: string }) {
  const { drawing } = step;
  if (!drawing) return null;
  const height = 190;
  const width = Math.min(360, height * drawing.aspect);
  const h = width / drawing.aspect;
  const at = ([x, y]: readonly [number, number]) => [PAD + (x / 100) * width, PAD + (y / 100) * h] as const;
  const kinds = [...new Set(drawing.marks.map((m) => m.what))];
  return (
    <figure className={className}>
      <svg
        viewBox={`0 0 ${width + 2 * PAD} ${h + 2 * PAD}`}
        className="w-full"
        style={{ maxWidth: width + 2 * PAD }}
        role="img"
        aria-label={`${step.panel ?? step.title}: ${kinds.map((k) => `${drawing.marks.filter((m) => m.what === k).length} × ${WORDS[k]}`).join(", ")}`}
      >
        <polygon
          points={drawing.outline.map((p) => at(p).join(",")).join(" ")}
          fill="var(--raised)"
          stroke="var(--ink)"
          strokeWidth="2"
          strokeLinejoin="round"
        />
        {drawing.marks.map((m, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: marks have no other identity than their place
          <Sign key={i} mark={m} at={at(m.at)} to={m.to && at(m.to)} step={step} />
        ))}
      </svg>
      <figcaption className="flex flex-wrap gap-x-4 text-sm text-quiet">
        {kinds.map((k) => (
          <span key={k} className="inline-flex items-center gap-1.5">
            <svg width="20" height="20" viewBox="-10 -10 20 20" aria-hidden="true">
              <Shape what={k} />
            </svg>
            {WORDS[k]}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}

const PAD = 14;

function Sign({
  mark,
  at: [x, y],
  to,
  step,
}: {
  mark: Drawing["marks"][number];
  at: readonly [number, number];
  to: readonly [number, number] | undefined;
  step: StripStep;
}) {
  const tray = mark.group === undefined ? undefined : step.fasteners?.[mark.group]?.tray;
  return (
    <g>
      {to && (
        <line
          x1={x}
          y1={y}
          x2={to[0]}
          y2={to[1]}
          stroke="var(--ink)"
          strokeWidth="2.5"
          markerEnd="none"
          strokeDasharray="1 5"
          strokeLinecap="round"
        />
      )}
      {to && <Arrow from={[x, y]} to={to} />}
      <g transform={`translate(${x} ${y})`}>
        <Shape what={mark.what} />
        {tray && (
          <text
            x={mark.at[0] > 80 ? -10 : 10}
            y="-7"
            fontSize="14"
            textAnchor={mark.at[0] > 80 ? "end" : "start"}
            fontFamily="var(--font-mono)"
            fill="var(--ink)"
          >
            {tray}
          </text>
        )}
      </g>
    </g>
  );
}

function Arrow({ from, to }: { from: readonly [number, number]; to: readonly [number, number] }) {
  const turn = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
  return <path d="M-9 -6L2 0L-9 6Z" transform={`translate(${to[0]} ${to[1]}) rotate(${turn})`} fill="var(--ink)" />;
}

function Shape({ what }: { what: Drawing["marks"][number]["what"] }) {
  const line = { stroke: "var(--ink)", strokeWidth: 2, fill: "var(--paper)" };
  switch (what) {
    case "start":
      return <path d="M-8 -5L0 8L8 -5Z" fill="var(--ink)" />;
    case "clip":
      return <rect x="-6" y="-4" width="12" height="8" {...line} />;
    case "screw":
      return (
        <g>
          <circle r="6.5" {...line} />
          <path d="M-4 0H4M0 -4V4" stroke="var(--ink)" strokeWidth="2" />
        </g>
      );
    case "hook":
      return <path d="M-5 6V-3a5 5 0 0 1 10 0V1" {...line} fill="none" strokeWidth="2.5" />;
    case "plug":
      return <path d="M-8 -5H8V5H3V8H-3V5H-8Z" {...line} strokeDasharray="3 2" />;
  }
}
