import { z } from 'zod';
import { choice, describe, quantity } from '../setting';

export const MAX_CROSSOVERS = 4;
export const MAX_BAND_COUNT = MAX_CROSSOVERS + 1;
/** Crossovers are at least this far apart, as a ratio of frequencies: a third of an octave. */
export const CLOSEST = 2 ** (1 / 3);

const crossoverFrequency = quantity({
  title: 'Crossover',
  unit: 'Hz',
  min: 40,
  max: 16000,
  step: 1,
  default: 1000,
  scale: 'logarithmic',
  help: 'Where one band ends and the next begins: both are 6 dB down here, at 24 dB/octave, and their sum is flat. Every stage that works by bands uses the same crossovers, so “the low band” means one thing.',
});

export const crossoversSchema = z
  .strictObject({
    frequenciesHz: z
      .array(crossoverFrequency)
      .min(1, 'There must be at least one crossover.')
      .max(MAX_CROSSOVERS, `There are at most ${MAX_CROSSOVERS} crossovers.`)
      .default([160, 2500]),
    phase: choice({
      title: 'Crossover phase',
      help: 'For all stages that work by bands. Minimum suits nearly everything: the bands shift together and sum flat. Linear shifts nothing: good for a mix with sharp low hits; costs latency in each of these stages and a faint ring before hits.',
      options: [
        { value: 'minimum', title: 'Minimum' },
        { value: 'linear', title: 'Linear' },
      ],
      default: 'minimum',
    }),
  })
  .refine(
    ({ frequenciesHz }) => frequenciesHz.every((hz, i) => i === 0 || hz >= frequenciesHz[i - 1] * CLOSEST * 0.999),
    'Crossovers must rise and be at least a third of an octave apart.',
  );

/** The frequencies at which a lane is split into bands, for every stage that works by bands. */
export type Crossovers = z.infer<typeof crossoversSchema>;

export const DEFAULT_CROSSOVERS: Crossovers = crossoversSchema.parse({});

/** The crossovers with one moved as far as its neighbours and the range allow. */
export function withCrossoverAt(crossovers: Crossovers, index: number, frequencyHz: number): Crossovers {
  const { frequenciesHz } = crossovers;
  const { min, max } = describe(crossoverFrequency);
  const least = index > 0 ? Math.ceil(frequenciesHz[index - 1] * CLOSEST) : min;
  const most = index < frequenciesHz.length - 1 ? Math.floor(frequenciesHz[index + 1] / CLOSEST) : max;
  const held = Math.round(Math.max(least, Math.min(most, frequencyHz)));
  return { ...crossovers, frequenciesHz: frequenciesHz.map((hz, i) => (i === index ? held : hz)) };
}

/** Edges of a band in Hz; 0 and infinity at the ends. */
export function bandEdges({ frequenciesHz }: Crossovers, band: number): [from: number, to: number] {
  return [frequenciesHz[band - 1] ?? 0, frequenciesHz[band] ?? Infinity];
}
