import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { SoundWorker } from "~/app/workers/sound.worker";
import { SAMPLE_RATE, type TestSignalId } from "~/core/sound/test-signals";

/** Plays test signals, one at a time, over and over; they are made in a worker. */
export function useSound() {
  const worker = useRef<Remote<SoundWorker> | null>(null);
  const sound = useRef<AudioContext | null>(null);
  const [state, setState] = useState<{ id: TestSignalId; ready: boolean } | null>(null);
  useEffect(() => {
    const own = new Worker(new URL("../../workers/sound.worker.ts", import.meta.url), { type: "module" });
    worker.current = wrap<SoundWorker>(own);
    return () => {
      own.terminate();
      void sound.current?.close();
    };
  }, []);

  function stop() {
    void sound.current?.close();
    sound.current = null;
    setState(null);
  }

  async function play(id: TestSignalId) {
    stop();
    // Made at the press: a browser lets a page sound only then.
    const context = new AudioContext({ sampleRate: SAMPLE_RATE });
    sound.current = context;
    setState({ id, ready: false });
    const signal = await worker.current?.signal(id);
    // Something else was pressed meanwhile.
    if (!signal || sound.current !== context) return;
    const buffer = context.createBuffer(2, signal.left.length, SAMPLE_RATE);
    buffer.copyToChannel(signal.left as Float32Array<ArrayBuffer>, 0);
    buffer.copyToChannel(signal.right as Float32Array<ArrayBuffer>, 1);
    const source = new AudioBufferSourceNode(context, { buffer, loop: true });
    source.connect(context.destination);
    source.start();
    setState({ id, ready: true });
  }

  return { worker, playing: state?.id ?? null, making: state !== null && !state.ready, play, stop };
}
