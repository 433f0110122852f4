import { z } from 'zod';
import { quantity, toggle } from '../setting';

const gain = (title: string, help: string) =>
  quantity({ title, unit: 'dB', min: -24, max: 24, step: 0.1, default: 0, help });

export const trimSettings = z.strictObject({
  linked: toggle({
    title: 'Link channels',
    help: 'One gain for left and right. Unlink them for a mix that leans to one side.',
    default: true,
  }),
  gainDb: gain(
    'Gain',
    'Sets the level into the rest of the lane. −6 dB is common before EQ boosts. Costs nothing: nothing clips between stages.',
  ),
  gainLeftDb: gain(
    'Left gain',
    'Level of the left channel. Good for a mix that leans to one side; costs the balance the mixer chose.',
  ),
  gainRightDb: gain(
    'Right gain',
    'Level of the right channel. Good for a mix that leans to one side; costs the balance the mixer chose.',
  ),
});

/** One gain in dB for both channels while linked, or one for each. */
export type TrimSettings = z.infer<typeof trimSettings>;
