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

const PASSED = { fill: "var(--ink)" };
const HERE = { r: 5.5, fill: "var(--accent)", stroke: "var(--accent)" };

/** How far a job is, as a short line of stations with the name of the present one. */
export function StageLine({ stage, closed }: { stage: string; closed: boolean }) {
  const at = closed ? STAGES.length : STAGES.indexOf(stage as Stage);
  const name = closed ? "Closed" : (STAGE_NAMES[stage as Stage] ?? stage);
  return (
    <span className="flex items-center gap-3">
      <svg viewBox="0 0 120 14" width="120" height="14" aria-hidden="true">
        <path d="M6 7h108" stroke="var(--strong)" strokeWidth="1.5" />
        <g fill="var(--paper)" stroke="var(--strong)" strokeWidth="1.5">
          {STAGES.map((s, i) => (
            <circle key={s} cx={6 + i * 15.4} cy={7} r={3.5} {...(i < at ? PASSED : i === at && HERE)} />
          ))}
        </g>
      </svg>
      <span className="text-sm font-medium">{name}</span>
    </span>
  );
}
