/** What the microphone of this device hears, as samples. */

export interface Recording {
  samples: Float32Array;
  rate: number;
}

/**
 * Records for some seconds. Echo, noise and level stay as they are: their treatment would bend what is measured.
 *
 * @throws {Error} in words for a person, when there is no microphone or it was refused
 */
export async function listen(seconds: number): Promise<Recording> {
  let stream: MediaStream;
  try {
    stream = await navigator.mediaDevices.getUserMedia({
      audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    });
  } catch (error) {
    const name = error instanceof DOMException ? error.name : "";
    throw new Error(
      name === "NotAllowedError"
        ? "The microphone was not allowed. Allow it for this page in the browser, or tell it by ear."
        : "This device has no microphone that the browser can use. Tell it by ear.",
    );
  }
  const context = new AudioContext();
  try {
    const analyser = new AnalyserNode(context, { fftSize: 32_768 });
    context.createMediaStreamSource(stream).connect(analyser);
    const rate = context.sampleRate;
    const samples = new Float32Array(Math.round(seconds * rate));
    const window = new Float32Array(analyser.fftSize);
    // The analyser holds the last 0.7 s; it is asked in good time before that runs over.
    const started = context.currentTime;
    let filled = 0;
    while (filled < samples.length) {
      await new Promise((done) => setTimeout(done, 200));
      const until = Math.min(samples.length, Math.round((context.currentTime - started) * rate));
      const fresh = Math.min(until - filled, window.length);
      analyser.getFloatTimeDomainData(window);
      samples.set(window.subarray(window.length - fresh), until - fresh);
      filled = until;
    }
    return { samples, rate };
  } finally {
    for (const track of stream.getTracks()) track.stop();
    void context.close();
  }
}
