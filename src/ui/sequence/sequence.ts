import type { ReleaseDetail, TrackSummary } from '../../contracts/release';
import { albumLoudness } from '../../core/sequence/album-loudness';
import { framesWithin, spanOf, WHOLE_MIX } from '../../core/sequence/edges';
import { DISC_FRAMES, placeTracks, type PlacedTrack } from '../../core/sequence/joint';

/** Rate in Hz at which a release is laid out here: that of a disc. */
export const SEQUENCE_RATE = 44100;

/** A track where it lies in its release. */
export interface LaidOutTrack {
  track: TrackSummary;
  place: PlacedTrack;
  /** Which part of the mix is heard, as shares of its length. */
  shown: { from: number; to: number };
}

/** Tracks whose mix is ready, laid out one after the other. */
export function layOut({ tracks }: Pick<ReleaseDetail, 'tracks'>): LaidOutTrack[] {
  const ready = tracks.flatMap((track) => {
    const { mix, master, joint } = track;
    if (mix?.status !== 'ready' || !mix.frames) return [];
    const { sampleRate } = mix.source;
    const edges = master?.edges ?? WHOLE_MIX;
    const { start, end } = spanOf(edges, sampleRate, mix.frames);
    const seconds = framesWithin(edges, sampleRate, mix.frames) / sampleRate;
    const shown = { from: start / mix.frames, to: end / mix.frames };
    return [{ track, shown, joint, frames: Math.round(seconds * SEQUENCE_RATE) }];
  });
  const placed = placeTracks(ready, SEQUENCE_RATE);
  return ready.map(({ track, shown }, i) => ({ track, shown, place: placed[i] }));
}

/** Length of the whole release in seconds. */
export function totalSeconds(laidOut: readonly LaidOutTrack[]): number {
  return laidOut.reduce((most, { place }) => Math.max(most, place.end), 0) / SEQUENCE_RATE;
}

/** Loudness of all tracks together in LUFS; null until each of them is measured. */
export function loudnessOfAlbum(laidOut: readonly LaidOutTrack[]): number | null {
  const blocks = laidOut.flatMap(({ track }) => track.master?.summary?.blocks ?? []);
  return blocks.length === laidOut.length && blocks.length > 0 ? albumLoudness(blocks) : null;
}

/** Seconds as they are typed for a joint, to the frame of a disc. */
export function discFramesOfSeconds(seconds: number): number {
  return Math.round(seconds * DISC_FRAMES);
}
