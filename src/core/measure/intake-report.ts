import { z } from 'zod';
import { decibels } from '../signal/decibels';
import { findings, findingSchema, type SourceFacts } from './findings';
import type { IntakeMeasurement } from './intake';
import type { Channels } from './peak';

/** Version of a report's saved form; mixes with an older one are measured again. */
const REPORT_SCHEMA = 2;

/** A figure, or null where there is none (−∞ is not JSON). */
export const figureSchema = z.number().nullable();
export type Figure = z.infer<typeof figureSchema>;
/** A figure for each channel. */
export const figurePairSchema = z.tuple([figureSchema, figureSchema]);

/** What intake found, as it is saved and shown. Levels in dB, loudness in LUFS, times in seconds. */
export const intakeReportSchema = z.object({
  schema: z.literal(REPORT_SCHEMA),
  frames: z.number(),
  durationSeconds: z.number(),
  samplePeakDbfs: figurePairSchema,
  truePeakDbtp: figurePairSchema,
  /** dB between the louder true peak and full scale. */
  headroomDb: figureSchema,
  integratedLufs: figureSchema,
  maxMomentaryLufs: figureSchema,
  maxShortTermLufs: figureSchema,
  rangeLu: z.number(),
  plrLu: figureSchema,
  dcOffset: z.tuple([z.number(), z.number()]),
  clippedRuns: z.number(),
  fullScaleSamples: z.number(),
  overs: z.number(),
  bitsUsed: z.number().nullable(),
  headSeconds: z.number(),
  tailSeconds: z.number(),
  /** Frames. */
  loudest: z.object({ start: z.number(), end: z.number() }),
  /** Level of the left channel over the right in dB. */
  balanceDb: figureSchema,
  correlation: z.number(),
  /** Correlation below 120 Hz. */
  bassCorrelation: z.number(),
  /** Hz; null when the spectrum does not stop early. */
  spectrumEndHz: figureSchema,
  findings: z.array(findingSchema),
});
export type IntakeReport = z.infer<typeof intakeReportSchema>;

export function figureOrNull(value: number): Figure {
  return Number.isFinite(value) ? value : null;
}

/** Levels in dB of a pair of linear values. */
export function channelsInDecibels([left, right]: Channels): [Figure, Figure] {
  return [figureOrNull(decibels(left)), figureOrNull(decibels(right))];
}

/** The louder of a pair of levels; null for silence on both sides. */
export function louder([left, right]: readonly [Figure, Figure]): Figure {
  return left === null || right === null ? (left ?? right) : Math.max(left, right);
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
