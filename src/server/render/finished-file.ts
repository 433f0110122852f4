import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import type { Destination } from '../../core/deliver/destination';
import type { Receipt } from '../../core/deliver/receipt';
import { judge } from '../../core/deliver/verdict';
import { channelsInDecibels, figureOrNull } from '../../core/measure/intake-report';
import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decibels } from '../../core/signal/decibels';
import { CORE_VERSION } from '../../core/version';
import { probe } from '../codecs/probe';
import { output } from '../codecs/process';
import { measureFile } from '../intake/measure-file';
import { render, type Rendered } from './render';

/** Share of the work that rendering is; the rest is measuring. */
const RENDERING = 0.8;

/** Everything a finished file is made from, but the mix's own samples. */
export interface FinishedFileOrder {
  mix: {
    fileName: string;
    originalHash: string;
    /** Hz */
    sampleRate: number;
    /** Word length, 32 for float. */
    bits: number;
    channels: number;
    frames: number;
  };
  lane: Lane;
  versionName: string;
  destination: Destination;
  levelDb: number;
  fileName: string;
  by: { studio: string; engineer: string };
  tags: Record<string, string>;
}

/** Where a finished file is made. */
export interface FinishedFilePaths {
  /** The mix. */
  input: string;
  output: string;
  scratch: string;
}

async function ffmpegVersion(): Promise<string> {
  return /version (\S+)/.exec(await output('ffmpeg', ['-version']))?.[1] ?? 'unknown';
}

/** SHA-256 of a file, as hexadecimal digits. */
export async function fileHash(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** What is measured of a finished file, and what it is. */
export async function examineFile(
  file: string,
  name: string,
  onProgress: (share: number) => void = () => {},
): Promise<Pick<Receipt, 'file' | 'measured'>> {
  const { container, sampleRate, bits, channels, durationSeconds } = await probe(file);
  const expected = Math.round(durationSeconds * sampleRate);
  const measured = await measureFile(file, sampleRate, channels, expected, onProgress);
  const { size } = await stat(file);
  const truePeakDbtp = decibels(Math.max(...measured.truePeak));
  return {
    file: {
      ...{ name, bytes: size, sha256: await fileHash(file), container, sampleRate, bits },
      frames: measured.frames,
      durationSeconds: measured.frames / sampleRate,
    },
    measured: {
      integratedLufs: figureOrNull(measured.integratedLufs),
      maxMomentaryLufs: figureOrNull(measured.maxMomentaryLufs),
      maxShortTermLufs: figureOrNull(measured.maxShortTermLufs),
      rangeLu: measured.rangeLu,
      plrLu: figureOrNull(truePeakDbtp - measured.integratedLufs),
      samplePeakDbfs: channelsInDecibels(measured.samplePeak),
      truePeakDbtp: channelsInDecibels(measured.truePeak),
    },
  };
}

/** Renders the samples of a finished file. */
function renderOrder(
  { mix, lane, destination, levelDb, tags }: FinishedFileOrder,
  impulses: ReadonlyMap<string, ImpulseResponse>,
  paths: FinishedFilePaths,
  onProgress: (share: number) => void,
): Promise<Rendered> {
  return render({
    ...paths,
    ...{ lane, impulses, levelDb, tags, onProgress },
    channels: mix.channels,
    inputRate: mix.sampleRate,
    inputBits: mix.bits,
    frames: mix.frames,
    outputRate: destination.sampleRate ?? mix.sampleRate,
    depth: destination.depth,
    dither: destination.dither,
    digitalSilence: destination.digitalSilence,
    container: destination.container,
    guardDbtp: destination.maxTruePeakDbtp,
  });
}

/** Renders a finished file and measures it; gives its receipt. Throws as {@link render} does. */
export async function makeFinishedFile(
  order: FinishedFileOrder,
  impulses: ReadonlyMap<string, ImpulseResponse>,
  paths: FinishedFilePaths,
  onProgress: (share: number) => void = () => {},
): Promise<Receipt> {
  const { mix, destination, levelDb, tags } = order;
  const rendered = await renderOrder(order, impulses, paths, (share) => onProgress(RENDERING * share));
  const examined = await examineFile(paths.output, order.fileName, (share) =>
    onProgress(RENDERING + (1 - RENDERING) * share),
  );
  const { integratedLufs, truePeakDbtp } = examined.measured;
  return {
    schema: 1,
    ...examined,
    verdict: judge(destination, {
      integratedLufs: integratedLufs ?? -Infinity,
      truePeakDbtp: Math.max(...truePeakDbtp.map((db) => db ?? -Infinity)),
      sampleRate: examined.file.sampleRate,
      depth: examined.file.bits,
    }),
    destination,
    mix: { fileName: mix.fileName, sha256: mix.originalHash },
    version: order.versionName,
    lane: rendered.lane,
    levelDb,
    tags,
    guardDb: rendered.guardDb,
    dither: rendered.dither,
    clippedSamples: rendered.clipped,
    by: order.by,
    made: { core: CORE_VERSION, ffmpeg: await ffmpegVersion() },
  };
}
