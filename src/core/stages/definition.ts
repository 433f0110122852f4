import { z } from 'zod';
import type { Kernels } from '../kernels/host';
import type { Crossovers } from './bands/crossovers';

/** What the interface and the documentation need to know of one numeric setting. */
export interface Quantity {
  title: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  default: number;
  /** Sliders of frequencies and times move in ratios, not in differences. */
  scale?: 'linear' | 'logarithmic';
  help: string;
}

/** Schema of a numeric setting that carries its own unit, range, step, default and help. */
export function quantity(description: Quantity): z.ZodDefault<z.ZodNumber> {
  const { min, max, title } = description;
  return z
    .number(`${title} must be a number.`)
    .min(min, `${title} must be at least ${min} ${description.unit}.`)
    .max(max, `${title} must be at most ${max} ${description.unit}.`)
    .default(description.default)
    .meta({ quantity: description });
}

/** The description given to {@link quantity}; throws when the schema was not made by it. */
export function describe(schema: z.ZodType): Quantity {
  const found = schema.meta()?.quantity as Quantity | undefined;
  if (!found) throw new Error('This setting carries no description.');
  return found;
}

/** What a lane runs for: stages may take less trouble while listening. */
export type Purpose = 'listening' | 'delivery';

/** Where and how a processor runs. */
export interface StageContext {
  purpose: Purpose;
  kernels: Kernels;
  /** Hz */
  sampleRate: number;
  /** Largest block in frames; every block is a multiple of the quantum. */
  maxFrames: number;
  /** The lane's crossovers, for the stages that work by bands. */
  crossovers: Crossovers;
  /** Impulse responses that were put in from outside, by their name in the settings. */
  responses: ReadonlyMap<string, ImpulseResponse>;
}

/** An impulse response at the sample rate of the programme; sides of equal length. */
export interface ImpulseResponse {
  left: Float32Array;
  right: Float32Array;
}

/** The sound of one stage. Memory is allocated in the constructor only. */
export interface StageProcessor<Settings> {
  /** Frames by which the output trails the input. */
  readonly latency: number;
  /**
   * Takes new settings, or new crossovers; what moves, ramps. Returns false when these need another processor (their
   * latency differs), in which case nothing has changed.
   */
  update(settings: Settings, crossovers: Crossovers): boolean;
  /** Processes a block in place; addresses of planar f64 buffers in the kernels' memory. */
  process(left: number, right: number, frames: number): void;
  /** Largest gain reduction in dB since the last call; 0 for a stage that never reduces. */
  takeGainReduction(): number;
  /** Share of the samples that were bent since the last call, 0 to 1, for a stage that clips. */
  takeTouched?(): number;
  /** Largest gain reduction in dB of each band between the last two calls of {@link takeGainReduction}. */
  bandReductions?(): number[];
  /** dB by which each band is moved now, for a stage with bands that move with the level. */
  movements?(): number[];
}

export interface StageDefinition<Settings> {
  title: string;
  /** One line: what the stage is for. */
  purpose: string;
  /** What it is good for, and what it costs. */
  help: string;
  schema: z.ZodType<Settings>;
  create(context: StageContext, settings: Settings): StageProcessor<Settings>;
}
