import { createHash } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { heardPassage } from '../../contracts/heard-passage';
import { OUTLINE_COLUMNS, type HeardSource, type StreamCodec } from '../../contracts/listening';
import { Ditherer } from '../../core/deliver/dither';
import { ProgrammeMeter } from '../../core/measure/programme-meter';
import type { PlacedTrack } from '../../core/sequence/joint';
import { start } from '../codecs/process';
import { MOST_SHIFT_SECONDS } from './blind-passage';
import { ImageAssembly, madeFrom, type ImagePart } from '../images/assemble-image';
import { atLevel } from '../render/level';
import { asBytes, fromFile, writeRaw } from '../render/raw';
import { quantized } from '../render/render';
import { writeFile } from '../render/write-file';
import type { AudioStore } from '../store/audio-store';
import { PASSAGE, STREAM_RATE, WHOLE } from './programme';
import type { KeptWork } from '../store/kept-work';

/** True peak in dBTP that everything streamed stays below, so that encodes do not clip. */
const PEAK_DBTP = -1;
const BITS = 24;

/**
 * Encoders of the streams. Both put their index first, so that a player seeks with one request; clusters of a second in the one
 * keep what is read again after a seek short.
 */
const ENCODERS = {
  opus: {
    ending: '.webm',
    options: ['-c:a', 'libopus', '-b:a', '160k', '-f', 'webm', '-cues_to_front', '1', '-cluster_time_limit', '1000'],
  },
  aac: { ending: '.m4a', options: ['-c:a', 'aac', '-b:a', '192k', '-movflags', '+faststart', '-f', 'mp4'] },
} as const;

/** What is streamed of a release: the same tracks, at the same places. */
export interface StreamOrder {
  masters: readonly ImagePart[];
  /** With no stage but their edges. */
  mixes: readonly ImagePart[];
  /** Other versions; null when there are none. */
  others: readonly ImagePart[] | null;
  /** Whether the masters are streamed without loss as well. */
  lossless: boolean;
  /** Whether each master gets a file of its own to save. */
  download: boolean;
  /** Track, counted from 0, of a blind test, and what it compares; null for none. */
  blind: { track: number; between: readonly HeardSource[] } | null;
}

/** Where a track lies in what is streamed, in seconds, with its picture. */
interface StreamedTrack {
  startSeconds: number;
  endSeconds: number;
  /** Highest level of each column in percent of full scale. */
  outline: number[];
}

export interface StreamFile {
  source: HeardSource;
  codec: StreamCodec;
  /** A track of its own, counted from 0; {@link WHOLE} or {@link PASSAGE}. */
  place: number;
  hash: string;
}

export interface MadeStreams {
  tracks: StreamedTrack[];
  files: StreamFile[];
}

/** One source of all tracks as a raw file, with what was measured of each track. */
interface Programme {
  placed: PlacedTrack[];
  lufs: number[];
  peaksDbtp: number[];
  outlines: number[][];
  /** By which each track was changed in level; empty for none. */
  changesDb: readonly number[];
}

/** Where files are written, and where those of parts are found again after a restart. */
interface Files {
  store: AudioStore;
  kept: KeptWork;
}

/** Measures each track in a raw file. Tracks overlap at most with the next. */
async function measured(file: string, placed: readonly PlacedTrack[]): Promise<Omit<Programme, 'changesDb'>> {
  const programme: Omit<Programme, 'changesDb'> = { placed: [...placed], lufs: [], peaksDbtp: [], outlines: [] };
  const meters = new Map<number, ProgrammeMeter>();
  const outlines = placed.map(() => new Array<number>(OUTLINE_COLUMNS).fill(0));
  let at = 0;
  for await (const chunk of fromFile(file)) {
    const count = chunk.length / 2;
    for (const [i, { start: from, end }] of placed.entries()) {
      const [first, last] = [Math.max(0, from - at), Math.min(count, end - at)];
      if (last <= first) continue;
      const samples = chunk.subarray(2 * first, 2 * last);
      const meter = meters.get(i) ?? new ProgrammeMeter(STREAM_RATE, end - from);
      meters.set(i, meter);
      meter.add(samples);
      const outline = outlines[i];
      const perColumn = (2 * (end - from)) / OUTLINE_COLUMNS;
      const before = 2 * (at + first - from);
      for (let k = 0; k < samples.length; k++) {
        const level = samples[k] < 0 ? -samples[k] : samples[k];
        const column = ((before + k) / perColumn) | 0;
        if (level > outline[column]) outline[column] = level;
      }
      if (at + last < end) continue;
      const { integratedLufs, truePeaksDbtp } = meter.result();
      programme.lufs[i] = integratedLufs;
      programme.peaksDbtp[i] = Math.max(...truePeaksDbtp);
      meters.delete(i);
    }
    at += count;
  }
  programme.outlines = outlines.map((outline) => outline.map((level) => Math.min(100, Math.round(100 * level))));
  return programme;
}

/** Puts the tracks together in a raw file and measures each of them there. */
async function assemble(
  { store, kept }: Files,
  parts: readonly ImagePart[],
  target: string,
  onProgress: (share: number) => void,
  changesDb: readonly number[] = [],
): Promise<Programme> {
  const assembly = new ImageAssembly(store, kept, parts, STREAM_RATE, changesDb);
  await writeRaw(assembly.samples(onProgress), target);
  return { ...(await measured(target, assembly.placed)), changesDb };
}

/** Share of the work of matching when the tracks are rendered. */
const RENDERED = 0.8;

/** The same, each track at the loudness of its master. */
async function assembleMatched(
  files: Files,
  parts: readonly ImagePart[],
  masterLufs: readonly number[],
  target: string,
  onProgress: (share: number) => void,
): Promise<Programme> {
  const own = await assemble(files, parts, target, (share) => onProgress(RENDERED * share));
  const changesDb = masterLufs.map((lufs, i) => (Number.isFinite(lufs - own.lufs[i]) ? lufs - own.lufs[i] : 0));
  return assemble(files, parts, target, (share) => onProgress(RENDERED + (1 - RENDERED) * share), changesDb);
}

async function encode(
  store: AudioStore,
  samples: AsyncIterable<Float64Array>,
  codec: keyof typeof ENCODERS,
): Promise<string> {
  const { ending, options } = ENCODERS[codec];
  const file = await store.temporary(ending);
  try {
    const raw = ['-f', 'f64le', '-ac', '2', '-ar', String(STREAM_RATE), '-i', 'pipe:0'];
    const { child, finished } = start('ffmpeg', [...raw, ...options, '-bitexact', '-y', `file:${file}`]);
    child.stdout.resume();
    await Promise.all([pipeline(Readable.from(asBytes(samples)), child.stdin), finished]);
    return (await store.put(file)).hash;
  } finally {
    await rm(file, { force: true });
  }
}

/** A 24-bit FLAC with dither; `seed` decides it. */
async function encodeLossless(store: AudioStore, samples: AsyncIterable<Float64Array>, seed: string): Promise<string> {
  const output = await store.temporary('.flac');
  try {
    const digest = createHash('sha256').update(seed).digest();
    const ditherer = new Ditherer({
      ...{ depth: BITS, dither: 'TPDF', sampleRate: STREAM_RATE },
      seeds: [digest.readUInt32LE(0), digest.readUInt32LE(4)],
    });
    const layout = { format: 'FLAC', depth: BITS, outputRate: STREAM_RATE, output } as const;
    await writeFile(quantized(samples, ditherer, BITS), layout);
    return (await store.put(output)).hash;
  } finally {
    await rm(output, { force: true });
  }
}

/** Some frames of a raw file. */
async function* span(file: string, from: number, to: number): AsyncGenerator<Float64Array> {
  let at = 0;
  for await (const chunk of fromFile(file)) {
    const [first, last] = [Math.max(0, from - at), Math.min(chunk.length / 2, to - at)];
    if (last > first) yield chunk.subarray(2 * first, 2 * last);
    at += chunk.length / 2;
    if (at >= to) return;
  }
}

/** Whatever decides the samples of tracks that follow each other. */
function sequenceFrom(parts: readonly ImagePart[], changesDb: readonly number[]): unknown {
  return [parts.map((part) => [madeFrom(part), part.joint]), changesDb];
}

/** Shares of the work: the masters, what they are compared with, the encodes. */
const MASTERED = 0.4;
const COMPARED = 0.7;

/**
 * Renders what is streamed: the masters as one programme, and mixes and other versions at the same places and at the loudness of
 * their masters. All of them come down by as much as the loudest needs to stay below the peak.
 */
export async function renderStreams(
  inFiles: Files,
  { masters, mixes, others, lossless, download, blind }: StreamOrder,
  onProgress: (share: number) => void,
): Promise<MadeStreams> {
  const { store, kept } = inFiles;
  const master = await store.temporary('.raw');
  const compared = [
    { source: 'mix', parts: mixes },
    ...(others ? [{ source: 'other', parts: others } as const] : []),
  ] as const;
  const raw: { source: HeardSource; file: string; peaksDbtp: number[]; from: unknown }[] = [];
  try {
    const { placed, lufs, peaksDbtp, outlines } = await assemble(inFiles, masters, master, (share) =>
      onProgress(MASTERED * share),
    );
    raw.push({ source: 'master', file: master, peaksDbtp, from: sequenceFrom(masters, []) });
    for (const [i, { source, parts }] of compared.entries()) {
      const file = await store.temporary('.raw');
      const entry = { source, file, peaksDbtp: [] as number[], from: null as unknown };
      raw.push(entry);
      const tell = (share: number) => onProgress(MASTERED + ((COMPARED - MASTERED) * (i + share)) / compared.length);
      const matched = await assembleMatched(inFiles, parts, lufs, file, tell);
      entry.peaksDbtp = matched.peaksDbtp;
      entry.from = sequenceFrom(parts, matched.changesDb);
    }
    const peak = Math.max(...raw.flatMap((each) => each.peaksDbtp));
    const levelDb = Math.min(0, PEAK_DBTP - peak);
    const files: StreamFile[] = [];
    for (const [i, { source, file, from }] of raw.entries()) {
      const samples = () => atLevel(fromFile(file), levelDb);
      // Side by side: each encoder keeps one core busy.
      const codecs: StreamCodec[] = source === 'master' && lossless ? ['opus', 'aac', 'flac'] : ['opus', 'aac'];
      const made = codecs.map(async (codec) => ({
        ...{ source, codec, place: WHOLE },
        hash: await kept.stored([codec, levelDb, from], () =>
          codec === 'flac' ? encodeLossless(store, samples(), source) : encode(store, samples(), codec),
        ),
      }));
      // All of them end before their source is deleted, also where one fails.
      await Promise.allSettled(made);
      files.push(...(await Promise.all(made)));
      onProgress(COMPARED + ((1 - COMPARED) * (i + 1)) / (raw.length + 1));
    }
    if (download)
      for (const [place, { start: from, end }] of placed.entries()) {
        // As it was mastered; only what is over full scale comes down.
        const samples = atLevel(span(master, from, end), Math.min(0, -peaksDbtp[place]));
        files.push({
          ...{ source: 'master', codec: 'flac', place },
          hash: await kept.stored(['file', place, sequenceFrom(masters, [])], () =>
            encodeLossless(store, samples, `track ${place}`),
          ),
        });
      }
    const tracks = placed.map(({ start: from, end }, i) => ({
      startSeconds: from / STREAM_RATE,
      endSeconds: end / STREAM_RATE,
      outline: outlines[i],
    }));
    for (const { source, file } of blind ? raw.filter((each) => blind.between.includes(each.source)) : []) {
      // Without loss, since it is encoded again for every trial.
      const { from, to } = heardPassage(tracks[blind!.track]);
      const until = Math.round((to + MOST_SHIFT_SECONDS) * STREAM_RATE);
      const samples = atLevel(span(file, Math.round(from * STREAM_RATE), until), levelDb);
      files.push({
        ...{ source, codec: 'flac', place: PASSAGE },
        hash: await encodeLossless(store, samples, `passage ${source}`),
      });
    }
    onProgress(1);
    return { files, tracks };
  } finally {
    for (const file of new Set([master, ...raw.map((each) => each.file)])) await rm(file, { force: true });
  }
}
