import { PencilLine, ThumbsDown } from "lucide";
import { useEffect, useState } from "react";
import { Button } from "~/app/components/controls";
import { HandsFrame } from "~/app/components/hands/frame";
import { nowMs } from "~/app/lib/device-clock";
import { later } from "~/app/lib/later";
import type { Hands } from "~/app/lib/use-hands";
import type { Stop } from "~/core/job/guards/guard";
import type { Command } from "~/core/log/entry";
import { lowerFirst } from "~/core/model/labels";
import type { HandsAct, HandsAnswer, HandsHead } from "~/core/views/hands";
import { Icon } from "../icon";
import { StopWords } from "../stop-words";
import { Counts, StepPicture, StepWords } from "./step";
import { TestWords } from "./test";

/** What many steps do without comes apart. */
const DiffersDialog = later(async () => (await import("../strip/differs")).DiffersDialog, null);
const PlugFaces = later(async () => (await import("../connect/plug-faces")).PlugFaces, null);
const JointView = later(async () => (await import("../drawings/joint-view")).JointView, null);
const BankDrawing = later(async () => (await import("../configure/bank-drawing")).BankDrawing, null);

interface OneActProps {
  act: HandsAct;
  hands: Hands;
  move(by: number): void;
  /** Minutes since the last tap or since the page was opened. */
  sinceMin: number;
}

/** One thing, large: what to do, what to mind, what to count, and the answer under the thumb. */
export function OneAct({ act, hands, move, sinceMin }: OneActProps) {
  const { view, outbox, peeking, isShown, tap } = hands;
  const [asked, setAsked] = useState(false);
  const [open, setOpen] = useState<"differs" | "answers" | null>(null);
  const [counted, setCounted] = useState<Record<number, number>>({});
  const early = useEarly(act.waitsUntil);
  const { what, stop } = act;
  const locked = what.kind === "step" && what.locked;
  const blind = view.readOnly || !isShown;
  const first = stop?.answer === "asks" ? stop.first : [];
  const done = () => {
    if (locked || early) return;
    if (stop && stop.answer !== "asks") return setAsked(true);
    tap([...first, ...countsOf(act, counted), ...act.press]);
  };
  const label = stop?.answer === "asks" ? `${stop.say}: ${lowerFirst(act.done)}` : stop ? "Not yet" : act.done;
  const after = view.order[view.at + 1];
  return (
    <>
      <HandsFrame
        head={<Head act={act} head={view.order[view.at]} hands={hands} peeking={peeking} sinceMin={sinceMin} />}
        title={act.title}
        picture={what.kind === "step" ? <StepPicture task={what.task} /> : null}
        then={after ? <Then head={after} tool={view.order[view.at]?.tool} /> : "The last one here."}
        undo={hands.undo}
        done={{
          label,
          look: stop?.answer === "refused" ? "plain" : "next",
          disabled: blind || locked || early,
          act: done,
          ...(act.press.length === 0 ? { to: `/jobs/${view.job.id}/${act.to}` } : {}),
        }}
        more={<More act={act} disabled={view.readOnly} open={(what) => setOpen(open === what ? null : what)} />}
        move={move}
        paused={open === "differs"}
      >
        <div className="mt-2 text-lg" role={asked ? "alert" : undefined}>
          {stop && !locked && !isSaidBelow(what, stop) && <StopWords stop={stop} />}
          {locked && <p className="mt-2">The bench test comes first.</p>}
        </div>
        {open === "answers" && what.kind === "test" ? (
          <Answers answers={what.answers} tap={tap} disabled={blind} />
        ) : (
          <What act={act} tap={tap} first={first} disabled={blind} />
        )}
        {what.kind === "step" && <Counts what={what} counted={counted} setCounted={setCounted} />}
      </HandsFrame>
      {open === "differs" && what.kind === "step" && (
        <DiffersDialog task={what.task} onClose={() => setOpen(null)} send={outbox.add} />
      )}
    </>
  );
}

/** True while a tap comes too early; by itself over. */
function useEarly(until: string | null): boolean {
  const left = until === null ? 0 : Date.parse(until) - nowMs();
  const [, strike] = useState(0);
  useEffect(() => {
    if (left <= 0) return;
    const timer = setTimeout(() => strike((n) => n + 1), left + 50);
    return () => clearTimeout(timer);
  }, [left]);
  return left > 0;
}

function countsOf({ what }: HandsAct, counted: Readonly<Record<number, number>>): Command[] {
  if (what.kind !== "step") return [];
  const direction = what.direction === "in" ? ("out" as const) : ("in" as const);
  return Object.entries(counted).map(([group, count]) => ({
    kind: "strip.count",
    data: { step: what.task.id, group: Number(group), direction, count },
  }));
}

const STAGE_WORDS: Readonly<Record<string, string>> = {
  connect: "plugs and leads",
  configure: "settings",
  prove: "try it",
};

function Head({
  act: { stage, what, minutes },
  head,
  hands: { view },
  peeking,
  sinceMin,
}: {
  act: HandsAct;
  head: HandsHead | undefined;
  hands: Hands;
  peeking: boolean;
  sinceMin: number;
}) {
  const where =
    what.kind !== "step"
      ? STAGE_WORDS[stage]
      : what.direction === "back"
        ? "on the way back"
        : what.task.kind === "prepStep"
          ? "car"
          : "on the way in";
  const usual = `usually ${Math.round(minutes * 2) / 2} min`;
  return (
    <>
      <span className="num">
        {view.done + view.at + 1} of {view.done + view.order.length}
      </span>
      {where}
      {head?.tool && <span className="font-medium text-ink">{head.tool}</span>}
      <span>{sinceMin < 1 ? usual : `${Math.floor(sinceMin)} min on it, ${usual}`}</span>
      {peeking && <span>looked at, not the next one</span>}
    </>
  );
}

function Then({ head, tool }: { head: HandsHead; tool: string | undefined }) {
  return (
    <>
      Then: {head.title}
      {head.tool && head.tool !== tool && <span className="font-medium text-ink"> · take the {head.tool}</span>}
    </>
  );
}

function What({
  act: { what, why },
  tap,
  first,
  disabled,
}: {
  act: HandsAct;
  tap(press: readonly Command[]): void;
  first: readonly Command[];
  disabled: boolean;
}) {
  switch (what.kind) {
    case "step":
      return (
        <StepWords
          what={what}
          disabled={disabled}
          looked={() => tap([{ kind: "strip.behind", data: { step: what.task.id } }])}
        />
      );
    case "plug":
      return (
        <div className="mt-2 text-xl">
          <Lines lines={what.points} />
          {what.places.length > 0 && <Answers answers={what.places} tap={tap} disabled={disabled} />}
          <div className="mt-3 text-base">
            {what.joint ? (
              <JointView joint={what.joint} joined={what.joined} />
            ) : (
              what.halves.length > 0 && <PlugFaces halves={what.halves} />
            )}
          </div>
        </div>
      );
    case "bank":
      return (
        <div className="mt-3 text-xl">
          <p>{why}</p>
          <BankDrawing values={what.values} on={what.on} title={`${what.label} as it must stand`} />
        </div>
      );
    case "test":
      return <TestWords what={what} all={() => tap([...first, ...what.all])} disabled={disabled} />;
    case "words":
      return (
        <div className="mt-2 text-xl">
          <p className="text-quiet">{why}</p>
          <Lines lines={what.lines} />
        </div>
      );
  }
}

function Lines({ lines }: { lines: readonly string[] }) {
  return (
    <ul className="mt-1 space-y-1">
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}

/** How car and phone must stand is the list of the test already. */
function isSaidBelow(what: HandsAct["what"], { answer, guard }: Stop): boolean {
  return what.kind === "test" && answer === "asks" && guard === "key";
}

/** What was there instead, one tap each; what the car, as it stands, does not allow cannot be tapped. */
function Answers({
  answers,
  tap,
  disabled,
}: {
  answers: readonly HandsAnswer[];
  tap(press: readonly Command[]): void;
  disabled: boolean;
}) {
  return (
    <div className="mt-3 grid grid-cols-2 gap-2 sm:grid-cols-3">
      {answers.map((a) => (
        <Button
          key={a.say}
          className="min-h-16! text-lg"
          disabled={disabled || (a.stop !== null && a.stop.answer !== "asks")}
          onClick={() => tap([...(a.stop?.answer === "asks" ? a.stop.first : []), ...a.press])}
        >
          {a.say}
        </Button>
      ))}
    </div>
  );
}

/** The button beside “Done”. */
function More({
  act: { what },
  disabled,
  open,
}: {
  act: HandsAct;
  disabled: boolean;
  open(what: "differs" | "answers"): void;
}) {
  const look = "min-h-20! flex-col gap-0! px-2! sm:flex-row sm:gap-2! sm:px-6! sm:text-lg";
  if (what.kind === "step")
    return (
      <Button className={look} disabled={disabled} onClick={() => open("differs")}>
        <Icon of={PencilLine} size={24} /> Differs
      </Button>
    );
  if (what.kind === "test")
    return (
      <Button className={look} disabled={disabled} onClick={() => open("answers")}>
        <Icon of={ThumbsDown} size={24} /> Not so
      </Button>
    );
  return null;
}
