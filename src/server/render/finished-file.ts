import { open, rm } from 'node:fs/promises';
import { broadcastExtension } from '../../core/deliver/broadcast-extension';
import { deliveredRate, deliveredWordLength, type Destination } from '../../core/deliver/destination';
import { FORMAT_TRAITS } from '../../core/deliver/format';
import { FILE_FORM, type Receipt } from '../../core/deliver/receipt';
import type { Tags } from '../../core/deliver/tags';
import { channelsInDecibels, figureOrNull, louder } from '../../core/measure/intake-report';
import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { amplitude } from '../../core/signal/decibels';
import { CORE_VERSION } from '../../core/version';
import { containerOf } from '../codecs/container';
import { output } from '../codecs/process';
import { checkEncodes, type CheckedEncode } from '../encodes/encode-check';
import { judgeFile } from './judge-file';
import { examineFile, fileFacts, measureCutting, type Examined } from './examine-file';
import type { LaneRun } from './lane-run';
import { LANE, render, type Rendered } from './render';
import { CODING_HISTORY_BYTES } from './write-file';
import { holdsCover, writeTags } from './write-tags';

/** Shares of the work. */
const RENDERING = 0.7;
const MEASURING = 0.2;
/** Share that is done once the lane has run. */
export const LANE_SHARE = RENDERING * LANE;

/** Everything a finished file is made from, but the mix's own samples. */
export interface FinishedFileOrder {
  mix: {
    fileName: string;
    originalHash: string;
    /** Hz */
    sampleRate: number;
    /** Word length, 32 for float. */
    bits: number;
    /** Bits in use, from the top; null for floats. */
    bitsUsed: number | null;
    channels: number;
    frames: number;
  };
  lane: Lane;
  /** SHA-256 of the impulse responses that the lane names, by name. */
  impulseHashes: Record<string, string>;
  versionName: string;
  destination: Destination;
  levelDb: number;
  /** Change of the last limiter's input gain for this destination, in dB; the lane has it already. */
  driveDb: number;
  fileName: string;
  by: { studio: string; engineer: string };
  tags: Tags;
  /** SHA-256 and MIME type of the cover picture; null without one. */
  cover: Receipt['cover'];
  /** When it was ordered, ISO 8601: some formats say so. */
  madeAt: string;
}

/** Where a finished file is made. */
export interface FinishedFilePaths {
  /** The mix. */
  input: string;
  output: string;
  scratch: string;
  /** The cover picture, when there is one. */
  cover?: string;
  /** What the lane made of the mix, when it was run before. */
  laneRun?: LaneRun;
}

let asked: Promise<string> | undefined;
/** The version of ffmpeg, asked once: a program takes longer to start than to answer. */
function ffmpegVersion(): Promise<string> {
  return (asked ??= output('ffmpeg', ['-version']).then((said) => /version (\S+)/.exec(said)?.[1] ?? 'unknown'));
}

/** Where the master of an encode is kept while the file is made. */
const masterCopyOf = ({ scratch }: FinishedFilePaths) => `${scratch}.master`;

/** Renders the samples of a finished file. */
function renderOrder(
  { mix, lane, destination, levelDb }: FinishedFileOrder,
  impulses: ReadonlyMap<string, ImpulseResponse>,
  paths: FinishedFilePaths,
  onProgress: (share: number) => void,
): Promise<Rendered> {
  const { format, wordLength, truePeak } = destination;
  return render({
    ...{ input: paths.input, output: paths.output, scratch: paths.scratch, laneRun: paths.laneRun },
    ...{ lane, impulses, levelDb, onProgress },
    channels: mix.channels,
    inputRate: mix.sampleRate,
    inputBits: mix.bits,
    frames: mix.frames,
    outputRate: deliveredRate(destination, mix.sampleRate),
    depth: deliveredWordLength(destination) ?? '32f',
    dither: wordLength.dither,
    digitalSilence: wordLength.digitalSilence,
    format: format.name,
    kbps: format.kbps ?? undefined,
    masterCopy: FORMAT_TRAITS[format.name].lossless ? undefined : masterCopyOf(paths),
    guardDbtp: truePeak.maxDbtp,
  });
}

/** Puts what is known of a Broadcast WAV into its `bext` chunk. */
async function fillExtension(path: string, order: FinishedFileOrder, { measured, file }: Examined): Promise<void> {
  const { bextAt } = await containerOf(path);
  if (bextAt === null) throw new Error('The Broadcast WAV has no bext chunk.');
  const { title = '', artist = '', isrc = '' } = order.tags;
  const bytes = broadcastExtension(
    {
      description: [title, artist].filter(Boolean).join(', '),
      originator: order.by.studio || order.by.engineer,
      originatorReference: isrc,
      made: new Date(order.madeAt),
      ...measured,
      truePeakDbtp: louder(measured.truePeakDbtp),
      codingHistory: `A=PCM,F=${file.sampleRate},W=${file.bits},M=stereo,T=core ${CORE_VERSION}\r\n`,
    },
    CODING_HISTORY_BYTES,
  );
  const handle = await open(path, 'r+');
  try {
    await handle.write(bytes, 0, bytes.length, bextAt);
  } finally {
    await handle.close();
  }
}

/** Encodes as a receipt tells them. */
function toldEncodes(checked: readonly CheckedEncode[]): Receipt['encodes'] {
  const peaks = (db: readonly [number, number]) => channelsInDecibels([amplitude(db[0]), amplitude(db[1])]);
  return checked.map(({ codec, kbps, figures }) => ({
    ...{ codec, kbps, overs: figures.overs, integratedLufs: figureOrNull(figures.integratedLufs) },
    samplePeakDbfs: peaks(figures.samplePeaksDbfs),
    truePeakDbtp: peaks(figures.truePeaksDbtp),
  }));
}

/**
 * Renders a finished file, measures it, writes into it what it says about itself, and checks the encodes that its
 * destination asks for; gives its receipt. Throws as {@link render} does.
 */
export async function makeFinishedFile(
  order: FinishedFileOrder,
  impulses: ReadonlyMap<string, ImpulseResponse>,
  paths: FinishedFilePaths,
  onProgress: (share: number) => void = () => {},
): Promise<Receipt> {
  const { mix, destination, levelDb, tags } = order;
  const cover = holdsCover(destination.format.name) ? order.cover : null;
  const rendered = await renderOrder(order, impulses, paths, (share) => onProgress(RENDERING * share));
  const examined = await examineFile(paths.output, (share) => onProgress(RENDERING + MEASURING * share));
  const { measured, facts, file } = examined;
  if (destination.format.name === 'Broadcast WAV') await fillExtension(paths.output, order, examined);
  const picture = cover && paths.cover ? { path: paths.cover, type: cover.type } : null;
  writeTags(paths.output, destination.format.name, tags, picture);
  // Listeners' encodes are made of the master; of an encode they would be encodes of an encode.
  const lossless = FORMAT_TRAITS[destination.format.name].lossless;
  const source = {
    ...{ path: lossless ? paths.output : masterCopyOf(paths), raw: !lossless },
    ...{ sampleRate: file.sampleRate, frames: file.frames },
  };
  const checked = await checkEncodes(source, destination.encodes, paths.scratch, examined.loudestSeconds, (share) =>
    onProgress(RENDERING + MEASURING + (1 - RENDERING - MEASURING) * share),
  ).finally(() => rm(masterCopyOf(paths), { force: true }));
  const cutting = destination.cutting ? await measureCutting(paths.output, file.sampleRate) : undefined;
  const encodes = toldEncodes(checked);
  return {
    schema: 2,
    file: { ...file, ...(await fileFacts(paths.output, order.fileName)) },
    measured,
    curve: examined.curve,
    encodes,
    verdict: judgeFile(destination, {
      ...{ measured, facts, mix, tags, cutting, encodes, durationSeconds: file.durationSeconds },
      ...{ headSeconds: examined.headSeconds, tailSeconds: examined.tailSeconds },
    }),
    destination,
    mix: { fileName: mix.fileName, sha256: mix.originalHash, bitsUsed: mix.bitsUsed, sampleRate: mix.sampleRate },
    impulses: order.impulseHashes,
    version: order.versionName,
    lane: rendered.lane,
    levelDb,
    driveDb: order.driveDb,
    tags,
    cover,
    guardDb: rendered.guardDb,
    dither: rendered.dither,
    clippedSamples: rendered.clipped,
    by: order.by,
    made: { core: CORE_VERSION, ffmpeg: await ffmpegVersion(), at: order.madeAt, form: FILE_FORM },
    signature: null,
  };
}
