import { Play, Square, Timer } from "lucide";
import { type RefObject, useEffect, useRef, useState } from "react";
import { Button } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";

/** A short tone, and a buzz where the device has one: eyes stay on the car. */
function tick(context: AudioContext, hz: number, ms: number): void {
  const tone = new OscillatorNode(context, { frequency: hz });
  const level = new GainNode(context, { gain: 0.1 });
  tone.connect(level).connect(context.destination);
  tone.start();
  tone.stop(context.currentTime + ms / 1000);
  navigator.vibrate?.(ms);
}

interface Running {
  context: AudioContext;
  timer: ReturnType<typeof setInterval>;
}

function ended(running: RefObject<Running | null>): void {
  if (!running.current) return;
  clearInterval(running.current.timer);
  void running.current.context.close();
  running.current = null;
}

/** Counts how long a key is held: a tick each second, a higher one when it may be let go, a long one when it must. */
export function HoldTimer({ say, min, max }: { say: string; min: number; max: number }) {
  const [heldS, setHeldS] = useState<number | null>(null);
  const running = useRef<Running | null>(null);
  useEffect(() => () => ended(running), []);
  const start = () => {
    ended(running);
    const context = new AudioContext();
    const began = performance.now();
    let told = 0;
    setHeldS(0);
    tick(context, 660, 60);
    const timer = setInterval(() => {
      const now = (performance.now() - began) / 1000;
      setHeldS(now);
      if (told < min && now >= min) tick(context, 1320, 200);
      else if (told < max && now >= max) tick(context, 440, 600);
      else if (Math.floor(now) > Math.floor(told) && now < max) tick(context, 660, 60);
      told = now;
      if (now > max + 0.8) ended(running);
    }, 50);
    running.current = { context, timer };
  };
  const word = heldS === null ? "" : heldS < min ? "hold" : heldS <= max ? "let go now" : "too long: once more";
  return (
    <div className="flex flex-wrap items-center gap-3">
      <Button onClick={start} aria-keyshortcuts="t">
        <Icon of={Timer} size={18} /> Count {min} to {max} s
      </Button>
      {heldS !== null && (
        <span role="timer" aria-label={say} className="flex items-center gap-3">
          <span className="num text-2xl font-semibold">{Math.min(heldS, max + 0.8).toFixed(1)} s</span>
          <span className={heldS < min ? "text-quiet" : heldS <= max ? "font-semibold text-good" : "text-watch"}>
            {word}
          </span>
        </span>
      )}
    </div>
  );
}

/** Takes how long something needs to come; the server judges it against what the test allows. */
export function ResponseTimer({ test, withinS }: { test: string; withinS: number }) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const [began, setBegan] = useState<number | null>(null);
  const press = () => {
    if (began === null) return setBegan(performance.now());
    const afterS = Math.min(600, Math.round((performance.now() - began) / 10) / 100);
    setBegan(null);
    append({ kind: "prove.result", data: { test, answer: "pass", note: "", afterS } });
  };
  return (
    <Button disabled={busy || readOnly} onClick={press} aria-keyshortcuts="r">
      {began === null ? <Icon of={Play} size={18} /> : <Icon of={Square} size={18} />}
      {began === null ? `Take the time, at most ${withinS} s` : "There it is"}
    </Button>
  );
}
