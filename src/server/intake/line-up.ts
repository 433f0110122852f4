import { align, PASSAGE_SECONDS, SEARCH_SECONDS } from '../../core/measure/alignment';
import type { LinedUp } from '../../contracts/release';
import { decodeSection } from '../codecs/decode';

/** A mix that is there already, whose time the newer one takes over. */
export interface OlderMix {
  number: number;
  workingHash: string;
  /** Hz */
  sampleRate: number;
  /** Middle of its loudest passage, in seconds. */
  loudestSeconds: number;
}

/** Anything cut off before the older mix's start may be this loud: it is inaudible. */
const INAUDIBLE = 10 ** (-70 / 20);
/** A sample-rate conversion rings this long before the first sound. */
const RINGING_SECONDS = 0.003;

/**
 * Looks for the loudest passage of an older working file in a newer file. A newer mix that begins later is moved only
 * when nothing but silence is lost.
 */
export async function lineUp(
  older: OlderMix,
  olderFile: string,
  newerFile: string,
  channels: number,
  sampleRate: number,
): Promise<LinedUp> {
  const start = Math.max(0, Math.round((older.loudestSeconds - PASSAGE_SECONDS / 2) * sampleRate));
  const length = Math.round(PASSAGE_SECONDS * sampleRate);
  const lead = Math.round(SEARCH_SECONDS * sampleRate);
  const passage = await decodeSection(olderFile, 2, sampleRate, start, start + length);
  const within = await decodeSection(newerFile, channels, sampleRate, start - lead, start + length + lead);
  const found = align(passage.mid, within.mid, lead);
  const result = (outcome: LinedUp['outcome']): LinedUp => ({
    toMix: older.number,
    outcome,
    offsetFrames: found?.offsetFrames ?? 0,
    offsetMs: (1000 * (found?.offsetFrames ?? 0)) / sampleRate,
    agreement: found?.agreement ?? 0,
  });
  if (!found) return result('different');
  const silentFrames = found.offsetFrames - Math.round(RINGING_SECONDS * sampleRate);
  if (silentFrames > 0) {
    const head = await decodeSection(newerFile, channels, sampleRate, 0, silentFrames);
    if (head.peak > INAUDIBLE) return result('soundBefore');
  }
  return result('found');
}
