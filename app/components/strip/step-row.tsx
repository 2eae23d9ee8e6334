import { Check, RotateCcw, TriangleAlert } from "lucide-react";
import { useState } from "react";
import type { EntryBody } from "~/core/job/entry";
import type { StripStep } from "~/core/model/profile";
import { backWords, type Hazard } from "~/core/strip/state";
import { Button } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Mark } from "../marks";

interface Props {
  number: number;
  step: StripStep;
  done: boolean;
  wasBack?: boolean;
  next: boolean;
  hazards: Hazard[];
  confirmed: string[];
  direction: "in" | "back";
}

/** One step with its tool, fasteners and cautions, and a large button to tick it. */
export function StepRow({ number, step, done, wasBack = false, next, hazards, direction }: Props) {
  const { next: jobNext } = useJob();
  const [sure, setSure] = useState(false);
  const [asked, setAsked] = useState(false);
  const stops = hazards.filter((h) => h.level === "stop");
  const confirmed = sure ? stops.map((h) => h.id) : [];
  const shown = next || asked;
  const words = direction === "back" ? backWords(step) : step;
  const isNext = next && jobNext.stage === "strip";
  const reversible = step.panel || step.fasteners || step.opens || step.sets?.battery;
  const facts = [
    step.tool,
    `${step.minutes} min`,
    step.fasteners &&
      `${step.fasteners.count} × ${step.fasteners.kind}${step.fasteners.lengthMm ? ` ${step.fasteners.lengthMm} mm` : ""} ${direction === "back" ? "from" : "into"} tray ${step.fasteners.tray}`,
    step.panel && direction === "in" && `${step.panel} comes off`,
  ].filter(Boolean);
  return (
    <li
      className={`grid grid-cols-[1.8rem_minmax(0,1fr)_auto] items-start gap-x-3 border-b border-rule py-3 ${isNext ? "bg-raised" : ""}`}
    >
      <span className="num pt-2 text-quiet">{number}</span>
      <div>
        <p className={done ? "text-quiet" : "font-medium"}>{words.title}</p>
        {!done && <p className="text-quiet">{words.detail}</p>}
        <p className="num text-sm text-quiet">{facts.join(" · ")}</p>
        {!done && direction === "in" && step.caution && (
          <p className="mt-1 flex items-start gap-2 text-watch">
            <TriangleAlert size={18} className="mt-1 shrink-0" aria-hidden="true" />
            {step.caution}
          </p>
        )}
        {!done &&
          shown &&
          hazards.map((h) => (
            <p key={h.id} className="mt-2">
              <Mark tone={h.level}>{h.level === "stop" ? "Stop" : "Watch"}</Mark> {h.text} {h.remedy}
            </p>
          ))}
        {!done && shown && stops.length > 0 && (
          <label className="mt-2 flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              className="size-5"
              checked={sure}
              onChange={(e) => setSure(e.currentTarget.checked)}
            />{" "}
            I have made sure myself; log it with my name
          </label>
        )}
      </div>
      <div className="flex flex-wrap items-center justify-end gap-1">
        {done ? (
          <>
            <Mark tone="good">Done</Mark>
            {reversible && (
              <EntryButton
                look="quiet"
                body={{ kind: "strip.step", data: { step: step.id, direction: "back", confirmed: [] } }}
                label={`Put back: ${step.title}`}
              >
                <RotateCcw size={16} aria-hidden="true" /> Put back
              </EntryButton>
            )}
          </>
        ) : (
          <DoneButton
            word={wasBack ? "Off again" : "Done"}
            title={words.title}
            look={isNext ? "next" : "plain"}
            blocked={stops.length > 0 && !sure}
            onBlocked={() => setAsked(true)}
            body={{ kind: "strip.step", data: { step: step.id, direction, confirmed } }}
          />
        )}
      </div>
    </li>
  );
}

interface DoneProps {
  word: string;
  title: string;
  look: "next" | "plain";
  blocked: boolean;
  onBlocked(): void;
  body: EntryBody;
}

/** Ticks the step. While a hazard stands against it, pressing tells the hazard instead. */
function DoneButton({ word, title, look, blocked, onBlocked, body }: DoneProps) {
  const label = `${word}: ${title}`;
  const face = (
    <>
      <Check size={18} aria-hidden="true" /> {word}
    </>
  );
  if (blocked) {
    return (
      <Button aria-label={label} onClick={onBlocked}>
        {face}
      </Button>
    );
  }
  return (
    <EntryButton look={look} body={body} label={label}>
      {face}
    </EntryButton>
  );
}
