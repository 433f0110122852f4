import { decibels } from '../signal/decibels';
import { findings, type Finding, type SourceFacts } from './findings';
import type { IntakeMeasurement } from './intake';
import type { Channels } from './peak';

/** Version of a report's saved form; mixes with an older one are measured again. */
export const REPORT_SCHEMA = 2;

/** A figure, or null where there is none (−∞ is not JSON). */
export type Figure = number | null;

/** What intake found, as it is saved and shown. Levels in dB, loudness in LUFS, times in seconds. */
export interface IntakeReport {
  schema: typeof REPORT_SCHEMA;
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
  /** Level of the left channel over the right in dB. */
  balanceDb: Figure;
  correlation: number;
  /** Correlation below 120 Hz. */
  bassCorrelation: number;
  /** Hz; null when the spectrum does not end early. */
  spectrumEndHz: Figure;
  findings: Finding[];
}

export function figureOrNull(value: number): Figure {
  return Number.isFinite(value) ? value : null;
}

/** Levels in dB of a pair of linear values. */
export function channelsInDecibels([left, right]: Channels): [Figure, Figure] {
  return [figureOrNull(decibels(left)), figureOrNull(decibels(right))];
}

/** The report of a measured mix. */
export function intakeReport(source: SourceFacts, measured: IntakeMeasurement): IntakeReport {
  const { sampleRate } = source;
  const truePeakDb = decibels(Math.max(...measured.truePeak));
  return {
    schema: REPORT_SCHEMA,
    frames: measured.frames,
    durationSeconds: measured.frames / sampleRate,
    samplePeakDbfs: channelsInDecibels(measured.samplePeak),
    truePeakDbtp: channelsInDecibels(measured.truePeak),
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
    balanceDb: figureOrNull(measured.spectrum.balanceDb),
    correlation: measured.spectrum.correlation,
    bassCorrelation: measured.spectrum.bassCorrelation,
    spectrumEndHz: measured.spectrum.endHz,
    findings: findings(source, measured),
  };
}
