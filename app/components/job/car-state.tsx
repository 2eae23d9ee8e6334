import { CarFront, ChevronDown, OctagonAlert, TriangleAlert } from "lucide";
import { useState } from "react";
import type { JobCarState } from "~/core/job/car-state";
import type { CarStand } from "~/core/log/strip-journal";
import { countWords } from "~/core/model/labels";
import { EntryButton, useJob } from "../entry-form";
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
      <SetRight car={car} />
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

/** Whoever sees that the car stands otherwise says so in a tap. */
function SetRight({ car }: { car: JobCarState }) {
  const { job } = useJob();
  const ways: { say: string; sets: Partial<CarStand>; is: boolean }[] = [
    { say: "Battery is off", sets: { battery: "isolated" }, is: car.battery === "isolated" },
    { say: "Battery is on", sets: { battery: "connected" }, is: car.battery === "connected" },
    { say: "Key is off", sets: { key: "off" }, is: car.key === "off" && car.keyKnown },
    { say: "Accessory", sets: { key: "accessory" }, is: car.key === "accessory" && car.keyKnown },
    { say: "Ignition is on", sets: { key: "on" }, is: car.key === "on" && car.keyKnown },
    { say: "Engine runs", sets: { key: "running" }, is: car.key === "running" && car.keyKnown },
    { say: "Selector in P", sets: { selector: "P" }, is: car.selector === "P" },
    { say: "In R", sets: { selector: "R" }, is: car.selector === "R" },
    { say: "In N", sets: { selector: "N" }, is: car.selector === "N" },
    { say: "Brake is set", sets: { parkingBrake: true }, is: car.parkingBrake },
    { say: "Brake is off", sets: { parkingBrake: false }, is: !car.parkingBrake },
    { say: "Maintainer is on", sets: { maintainer: true }, is: car.maintainer },
    { say: "Maintainer is off", sets: { maintainer: false }, is: !car.maintainer },
  ];
  if (job.closed) return null;
  return (
    <div className="border-t border-rule pt-2">
      <p className="caption mb-1">It stands otherwise? One tap, kept in the log</p>
      <div className="flex flex-wrap gap-1.5">
        {ways
          .filter((w) => !w.is)
          .map(({ say, sets }) => (
            <EntryButton key={say} body={{ kind: "strip.stands", data: { sets } }} className="px-3!">
              {say}
            </EntryButton>
          ))}
      </div>
    </div>
  );
}

function clock(minutes: number): string {
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")}`;
}

/** What is not as it stands when the car is parked and closed. */
function inAWord(car: JobCarState): string {
  const words = [
    car.battery === "isolated" ? "Battery off" : null,
    car.keyKnown ? (car.key === "off" ? "Key off" : `Key ${car.key}`) : "Key not known",
    car.selector === "P" ? null : `Selector ${car.selector}`,
    car.panelsOff > 0 ? `${countWords(car.panelsOff, "panel")} off` : null,
    car.plugsOpen > 0 ? `${countWords(car.plugsOpen, "plug")} open` : null,
    car.screwsOut > 0 ? `${countWords(car.screwsOut, "screw")} out` : null,
    car.locksOpen > 0 ? `${countWords(car.locksOpen, "lock bar")} open` : null,
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
    { label: "Key", value: car.keyKnown ? car.key : "not known", notable: car.key !== "off" || !car.keyKnown },
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
