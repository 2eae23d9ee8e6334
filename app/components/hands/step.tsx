import { Button } from "~/app/components/controls";
import { later } from "~/app/lib/later";
import type { StripStep } from "~/core/model/profile";
import { backPoints } from "~/core/strip/back-points";
import type { Task } from "~/core/strip/route";
import type { HandsAct } from "~/core/views/hands";
import { Count } from "../strip/count";
import { PanelDrawing } from "../strip/panel-drawing";
import { StepFacts } from "../strip/step-facts";

/** Few steps have any. */
const StepNotes = later(async () => (await import("../strip/step-notes")).StepNotes, null);

type Step = Extract<HandsAct["what"], { kind: "step" }>;

export function StepPicture({ task }: { task: Task }) {
  return task.step ? <PanelDrawing step={task.step} className="mt-4 text-base lg:mt-0" /> : null;
}

/** What to do and what to mind at a step. */
export function StepWords({ what, disabled, looked }: { what: Step; disabled: boolean; looked(): void }) {
  const { task, direction, behind, missing, notes } = what;
  return (
    <>
      <div className="mt-2 text-xl">
        <p>{task.detail}</p>
        {direction === "back" && task.step ? (
          <BackPoints step={task.step} />
        ) : (
          task.step && <StepFacts step={{ ...task.step, fasteners: [] }} direction={direction} />
        )}
      </div>
      {direction === "in" && task.caution && (
        <p className="mt-3 border-l-4 border-watch pl-3 text-xl text-watch">{task.caution}</p>
      )}
      {behind === false && (
        <Button className="mt-2 min-h-16! text-lg" disabled={disabled} onClick={looked}>
          Looked and felt behind: nothing there
        </Button>
      )}
      {missing.length > 0 && <p className="mt-2 text-lg">Still before it: {missing.join(", ")}.</p>}
      {notes.length > 0 && (
        <div className="text-lg">
          <StepNotes notes={notes} />
        </div>
      )}
    </>
  );
}

function BackPoints({ step }: { step: StripStep }) {
  return (
    <ul className="mt-1 space-y-1">
      {backPoints({ ...step, fasteners: [] }).map((text) => (
        <li key={text}>{text}</li>
      ))}
    </ul>
  );
}

/** The groups of fasteners, with what was counted out when they go in again. */
export function Counts({
  what: { task, direction, expected },
  counted,
  setCounted,
}: {
  what: Step;
  counted: Readonly<Record<number, number>>;
  setCounted(change: (c: Record<number, number>) => Record<number, number>): void;
}) {
  const fasteners = task.step?.fasteners ?? [];
  if (fasteners.length === 0) return null;
  return (
    <div className="mt-3 text-xl">
      {fasteners.map((f, group) => (
        <Count
          key={`${f.kind}-${f.tray}-${f.lengthMm}`}
          fastener={f}
          expected={expected[group] ?? f.count}
          value={counted[group]}
          direction={direction === "in" ? "out" : "in"}
          onChange={(count) => setCounted((c) => ({ ...c, [group]: count }))}
        />
      ))}
      {direction === "back" && <p className="mt-1 text-lg">Start each by hand, then tighten all: none stays loose.</p>}
    </div>
  );
}
