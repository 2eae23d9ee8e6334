import { Check, RotateCcw, TriangleAlert } from "lucide";
import { useEffect } from "react";
import { useRevalidator } from "react-router";
import type { Stop } from "~/core/job/guards/guard";
import type { Command } from "~/core/log/entry";
import type { StripJournal } from "~/core/log/strip-journal";
import type { Task } from "~/core/strip/route";
import type { DoneTask } from "~/core/strip/view";
import { Focus } from "../bench/focus";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";
import { StopNote } from "../stop-note";
import { PanelDrawing } from "./panel-drawing";
import { StepFacts } from "./step-facts";
import { StepNotes } from "./step-notes";

interface Props {
  task: Task;
  /** What speaks against the tick now. */
  stop: Stop | null;
  /** For a hole: somebody has looked behind; null where nothing is drilled. */
  behind: boolean | null;
  direction: "in" | "back";
  /** Notes of the job; those of this step are shown. */
  notes: StripJournal["notes"];
  /** Why it cannot be ticked yet; null when it can. */
  locked: string | null;
  after: string | undefined;
}

/** One step: its tool and time, what to do, what to mind, its panel drawn, and a large button to tick it. */
export function StepFocus({ task, stop, behind, direction, notes, locked, after }: Props) {
  const { step } = task;
  useLookAgain(stop?.guard === "wait");
  const tick: Command = { kind: "strip.step", data: { step: task.id, direction } };
  return (
    <Focus
      kicker={[
        task.kind === "added"
          ? "Added on this job"
          : direction === "back"
            ? "Refit"
            : task.prepStep
              ? "Car"
              : "Removal",
        task.tool,
        minutesWord(task),
      ]
        .filter(Boolean)
        .join(" · ")}
      title={task.title}
      after={after}
      actions={
        locked ? (
          <Mark tone="none">{locked}</Mark>
        ) : (
          <>
            {behind === false && direction === "in" && (
              <EntryButton look="next" body={{ kind: "strip.behind", data: { step: task.id } }} shortcut="b">
                <Icon of={Check} size={18} /> Looked and felt behind: nothing there
              </EntryButton>
            )}
            <EntryButton
              look={stop?.answer === "refused" ? "plain" : "next"}
              body={stop?.answer === "asks" ? [...stop.first, tick] : tick}
              label={`Done: ${task.title}`}
              shortcut="Space"
            >
              <Icon of={Check} size={18} /> {stop?.answer === "asks" ? `${stop.say}: done` : "Done"}
            </EntryButton>
          </>
        )
      }
      picture={step && <PanelDrawing step={step} className="max-w-md" />}
    >
      {stop && !locked && <StopNote stop={stop} />}
      <p className="text-lg">{task.detail}</p>
      {step && <StepFacts step={step} direction={direction} />}
      {task.because.length > 0 && (
        <p className="text-sm text-quiet">
          For {task.because.slice(0, 3).join("; ")}
          {task.because.length > 3 ? ` and ${task.because.length - 3} more` : ""}
        </p>
      )}
      {direction === "in" && task.caution && (
        <p className="flex items-start gap-2 text-watch">
          <Icon of={TriangleAlert} size={18} className="mt-1 shrink-0" />
          {task.caution}
        </p>
      )}
      <StepNotes notes={notes.filter((n) => n.step === task.id)} />
    </Focus>
  );
}

/** A waiting time ends by itself: the page looks again until it has. */
function useLookAgain(waits: boolean): void {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    if (!waits) return;
    const timer = setInterval(() => void revalidate(), LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, [waits, revalidate]);
}

const LOOK_EVERY_MS = 3000;

/** A step that is done: who did it, and the way to take a wrong tick back. */
export function DoneFocus({ done, notes }: { done: DoneTask; notes: StripJournal["notes"] }) {
  return (
    <Focus
      kicker={done.by}
      marks={<Mark tone={done.back ? "none" : "good"}>{done.back ? "Back in place" : "Done"}</Mark>}
      title={done.title}
      actions={
        <EntryButton
          body={{ kind: "undo", data: { entry: done.entry } }}
          label={`Undo the tick: ${done.title}`}
          shortcut="u"
        >
          <Icon of={RotateCcw} size={18} /> Undo
        </EntryButton>
      }
    >
      <StepNotes notes={notes.filter((n) => n.step === done.id)} />
    </Focus>
  );
}

/** “3 to 8 min, usually 4 (2 jobs)”: how many closed jobs the figure rests on beside the plan. */
function minutesWord({ minutes: m, kind }: Task): string {
  if (kind === "prepStep" || m.low === m.high) return `${round(m.likely)} min`;
  const from = m.jobs > 0 ? ` (${m.jobs} ${m.jobs === 1 ? "job" : "jobs"})` : "";
  return `${round(m.low)} to ${round(m.high)} min, usually ${round(m.likely)}${from}`;
}

const round = (minutes: number) => Math.round(minutes * 2) / 2;
