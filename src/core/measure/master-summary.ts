import { z } from 'zod';
import { figureOrNull, figureSchema } from './intake-report';

/** Columns of an outline. */
export const OUTLINE_COLUMNS = 200;

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
});
export type MasterSummary = z.infer<typeof masterSummarySchema>;

/** Figures of a master and the pictures of mix and master. Levels may be infinite. */
interface MeasuredMaster {
  mix: { picture: Float32Array };
  master: Record<Exclude<keyof MasterSummary, 'outlines'>, number> & { picture: Float32Array };
}

export function masterSummary({ mix, master }: MeasuredMaster): MasterSummary {
  return {
    integratedLufs: figureOrNull(master.integratedLufs),
    maxShortTermLufs: figureOrNull(master.maxShortTermLufs),
    maxMomentaryLufs: figureOrNull(master.maxMomentaryLufs),
    rangeLu: figureOrNull(master.rangeLu),
    truePeakDbtp: figureOrNull(master.truePeakDbtp),
    samplePeakDbfs: figureOrNull(master.samplePeakDbfs),
    plrLu: figureOrNull(master.plrLu),
    outlines: { mix: outlineOf(mix.picture), master: outlineOf(master.picture) },
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
