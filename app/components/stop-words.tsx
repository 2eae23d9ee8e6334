import type { ReactNode } from "react";
import type { Stop } from "~/core/job/guards/guard";
import { Mark } from "./marks";

/** What speaks against a press, in words. */
export function StopWords({ stop, children }: { stop: Stop; children?: ReactNode }) {
  const refused = stop.answer === "refused";
  return (
    <div className={`px-3 py-2 text-lg ${refused ? "bg-stop-ground" : "bg-watch-ground"}`}>
      <Mark tone={refused ? "stop" : "watch"}>{refused ? "Stop" : "First"}</Mark> {stop.problem}{" "}
      <span className="text-ink">{stop.remedy}</span>
      {children}
    </div>
  );
}
