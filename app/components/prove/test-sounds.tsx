import { type Remote, wrap } from "comlink";
import { Download, Play, Square } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { saveBlob } from "~/app/lib/save-text";
import type { SoundWorker } from "~/app/workers/sound.worker";
import { SAMPLE_RATE, TEST_SIGNALS, type TestSignalId } from "~/core/sound/test-signals";
import { Button } from "../controls";

const IDS = Object.keys(TEST_SIGNALS) as TestSignalId[];

/** A sound to hear loudspeakers by: played by this device, which may be the phone of the car, or saved for a stick. */
export function TestSounds() {
  const [id, setId] = useState<TestSignalId>("pink");
  const [state, setState] = useState<"silent" | "making" | "playing">("silent");
  const worker = useRef<Remote<SoundWorker> | null>(null);
  const playing = useRef<{ context: AudioContext; source: AudioBufferSourceNode } | null>(null);
  useEffect(() => {
    const own = new Worker(new URL("../../workers/sound.worker.ts", import.meta.url), { type: "module" });
    worker.current = wrap<SoundWorker>(own);
    return () => {
      own.terminate();
      void playing.current?.context.close();
    };
  }, []);

  async function play() {
    // Made at the press: a browser lets a page sound only then.
    const context = new AudioContext({ sampleRate: SAMPLE_RATE });
    setState("making");
    const signal = await worker.current?.signal(id);
    if (!signal) return;
    const buffer = context.createBuffer(2, signal.left.length, SAMPLE_RATE);
    buffer.copyToChannel(signal.left as Float32Array<ArrayBuffer>, 0);
    buffer.copyToChannel(signal.right as Float32Array<ArrayBuffer>, 1);
    const source = new AudioBufferSourceNode(context, { buffer, loop: true });
    source.connect(context.destination);
    source.start();
    playing.current = { context, source };
    setState("playing");
  }

  function stop() {
    void playing.current?.context.close();
    playing.current = null;
    setState("silent");
  }

  async function save() {
    const file = await worker.current?.file(id);
    if (file) saveBlob(new Blob([file], { type: "audio/wav" }), `${id}.wav`);
  }

  return (
    <div className="flex max-w-xs flex-wrap content-start items-end gap-3">
      <label className="block">
        <span className="block text-sm text-quiet">Sound to hear by, at −20 dB; volume low first</span>
        <select
          className="field w-auto!"
          value={id}
          onChange={(e) => {
            stop();
            setId(e.currentTarget.value as TestSignalId);
          }}
        >
          {IDS.map((s) => (
            <option key={s} value={s}>
              {TEST_SIGNALS[s].name}
            </option>
          ))}
        </select>
      </label>
      {state === "playing" ? (
        <Button onClick={stop}>
          <Square size={18} aria-hidden="true" /> Stop
        </Button>
      ) : (
        <Button onClick={() => void play()} disabled={state === "making"}>
          <Play size={18} aria-hidden="true" /> {state === "making" ? "Making it ..." : "Play here"}
        </Button>
      )}
      <Button look="quiet" onClick={() => void save()}>
        <Download size={18} aria-hidden="true" /> For a stick (WAV)
      </Button>
    </div>
  );
}
