import { z } from 'zod';
import { encodeSchema } from '../core/deliver/encode';
import { figurePairSchema, figureSchema, louder } from '../core/measure/intake-report';

/** What the master and an encode of it measure, side by side. */
export const programmeFiguresSchema = z.object({
  integratedLufs: figureSchema,
  samplePeaksDbfs: figurePairSchema,
  truePeaksDbtp: figurePairSchema,
  /** Frames whose true peak is over full scale, and the times of some of them in seconds. */
  overs: z.number(),
  overSeconds: z.array(z.number()),
});
export type ProgrammeFiguresTold = z.infer<typeof programmeFiguresSchema>;

/** The change that keeps an encode within a limit, found by encoding again. */
const clearingSchema = z.object({
  /** dBTP that the encode may have at most. */
  limitDbtp: z.number(),
  /** The limiter whose ceiling is lowered; null: the level of the whole is. */
  stage: z.string().nullable(),
  /** Ceiling in dBTP, or change of level in dB. */
  value: z.number(),
  /** dBTP of the encode that was made with it. */
  truePeakDbtp: z.number(),
});

export const encodeResultSchema = z.object({
  source: programmeFiguresSchema,
  encode: programmeFiguresSchema,
  /** Frames of the mix, and its sample rate in Hz. */
  frames: z.number(),
  sampleRate: z.number(),
  /** Frames that the encode is late by, at its own rate; what is played of it is moved back by them. */
  delayFrames: z.number(),
  /** dBTP that it was held to, and encodes that were tried to stay within; null in checks of an older form. */
  limitDbtp: z.number().nullable().default(null),
  tries: z.number().int().default(0),
  /** Null: it is within the limit, or nothing was found that keeps it there. */
  clearing: clearingSchema.nullable(),
});
export type EncodeResult = z.infer<typeof encodeResultSchema>;

/** What is known of a master in an encode: its true peak in dBTP, null for silence. */
export const checkedEncodeSchema = encodeSchema.extend({ truePeakDbtp: figureSchema });
export type CheckedEncode = z.infer<typeof checkedEncodeSchema>;

/** What finished checks say of their encodes. */
export function checkedEncodes(
  checks: readonly (Pick<CheckedEncode, 'codec' | 'kbps'> & { result: EncodeResult | null })[],
): CheckedEncode[] {
  return checks.flatMap(({ codec, kbps, result }) =>
    result ? [{ codec, kbps, truePeakDbtp: louder(result.encode.truePeaksDbtp) }] : [],
  );
}

/** Asks for a check of the whole master in an encode. */
export const newEncodeCheckSchema = encodeSchema.extend({
  /** What its true peak must stay within, dBTP. */
  limitDbtp: z.number().min(-12).max(3).default(0),
});
export type NewEncodeCheck = z.infer<typeof newEncodeCheckSchema>;

/** A check of the whole master in an encode. */
export const encodeCheckSchema = encodeSchema.extend({
  id: z.string(),
  status: z.enum(['waiting', 'encoding', 'finished', 'failed']),
  progress: z.number(),
  problem: z.string().nullable(),
  result: encodeResultSchema.nullable(),
});
export type EncodeCheck = z.infer<typeof encodeCheckSchema>;
export const encodeChecksSchema = z.array(encodeCheckSchema);

/** Encodes of a passage that are made at once, at most. */
export const MOST_PASSAGE_ENCODES = 6;

/** Asks for encodes of the loudest passage. */
export const newPassageEncodesSchema = z.strictObject({
  encodes: z
    .array(encodeSchema)
    .min(1, 'Choose an encode.')
    .max(MOST_PASSAGE_ENCODES, `At most ${MOST_PASSAGE_ENCODES} encodes are made at once.`),
});
export type NewPassageEncodes = z.infer<typeof newPassageEncodesSchema>;

/** What the loudest passage of the master measures, and encodes of it. */
export const passageEncodesSchema = z.object({
  /** Number of the version's step that was encoded. */
  step: z.number(),
  source: programmeFiguresSchema,
  encodes: z.array(encodeSchema.extend({ figures: programmeFiguresSchema })),
});
export type PassageEncodes = z.infer<typeof passageEncodesSchema>;
