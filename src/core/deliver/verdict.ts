import { z } from 'zod';
import { figure } from '../measure/figure';
import { reading, readingWords } from '../measure/reading';
import type { Destination } from './destination';

/** What is known of a master or of a finished file. */
export interface Measured {
  /** LUFS; −∞ when nothing passes the gates. */
  integratedLufs: number;
  /** dBTP, the louder channel. */
  truePeakDbtp: number;
  /** Hz */
  sampleRate: number;
  /** Word length of the finished file in bits; null for a master that is not yet written. */
  depth: number | null;
}

/** Whether something meets a requirement. Receipts of earlier releases say `passes`. */
export const standingSchema = z.preprocess(
  (saved) => (saved === 'passes' ? 'meets' : saved),
  z.enum(['meets', 'misses', 'unknown']),
);
export type Standing = z.infer<typeof standingSchema>;

/** One requirement of a destination, held against a measurement. */
const requirementSchema = z.object({
  title: z.enum(['Loudness', 'True peak', 'Sample rate', 'Word length']),
  standing: standingSchema,
  /** The measured value as it is shown. */
  measured: z.string(),
  /** What is required, as it is shown. */
  asked: z.string(),
  /** By how much it misses, in words; empty when it meets. */
  miss: z.string(),
});
export type Requirement = z.infer<typeof requirementSchema>;

export const verdictSchema = z.object({
  standing: standingSchema,
  requirements: z.array(requirementSchema),
  /** Change of level in dB that would bring the loudness to its target; null when none is needed. */
  levelDb: z.number().nullable(),
  /** The steps that would fix what misses, as sentences. */
  remedies: z.array(z.string()),
});
export type Verdict = z.infer<typeof verdictSchema>;

/** Level change that meets the target when it is shown to one decimal. */
function roundedDb(value: number): number {
  return Math.round(value * 10) / 10;
}

function loudnessRequirement(
  destination: Destination,
  measured: Measured,
): { requirement: Requirement; levelDb: number | null } | null {
  if (!destination.loudness) return null;
  const { targetLufs, toleranceLu } = destination.loudness;
  const asked = `${readingWords(reading('loudness', targetLufs))} ±${toleranceLu}`;
  if (measured.integratedLufs === -Infinity) {
    return {
      requirement: {
        title: 'Loudness',
        standing: 'unknown',
        measured: 'too short or too quiet',
        asked,
        miss: 'can’t be measured',
      },
      levelDb: null,
    };
  }
  const difference = measured.integratedLufs - targetLufs;
  // What is shown decides: a value that reads as inside the tolerance is inside it.
  const meets = Math.abs(roundedDb(difference)) <= toleranceLu + 1e-9;
  const miss = meets ? '' : `${figure(Math.abs(difference))} LU too ${difference > 0 ? 'loud' : 'quiet'}`;
  return {
    requirement: {
      title: 'Loudness',
      standing: meets ? 'meets' : 'misses',
      measured: readingWords(reading('loudness', measured.integratedLufs)),
      asked,
      miss,
    },
    levelDb: meets ? null : roundedDb(-difference),
  };
}

function truePeakRequirement({ maxTruePeakDbtp }: Destination, { truePeakDbtp }: Measured): Requirement {
  const excess = truePeakDbtp - maxTruePeakDbtp;
  // 0.05 dB is what two correct true-peak meters may differ by, and what rounds away in the figure shown.
  const meets = excess <= 0.05;
  return {
    title: 'True peak',
    standing: meets ? 'meets' : 'misses',
    measured: readingWords(reading('truePeak', truePeakDbtp)),
    asked: `≤ ${readingWords(reading('truePeak', maxTruePeakDbtp))}`,
    miss: meets ? '' : `${figure(excess)} dB too high`,
  };
}

function exact(
  title: 'Sample rate' | 'Word length',
  measured: number | null,
  asked: number,
  show: (value: number) => string,
): Requirement {
  const standing = measured === null || measured === asked ? 'meets' : 'misses';
  return {
    title,
    standing,
    measured: show(measured ?? asked),
    asked: show(asked),
    miss: standing === 'meets' ? '' : `must be ${show(asked)}`,
  };
}

const showRate = (hertz: number) => `${hertz / 1000} kHz`;
const showDepth = (bits: number) => `${bits} bits`;

/**
 * Holds a measurement against a destination. For a master that is not yet written (`depth` null) rate and word length
 * are what the delivery will make them.
 */
export function judge(destination: Destination, measured: Measured): Verdict {
  const written = measured.depth !== null;
  const loudness = loudnessRequirement(destination, measured);
  const truePeak = truePeakRequirement(destination, measured);
  const requirements: Requirement[] = [
    ...(loudness ? [loudness.requirement] : []),
    truePeak,
    ...(destination.sampleRate === null
      ? []
      : [exact('Sample rate', written ? measured.sampleRate : null, destination.sampleRate, showRate)]),
    exact('Word length', measured.depth, destination.depth, showDepth),
  ];
  const levelDb = loudness?.levelDb ?? null;
  const remedies: string[] = [];
  if (levelDb !== null && levelDb < 0)
    remedies.push(`Lower by ${figure(-levelDb)} dB at delivery: nothing else changes.`);
  if (levelDb !== null && levelDb > 0) {
    const room = destination.maxTruePeakDbtp - measured.truePeakDbtp;
    remedies.push(
      room >= levelDb
        ? `Raise by ${figure(levelDb)} dB at delivery: the true peak has room for it.`
        : `Raise by ${figure(levelDb)} dB into the limiter: the true peak has room for ${figure(Math.max(0, room))} dB only.`,
    );
  }
  // A lowered delivery takes its peaks down with it.
  const excess = measured.truePeakDbtp + Math.min(0, levelDb ?? 0) - destination.maxTruePeakDbtp;
  if (excess > 0.05) {
    remedies.push(
      `Lower the peaks by ${figure(Math.ceil(excess * 10 - 0.5) / 10)} dB: set a limiter's ceiling to ${figure(destination.maxTruePeakDbtp)} dBTP.`,
    );
  }
  const standings = requirements.map(({ standing }) => standing);
  const standing = standings.includes('misses') ? 'misses' : standings.includes('unknown') ? 'unknown' : 'meets';
  return { standing, requirements, levelDb, remedies };
}

/** What is known of a master that is not yet written; null: nothing passes the gates, or silence. */
export interface MasterLevels {
  /** LUFS */
  integratedLufs: number | null;
  /** dBTP */
  truePeakDbtp: number | null;
}

/** Holds a master that is not yet written, at a sample rate in Hz, against a destination. */
export function judgeMaster(destination: Destination, master: MasterLevels, sampleRate: number): Verdict {
  const { integratedLufs, truePeakDbtp } = master;
  return judge(destination, {
    integratedLufs: integratedLufs ?? -Infinity,
    truePeakDbtp: truePeakDbtp ?? -Infinity,
    sampleRate,
    depth: null,
  });
}

/**
 * Change of level in dB at delivery that brings a master to a destination's loudness; 0 where none is needed, or where
 * the true peak has no room for it.
 */
export function levelAtDelivery({ maxTruePeakDbtp }: Destination, { truePeakDbtp }: MasterLevels, verdict: Verdict) {
  const levelDb = verdict.levelDb ?? 0;
  return levelDb <= maxTruePeakDbtp - (truePeakDbtp ?? -Infinity) || levelDb < 0 ? levelDb : 0;
}

/** One line that says what a destination asks for. */
export function describeDestination({ loudness, maxTruePeakDbtp, depth, sampleRate }: Destination): string {
  return [
    ...(loudness ? [`${figure(loudness.targetLufs)} LUFS ±${loudness.toleranceLu}`] : []),
    `≤ ${figure(maxTruePeakDbtp)} dBTP`,
    ...(sampleRate ? [showRate(sampleRate)] : []),
    `${depth}-bit`,
  ].join(', ');
}
