import { Check, TriangleAlert } from "lucide-react";
import { useState } from "react";
import type { Command } from "~/core/log/entry";
import type { StripJournal } from "~/core/log/strip-journal";
import type { Hazard } from "~/core/strip/hazards";
import type { Task } from "~/core/strip/route";
import { Button } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Mark } from "../marks";
import { PanelDrawing } from "./panel-drawing";
import { StepFacts } from "./step-facts";
import { StepNotes } from "./step-notes";

interface Props {
  number: number;
  task: Task;
  next: boolean;
  hazards: Hazard[];
  direction: "in" | "back";
  /** Notes of the job; those of this step are shown. */
  notes: StripJournal["notes"];
  /** It waits for the bench test. */
  locked?: boolean;
}

/** One step with its tool, fasteners and cautions, and a large button to tick it. The next one is opened wide. */
export function StepRow({ number, task, next, hazards, direction, notes, locked = false }: Props) {
  const { next: jobNext } = useJob();
  const [sure, setSure] = useState(false);
  const [asked, setAsked] = useState(false);
  const stops = hazards.filter((h) => h.level === "stop");
  const isNext = next && jobNext.stage === "strip";
  const wide = next || asked;
  const { step } = task;
  return (
    <li
      className={`grid grid-cols-[1.8rem_minmax(0,1fr)_auto] items-start gap-x-3 border-b border-rule py-3 ${isNext ? "bg-raised" : ""}`}
    >
      <span className="num pt-2 text-quiet">{number}</span>
      <div>
        <p className="pt-2 font-medium leading-snug">{task.title}</p>
        <p className="text-sm text-quiet">
          {[task.tool, minutesWord(task)].filter(Boolean).join(" · ")}
          {task.kind === "added" && " · added on this job"}
        </p>
        {wide && (
          <div className="mt-1 grid gap-x-6 sm:grid-cols-[minmax(0,1fr)_auto]">
            <div>
              <p>{task.detail}</p>
              {step && <StepFacts step={step} direction={direction} />}
              {task.because.length > 0 && (
                <p className="mt-1 text-sm text-quiet">
                  For {task.because.slice(0, 3).join("; ")}
                  {task.because.length > 3 ? ` and ${task.because.length - 3} more` : ""}
                </p>
              )}
            </div>
            {step && <PanelDrawing step={step} className="mt-2 w-56 sm:mt-0" />}
          </div>
        )}
        {direction === "in" && task.caution && (
          <p className="mt-1 flex items-start gap-2 text-watch">
            <TriangleAlert size={18} className="mt-1 shrink-0" aria-hidden="true" />
            {task.caution}
          </p>
        )}
        {wide && <StepNotes notes={notes.filter((n) => n.step === task.id)} />}
        {wide && <HazardList hazards={hazards} />}
        {wide && stops.length > 0 && <ConfirmHazards sure={sure} onChange={setSure} />}
      </div>
      <div className="flex flex-wrap items-center justify-end gap-1">
        {locked ? (
          <Mark tone="none">After the bench test</Mark>
        ) : (
          <DoneButton
            title={task.title}
            look={isNext ? "next" : "plain"}
            blocked={stops.length > 0 && !sure}
            onBlocked={() => setAsked(true)}
            body={{
              kind: "strip.step",
              data: { step: task.id, direction, confirmed: sure ? stops.map((h) => h.id) : [] },
            }}
          />
        )}
      </div>
    </li>
  );
}

/** “3 to 8 min, usually 4 (2 jobs)”: how many closed jobs the figure rests on beside the plan. */
function minutesWord({ minutes: m, kind }: Task): string {
  if (kind === "prepStep" || m.low === m.high) return `${round(m.likely)} min`;
  const from = m.jobs > 0 ? ` (${m.jobs} ${m.jobs === 1 ? "job" : "jobs"})` : "";
  return `${round(m.low)} to ${round(m.high)} min, usually ${round(m.likely)}${from}`;
}

const round = (minutes: number) => Math.round(minutes * 2) / 2;

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

interface DoneProps {
  title: string;
  look: "next" | "plain";
  blocked: boolean;
  onBlocked(): void;
  body: Command;
}

/** Ticks the step. While a hazard stands against it, pressing tells the hazard instead. */
function DoneButton({ title, look, blocked, onBlocked, body }: DoneProps) {
  const label = `Done: ${title}`;
  const face = (
    <>
      <Check size={18} aria-hidden="true" /> Done
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
