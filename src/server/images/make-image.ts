import { createHash } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { FORMAT_TRAITS } from '../../core/deliver/format';
import type { Verdict } from '../../core/deliver/verdict';
import { EMPTY_LANE } from '../../core/lane/schema';
import { figureOrNull } from '../../core/measure/intake-report';
import { ProgrammeMeter } from '../../core/measure/programme-meter';
import { discFramesOf, discRequirements } from '../../core/sequence/disc';
import type { ImageReceipt, ImageTrack } from '../../core/sequence/image-log';
import { framesOfDisc, type PlacedTrack } from '../../core/sequence/joint';
import { decode64 } from '../codecs/decode';
import { makeFinishedFile, type FinishedFileOrder } from '../render/finished-file';
import { written } from '../render/raw';
import type { AudioStore } from '../store/audio-store';
import type { KeptWork } from '../store/kept-work';
import { ImageAssembly, type ImagePart } from './assemble-image';

/** Everything an image is made from. */
export interface ImageOrder extends Pick<
  FinishedFileOrder,
  'destination' | 'fileName' | 'by' | 'tags' | 'cover' | 'madeAt'
> {
  title: string;
  artist: string;
  ean: string;
  /** Hz */
  sampleRate: number;
  parts: readonly ImagePart[];
}

export interface MadeImage {
  hash: string;
  receipt: ImageReceipt;
}

/** Share of the work that is done once the image is put together. */
const ASSEMBLED = 0.7;
const FINISHED = 0.95;

/** Samples as little-endian PCM, so that others get the same checksum from what a decoder gives them. */
function pcm(samples: Float64Array, bits: number): Buffer {
  const bytes = Math.ceil(bits / 8);
  const scale = 2 ** (8 * bytes - 1);
  const buffer = Buffer.allocUnsafe(bytes * samples.length);
  for (let i = 0; i < samples.length; i++) buffer.writeIntLE(Math.round(samples[i] * scale), i * bytes, bytes);
  return buffer;
}

/** Loudness, peaks and checksum of each track in a finished image: from its mark to the next pause, track or the end. */
async function measureTracks(
  file: string,
  placed: readonly PlacedTrack[],
  parts: readonly ImagePart[],
  sampleRate: number,
  bits: number,
): Promise<ImageTrack[]> {
  const total = discFramesOf({ tracks: placed, sampleRate });
  const tracks = placed.map(({ index0, index1 }, i) => {
    const next = placed.at(i + 1);
    const until = next ? (next.index0 ?? next.index1) : total;
    const [from, to] = [framesOfDisc(index1, sampleRate), framesOfDisc(until, sampleRate)];
    const meter = new ProgrammeMeter(sampleRate, to - from);
    return { index0, index1, discFrames: until - index1, from, to, meter, hash: createHash('sha256') };
  });
  let at = 0;
  for await (const chunk of decode64(file)) {
    const count = chunk.length / 2;
    for (const { from, to, meter, hash } of tracks) {
      const [first, last] = [Math.max(0, from - at), Math.min(count, to - at)];
      if (last <= first) continue;
      const samples = chunk.subarray(2 * first, 2 * last);
      meter.add(samples);
      hash.update(pcm(samples, bits));
    }
    at += count;
  }
  return tracks.map(({ index0, index1, discFrames, meter, hash }, i) => {
    const { title, artist, isrc, mix, versionName } = parts[i];
    const { integratedLufs, truePeaksDbtp, samplePeaksDbfs } = meter.result();
    return {
      ...{ title, artist, isrc, index0, index1, discFrames, mix: mix.fileName, version: versionName },
      integratedLufs: figureOrNull(integratedLufs),
      truePeakDbtp: figureOrNull(Math.max(...truePeaksDbtp)),
      samplePeakDbfs: figureOrNull(Math.max(...samplePeaksDbfs)),
      sha256: hash.digest('hex'),
    };
  });
}

/** A verdict with the rules of a disc. */
function withRules(verdict: Verdict, rules: Verdict['requirements']): Verdict {
  const misses = rules.some(({ standing, advice }) => standing === 'misses' && !advice);
  return {
    ...verdict,
    standing: misses ? 'misses' : verdict.standing,
    requirements: [...verdict.requirements, ...rules],
  };
}

/**
 * Puts a release together, measures the finished image and puts it into the store; nothing is left when it fails but the tracks
 * that were `kept`.
 */
export async function makeImage(
  store: AudioStore,
  kept: KeptWork,
  order: ImageOrder,
  onProgress: (share: number) => void,
): Promise<MadeImage> {
  const { destination, sampleRate, parts, title, artist, ean } = order;
  const { extension } = FORMAT_TRAITS[destination.format.name];
  const file = await store.temporary(`.${extension}`);
  const [whole, scratch] = [await store.temporary('.raw'), await store.temporary('.raw')];
  try {
    const assembly = new ImageAssembly(store, kept, parts, sampleRate);
    const noted = await written(
      assembly.samples((share) => onProgress(ASSEMBLED * share)),
      whole,
    );
    const { placed } = assembly;
    // What decides the samples: the dither follows from it.
    const sha256 = createHash('sha256')
      .update(
        JSON.stringify([parts.map(({ mix, lane, levelDb, joint }) => [mix.originalHash, lane, levelDb, joint]), noted]),
      )
      .digest('hex');
    const mixes = createHash('sha256').update(JSON.stringify(parts.map(({ mix }) => mix.originalHash)));
    const receipt = await makeFinishedFile(
      {
        ...order,
        mix: {
          ...{ fileName: parts.map(({ mix }) => mix.fileName).join(', '), originalHash: mixes.digest('hex') },
          ...{ sampleRate, bits: 32, bitsUsed: null, channels: 2, frames: noted.frames },
        },
        ...{ lane: EMPTY_LANE, impulseHashes: {}, versionName: 'whole release', levelDb: 0, driveDb: 0 },
      },
      new Map(),
      {
        ...{
          input: whole,
          output: file,
          scratch,
          cover: order.cover ? await store.locate(order.cover.sha256) : undefined,
        },
        laneRun: { lane: EMPTY_LANE, file: whole, noted, sha256 },
      },
      (share) => onProgress(ASSEMBLED + (FINISHED - ASSEMBLED) * share),
    );
    const bits = destination.wordLength.bits;
    const tracks = await measureTracks(file, placed, parts, sampleRate, bits);
    const rules = discRequirements({
      ...{ sampleRate, bits, ean },
      tracks: placed.map((place, i) => ({ ...place, title: parts[i].title, isrc: parts[i].isrc })),
    });
    const isDisc = sampleRate === 44100 && bits === 16;
    await store.adopt(file, receipt.file.sha256);
    return {
      hash: receipt.file.sha256,
      receipt: {
        receipt: isDisc ? { ...receipt, verdict: withRules(receipt.verdict, rules) } : receipt,
        ...{ ean, artist, title, tracks },
      },
    };
  } finally {
    for (const path of [file, whole, scratch]) await rm(path, { force: true });
  }
}
