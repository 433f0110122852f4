import { z } from 'zod';
import { loudnessCounts, loudnessCountsSchema } from '../sequence/album-loudness';
import type { BalanceBand } from './balance';
import { figureOrNull, figureSchema } from './intake-report';

/** Columns of an outline. */
export const OUTLINE_COLUMNS = 200;
/** Points of the loudness curve, at most. */
const CURVE_POINTS = 200;

/** Lowest and highest sample of each column, alternating, rounded for drawing. */
const outlineSchema = z.array(z.number()).length(OUTLINE_COLUMNS * 2);

/** What is known of a master without its file: figures and outlines for a list. */
export const masterSummarySchema = z.object({
  /** LUFS; null when nothing passes the gates. */
  integratedLufs: figureSchema,
  maxShortTermLufs: figureSchema,
  /** Summaries of earlier releases don’t have it. */
  maxMomentaryLufs: figureSchema.optional(),
  rangeLu: figureSchema,
  /** dBTP and dBFS of the louder channel; null for silence. */
  truePeakDbtp: figureSchema,
  samplePeakDbfs: figureSchema,
  plrLu: figureSchema,
  outlines: z.object({ mix: outlineSchema, master: outlineSchema }),
  /** How many gating blocks had which loudness: what the loudness of the whole release is made from. */
  blocks: loudnessCountsSchema,
  /** Short-term loudness over the mix's length in LUFS, evenly spaced; null where nothing is heard. */
  curve: z.array(figureSchema).max(CURVE_POINTS),
  /** Level in dBFS and side against mid in dB, by third-octaves, of the loudest passage; null where none is known. */
  balance: z
    .array(z.object({ levelDbfs: figureSchema, sideDb: figureSchema }))
    .max(64)
    .nullable(),
});
export type MasterSummary = z.infer<typeof masterSummarySchema>;

/** Figures of a master and the pictures of mix and master. Levels may be infinite. */
interface MeasuredMaster {
  mix: { picture: Float32Array };
  master: Record<Figures, number> & { picture: Float32Array; momentary: Float32Array; shortTerm: Float32Array };
  passageBalance: readonly BalanceBand[] | null;
}
type Figures = Exclude<keyof MasterSummary, 'outlines' | 'blocks' | 'curve' | 'balance'>;

const shown = (value: number) => (Number.isFinite(value) ? Math.round(value * 10) / 10 : null);

/** The loudest of each stretch of a series, so that no peak is lost. */
function curveOf(shortTerm: Float32Array): (number | null)[] {
  const points = Math.min(CURVE_POINTS, shortTerm.length);
  return Array.from({ length: points }, (_, i) => {
    const from = Math.floor((i * shortTerm.length) / points);
    const to = Math.floor(((i + 1) * shortTerm.length) / points);
    return shown(shortTerm.subarray(from, to).reduce((a, b) => Math.max(a, b), -Infinity));
  });
}

export function masterSummary({ mix, master, passageBalance }: MeasuredMaster): MasterSummary {
  return {
    integratedLufs: figureOrNull(master.integratedLufs),
    maxShortTermLufs: figureOrNull(master.maxShortTermLufs),
    maxMomentaryLufs: figureOrNull(master.maxMomentaryLufs),
    rangeLu: figureOrNull(master.rangeLu),
    truePeakDbtp: figureOrNull(master.truePeakDbtp),
    samplePeakDbfs: figureOrNull(master.samplePeakDbfs),
    plrLu: figureOrNull(master.plrLu),
    outlines: { mix: outlineOf(mix.picture), master: outlineOf(master.picture) },
    blocks: loudnessCounts(master.momentary),
    curve: curveOf(master.shortTerm),
    balance:
      passageBalance?.map(({ levelDbfs, sideDb }) => ({ levelDbfs: shown(levelDbfs), sideDb: shown(sideDb) })) ?? null,
  };
}

/**
 * The outline of a picture, which has the lowest and the highest sample for each of its columns, alternating.
 * @example
 * outlineOf(Float32Array.of(-0.5, 0.25)).length // 400
 */
export function outlineOf(picture: Float32Array): number[] {
  const columns = picture.length / 2;
  const outline: number[] = [];
  for (let column = 0; column < OUTLINE_COLUMNS; column++) {
    const from = Math.floor((column * columns) / OUTLINE_COLUMNS);
    const to = Math.min(columns, Math.max(from + 1, Math.floor(((column + 1) * columns) / OUTLINE_COLUMNS)));
    let [low, high] = from < to ? [Infinity, -Infinity] : [0, 0];
    for (let at = from; at < to; at++) {
      low = Math.min(low, picture[at * 2]);
      high = Math.max(high, picture[at * 2 + 1]);
    }
    outline.push(Math.round(low * 1000) / 1000, Math.round(high * 1000) / 1000);
  }
  return outline;
}
