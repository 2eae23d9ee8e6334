import { CircleSlash } from "lucide";
import { type MouseEvent, useState } from "react";
import type { TouchOutcome } from "~/core/prove/touch-fit";
import { type Place, TARGET_IDS, TARGETS, type TargetId } from "~/core/prove/touch-targets";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";

type Touch = ReturnType<typeof proveView>["touch"][number];

/** Five targets are touched on the car's screen; where the picture reacts is tapped here, and what it means follows. */
export function TouchPanel({ touch, after }: { touch: Touch; after: string | undefined }) {
  const { outcome, reacted } = touch;
  const [again, setAgain] = useState<readonly TargetId[]>([]);
  const target = again[0] ?? (outcome.kind === "open" ? outcome.left[0] : undefined);
  if (target)
    return (
      <Focus
        kicker={`${touch.name}, ${TARGET_IDS.length - (again.length || (outcome.kind === "open" ? outcome.left.length : 0))} of ${TARGET_IDS.length} touched`}
        title={`Touch ${TARGETS[target].name} on the car's screen. Where does it react?`}
        after={after}
        picture={<Screen touch={touch} target={target} onSaid={() => setAgain(again.slice(1))} />}
      >
        <p>Look for what moves, lights up or opens, and tap that place below.</p>
      </Focus>
    );
  return (
    <Focus
      kicker={`${touch.name}, corners and centre`}
      marks={
        outcome.kind === "right" ? <Mark tone="good">Right</Mark> : <Mark tone="stop">Not where it is touched</Mark>
      }
      title={titleOf(outcome)}
      after={after}
      actions={<Button onClick={() => setAgain(TARGET_IDS)}>Touch all again</Button>}
      picture={<Arrows reacted={reacted} />}
    >
      {outcome.kind !== "right" && <Explained settings={touch.settings} outcome={outcome} />}
    </Focus>
  );
}

function titleOf(outcome: TouchOutcome): string {
  switch (outcome.kind) {
    case "open":
      return "";
    case "right":
      return `Every touch arrives, at most ${percent(outcome.worst)} of the picture off`;
    case "dead":
      return outcome.where.length === TARGET_IDS.length
        ? "Nothing reacts anywhere"
        : `Nothing reacts at ${outcome.where.map((t) => TARGETS[t].name).join(", ")}`;
    case "axisDead":
      return `Moving the finger ${outcome.axis} changes nothing`;
    case "uneven":
      return `No straight map explains it: ${TARGETS[outcome.at].name} is ${percent(outcome.worst)} off`;
    case "mapped":
      return outcome.stand === "straight" ? "Straight, but not at its place" : `The touch is ${outcome.stand}`;
  }
}

/** Scale and shift are as they should be, to a hundredth. */
function exact({ scale, shift }: Extract<TouchOutcome, { kind: "mapped" }>): boolean {
  return [scale.x - 1, scale.y - 1, shift.x, shift.y].every((off) => Math.abs(off) < 0.005);
}

function percent(share: number): string {
  return `${Math.round(100 * share)} %`;
}

/** What else differs, and which settings the model knows for it. */
function Explained({ settings, outcome }: { settings: Touch["settings"]; outcome: TouchOutcome }) {
  const mapped = outcome.kind === "mapped" ? outcome : null;
  return (
    <>
      {mapped && !exact(mapped) && (
        <p>
          Width {percent(mapped.scale.x)}, height {percent(mapped.scale.y)} of what it should be; centre{" "}
          {percent(Math.abs(mapped.shift.x))} to the {mapped.shift.x < 0 ? "left" : "right"} and{" "}
          {percent(Math.abs(mapped.shift.y))} {mapped.shift.y < 0 ? "up" : "down"}.
        </p>
      )}
      {settings === null ? (
        <Notice tone="watch" title="As the job stands the model expects no touch here">
          <p>See what is open in Connect and Configure first.</p>
        </Notice>
      ) : settings.length > 0 ? (
        <>
          <p>One of these settings alone would explain it:</p>
          <ul className="list-disc pl-6">
            {settings.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        </>
      ) : mapped ? (
        <p>
          No setting that the documents of this job know stands the touch so. Look in the menu or the switch table of
          the module for one, and whether the format is that of this screen.
        </p>
      ) : (
        <p>No setting explains it; the ribbon or the glass may. Find the cause in the failing test.</p>
      )}
    </>
  );
}

/** The screen to tap on. The five targets are buttons too, for keys and for what reacts just there. */
function Screen({ touch, target, onSaid }: { touch: Touch; target: TargetId; onSaid(): void }) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const off = busy || readOnly;
  const say = (at: Place | null) => {
    append({ kind: "prove.touch", data: { test: touch.test, target, at } });
    onSaid();
  };
  const tap = (e: MouseEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const share = (at: number, from: number, length: number) =>
      Math.round(1000 * Math.min(1, Math.max(0, (at - from) / length))) / 1000;
    say({ x: share(e.clientX, box.left, box.width), y: share(e.clientY, box.top, box.height) });
  };
  return (
    <div className="max-w-lg">
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: the buttons on it are for keys */}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the buttons on it are for keys */}
      <div
        className="relative aspect-[5/3] cursor-crosshair rounded-lg border-2 border-ink bg-raised"
        onClick={(e) => !off && tap(e)}
      >
        {TARGET_IDS.map((id) => (
          <button
            key={id}
            type="button"
            disabled={off}
            aria-label={`It reacts ${TARGETS[id].name}`}
            onClick={(e) => {
              e.stopPropagation();
              say(TARGETS[id].at);
            }}
            className={`absolute grid size-11 -translate-x-1/2 -translate-y-1/2 place-items-center rounded-full border-2 ${id === target ? "border-accent" : "border-rule"}`}
            style={{ left: `${100 * TARGETS[id].at.x}%`, top: `${100 * TARGETS[id].at.y}%` }}
          >
            <span className={`size-2 rounded-full ${id === target ? "bg-accent" : "bg-strong"}`} />
          </button>
        ))}
      </div>
      <div className="mt-3">
        <Button disabled={off} onClick={() => say(null)}>
          <Icon of={CircleSlash} size={18} /> Nothing reacts
        </Button>
      </div>
    </div>
  );
}

/** Each target with an arrow to where the picture reacts. */
function Arrows({ reacted }: { reacted: Touch["reacted"] }) {
  return (
    <svg
      viewBox="0 0 500 300"
      className="w-full max-w-lg"
      role="img"
      aria-label={`Where each touch arrives: ${reacted
        .map(
          ({ target, at }) =>
            `${TARGETS[target].name} ${at ? `at ${percent(at.x)} from the left, ${percent(at.y)} from the top` : "nowhere"}`,
        )
        .join("; ")}`}
    >
      <rect x="1" y="1" width="498" height="298" rx="8" fill="var(--raised)" stroke="var(--ink)" strokeWidth="2" />
      {reacted.map(({ target, at }) => {
        const { x, y } = TARGETS[target].at;
        return (
          <g key={target}>
            <circle cx={500 * x} cy={300 * y} r="9" fill="none" stroke="var(--ink)" strokeWidth="2" />
            {at && (
              <>
                <line
                  x1={500 * x}
                  y1={300 * y}
                  x2={500 * at.x}
                  y2={300 * at.y}
                  stroke="var(--accent)"
                  strokeWidth="2.5"
                />
                <circle cx={500 * at.x} cy={300 * at.y} r="5" fill="var(--accent)" />
              </>
            )}
          </g>
        );
      })}
    </svg>
  );
}
