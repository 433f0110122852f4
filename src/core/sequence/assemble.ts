import { fadeGain, type FadeShape } from './edges';

/**
 * Mixes the end of one track with the start of the next, in place in `ending`: interleaved stereo of equal length. One fades out
 * while the other fades in.
 */
export function crossfade(ending: Float64Array, starting: Float64Array, shape: FadeShape): void {
  const frames = ending.length / 2;
  for (let i = 0; i < frames; i++) {
    const share = (i + 0.5) / frames;
    const [out, into] = [fadeGain(shape, 1 - share), fadeGain(shape, share)];
    ending[2 * i] = ending[2 * i] * out + starting[2 * i] * into;
    ending[2 * i + 1] = ending[2 * i + 1] * out + starting[2 * i + 1] * into;
  }
}
