import { butterworthQs } from '../signal/butterworth';
import { Cascade } from '../signal/cascade';
import { decibels } from '../signal/decibels';
import { matched } from '../signal/matched';
import { highPassPrototype } from '../signal/prototype';

/** Below this lies what is called bass, in Hz. */
export const BASS_HZ = 120;
const WINDOW_SECONDS = 0.05;
/** The peak that so many windows stay below. */
const HIGH = 0.95;

/** dB by which the peaks of a programme of planar channels are lower without its bass; 0 in silence. `sampleRate` in Hz. */
export function bassPeaksDb(left: Float32Array, right: Float32Array, sampleRate: number): number {
  const sections = butterworthQs(4).map((q) => matched(highPassPrototype(q), (2 * Math.PI * BASS_HZ) / sampleRate));
  const span = Math.round(WINDOW_SECONDS * sampleRate);
  const count = Math.max(1, Math.floor(left.length / span));
  const [all, rest] = [new Float64Array(count), new Float64Array(count)];
  for (const channel of [left, right]) {
    const without = new Cascade(sections);
    for (let i = 0; i < Math.min(channel.length, count * span); i++) {
      const w = Math.floor(i / span);
      all[w] = Math.max(all[w], Math.abs(channel[i]));
      rest[w] = Math.max(rest[w], Math.abs(without.next(channel[i])));
    }
  }
  const high = (values: Float64Array) => values.sort()[Math.min(count - 1, Math.floor(HIGH * count))];
  const [withBass, withoutBass] = [high(all), high(rest)];
  return withBass > 0 && withoutBass > 0 ? Math.max(0, decibels(withBass / withoutBass)) : 0;
}
