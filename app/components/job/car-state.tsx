import { CarFront, ChevronDown, OctagonAlert, TriangleAlert } from "lucide";
import { useState } from "react";
import type { JobCarState } from "~/core/job/car-state";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";

interface Props {
  car: JobCarState;
  workMinutes: number;
}

/** The car as the done steps leave it, in a line; it opens to every cell and hazard. Computed, never typed. */
export function CarState({ car, workMinutes }: Props) {
  // Most who look at a page do not open it.
  const [open, setOpen] = useState(false);
  const stop = car.wrong ?? car.hazards.find((h) => h.level === "stop");
  const watch = car.hazards.length > 0;
  return (
    <section aria-label="State of the car" className="min-w-0">
      <button
        type="button"
        popoverTarget="car-state"
        className={`inline-flex min-h-11 max-w-full items-center gap-2 rounded-[3px] px-2 text-left ${stop ? "bg-stop-ground font-semibold text-stop" : watch ? "bg-watch-ground text-watch" : "text-ink"}`}
      >
        {stop ? (
          <Icon of={OctagonAlert} size={20} className="shrink-0" />
        ) : watch ? (
          <Icon of={TriangleAlert} size={20} className="shrink-0" />
        ) : (
          <Icon of={CarFront} size={20} className="shrink-0" />
        )}
        <span
          className={`text-[0.93rem] leading-tight ${car.wrong ? "max-w-20 sm:max-w-none" : "sr-only sm:not-sr-only sm:line-clamp-2 sm:max-w-56 xl:max-w-80"}`}
        >
          {car.wrong ? "Do not switch on" : (stop?.text ?? inAWord(car))}
        </span>
        {!stop && <span className="num sr-only text-sm whitespace-nowrap sm:not-sr-only">{clock(workMinutes)}</span>}
        <Icon of={ChevronDown} size={16} className="shrink-0" />
      </button>
      <div
        popover="auto"
        id="car-state"
        onBeforeToggle={(e) => setOpen(e.newState === "open")}
        className="inset-auto top-[98px] left-2 m-0 max-w-[min(34rem,calc(100vw-1rem))] border border-strong bg-raised p-3 text-ink"
      >
        {open && <Whole car={car} workMinutes={workMinutes} />}
      </div>
    </section>
  );
}

/** Every cell and every hazard with its remedy. */
function Whole({ car, workMinutes }: Props) {
  return (
    <>
      <Cells car={car} workMinutes={workMinutes} />
      {car.wrong && <Warning level="stop" text={car.wrong.text} remedy={car.wrong.remedy} />}
      {car.hazards.map((h) => (
        <Warning key={h.id} {...h}>
          {h.id === "charge" && (
            <EntryButton body={{ kind: "strip.maintainer", data: { connected: true } }}>Maintainer is on</EntryButton>
          )}
        </Warning>
      ))}
    </>
  );
}

function clock(minutes: number): string {
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")}`;
}

/** What is not as it stands when the car is parked and closed. */
function inAWord(car: JobCarState): string {
  const words = [
    car.battery === "isolated" ? "Battery off" : null,
    car.key === "off" ? "Key off" : `Key ${car.key}`,
    car.selector === "P" ? null : `Selector ${car.selector}`,
    car.panelsOff > 0 ? `${car.panelsOff} panels off` : null,
    car.plugsOpen > 0 ? `${car.plugsOpen} plugs open` : null,
    car.screwsOut > 0 ? `${car.screwsOut} screws out` : null,
    car.modulePower === "on" ? "Module powered" : null,
  ].filter((w) => w !== null);
  return words.join(" · ");
}

function Cells({ car, workMinutes }: Props) {
  const cells: { label: string; value: string; notable?: boolean }[] = [
    {
      label: "Battery",
      value: car.battery === "isolated" ? "isolated" : car.maintainer ? "maintained" : "connected",
      notable: car.battery === "isolated",
    },
    { label: "Key", value: car.key, notable: car.key !== "off" },
    { label: "Selector", value: car.selector, notable: car.selector !== "P" },
    { label: "Brake", value: car.parkingBrake ? "set" : "not set" },
    { label: "Panels off", value: String(car.panelsOff), notable: car.panelsOff > 0 },
    { label: "Plugs open", value: String(car.plugsOpen), notable: car.plugsOpen > 0 },
    { label: "Screws out", value: String(car.screwsOut), notable: car.screwsOut > 0 },
    { label: "Module", value: car.modulePower === "on" ? "powered" : "no power" },
    { label: "On the job", value: clock(workMinutes) },
  ];
  return (
    <dl className="grid grid-cols-3 gap-x-6">
      {cells.map((c) => (
        <div key={c.label} className="py-1.5">
          <dt className="caption">{c.label}</dt>
          <dd className={`num leading-tight ${c.notable ? "font-medium" : "text-quiet"}`}>{c.value}</dd>
        </div>
      ))}
    </dl>
  );
}

function Warning({
  level,
  text,
  remedy,
  children,
}: {
  level: string;
  text: string;
  remedy: string;
  children?: React.ReactNode;
}) {
  return (
    <div
      role="alert"
      className={`mt-2 flex items-start gap-2 px-2 py-2 font-medium ${level === "stop" ? "bg-stop-ground text-stop" : "bg-watch-ground text-watch"}`}
    >
      <Icon of={level === "stop" ? OctagonAlert : TriangleAlert} size={20} className="mt-0.5 shrink-0" />
      <p className="min-w-0 flex-1">
        {text} <span className="text-ink">{remedy}</span>
      </p>
      {children}
    </div>
  );
}
