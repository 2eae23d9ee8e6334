import { expose, transfer } from "comlink";
import { findPulse, humOf } from "~/core/sound/polarity";
import { type StereoSignal, TEST_SIGNALS, type TestSignalId, wavFile } from "~/core/sound/test-signals";

const api = {
  signal(id: TestSignalId): StereoSignal {
    const { left, right } = TEST_SIGNALS[id].make();
    // Both sides may be the same samples; each goes over as its own.
    const own = { left, right: right === left ? right.slice() : right };
    return transfer(own, [own.left.buffer as ArrayBuffer, own.right.buffer as ArrayBuffer]);
  },
  pulse: (recording: Float32Array, rate: number) => findPulse(recording, rate),
  hum: (recording: Float32Array, rate: number) => humOf(recording, rate),
  file(id: TestSignalId): Uint8Array<ArrayBuffer> {
    const file = wavFile(TEST_SIGNALS[id].make());
    return transfer(file, [file.buffer]);
  },
};
export type SoundWorker = typeof api;
expose(api);
