/**
 * Signals for hearing loudspeakers: pink noise, the sides told by beeps, a pulse for the polarity, a sweep. Levels are in
 * dBFS as AES17 has them (from memory): 0 dBFS is the root mean square of a sine that just reaches full scale.
 */

export const SAMPLE_RATE = 48_000;
/** Loud enough to hear, far from what hurts ears or loudspeakers at a usual volume. */
export const LEVEL_DBFS = -20;
/** Concert pitch A4. ISO 16. */
const A4_HZ = 440;
const FADE_S = 0.02;

export interface StereoSignal {
  left: Float32Array;
  right: Float32Array;
}

export const TEST_SIGNALS = {
  pink: { name: "Pink noise, both sides", make: pinkBoth },
  opposite: { name: "Pink noise, right side turned round", make: pinkOpposite },
  sides: { name: "Sides by beeps: one left, two right", make: sides },
  polarity: { name: "Pulse for the polarity", make: polarityPulse },
  sweep: { name: "Sweep 20 Hz to 20 kHz", make: sweepBoth },
} as const satisfies Record<string, { name: string; make(): StereoSignal }>;
export type TestSignalId = keyof typeof TEST_SIGNALS;

/** Root mean square in dBFS. */
export function levelDbfs(samples: Float32Array): number {
  let sum = 0;
  for (const s of samples) sum += s * s;
  return 20 * Math.log10(Math.sqrt(sum / samples.length) * Math.SQRT2);
}

/** Brings the root mean square to a level. */
function atLevel(samples: Float32Array, dbfs = LEVEL_DBFS): Float32Array {
  const factor = 10 ** ((dbfs - levelDbfs(samples)) / 20);
  return samples.map((s) => s * factor);
}

/** Begins and ends softly, so that nothing clicks. */
function faded(samples: Float32Array): Float32Array {
  const n = Math.round(FADE_S * SAMPLE_RATE);
  return samples.map((s, i) => s * Math.min(1, i / n, (samples.length - 1 - i) / n));
}

/**
 * Pink noise, the same each time: white noise through a filter that falls by 3 dB an octave within 0.1 dB from 10 Hz on
 * (weights of P. Kellet's refined method, from memory; the slope is checked in the tests).
 */
export function pinkNoise(seconds: number, seed = 1): Float32Array {
  const b = [0, 0, 0, 0, 0, 0, 0];
  let state = seed;
  return Float32Array.from({ length: Math.round(seconds * SAMPLE_RATE) }, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    const white = state / 2 ** 31 - 1;
    b[0] = 0.99886 * (b[0] as number) + white * 0.0555179;
    b[1] = 0.99332 * (b[1] as number) + white * 0.0750759;
    b[2] = 0.969 * (b[2] as number) + white * 0.153852;
    b[3] = 0.8665 * (b[3] as number) + white * 0.3104856;
    b[4] = 0.55 * (b[4] as number) + white * 0.5329522;
    b[5] = -0.7616 * (b[5] as number) - white * 0.016898;
    const pink = b.reduce((sum, x) => sum + x, 0) + white * 0.5362;
    b[6] = white * 0.115926;
    return pink;
  });
}

function pinkBoth(): StereoSignal {
  const noise = faded(atLevel(pinkNoise(20)));
  return { left: noise, right: noise };
}

/** Out of phase: in the bass it sounds thin where both loudspeakers are connected the same way. */
function pinkOpposite(): StereoSignal {
  const { left } = pinkBoth();
  return { left, right: left.map((s) => -s) };
}

function sine(hz: number, seconds: number): Float32Array {
  return Float32Array.from({ length: Math.round(seconds * SAMPLE_RATE) }, (_, i) =>
    Math.sin((2 * Math.PI * hz * i) / SAMPLE_RATE),
  );
}

/** Beeps of A4 at their seconds. */
function beeps(lengthS: number, atS: readonly number[]): Float32Array {
  const beep = faded(atLevel(sine(A4_HZ, 0.25)));
  const samples = new Float32Array(Math.round(lengthS * SAMPLE_RATE));
  for (const s of atS) samples.set(beep, Math.round(s * SAMPLE_RATE));
  return samples;
}

/** Four rounds of three seconds: one beep on the left, then two on the right. */
function sides(): StereoSignal {
  const rounds = [0, 3, 6, 9];
  return {
    left: beeps(
      12,
      rounds.map((r) => r + 0.2),
    ),
    right: beeps(
      12,
      rounds.flatMap((r) => [r + 1.5, r + 1.9]),
    ),
  };
}

/**
 * A push forward, steep, and a slow way back: a loudspeaker connected the right way round comes forward with the steep
 * side. The mean is zero, so that no cone is held out.
 *
 * @param rate samples a second
 */
export function onePulse(rate = SAMPLE_RATE): Float32Array {
  const steep = Math.round(0.002 * rate);
  const back = Math.round(0.02 * rate);
  const pulse = new Float32Array(steep + back);
  for (let i = 0; i < steep; i++) pulse[i] = Math.sin((Math.PI * i) / steep) ** 2;
  for (let i = 0; i < back; i++) pulse[steep + i] = (-steep / back) * Math.sin((Math.PI * i) / back) ** 2;
  return pulse;
}

/** The pulse once a second. */
function polarityPulse(): StereoSignal {
  const pulse = onePulse();
  const peak = 10 ** (LEVEL_DBFS / 20);
  const train = Float32Array.from({ length: 8 * SAMPLE_RATE }, (_, i) => peak * (pulse[i % SAMPLE_RATE] ?? 0));
  return { left: train, right: train };
}

/** A sweep whose frequency grows by the same number of octaves in each second. */
function sweepBoth(): StereoSignal {
  const [fromHz, toHz, seconds] = [20, 20_000, 15];
  const growth = Math.log(toHz / fromHz) / seconds;
  const samples = Float32Array.from({ length: seconds * SAMPLE_RATE }, (_, i) =>
    Math.sin(((2 * Math.PI * fromHz) / growth) * (Math.exp((growth * i) / SAMPLE_RATE) - 1)),
  );
  const swept = faded(atLevel(samples));
  return { left: swept, right: swept };
}

/** A sound file with 16 bits a sample, for a stick. RIFF WAVE, PCM (from memory; read back by Python's `wave` in the tests). */
export function wavFile({ left, right }: StereoSignal): Uint8Array<ArrayBuffer> {
  const bytes = 4 * left.length;
  const file = new DataView(new ArrayBuffer(44 + bytes));
  const text = (at: number, word: string) => {
    for (let i = 0; i < word.length; i++) file.setUint8(at + i, word.charCodeAt(i));
  };
  text(0, "RIFF");
  file.setUint32(4, 36 + bytes, true);
  text(8, "WAVEfmt ");
  file.setUint32(16, 16, true);
  file.setUint16(20, 1, true);
  file.setUint16(22, 2, true);
  file.setUint32(24, SAMPLE_RATE, true);
  file.setUint32(28, 4 * SAMPLE_RATE, true);
  file.setUint16(32, 4, true);
  file.setUint16(34, 16, true);
  text(36, "data");
  file.setUint32(40, bytes, true);
  const word = (x: number) => Math.round(Math.max(-1, Math.min(1, x)) * 32_767);
  for (let i = 0; i < left.length; i++) {
    file.setInt16(44 + 4 * i, word(left[i] as number), true);
    file.setInt16(46 + 4 * i, word(right[i] as number), true);
  }
  return new Uint8Array(file.buffer);
}
