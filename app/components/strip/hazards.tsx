import type { Hazard } from "~/core/strip/hazards";
import { Mark } from "../marks";

export function HazardList({ hazards }: { hazards: Hazard[] }) {
  return hazards.map((h) => (
    <p key={h.id} className="mt-2">
      <Mark tone={h.level}>{h.level === "stop" ? "Stop" : "Watch"}</Mark> {h.text} {h.remedy}
    </p>
  ));
}

export function ConfirmHazards({ sure, onChange }: { sure: boolean; onChange(sure: boolean): void }) {
  return (
    <label className="mt-2 flex min-h-11 items-center gap-3">
      <input
        type="checkbox"
        className="size-6 shrink-0"
        checked={sure}
        onChange={(e) => onChange(e.currentTarget.checked)}
      />{" "}
      I have made sure myself; log it with my name
    </label>
  );
}
