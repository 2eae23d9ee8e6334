import { OctagonAlert, TriangleAlert } from "lucide-react";
import type { JobCarState } from "~/core/job/next";
import { EntryButton } from "./entry-form";

const KEY_WORDS: Readonly<Record<string, string>> = {
  off: "off",
  accessory: "accessory",
  on: "on",
  cranking: "cranking",
  running: "running",
};

/** The car as the done steps leave it, with the hazards this makes together. Computed, never typed. */
export function StateStrip({ car, workMinutes }: { car: JobCarState; workMinutes: number }) {
  const fasteners = car.fastenersOut.reduce((n, f) => n + f.count, 0);
  const cells: { label: string; value: string; notable?: boolean }[] = [
    {
      label: "Battery",
      value: car.battery === "isolated" ? "isolated" : car.maintainer ? "maintained" : "connected",
      notable: car.battery === "isolated",
    },
    { label: "Key", value: KEY_WORDS[car.key] ?? car.key, notable: car.key !== "off" },
    { label: "Selector", value: car.selector, notable: car.selector !== "P" },
    { label: "Brake", value: car.parkingBrake ? "set" : "not set" },
    { label: "Panels off", value: String(car.panelsOff.length), notable: car.panelsOff.length > 0 },
    { label: "Plugs open", value: String(car.plugsOpen.length), notable: car.plugsOpen.length > 0 },
    { label: "Screws out", value: String(fasteners), notable: fasteners > 0 },
    { label: "Module", value: car.modulePower === "on" ? "powered" : "no power" },
    { label: "On the job", value: `${Math.floor(workMinutes / 60)} h ${String(workMinutes % 60).padStart(2, "0")}` },
  ];
  return (
    <section aria-label="State of the car" className="my-3 border-y border-rule">
      <dl className="grid grid-cols-3 sm:grid-cols-5 lg:grid-cols-9">
        {cells.map((c) => (
          <div key={c.label} className="py-1.5 pr-2">
            <dt className="caption">{c.label}</dt>
            <dd className={`num leading-tight ${c.notable ? "font-medium" : "text-quiet"}`}>{c.value}</dd>
          </div>
        ))}
      </dl>
      {car.hazards.map((h) => (
        <p
          key={h.id}
          role="alert"
          className={`flex items-start gap-2 px-2 py-2 font-medium ${h.level === "stop" ? "bg-stop-ground text-stop" : "bg-watch-ground text-watch"}`}
        >
          {h.level === "stop" ? (
            <OctagonAlert size={20} className="mt-0.5 shrink-0" aria-hidden="true" />
          ) : (
            <TriangleAlert size={20} className="mt-0.5 shrink-0" aria-hidden="true" />
          )}
          <span className="min-w-0 flex-1">
            {h.text} <span className="text-ink">{h.remedy}</span>
          </span>
          {h.id === "charge" && (
            <EntryButton body={{ kind: "strip.maintainer", data: { connected: true } }}>Maintainer is on</EntryButton>
          )}
        </p>
      ))}
    </section>
  );
}
