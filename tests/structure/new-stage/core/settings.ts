import { z } from 'zod';
import { toggle } from '../setting';

const invert = (channel: string) =>
  toggle({ title: `Invert ${channel}`, help: `Inverts the polarity of the ${channel} channel.`, default: false });

export const polaritySettings = z.strictObject({ left: invert('left'), right: invert('right') });

export type PolaritySettings = z.infer<typeof polaritySettings>;
