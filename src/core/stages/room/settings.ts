import { z } from 'zod';
import { quantity } from '../definition';

/** Impulse responses to choose from: two of our own synthesis, or one that was put in. */
export const RESPONSES = ['studio', 'hall', 'file'] as const;
/** Longest impulse response that can be put in, in seconds. */
export const LONGEST_RESPONSE_SECONDS = 10;
/** The wet sound is off at this level in dB. */
export const WET_OFF_DB = -60;

export const roomSettings = z
  .strictObject({
    response: z.enum(RESPONSES).default('studio'),
    /** Name of the response that was put in. */
    file: z.string().min(1).max(64).nullable().default(null),
    wetDb: quantity({
      title: 'Wet',
      unit: 'dB',
      min: WET_OFF_DB,
      max: 0,
      step: 0.5,
      default: WET_OFF_DB,
      help: 'Level of the room beside the untouched sound; −60 dB is off. −30 to −24 dB is felt rather than heard; more than −18 dB is rarely right on a master.',
    }),
    preDelayMs: quantity({
      title: 'Pre-delay',
      unit: 'ms',
      min: 0,
      max: 200,
      step: 1,
      default: 10,
      help: 'Time before the room answers. Longer keeps the voice in front of it; beyond 50 ms it is heard as an echo.',
    }),
    highPassHz: quantity({
      title: 'High-pass',
      unit: 'Hz',
      min: 20,
      max: 2000,
      step: 1,
      default: 150,
      scale: 'logarithmic',
      help: 'Keeps the bass out of the room, at 12 dB per octave: bass with room is mud.',
    }),
    lowPassHz: quantity({
      title: 'Low-pass',
      unit: 'Hz',
      min: 1000,
      max: 20000,
      step: 10,
      default: 9000,
      scale: 'logarithmic',
      help: 'Keeps hiss and sibilants out of the room, at 12 dB per octave. Darker rooms stay behind the music.',
    }),
  })
  .refine(({ response, file }) => response !== 'file' || file !== null, 'Choose the impulse response that was put in.');

/** A touch of a room around the programme. */
export type RoomSettings = z.infer<typeof roomSettings>;
