import { useRef, useState } from "react";
import type { Cue } from "~/core/bus/hunt/cues";
import type { PlannedThing } from "~/core/bus/hunt/plan";
import { Button, Section } from "../../controls";
import type { BusFile } from "../log-focus";
import { CueLanes } from "./lanes";

/** Gives the cues of a log that is there already: tapped along with a video of what was done. */
export function TapAlong({
  log,
  things,
  onDone,
  onCancel,
}: {
  log: BusFile;
  things: readonly PlannedThing[];
  onDone(cues: Cue[]): void;
  onCancel(): void;
}) {
  const [beginMs, setBeginMs] = useState<number | null>(null);
  const [cues, setCues] = useState<Cue[]>([]);
  const down = useRef<{ key: string; fromS: number } | null>(null);
  // The moment of the touch itself, not of its turn on a busy page.
  const atS = (e: { timeStamp: number }) => (e.timeStamp - (beginMs ?? 0)) / 1000;

  function press(e: { timeStamp: number }, key: string) {
    if (beginMs !== null && down.current === null) down.current = { key, fromS: atS(e) };
  }
  function release(e: { timeStamp: number }, thing: string, label: string, value: number | undefined) {
    const held = down.current;
    down.current = null;
    if (held?.key !== `${thing}/${label}`) return;
    // A tap is a short press.
    const toS = Math.max(atS(e), held.fromS + 0.3);
    setCues((list) => [...list, { thing, label, fromS: held.fromS, toS, ...(value === undefined ? {} : { value }) }]);
  }

  return (
    <Section title={`Cues of ${log.name}`} id="tap" aside={`${cues.length} cues`}>
      <p className="max-w-prose">
        Start the video of the recording and this clock together. Hold each button as long as the thing is done in the
        video. Two seconds off are found out by themselves.
      </p>
      <div className="mt-3 flex flex-wrap gap-3">
        {beginMs === null ? (
          <Button look="next" onClick={(e) => setBeginMs(e.timeStamp)}>
            Start now
          </Button>
        ) : (
          <>
            <Button look="next" disabled={cues.length === 0} onClick={() => onDone(cues)}>
              Take these cues
            </Button>
            <Button disabled={cues.length === 0} onClick={() => setCues(cues.slice(0, -1))}>
              Take back the last
            </Button>
          </>
        )}
        <Button onClick={onCancel}>Cancel</Button>
      </div>
      {beginMs !== null && (
        <div className="mt-4 space-y-3">
          {things.map(({ thing, acts }) => (
            <div key={thing.id} className="flex flex-wrap items-center gap-2">
              <span className="w-32">{thing.name}</span>
              {acts.map(({ label, value }) => {
                const key = `${thing.id}/${label}`;
                return (
                  <Button
                    key={key}
                    className="min-h-14 min-w-24 touch-none select-none"
                    onPointerDown={(e) => press(e, key)}
                    onPointerUp={(e) => release(e, thing.id, label, value)}
                    onKeyDown={(e) => e.key === " " && !e.repeat && press(e, key)}
                    onKeyUp={(e) => e.key === " " && release(e, thing.id, label, value)}
                  >
                    {label}
                  </Button>
                );
              })}
            </div>
          ))}
          <CueLanes
            things={things.map((t) => t.thing)}
            cues={cues}
            endS={Math.max(60, ...cues.map((c) => c.toS + 5))}
          />
        </div>
      )}
    </Section>
  );
}
