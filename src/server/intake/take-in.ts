import { rm } from 'node:fs/promises';
import { intakeReport, type IntakeReport } from '../../core/measure/intake-report';
import { makeWorkingFile } from '../codecs/decode';
import { missingBytes, probe, type Source } from '../codecs/probe';
import { Problem } from '../problem';
import type { AudioStore } from '../store/audio-store';
import type { LinedUp } from '../../exchange/release';
import { lineUp, type OlderMix } from './line-up';
import { measureFile } from './measure-file';

export interface TakenIn {
  workingHash: string;
  workingFormat: 'flac' | 'wav';
  report: IntakeReport;
  /** How it lies beside the older mix; null for a first mix. */
  linedUp: LinedUp | null;
}

const TRUNCATED =
  'The file ends before its own header says it should: the upload or the export was cut off. Export the mix again and put it in once more.';

/**
 * Makes the working file of an original in the store, in the time of an older mix if there is one, and measures it. Throws a Problem (422) when the file is damaged or
 * holds nothing; what was written is removed then.
 */
export async function takeIn(
  store: AudioStore,
  originalHash: string,
  source: Source,
  older: OlderMix | null,
  onProgress: (share: number) => void,
): Promise<TakenIn> {
  const original = store.path(originalHash);
  if ((await missingBytes(original)) > 0) throw new Problem(422, TRUNCATED);
  const format = source.float || source.bits > 24 ? 'wav' : 'flac';
  const working = await store.temporary(`.${format}`);
  try {
    const damaged = (error: Error) => {
      throw new Problem(
        422,
        `The file is damaged and could not be decoded to its end. Export the mix again. (${error.message.slice(0, 200)})`,
      );
    };
    const linedUp =
      older &&
      (await lineUp(older, store.path(older.workingHash), original, source.channels, source.sampleRate).catch(damaged));
    onProgress(0.1);
    const late = linedUp?.outcome === 'found' ? linedUp.offsetFrames : 0;
    await makeWorkingFile(original, working, format, source.channels, late).catch(damaged);
    onProgress(0.4);
    const expected = Math.round(source.durationSeconds * source.sampleRate) - late;
    const measured = await measureFile(working, source.sampleRate, 2, expected, (share) =>
      onProgress(0.4 + 0.6 * share),
    );
    if (measured.frames === 0) throw new Problem(422, 'The file holds no samples. Export the mix again.');
    if (source.container === 'FLAC' && measured.frames < expected - 1) throw new Problem(422, TRUNCATED);
    if (measured.invalidSamples > 0) {
      throw new Problem(
        422,
        `The file holds samples that are no numbers or far beyond any level: ${measured.invalidSamples} of them. Export the mix again as 24-bit.`,
      );
    }
    const { hash } = await store.put(working);
    return { workingHash: hash, workingFormat: format, report: intakeReport(source, measured), linedUp };
  } catch (error) {
    await rm(working, { force: true });
    throw error;
  }
}

/** Looks at an upload before it is kept. Throws a Problem (422) with the reason when it cannot be a mix. */
export async function inspect(file: string, bytes: number): Promise<Source> {
  if (bytes === 0) throw new Problem(422, 'The file is empty. Export the mix again and put it in once more.');
  const source = await probe(file);
  if ((await missingBytes(file)) > 0) throw new Problem(422, TRUNCATED);
  return source;
}
