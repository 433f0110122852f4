import { decibels } from '../signal/decibels';
import {
  bellPrototype,
  highShelfPrototype,
  lowShelfPrototype,
  prototypeMagnitude,
  type Prototype,
} from '../signal/prototype';
import { equalizerBand, type EqualizerBand } from '../stages/equalizer/settings';
import { THIRD_OCTAVES_HZ } from '../measure/balance';

/** The most that a move may be, in dB, and the least that is worth making. */
export const MOST_DB = 3;
const LEAST_DB = 0.3;
/** Outside these frequencies records differ by what they are, not by how they are balanced. */
const [FROM_HZ, TO_HZ] = [45, 13000];
/** Third-octaves on either side over which a difference is averaged: broad strokes only. */
const SPREAD = 2;
/** Keeps neighbouring bands from working against each other. */
const RIDGE = 0.06;

interface Stroke {
  shape: 'lowShelf' | 'bell' | 'highShelf';
  frequencyHz: number;
  q: number;
  prototype: (gainDb: number, q: number) => Prototype;
}

/** The broad strokes of which a proposal is made. */
const STROKES: readonly Stroke[] = [
  { shape: 'lowShelf', frequencyHz: 90, q: 0.71, prototype: lowShelfPrototype },
  { shape: 'bell', frequencyHz: 220, q: 0.8, prototype: bellPrototype },
  { shape: 'bell', frequencyHz: 600, q: 0.8, prototype: bellPrototype },
  { shape: 'bell', frequencyHz: 1600, q: 0.8, prototype: bellPrototype },
  { shape: 'bell', frequencyHz: 4200, q: 0.8, prototype: bellPrototype },
  { shape: 'highShelf', frequencyHz: 9500, q: 0.71, prototype: highShelfPrototype },
];

/** A difference by third-octaves as it can be equalized: broad, between its limits, and around its own mean. */
function smoothed(difference: readonly (number | null)[]): { hz: number; db: number }[] {
  const points = THIRD_OCTAVES_HZ.flatMap((hz, i) => {
    if (hz < FROM_HZ || hz > TO_HZ) return [];
    const near = difference.slice(Math.max(0, i - SPREAD), i + SPREAD + 1).filter((db) => db !== null);
    return near.length > 0 ? [{ hz, db: near.reduce((sum, db) => sum + db, 0) / near.length }] : [];
  });
  const mean = points.reduce((sum, { db }) => sum + db, 0) / Math.max(1, points.length);
  return points.map(({ hz, db }) => ({ hz, db: db - mean }));
}

/** Solves a small set of linear equations by elimination with the largest pivot. */
function solve(matrix: number[][], values: number[]): number[] {
  const rows = matrix.map((row, i) => [...row, values[i]]);
  for (let column = 0; column < rows.length; column++) {
    const best = rows.reduce(
      (most, row, i) => (i >= column && Math.abs(row[column]) > Math.abs(rows[most][column]) ? i : most),
      column,
    );
    [rows[column], rows[best]] = [rows[best], rows[column]];
    for (let i = column + 1; i < rows.length; i++) {
      const factor = rows[i][column] / rows[column][column];
      for (let k = column; k <= rows.length; k++) rows[i][k] -= factor * rows[column][k];
    }
  }
  const solution = new Array<number>(rows.length).fill(0);
  for (let i = rows.length - 1; i >= 0; i--) {
    const known = solution.reduce((sum, x, k) => (k > i ? sum + rows[i][k] * x : sum), 0);
    solution[i] = (rows[i][rows.length] - known) / rows[i][i];
  }
  return solution;
}

/** A broad stroke of an equalizer, with what it answers to. */
export interface FittedStroke {
  band: EqualizerBand;
  /** dB that are missing where it works, on average; below 0 for too much. */
  lacksDb: number;
}

/** How closely strokes follow a difference. */
export interface Fit {
  /** What is off by less than this in dB is left as it is. */
  toleranceDb: number;
  /** Share of the rest that is made up for. */
  share: number;
}

/**
 * Equalizer bands that take a difference away: broad strokes fitted by least squares to its smoothed form, none of more than
 * 3 dB; those that would hardly be heard are left out. `difference` is what is there above what is wanted in dB, by
 * third-octaves at equal loudness. Empty where they are alike.
 */
export function fittedStrokes(
  difference: readonly (number | null)[],
  { toleranceDb, share }: Fit = { toleranceDb: 0, share: 1 },
): FittedStroke[] {
  const lacking = smoothed(difference).map(({ hz, db }) => ({ hz, db: -db }));
  if (lacking.length === 0) return [];
  const wanted = lacking.map(({ db }) => Math.sign(db) * share * Math.max(0, Math.abs(db) - toleranceDb));
  // What one dB of each stroke does at each frequency; within a few dB the strokes add up.
  const responses = STROKES.map(({ frequencyHz, q, prototype }) =>
    lacking.map(({ hz }) => decibels(prototypeMagnitude(prototype(1, q), hz / frequencyHz))),
  );
  const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, x, i) => sum + x * b[i], 0);
  const matrix = responses.map((a, i) => responses.map((b, k) => dot(a, b) + (i === k ? RIDGE * lacking.length : 0)));
  const gains = solve(
    matrix,
    responses.map((response) => dot(response, wanted)),
  );
  return STROKES.flatMap(({ shape, frequencyHz, q }, i) => {
    const gainDb = Math.round(10 * Math.max(-MOST_DB, Math.min(MOST_DB, gains[i]))) / 10;
    if (Math.abs(gainDb) < LEAST_DB) return [];
    // What the stroke covers lacks so much, on average.
    const weight = responses[i].reduce((sum, x) => sum + x, 0);
    const lacksDb = lacking.reduce((sum, { db }, k) => sum + responses[i][k] * db, 0) / weight;
    return [{ band: equalizerBand.parse({ shape, frequencyHz, q, gainDb }), lacksDb }];
  });
}

/** What bands that strokes were fitted with do together, in dB by third-octaves. */
export function responseDb(bands: readonly EqualizerBand[]): number[] {
  return THIRD_OCTAVES_HZ.map((hz) =>
    bands.reduce((sum, { frequencyHz, gainDb, q }) => {
      const stroke = STROKES.find((each) => each.frequencyHz === frequencyHz);
      return stroke ? sum + decibels(prototypeMagnitude(stroke.prototype(gainDb, q), hz / frequencyHz)) : sum;
    }, 0),
  );
}

const REGION: Partial<Record<EqualizerBand['shape'], string>> = { lowShelf: 'Below', highShelf: 'Above' };

/** “Below 90 Hz” */
export function regionOf({ shape, frequencyHz }: Pick<EqualizerBand, 'shape' | 'frequencyHz'>): string {
  const where = frequencyHz >= 1000 ? `${frequencyHz / 1000} kHz` : `${frequencyHz} Hz`;
  return `${REGION[shape] ?? 'Around'} ${where}`;
}
