// Taken out once: looking Math up in a test's sandbox costs many times what the function does.
const { PI, abs, cos, log10, max, round, sin } = Math;

/** Planar stereo signals for tests. */
export interface Stereo {
  left: Float64Array;
  right: Float64Array;
}

/** The same samples on both channels. */
export function both(samples: Float64Array): Stereo {
  return { left: samples, right: samples.slice() };
}

/** A sine of a level in dBFS (peak), `phase` in degrees. */
export function sine(frequencyHz: number, dbfs: number, seconds: number, sampleRate: number, phase = 0): Float64Array {
  const amplitude = 10 ** (dbfs / 20);
  const step = (2 * PI * frequencyHz) / sampleRate;
  const start = (phase * PI) / 180;
  const samples = new Float64Array(round(seconds * sampleRate));
  for (let i = 0; i < samples.length; i++) samples[i] = amplitude * sin(step * i + start);
  return samples;
}

export function silence(seconds: number, sampleRate: number): Float64Array {
  return new Float64Array(round(seconds * sampleRate));
}

/** Uniform noise in ±amplitude, the same for the same seed. */
export function noise(frames: number, amplitude: number, seed = 1): Float64Array {
  let state = seed >>> 0 || 1;
  const samples = new Float64Array(frames);
  for (let i = 0; i < frames; i++) {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    samples[i] = amplitude * ((state >>> 0) / 2147483648 - 1);
  }
  return samples;
}

export function join(...parts: Float64Array[]): Float64Array {
  const whole = new Float64Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** Largest absolute difference of two signals. */
export function difference(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < max(a.length, b.length); i++) most = max(most, abs((a[i] ?? NaN) - (b[i] ?? NaN)));
  return most;
}

/** Level in dB of a ratio. */
export function db(ratio: number): number {
  return 20 * log10(ratio);
}

/** A signal without what lies above a frequency, by a windowed sinc of 255 taps. */
export function below(x: Float64Array, frequencyHz: number, sampleRate: number): Float64Array {
  const cut = frequencyHz / sampleRate;
  const taps = Float64Array.from({ length: 255 }, (_, k) => {
    const t = k - 127;
    const window = 0.42 + 0.5 * cos((PI * t) / 127.5) + 0.08 * cos((2 * PI * t) / 127.5);
    return (t === 0 ? 2 * cut : sin(2 * PI * cut * t) / (PI * t)) * window;
  });
  const y = new Float64Array(x.length);
  for (let n = 0; n < x.length; n++) {
    let sum = 0;
    for (let k = Math.min(n, taps.length - 1); k >= 0; k--) sum += taps[k] * x[n - k];
    y[n] = sum;
  }
  return y;
}

/** What lies above a frequency, 150 dB clear of what lies well below it. */
export function above(x: Float64Array, frequencyHz: number, sampleRate: number): Float64Array {
  const once = (signal: Float64Array) => {
    const low = below(signal, frequencyHz, sampleRate);
    return low.map((v, i) => (signal[i - 127] ?? 0) - v);
  };
  return once(once(x));
}

/** One sample of full scale, then silence. */
export function impulse(frames: number): Float64Array {
  const samples = new Float64Array(frames);
  samples[0] = 1;
  return samples;
}
