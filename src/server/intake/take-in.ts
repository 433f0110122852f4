import { rm } from 'node:fs/promises';
import { intakeReport, type IntakeReport } from '../../core/measure/intake-report';
import { makeWorkingFile } from '../codecs/decode';
import { MAX_MINUTES, probe, TRUNCATED, type Source } from '../codecs/probe';
import { log } from '../log';
import { isDiskFull } from '../failures';
import { Problem } from '../problem';
import type { AudioStore } from '../store/audio-store';
import type { LinedUp } from '../../contracts/release';
import { lineUp, type OlderMix } from './line-up';
import { measureMix } from './measure-file';

export interface TakenIn {
  workingHash: string;
  workingFormat: 'flac' | 'wav';
  report: IntakeReport;
  /** How it lines up with the older mix; null for a first mix. */
  linedUp: LinedUp | null;
}

/**
 * Makes the working file of an original in the store, in the time of an older mix if there is one, and measures it.
 * Throws a Problem (422) when the file is damaged or holds nothing; what was written is removed then.
 */
export async function takeIn(
  store: AudioStore,
  originalHash: string,
  source: Source,
  older: OlderMix | null,
  onProgress: (share: number) => void,
): Promise<TakenIn> {
  const original = await store.locate(originalHash);
  const olderFile = older && (await store.locate(older.workingHash));
  const format = source.float || source.bits > 24 ? 'wav' : 'flac';
  const working = await store.temporary(`.${format}`);
  try {
    const damaged = (error: Error) => {
      if (error instanceof Problem || isDiskFull(error)) throw error;
      // What the decoder says names files and addresses of this machine: it is for the log only.
      log().warn({ err: error, file: originalHash }, 'a mix could not be decoded');
      throw new Problem(422, 'The file is damaged and could not be decoded to the end. Export the mix again.');
    };
    const linedUp =
      older && olderFile !== null
        ? await lineUp(older, olderFile, original, source.channels, source.sampleRate).catch(damaged)
        : null;
    onProgress(0.1);
    const late = linedUp?.outcome === 'found' ? linedUp.offsetFrames : 0;
    const longest = MAX_MINUTES * 60;
    // A header that announces nothing is believed up to the most that a mix may have, any other to the second.
    const seconds = Math.min(longest, source.durationSeconds || longest) + 1;
    await makeWorkingFile(original, working, format, source.channels, { lateFrames: late, seconds }).catch(damaged);
    onProgress(0.4);
    // Refused here when it is too long, before anything is measured.
    const { durationSeconds } = await probe(working).catch(damaged);
    const frames = Math.round(durationSeconds * source.sampleRate);
    const file = { path: working, sampleRate: source.sampleRate, channels: 2, expectedFrames: frames };
    const measured = await measureMix(file, (share) => onProgress(0.4 + 0.6 * share));
    const announced = Math.round(source.durationSeconds * source.sampleRate) - late;
    if (source.durationSeconds > 0 && measured.frames > announced + source.sampleRate / 2)
      throw new Problem(422, 'The file has more audio than its header says. Export the mix again.');
    if (measured.frames === 0) throw new Problem(422, 'The file has no samples. Export the mix again.');
    if (source.container === 'FLAC' && source.durationSeconds > 0 && measured.frames < announced - 1)
      throw new Problem(422, TRUNCATED);
    if (measured.invalidSamples > 0) {
      throw new Problem(
        422,
        `The file has samples that are NaN, infinite or far beyond full scale (${measured.invalidSamples} of them). Export the mix again as 24-bit.`,
      );
    }
    const { hash } = await store.put(working);
    return { workingHash: hash, workingFormat: format, report: intakeReport(source, measured), linedUp };
  } catch (error) {
    await rm(working, { force: true });
    throw error;
  }
}

/** Checks an upload before it is kept. Throws a Problem (422) with the reason when it cannot be a mix. */
export async function inspect(file: string, bytes: number): Promise<Source> {
  if (bytes === 0) throw new Problem(422, 'The file is empty. Export the mix again and upload it again.');
  return probe(file);
}
