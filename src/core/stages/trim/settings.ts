import { z } from 'zod';
import { quantity } from '../definition';

const gain = (title: string, help: string) =>
  quantity({ title, unit: 'dB', min: -24, max: 24, step: 0.1, default: 0, help });

export const trimSettings = z.strictObject({
  gainDb: gain(
    'Gain',
    'Sets the level into the stages that follow. Good for giving later boosts room: −6 dB is common before a lane with boosts. Costs nothing: nothing clips between stages.',
  ),
  linked: z.boolean().default(true),
  gainLeftDb: gain(
    'Left gain',
    'Level of the left side alone. Good for a mix that leans to one side. Costs the balance the mixer chose.',
  ),
  gainRightDb: gain(
    'Right gain',
    'Level of the right side alone. Good for a mix that leans to one side. Costs the balance the mixer chose.',
  ),
});

/** Gain of both sides (dB) while linked, or of each side alone. */
export type TrimSettings = z.infer<typeof trimSettings>;
