import { ArrowRight, Car, Check, Volume2, VolumeX } from "lucide";
import { useState } from "react";
import { useFetcher } from "react-router";
import { entryId } from "~/core/job/entry-id";
import { upperFirst } from "~/core/model/labels";
import { CORNER_NAMES, CORNERS, type Corner, type Heard } from "~/core/prove/corners";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { PlugFaces } from "../connect/plug-faces";
import { Button } from "../controls";
import { EntryButton, useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";
import { TestSounds } from "./test-sounds";

type Walk = NonNullable<ReturnType<typeof proveView>["walk"]>;

/** Where a loudspeaker sits in the car as it is drawn: front up. */
const AT: Record<Corner, string> = {
  LF: "left-[24%] top-[28%]",
  RF: "left-[76%] top-[28%]",
  LR: "left-[24%] top-[76%]",
  RR: "left-[76%] top-[76%]",
};

/** Balance and fader at one corner after the other: what plays is tapped, and the contacts to move follow. */
export function SpeakerWalk({ walk, standIn, after }: { walk: Walk; standIn: boolean; after: string | undefined }) {
  const { outcome, heard } = walk;
  const [again, setAgain] = useState<Corner | null>(null);
  const corner = again ?? (outcome.kind === "open" ? (outcome.left[0] ?? null) : null);
  const set = (c: Corner) =>
    `balance ${c.startsWith("L") ? "left" : "right"}, fader ${c.endsWith("F") ? "front" : "rear"}`;
  if (corner)
    return (
      <Focus
        kicker={`Balance and fader walk, ${heard.length} of ${CORNERS.length} heard`}
        title={`${upperFirst(set(corner))}: which loudspeaker plays?`}
        after={after}
        picture={
          <div className="flex flex-wrap gap-x-10 gap-y-6">
            <Corners set={corner} heard={heard} onHeard={() => setAgain(null)} />
            <TestSounds />
          </div>
        }
        actions={standIn && <HearOnStandIn corner={corner} onHeard={() => setAgain(null)} />}
      >
        <p>Both controls to the very end, bass and loudness off.</p>
        {outcome.kind === "open" && outcome.hint && <p className="text-watch">{outcome.hint}</p>}
      </Focus>
    );
  return (
    <Focus
      kicker="Balance and fader walk"
      marks={
        outcome.kind === "right" ? (
          <Mark tone="good">Each corner plays at its own</Mark>
        ) : (
          <Mark tone="stop">{outcome.kind === "exchanged" ? "Exchanged" : "Not right"}</Mark>
        )
      }
      title={titleOf(walk)}
      after={after}
      actions={
        <>
          {outcome.kind === "exchanged" && (
            <EntryButton look="next" body={{ kind: "prove.moved", data: {} }} shortcut="Space">
              <Icon of={Check} size={18} /> Moved: walk again
            </EntryButton>
          )}
          {heard.map((h) => (
            <Button key={h.corner} onClick={() => setAgain(h.corner)}>
              Hear {CORNER_NAMES[h.corner]} again
            </Button>
          ))}
        </>
      }
      picture={outcome.kind === "exchanged" && <PlugFaces halves={[{ ...walk.plug, moves: walk.plug.moves }]} />}
    >
      {outcome.kind === "notExchanged" && (
        <Notice tone="stop" title="No exchange of contacts explains it">
          <p>{outcome.reason}</p>
        </Notice>
      )}
      {outcome.kind === "exchanged" && (
        <>
          {outcome.silent.length > 0 && (
            <p className="text-watch">
              Nothing plays at {outcome.silent.map((c) => CORNER_NAMES[c]).join(", ")}; moving contacts does not cure
              that.
            </p>
          )}
          <h3 className="pt-2 font-semibold">
            {walk.plug.name}: {outcome.moves.length} contacts
          </h3>
          <p>
            Key off, plug out, secondary lock open. Lift the tongue, draw the wire out; push it in until it clicks, pull
            gently. At the end close the secondary lock and plug in.
          </p>
          <ol className="border-t border-rule">
            {walk.steps.map((s) => (
              <li
                key={`${s.corner}${s.pole}${s.from}`}
                className="flex min-h-11 items-center gap-4 border-b border-rule text-lg"
              >
                <span className="num inline-flex w-36 shrink-0 items-center justify-end gap-3 font-semibold">
                  {s.from ?? <span className="font-sans text-base font-normal text-quiet">hangs</span>}
                  <Icon of={ArrowRight} size={20} label="to" />
                  <span className="w-14">
                    {s.to ?? <span className="font-sans text-base font-normal text-quiet">hangs</span>}
                  </span>
                </span>
                <span>
                  {CORNER_NAMES[s.corner]} {s.pole === "+" ? "plus" : "minus"}
                  {s.to === null && <span className="text-quiet">, mark it</span>}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
    </Focus>
  );
}

function titleOf({ outcome, moved }: Walk): string {
  if (outcome.kind === "right")
    return moved > 0 ? "Cured: every loudspeaker at its place" : "Every loudspeaker at its place";
  if (outcome.kind !== "exchanged") return "It is not an exchange";
  if (outcome.cycles.length === 0)
    return `Turned round: ${[...new Set(outcome.moves.map((m) => CORNER_NAMES[m.corner]))].join(", ")}`;
  const all = outcome.cycles.map((c) => c.map((x) => CORNER_NAMES[x]).join(" and "));
  return outcome.cycles.some((c) => c.length > 2)
    ? `In a round: ${outcome.cycles.map((c) => c.map((x) => CORNER_NAMES[x]).join(", ")).join("; ")}`
    : `Exchanged: ${all.join("; ")}`;
}

/** The car from above with its four loudspeakers to tap. */
function Corners({ set, heard, onHeard }: { set: Corner; heard: Walk["heard"]; onHeard(): void }) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const say = (plays: Heard) => {
    append({ kind: "prove.walk", data: { corner: set, plays } });
    onHeard();
  };
  const was = heard.find((h) => h.corner === set)?.plays;
  return (
    <div className="w-64">
      <div className="relative aspect-[5/6]">
        <svg viewBox="0 0 300 400" preserveAspectRatio="none" className="size-full" aria-hidden="true">
          <rect
            x="20"
            y="8"
            width="260"
            height="384"
            rx="70"
            fill="var(--raised)"
            stroke="var(--ink)"
            strokeWidth="3"
          />
          <path d="M52 92q98 -40 196 0l-14 42q-84 -22 -168 0z" fill="none" stroke="var(--strong)" strokeWidth="2" />
          <path d="M66 330q84 22 168 0" fill="none" stroke="var(--strong)" strokeWidth="2" />
          <text x="150" y="44" textAnchor="middle" fontSize="20" fill="var(--quiet)">
            front
          </text>
        </svg>
        {CORNERS.map((c) => (
          <button
            key={c}
            type="button"
            disabled={busy || readOnly}
            aria-pressed={was === c}
            onClick={() => say(c)}
            className={`absolute grid min-h-14 w-28 -translate-x-1/2 -translate-y-1/2 place-items-center rounded border-2 border-ink px-1 py-1.5 text-sm ${was === c ? "bg-ink text-paper" : "bg-paper"} ${AT[c]}`}
          >
            <Icon of={Volume2} size={20} /> {upperFirst(CORNER_NAMES[c])}
          </button>
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button disabled={busy || readOnly} onClick={() => say("none")}>
          <Icon of={VolumeX} size={18} /> Nothing
        </Button>
        <Button disabled={busy || readOnly} onClick={() => say("several")}>
          Several
        </Button>
      </div>
    </div>
  );
}

/** Lets the stand-in car play. */
function HearOnStandIn({ corner, onHeard }: { corner: Corner; onHeard(): void }) {
  const { job, seed, readOnly } = useJob();
  const fetcher = useFetcher();
  return (
    <fetcher.Form method="post" action={`/jobs/${job.id}/stand-in`} onSubmit={onHeard}>
      <input type="hidden" name="entry" value={entryId(seed, `walk-${corner}`)} />
      <input type="hidden" name="corner" value={corner} />
      <Button type="submit" look="next" disabled={readOnly || fetcher.state !== "idle"}>
        <Icon of={Car} size={18} /> Hear it on the stand-in car
      </Button>
    </fetcher.Form>
  );
}
