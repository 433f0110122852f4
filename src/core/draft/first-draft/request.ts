import { z } from 'zod';

/** The steps of a first draft, in the order of the lane. */
export const DRAFT_STEPS = {
  level: 'Level into the lane',
  balance: 'Balance',
  monoBass: 'Mono bass',
  lowEnd: 'Moving low end',
  deEssing: 'De-essing',
  compression: 'Compression',
  saturation: 'Saturation',
  earlyLimiter: 'Early limiter',
  clipper: 'Clipper',
  limiter: 'Limiter',
  safety: 'Safety limiter',
} as const;
export type DraftStepId = keyof typeof DRAFT_STEPS;
export const DRAFT_STEP_IDS = Object.keys(DRAFT_STEPS) as [DraftStepId, ...DraftStepId[]];

/** Steps that can be weakened or strengthened; the others are there or not. */
export const SCALED_STEPS: ReadonlySet<DraftStepId> = new Set([
  ...(['balance', 'lowEnd', 'deEssing', 'compression', 'saturation', 'earlyLimiter', 'clipper'] as const),
]);

/** The named intensities, in percent. */
export const INTENSITIES = [
  { percent: 0, title: 'Light' },
  { percent: 50, title: 'Medium' },
  { percent: 100, title: 'Strong' },
] as const;

export const CHARACTERS = { clean: 'Clean', coloured: 'Coloured' } as const;
export type Character = keyof typeof CHARACTERS;

const choice = z.strictObject({
  on: z.boolean().default(true),
  strengthPercent: z.number().min(0).max(150).default(100),
});
export type StepChoice = z.infer<typeof choice>;

/** How a first draft is wanted. */
export const draftWishesSchema = z.strictObject({
  /** 0 … 100 */
  intensityPercent: z.number().min(0).max(100).default(50),
  character: z.enum(['clean', 'coloured']).default('clean'),
  /** What was decided of single steps; the others are taken as they are. */
  steps: z.partialRecord(z.enum(DRAFT_STEP_IDS), choice).default({}),
});
export type DraftWishes = z.infer<typeof draftWishesSchema>;

const AS_IT_IS: StepChoice = { on: true, strengthPercent: 100 };

/** What was decided of a step. */
export function choiceOf({ steps }: DraftWishes, id: DraftStepId): StepChoice {
  return (Object.hasOwn(steps, id) && steps[id]) || AS_IT_IS;
}

/** The most that a draft takes or adds, in dB, and the loudness range in LU that it leaves alone. */
export interface DraftLimits {
  lowEndDb: number;
  deEssingDb: number;
  compressionDb: number;
  saturationDb: number;
  earlyLimiterDb: number;
  clipperDb: number;
  limiterDb: number;
  rangeLu: number;
  /** LUFS where a destination names no loudness. */
  loudnessLufs: number;
}

/** At 0 and at 100 % of intensity (our own judgement, no source). */
const LIGHT: DraftLimits = {
  ...{ lowEndDb: 1.5, deEssingDb: 2, compressionDb: 1.5, saturationDb: 0 },
  ...{ earlyLimiterDb: 1, clipperDb: 0.5, limiterDb: 2, rangeLu: 16, loudnessLufs: -14 },
};
const STRONG: DraftLimits = {
  ...{ lowEndDb: 3, deEssingDb: 5, compressionDb: 4, saturationDb: 8 },
  ...{ earlyLimiterDb: 3, clipperDb: 3.5, limiterDb: 5, rangeLu: 9, loudnessLufs: -9 },
};

/** The limits at an intensity in percent. */
export function limitsAt(intensityPercent: number): DraftLimits {
  const share = intensityPercent / 100;
  const limits = { ...LIGHT };
  for (const name of Object.keys(LIGHT) as (keyof DraftLimits)[])
    limits[name] = LIGHT[name] + share * (STRONG[name] - LIGHT[name]);
  return limits;
}

/** “Medium”, or “35 %” between the named ones. */
export function intensityTitle(intensityPercent: number): string {
  return INTENSITIES.find(({ percent }) => percent === intensityPercent)?.title ?? `${Math.round(intensityPercent)} %`;
}
