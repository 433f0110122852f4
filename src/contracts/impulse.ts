import { z } from 'zod';

/** An uploaded impulse response; rooms name it by its identifier. */
export const impulseSummarySchema = z.object({ id: z.string(), name: z.string(), seconds: z.number() });
export type ImpulseSummary = z.infer<typeof impulseSummarySchema>;
