import { change, clock, figure } from './figure';

/** How the figures of each kind are written. */
const KINDS = {
  loudness: { unit: 'LUFS', decimals: 1 },
  /** Loudness range, PLR, and what loudnesses differ by. */
  loudnessDifference: { unit: 'LU', decimals: 1 },
  truePeak: { unit: 'dBTP', decimals: 1 },
  samplePeak: { unit: 'dBFS', decimals: 1 },
  level: { unit: 'dB', decimals: 1 },
  /** What is added to a level or taken off it. */
  gain: { unit: 'dB', decimals: 1, signed: true },
  fineGain: { unit: 'dB', decimals: 2, signed: true },
  correlation: { unit: '', decimals: 2 },
  count: { unit: '', decimals: 0 },
  frames: { unit: 'frames', decimals: 0 },
  share: { unit: '%', decimals: 0 },
  fineShare: { unit: '%', decimals: 2 },
  seconds: { unit: 's', decimals: 1 },
  /** Seconds, written as minutes and seconds. */
  time: { unit: 'min', decimals: 1, clock: true },
} as const satisfies Record<string, { unit: string; decimals: number; signed?: true; clock?: true }>;

export type ReadingKind = keyof typeof KINDS;

/** What was measured: a figure of some kind, or one for each channel; null where nothing is known. */
export interface Reading {
  kind: ReadingKind;
  values: readonly (number | null)[];
}

export function reading(kind: ReadingKind, ...values: (number | null | undefined)[]): Reading {
  return { kind, values: values.map((value) => value ?? null) };
}

/** Its figures without the unit. */
export function readingText({ kind, values }: Reading): string {
  const { decimals, ...way }: { decimals: number; signed?: true; clock?: true } = KINDS[kind];
  const write = way.clock ? clock : way.signed ? change : figure;
  return values.map((value) => (value === null ? '–' : write(value, decimals))).join(' / ');
}

export function readingUnit({ kind }: Reading): string {
  return KINDS[kind].unit;
}

/** "−14.0 LUFS" */
export function readingWords(of: Reading): string {
  return `${readingText(of)} ${readingUnit(of)}`.trimEnd();
}
