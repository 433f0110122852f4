import { BalanceMeter } from '../../core/measure/balance';
import { IntakeMeter } from '../../core/measure/intake';
import { decibels } from '../../core/signal/decibels';
import type { ReferenceReport } from '../../contracts/reference';
import { decodeReference } from '../codecs/decode';
import { MAX_MINUTES, type ReferenceSource } from '../codecs/probe';
import { isDiskFull } from '../failures';
import { log } from '../log';
import { Problem } from '../problem';
import type { AudioStore } from '../store/audio-store';

const finite = (value: number) => (Number.isFinite(value) ? value : null);

/** Decodes a reference from end to end and measures it. Throws a Problem (422) when it is damaged or silent. */
export async function measureReference(
  store: AudioStore,
  hash: string,
  { sampleRate, channels, durationSeconds }: ReferenceSource,
  onProgress: (share: number) => void,
): Promise<ReferenceReport> {
  const longest = (MAX_MINUTES * 60 + 10) * sampleRate;
  const expected = Math.min(longest, Math.max(1, Math.round(durationSeconds * sampleRate)));
  const meter = new IntakeMeter(sampleRate, longest);
  const balance = new BalanceMeter(sampleRate);
  let frames = 0;
  try {
    for await (const chunk of decodeReference(await store.locate(hash), channels)) {
      meter.add(chunk);
      const half = chunk.length / 2;
      const left = new Float32Array(half);
      const right = new Float32Array(half);
      for (let i = 0; i < half; i++) {
        left[i] = chunk[2 * i];
        right[i] = chunk[2 * i + 1];
      }
      balance.add(left, right);
      frames += half;
      if (frames > longest)
        throw new Problem(422, `The file is longer than ${MAX_MINUTES} minutes. Choose a single piece.`);
      onProgress(Math.min(1, frames / expected));
    }
  } catch (error) {
    if (error instanceof Problem || isDiskFull(error)) throw error;
    // What the decoder says names files and addresses of this machine: it is for the log only.
    log().warn({ err: error, file: hash }, 'a reference could not be decoded');
    throw new Problem(422, 'The file is damaged and could not be decoded to the end. Choose another copy of it.');
  }
  const measured = meter.result();
  if (measured.frames === 0 || !Number.isFinite(measured.integratedLufs))
    throw new Problem(422, 'The file is silent, or too quiet to be compared with. Choose another one.');
  const truePeakDbtp = decibels(Math.max(...measured.truePeak));
  return {
    frames: measured.frames,
    sampleRate,
    integratedLufs: finite(measured.integratedLufs),
    truePeakDbtp: finite(truePeakDbtp),
    plrLu: finite(truePeakDbtp - measured.integratedLufs),
    rangeLu: measured.rangeLu,
    loudest: { start: measured.loudestStart, end: measured.loudestEnd },
    balance: balance.result().map(({ levelDbfs, sideDb, correlation }) => ({
      levelDbfs: finite(levelDbfs),
      sideDb: finite(sideDb),
      correlation,
    })),
  };
}
