import { STAGES, type Stage } from "~/core/log/stages";
import { Mark } from "../marks";

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

const stationX = (i: number) => 6 + i * 15.4;

/** Stations in a row as one path: a board has eight of them for every job. */
function stations(from: number, to: number): string {
  const dot = (i: number) => `M${stationX(i) - 3.5} 7a3.5 3.5 0 1 0 7 0a3.5 3.5 0 1 0-7 0`;
  return Array.from({ length: Math.max(0, to - from) }, (_, i) => dot(from + i)).join("");
}

/** How far a job is, as a short line of stations with the name of the present one. */
export function StageLine({ stage, closed }: { stage: string; closed: boolean }) {
  const at = closed ? STAGES.length : STAGES.indexOf(stage as Stage);
  if (stage === "unfinished") return <Mark tone="watch">Left unfinished</Mark>;
  const name = closed ? "Closed" : (STAGE_NAMES[stage as Stage] ?? stage);
  return (
    <span className="flex items-center gap-3">
      <svg viewBox="0 0 120 14" width="120" height="14" aria-hidden="true">
        <g fill="var(--paper)" stroke="var(--strong)" strokeWidth="1.5">
          <path d="M6 7h108" />
          <path d={stations(at + 1, STAGES.length)} />
          <path d={stations(0, at)} fill="var(--ink)" />
          {at < STAGES.length && (
            <circle cx={stationX(at)} cy={7} r={5.5} fill="var(--accent)" stroke="var(--accent)" />
          )}
        </g>
      </svg>
      <span className="text-sm font-medium">{name}</span>
    </span>
  );
}
