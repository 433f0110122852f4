import { noise, type Stereo } from './signals';

// Taken out once: looking Math up in a test's sandbox costs many times what the function does.
const { PI, exp, round, sin } = Math;

const BAR_SECONDS = 4;

/** Something like music, quick to make: a bar of chords with a beat, different on both channels, over and over. */
export function music(seconds: number, sampleRate: number, level = 0.3): Stereo {
  const bar = BAR_SECONDS * sampleRate;
  const hiss = noise(bar, 1, 5);
  const side = (detune: number) => {
    const once = Float64Array.from({ length: bar }, (_, i) => {
      const t = i / sampleRate;
      const beat = exp(-8 * (t % 0.5));
      const chord = [110, 220, 277, 330, 880].reduce((sum, f, k) => sum + sin(2 * PI * f * detune * t) / (k + 2), 0);
      return level * (0.5 * chord + beat * sin(2 * PI * 55 * t) + 0.15 * beat * hiss[i]);
    });
    return Float64Array.from({ length: round(seconds * sampleRate) }, (_, i) => once[i % bar]);
  };
  return { left: side(1), right: side(1.005) };
}
