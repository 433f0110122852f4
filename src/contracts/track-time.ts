import type { MixSummary } from './release';

/**
 * Seconds by which a mix trails the track's own time, in which notes are kept. A newer mix is moved under the older one when
 * it arrives; only where that would cut off sound does it keep its own time.
 */
export function trailSeconds(mix: MixSummary | null, mixes: readonly MixSummary[]): number {
  if (!mix?.linedUp) return 0;
  const { toMix, outcome, offsetMs } = mix.linedUp;
  const older = mixes.find(({ number }) => number === toMix && number < mix.number) ?? null;
  return trailSeconds(older, mixes) + (outcome === 'soundBefore' ? offsetMs / 1000 : 0);
}
