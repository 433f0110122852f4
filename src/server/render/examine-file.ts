import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import type { FileFacts } from '../../core/deliver/facts';
import { FORMAT_TRAITS, type Format } from '../../core/deliver/format';
import { CURVE_POINTS, type Receipt } from '../../core/deliver/receipt';
import { CuttingMeter, type CuttingReading } from '../../core/measure/cutting';
import { channelsInDecibels, figureOrNull } from '../../core/measure/intake-report';
import { loudestEnd } from '../../core/measure/loudness-statistics';
import { decibels } from '../../core/signal/decibels';
import { containerOf } from '../codecs/container';
import { decodeReference } from '../codecs/decode';
import { probe, probeReference } from '../codecs/probe';
import { measureFile } from '../intake/measure-file';

/** SHA-256 of a file, as hexadecimal digits. */
export async function fileHash(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** Decides by its bytes what a file is; null for what no destination asks for. */
async function formatOf(file: string): Promise<Format | null> {
  const { name, bextAt } = await containerOf(file, 'lossy');
  if (name === 'WAV') return bextAt === null ? 'WAV' : 'Broadcast WAV';
  if (name === 'MP4') return (await probeReference(file)).codec === 'alac' ? 'ALAC' : 'AAC';
  return name === 'FLAC' || name === 'AIFF' || name === 'MP3' ? name : null;
}

/** What a file says of itself: encodes have no word length. */
async function sourceOf(file: string, format: Format | null) {
  if (format === null || FORMAT_TRAITS[format].lossless) return { ...(await probe(file)), lossy: false };
  return { ...(await probeReference(file)), bits: 0, lossy: true };
}

/** Short-term loudness in LUFS each 100 ms, thinned to what a receipt keeps: the highest of each stretch. */
function curveOf(shortTerm: Float32Array): Receipt['curve'] {
  const step = Math.max(1, Math.ceil(shortTerm.length / CURVE_POINTS));
  const shortTermLufs = Array.from({ length: Math.ceil(shortTerm.length / step) }, (_, i) => {
    const highest = Math.max(...shortTerm.subarray(i * step, (i + 1) * step));
    return Number.isFinite(highest) ? Math.round(highest * 100) / 100 : null;
  });
  return { everySeconds: step / 10, shortTermLufs };
}

/** What a finished file is and measures. */
export interface Examined {
  file: Omit<Receipt['file'], 'name' | 'bytes' | 'sha256'>;
  measured: Receipt['measured'];
  curve: Receipt['curve'];
  facts: FileFacts;
  headSeconds: number;
  tailSeconds: number;
  /** Second at which the loudest three seconds end. */
  loudestSeconds: number;
}

/** Measures a file, and reads what it is. Rejects when it can’t be decoded. */
export async function examineFile(file: string, onProgress: (share: number) => void = () => {}): Promise<Examined> {
  const format = await formatOf(file);
  const { container, sampleRate, bits, channels, durationSeconds, lossy } = await sourceOf(file, format);
  const expected = Math.round(durationSeconds * sampleRate);
  const measured = await measureFile({ path: file, sampleRate, channels, expectedFrames: expected, lossy }, onProgress);
  const truePeakDbtp = decibels(Math.max(...measured.truePeak));
  return {
    file: {
      ...{ container, sampleRate, bits, frames: measured.frames },
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
    curve: curveOf(measured.shortTerm),
    facts: { format, sampleRate, bits, bitsUsed: measured.bitsUsed },
    headSeconds: measured.headFrames / sampleRate,
    tailSeconds: measured.tailFrames / sampleRate,
    loudestSeconds: loudestEnd(measured.shortTerm),
  };
}

/** Bytes and hash of a file, under its name. */
export async function fileFacts(
  file: string,
  name: string,
): Promise<Pick<Receipt['file'], 'name' | 'bytes' | 'sha256'>> {
  const { size } = await stat(file);
  return { name, bytes: size, sha256: await fileHash(file) };
}

/** Bits that a mix uses, from the top; null for floats. */
export async function bitsUsedOf(file: string): Promise<number | null> {
  const { sampleRate, channels, durationSeconds } = await probe(file);
  const expectedFrames = Math.round(durationSeconds * sampleRate);
  return (await measureFile({ path: file, sampleRate, channels, expectedFrames })).bitsUsed;
}

/** Measures what matters when a lacquer is cut. */
export async function measureCutting(file: string, sampleRate: number): Promise<CuttingReading> {
  const meter = new CuttingMeter(sampleRate);
  for await (const chunk of decodeReference(file, 2)) meter.add(chunk);
  return meter.result();
}
