import { STAGES, type Stage } from "~/core/log/stages";

export const STAGE_NAMES: Readonly<Record<Stage, string>> = {
  intake: "Intake",
  fit: "Fit",
  strip: "Strip",
  connect: "Connect",
  configure: "Configure",
  bus: "Bus",
  prove: "Prove",
  handover: "Hand over",
};

/** How far a job is, as a short line of stations with the name of the present one. */
export function StageLine({ stage, closed }: { stage: string; closed: boolean }) {
  const at = closed ? STAGES.length : STAGES.indexOf(stage as Stage);
  const name = closed ? "Closed" : (STAGE_NAMES[stage as Stage] ?? stage);
  return (
    <span className="flex items-center gap-3">
      <svg viewBox="0 0 120 14" width="120" height="14" aria-hidden="true">
        <path d="M6 7h108" stroke="var(--strong)" strokeWidth="1.5" />
        {STAGES.map((s, i) => (
          <circle
            key={s}
            cx={6 + i * 15.4}
            cy={7}
            r={i === at ? 5.5 : 3.5}
            fill={i < at ? "var(--ink)" : i === at ? "var(--accent)" : "var(--paper)"}
            stroke={i === at ? "var(--accent)" : "var(--strong)"}
            strokeWidth="1.5"
          />
        ))}
      </svg>
      <span className="text-sm font-medium">{name}</span>
    </span>
  );
}
