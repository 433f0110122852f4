import { stat } from 'node:fs/promises';
import { findings, type Finding } from '../../core/measure/findings';
import { IntakeMeter, type IntakeMeasurement } from '../../core/measure/intake';
import { decibels } from '../../core/signal/decibels';
import { decode32 } from '../codecs/decode';
import type { Source } from '../codecs/probe';

/** A figure, or null where there is none (−∞ is not JSON). */
export type Figure = number | null;

/** What intake found, as it is saved and shown. Levels in dB, loudness in LUFS, times in seconds. */
export interface IntakeReport {
  schema: 1;
  frames: number;
  durationSeconds: number;
  samplePeakDbfs: [Figure, Figure];
  truePeakDbtp: [Figure, Figure];
  /** dB between the higher true peak and full scale. */
  headroomDb: Figure;
  integratedLufs: Figure;
  maxMomentaryLufs: Figure;
  maxShortTermLufs: Figure;
  rangeLu: number;
  plrLu: Figure;
  dcOffset: [number, number];
  clippedRuns: number;
  fullScaleSamples: number;
  overs: number;
  bitsUsed: number | null;
  headSeconds: number;
  tailSeconds: number;
  /** Frames. */
  loudest: { start: number; end: number };
  findings: Finding[];
}

export function figureOrNull(value: number): Figure {
  return Number.isFinite(value) ? value : null;
}

/** Measures a decoded file from end to end; `onProgress` gets the share of `expectedFrames`. */
export async function measureFile(
  file: string,
  sampleRate: number,
  channels: number,
  expectedFrames: number,
  onProgress: (share: number) => void = () => {},
): Promise<IntakeMeasurement> {
  // The announced length may be wrong: what a file can hold at all bounds the meters' memory instead.
  const { size } = await stat(file);
  const meter = new IntakeMeter(sampleRate, Math.min(Math.max(expectedFrames * 2, sampleRate * 10), Math.max(size * 64, sampleRate * 10)));
  let frames = 0;
  for await (const chunk of decode32(file, channels)) {
    meter.add(chunk);
    frames += chunk.length / 2;
    onProgress(Math.min(1, frames / Math.max(1, expectedFrames)));
  }
  return meter.result();
}

export function intakeReport(source: Source, measured: IntakeMeasurement): IntakeReport {
  const { sampleRate } = source;
  const pair = ([left, right]: [number, number]): [Figure, Figure] => [figureOrNull(decibels(left)), figureOrNull(decibels(right))];
  const truePeakDb = decibels(Math.max(...measured.truePeak));
  return {
    schema: 1,
    frames: measured.frames,
    durationSeconds: measured.frames / sampleRate,
    samplePeakDbfs: pair(measured.samplePeak),
    truePeakDbtp: pair(measured.truePeak),
    headroomDb: figureOrNull(-truePeakDb),
    integratedLufs: figureOrNull(measured.integratedLufs),
    maxMomentaryLufs: figureOrNull(measured.maxMomentaryLufs),
    maxShortTermLufs: figureOrNull(measured.maxShortTermLufs),
    rangeLu: measured.rangeLu,
    plrLu: figureOrNull(truePeakDb - measured.integratedLufs),
    dcOffset: measured.dcOffset,
    clippedRuns: measured.clippedRuns,
    fullScaleSamples: measured.fullScaleSamples,
    overs: measured.overs,
    bitsUsed: measured.bitsUsed,
    headSeconds: measured.headFrames / sampleRate,
    tailSeconds: measured.tailFrames / sampleRate,
    loudest: { start: measured.loudestStart, end: measured.loudestEnd },
    findings: findings(source, measured),
  };
}
