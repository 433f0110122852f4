import { z } from 'zod';
import { remembered } from '../../kit/remembered';

export const LAYERS = ['before', 'after', 'difference', 'held', 'average'] as const;
export type Layer = (typeof LAYERS)[number];

export const RESOLUTIONS = ['fine', 'medium', 'coarse'] as const;
export type Resolution = (typeof RESOLUTIONS)[number];

/** dB per octave that are added towards the highs, so that music looks level. */
export const TILTS = [0, 3, 4.5] as const;

const spectrumChoice = z.object({
  layers: z.array(z.enum(LAYERS)).catch(['before', 'after', 'average']),
  resolution: z.enum(RESOLUTIONS).catch('medium'),
  tiltDb: z.literal([...TILTS]).catch(3),
  /** A reference of the shelf whose balance is drawn as well. */
  referenceId: z.string().max(64).nullable().catch(null),
});

/** What of the spectrum is drawn behind the curve, remembered by the browser. */
export const useSpectrumChoice = remembered('spectrum', spectrumChoice);
