import { Play, Square } from "lucide";
import { useEffect, useState } from "react";
import { useLog } from "~/app/lib/use-log";
import type { LevelTrack } from "~/app/workers/log/replay";
import type { proveView } from "~/core/views/prove";
import { Button } from "../../controls";
import { useJob } from "../../entry-form";
import { Icon } from "../../icon";

export type Steering = NonNullable<ReturnType<typeof proveView>["steering"]>;

/** The steering wheel as a log has it: the lines move as they did on that drive. */
export function SteeringReplay({ steering, onWheel }: { steering: Steering; onWheel(deg: number): void }) {
  const [file, setFile] = useState<string | null>(null);
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      <label className="inline-flex items-center gap-2">
        <span className="text-sm">Steering of a log</span>
        <select className="field w-auto!" value={file ?? ""} onChange={(e) => setFile(e.currentTarget.value || null)}>
          <option value="">by hand</option>
          {steering.logs.map((l) => (
            <option key={l.file} value={l.file}>
              {l.name}
            </option>
          ))}
        </select>
      </label>
      {file && <Track key={file} file={file} steering={steering} onWheel={onWheel} />}
    </div>
  );
}

function Track({ file, steering, onWheel }: { file: string; steering: Steering; onWheel(deg: number): void }) {
  const { job } = useJob();
  const { state, level } = useLog(job.id, file, null);
  const [track, setTrack] = useState<LevelTrack | null | undefined>(undefined);
  const [atS, setAtS] = useState(0);
  const [playing, setPlaying] = useState(false);
  const ready = state.kind === "ready";
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked once the log is read; `level` talks to the same worker
  useEffect(() => {
    if (!ready) return;
    let live = true;
    void level(steering.rule, steering.signals).then((t) => live && setTrack(t));
    return () => {
      live = false;
    };
  }, [ready]);
  const show = (s: number) => {
    setAtS(s);
    const deg = track ? wheelAt(track, s) : null;
    if (deg !== null) onWheel(Math.round(deg));
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: it runs on from where it stood when it was started
  useEffect(() => {
    if (!playing || !track) return;
    const begun = performance.now() - 1000 * (atS >= track.durationS ? 0 : atS);
    let frame = 0;
    const step = () => {
      const s = (performance.now() - begun) / 1000;
      show(Math.min(s, track.durationS));
      if (s < track.durationS) frame = requestAnimationFrame(step);
      else setPlaying(false);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, track]);
  if (state.kind === "failed") return <p className="text-stop">{state.message}</p>;
  if (track === undefined) return <span className="text-quiet">Reading ...</span>;
  if (track === null)
    return <span className="text-watch">This log does not tell the angle of the steering wheel.</span>;
  return (
    <>
      <Button onClick={() => setPlaying(!playing)}>
        {playing ? <Icon of={Square} size={18} /> : <Icon of={Play} size={18} />}
        {playing ? "Stop" : "Replay"}
      </Button>
      <input
        type="range"
        aria-label="Second of the log"
        className="h-11 w-56 accent-[var(--ink)]"
        min={0}
        max={track.durationS}
        step={0.1}
        value={atS}
        onChange={(e) => {
          setPlaying(false);
          show(Number(e.currentTarget.value));
        }}
      />
      <span className="num">{atS.toFixed(1)} s</span>
    </>
  );
}

/** The last angle told before a moment; null: none yet, or missing. */
function wheelAt({ timeS, value }: LevelTrack, s: number): number | null {
  let [low, high] = [0, timeS.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((timeS[middle] as number) <= s) low = middle + 1;
    else high = middle;
  }
  const found = value[low - 1];
  return found === undefined || Number.isNaN(found) ? null : found;
}
