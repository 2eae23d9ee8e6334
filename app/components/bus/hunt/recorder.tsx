import { useEffect, useMemo, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { SerialWay, serialPorts } from "~/app/lib/car-adapters";
import { saveText } from "~/app/lib/save-text";
import { sendBusFile } from "~/app/lib/send-bus-file";
import { candumpLine } from "~/core/bus/formats/candump";
import { EXTENDED, FrameBuilder } from "~/core/bus/frames";
import type { Cue, Thing } from "~/core/bus/hunt/cues";
import { type CueStep, cuePlan, type PlannedThing } from "~/core/bus/hunt/plan";
import { SLCAN_SPEEDS, type SlcanSpeed } from "~/core/diagnostics/slcan";
import { Button, Section } from "../../controls";
import { useAppend, useJob } from "../../entry-form";
import { Notice } from "../../marks";
import type { BusFile } from "../log-focus";
import { CueLanes } from "./lanes";
import { TapAlong } from "./tap-along";

type State =
  | { kind: "plan" }
  | { kind: "adapter"; atS: number; frames: number }
  | { kind: "tap"; log: BusFile }
  | { kind: "storing"; share: number }
  /** `kept`: a recording that could not be stored and is still here. */
  | { kind: "failed"; message: string; kept?: Recording };

interface Recording {
  name: string;
  log: string;
  cues: readonly Cue[];
  things: readonly Thing[];
}

/** What is to be done on cue, and the ways to record it. */
export function Recorder({
  things,
  standIn,
  logs,
  next,
  onStored,
}: {
  things: readonly PlannedThing[];
  standIn: boolean;
  /** True when nothing on the page is to be done before it. */
  next: boolean;
  logs: readonly BusFile[];
  /** @param note what has to be said of the recording */
  onStored(file: string, note: string | null): void;
}) {
  const { job, readOnly } = useJob();
  const { revalidate } = useRevalidator();
  const { append } = useAppend();
  const [left, setLeft] = useState<readonly string[]>(() => things.filter((t) => t.rollsS).map((t) => t.thing.id));
  const [state, setState] = useState<State>({ kind: "plan" });
  const [kbit, setKbit] = useState<SlcanSpeed>(500);
  /** What has to be said of the recording. */
  const note = useRef<string | null>(null);
  const stop = useRef<(() => void) | null>(null);
  const [serial, setSerial] = useState(false);
  useEffect(() => setSerial(serialPorts() !== null), []);
  const chosen = things.filter((t) => !left.includes(t.thing.id));
  const plan = useMemo(() => cuePlan(chosen), [chosen]);
  const rolling = chosen.some((t) => t.rollsS);
  /** What the car rolls for is recorded by itself. */
  function choose(thing: PlannedThing, taken: boolean) {
    if (!taken) return setLeft([...left, thing.thing.id]);
    const others = things.filter((t) => Boolean(t.rollsS) !== Boolean(thing.rollsS)).map((t) => t.thing.id);
    setLeft([...new Set([...left, ...others])].filter((l) => l !== thing.thing.id));
  }
  const fail = (message: string) => setState({ kind: "failed", message });

  async function store(log: string, cues: readonly Cue[], of: readonly Thing[]) {
    const stamp = new Date().toISOString().slice(0, 16).replaceAll(/[-:]/g, "").replace("T", "-");
    await send({ name: `on-cue-${stamp}.log`, log, cues, things: of });
  }

  async function send(recording: Recording) {
    const { name, log, cues, things: of } = recording;
    setState({ kind: "storing", share: 0 });
    const sending = sendBusFile(job.id, new File([log], name, { lastModified: Date.now() }), (share) =>
      setState({ kind: "storing", share }),
    );
    const sent = await sending.done;
    if (!sent.ok) return setState({ kind: "failed", message: sent.message, kept: recording });
    keep(sent.file, cues, of);
  }

  function keep(file: string, cues: readonly Cue[], of: readonly Thing[]) {
    append({ kind: "bus.cues", data: { file, things: [...of], cues: cues.map(plain) } });
    revalidate();
    setState({ kind: "plan" });
    onStored(file, note.current);
    note.current = null;
  }

  async function perform() {
    setState({ kind: "storing", share: 0 });
    const body = new FormData();
    body.set("cues", JSON.stringify(plan.steps.map(plain)));
    const answer = await fetch(`/jobs/${job.id}/recording`, { method: "POST", body }).catch(() => null);
    const said: { ok: boolean; message?: string; log?: string; notDone?: string[] } | null = await answer
      ?.json()
      .catch(() => null);
    if (!said?.ok || !said.log) return fail(said?.message ?? "The server cannot be reached. Nothing was recorded.");
    if (said.notDone?.length) note.current = `The stand-in car cannot do: ${said.notDone.join(", ")}.`;
    const done = plan.steps.filter((s) => !said.notDone?.includes(s.label));
    await store(said.log, done, thingsOf(chosen, done));
  }

  /** Listens to a real car while the cues are called. */
  async function listen() {
    let way: SerialWay;
    try {
      way = await SerialWay.open(kbit);
    } catch (error) {
      return fail((error as Error).message);
    }
    const builder = new FrameBuilder();
    const beginMs = way.nowMs();
    let ended: "done" | "stopped" | null = null;
    let frames = 0;
    stop.current = () => {
      ended = "stopped";
    };
    for (let saidS = -1; ended === null; ) {
      const atS = (way.nowMs() - beginMs) / 1000;
      if (atS > plan.endS) ended = "done";
      // What was heard until the adapter went away is kept.
      if (way.gone) ended = "stopped";
      if (atS - saidS > 0.1) {
        saidS = atS;
        setState({ kind: "adapter", atS, frames });
      }
      const frame = await way.receive(way.nowMs() + 50);
      if (!frame) continue;
      builder.add({
        timeS: frame.atMs / 1000,
        id: frame.id,
        flags: frame.extended ? EXTENDED : 0,
        channel: 0,
        length: frame.data.length,
        data: frame.data,
      });
      frames++;
    }
    const lost = way.gone !== null;
    await way.close();
    stop.current = null;
    if (lost) {
      const atS = (way.nowMs() - beginMs) / 1000;
      note.current = `The adapter went away after ${atS.toFixed(0)} s. What was heard until then is kept.`;
    }
    if (frames === 0)
      return fail(
        "No frame was heard. See that the bit rate is the car's, that high and low are not exchanged, and that the key is on.",
      );
    const log = builder.finish(["can0"]);
    const lines = Array.from({ length: log.count }, (_, i) => `${candumpLine(log, i)}\n`).join("");
    // Cues count from the first frame; those after an early end were not called.
    const offsetS = (log.timeS[0] ?? 0) - beginMs / 1000;
    const endS = (log.timeS[log.count - 1] ?? 0) - beginMs / 1000;
    const called = plan.steps
      .filter((s) => s.toS < endS)
      .map((s) => ({ ...s, fromS: s.fromS - offsetS, toS: s.toS - offsetS }));
    if (called.length === 0) return fail("The recording ended before the first cue. Nothing was stored.");
    await store(lines, called, thingsOf(chosen, called));
  }

  if (state.kind === "adapter")
    return (
      <Section title="Recording on cue" id="recording" aside={`${state.frames.toLocaleString("en")} frames heard`}>
        <Caller steps={plan.steps} atS={state.atS} endS={plan.endS} />
        <CueLanes things={chosen.map((t) => t.thing)} cues={plan.steps} endS={plan.endS} atS={state.atS} />
        <div className="mt-4">
          <Button onClick={() => stop.current?.()}>Stop and keep what is recorded</Button>
        </div>
      </Section>
    );
  if (state.kind === "tap")
    return (
      <TapAlong
        log={state.log}
        things={chosen}
        onDone={(cues) => keep(state.log.file, cues, thingsOf(chosen, cues))}
        onCancel={() => setState({ kind: "plan" })}
      />
    );
  return (
    <Section title="What is to be found" id="plan" aside={`${plan.steps.length} cues in ${minutes(plan.endS)}`}>
      <fieldset className="mb-4 flex flex-wrap gap-x-6">
        <legend className="sr-only">Things to find</legend>
        {things.map((t) => (
          <label key={t.thing.id} className="flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              className="size-5 accent-[var(--ink)]"
              checked={!left.includes(t.thing.id)}
              onChange={(e) => choose(t, e.currentTarget.checked)}
            />
            <span>
              {t.thing.name}
              <span className="block text-xs text-quiet">
                for: {t.why}
                {t.rollsS && "; the car rolls, recorded by itself"}
              </span>
            </span>
          </label>
        ))}
      </fieldset>
      <p className={`text-sm ${rolling ? "text-watch" : ""}`}>
        {rolling
          ? "Closed yard, nobody in the way. The driver only drives; a second person reads the cues and works the device."
          : "Parking brake set, wheels chocked, nobody before or behind the car. Engine off, key on, battery on a maintainer."}
      </p>
      {state.kind === "storing" && (
        <div className="mt-4 flex items-center gap-3" aria-live="polite">
          <progress value={state.share} max={1} className="w-60" aria-label="Storing the recording" /> Recording and
          storing ...
        </div>
      )}
      {state.kind === "failed" && (
        <div className="mt-4">
          <Failed message={state.message} kept={state.kept} again={send} />
        </div>
      )}
      {state.kind !== "storing" && (
        <div className="mt-4 flex flex-wrap items-center gap-3">
          {standIn && (
            <Button
              look={next ? "next" : "plain"}
              disabled={readOnly || chosen.length === 0}
              onClick={() => void perform()}
            >
              Let the stand-in car do it
            </Button>
          )}
          {serial && (
            <span className="inline-flex items-center gap-2">
              <Button
                look={next && !standIn ? "next" : "plain"}
                disabled={readOnly || chosen.length === 0}
                onClick={() => void listen()}
              >
                Record with an adapter
              </Button>
              <select
                className="field w-auto!"
                aria-label="Bit rate of the bus"
                value={kbit}
                onChange={(e) => setKbit(Number(e.currentTarget.value) as SlcanSpeed)}
              >
                {SLCAN_SPEEDS.map((s) => (
                  <option key={s} value={s}>
                    {s} kbit/s
                  </option>
                ))}
              </select>
            </span>
          )}
          {logs.length > 0 && (
            <select
              className="field w-auto!"
              aria-label="Give the cues of a stored log"
              value=""
              disabled={readOnly}
              onChange={(e) => {
                const log = logs.find((l) => l.file === e.currentTarget.value);
                if (log) setState({ kind: "tap", log });
              }}
            >
              <option value="">Give the cues of a stored log ...</option>
              {logs.map((l) => (
                <option key={l.file} value={l.file}>
                  {l.name}
                </option>
              ))}
            </select>
          )}
        </div>
      )}
      <div className="mt-6">
        <CueLanes things={chosen.map((t) => t.thing)} cues={plan.steps} endS={plan.endS} />
      </div>
    </Section>
  );
}

/** Why nothing was recorded; a recording that is only here can be stored again or saved. */
function Failed({ message, kept, again }: { message: string; kept: Recording | undefined; again(r: Recording): void }) {
  return (
    <Notice tone="stop" title={kept ? "Recorded, and not stored yet" : "Not recorded"} live>
      <p>{message}</p>
      {kept && (
        <div className="mt-2 flex flex-wrap gap-3">
          <Button onClick={() => again(kept)}>Store it again</Button>
          <Button onClick={() => saveText(kept.log, kept.name)}>Save it on this device</Button>
        </div>
      )}
    </Notice>
  );
}

/** The cue that is called now, large, and the one after it. Spoken, too, where the device can. */
function Caller({ steps, atS, endS }: { steps: readonly CueStep[]; atS: number; endS: number }) {
  const now = steps.find((s) => atS >= s.fromS && atS < s.toS);
  const next = steps.find((s) => s.fromS > atS);
  const spoken = now ? now.say : "";
  useEffect(() => {
    if (spoken === "" || !("speechSynthesis" in window)) return;
    window.speechSynthesis.cancel();
    window.speechSynthesis.speak(new SpeechSynthesisUtterance(spoken));
  }, [spoken]);
  return (
    <div className="mb-4" aria-live="assertive">
      <p className="text-4xl font-medium">{now ? now.say : "Let go"}</p>
      <p className="num mt-1 text-xl text-quiet">
        {now
          ? `${Math.max(0, now.toS - atS).toFixed(0)} s more`
          : next
            ? `then: ${next.say}, in ${(next.fromS - atS).toFixed(0)} s`
            : `ends in ${Math.max(0, endS - atS).toFixed(0)} s`}
      </p>
    </div>
  );
}

function plain({ thing, label, fromS, toS, value }: Cue): Cue {
  return { thing, label, fromS, toS, ...(value === undefined ? {} : { value }) };
}

function thingsOf(chosen: readonly PlannedThing[], cues: readonly Cue[]): Thing[] {
  return chosen.map((t) => t.thing).filter((t) => cues.some((c) => c.thing === t.id));
}

function minutes(s: number): string {
  return `${Math.floor(s / 60)} min ${Math.round(s % 60)} s`;
}
