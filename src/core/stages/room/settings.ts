import { z } from 'zod';
import { choice, quantity } from '../setting';

/** Longest impulse response that can be uploaded, in seconds. */
export const LONGEST_IMPULSE_SECONDS = 10;
/** The wet sound is off at this level in dB. */
export const WET_OFF_DB = -60;

export const roomSettings = z
  .strictObject({
    impulse: choice({
      title: 'Room',
      help: 'Which room answers: one of two that are built in, or an impulse response of your own.',
      options: [
        { value: 'studio', title: 'Studio, 0.4 s' },
        { value: 'hall', title: 'Hall, 1.8 s' },
        { value: 'file', title: 'Uploaded' },
      ],
      default: 'studio',
    }),
    /** Name of the uploaded impulse response, for `file`. */
    file: z.string().min(1).max(64).nullable().default(null),
    wetDb: quantity({
      title: 'Wet',
      unit: 'dB',
      min: WET_OFF_DB,
      max: 0,
      step: 0.5,
      default: WET_OFF_DB,
      help: 'Level of the room next to the dry sound; −60 dB is off. −30 to −24 dB is felt rather than heard; more than −18 dB is rarely right on a master.',
    }),
    preDelayMs: quantity({
      title: 'Pre-delay',
      unit: 'ms',
      min: 0,
      max: 200,
      step: 1,
      default: 10,
      help: 'Time before the room answers. Longer keeps the voice in front of it; beyond 50 ms it turns into an echo.',
    }),
    highPassHz: quantity({
      title: 'High-pass',
      unit: 'Hz',
      min: 20,
      max: 2000,
      step: 1,
      default: 150,
      scale: 'logarithmic',
      help: 'Keeps bass out of the room, at 12 dB/octave: bass with reverb is mud.',
    }),
    lowPassHz: quantity({
      title: 'Low-pass',
      unit: 'Hz',
      min: 1000,
      max: 20000,
      step: 10,
      default: 9000,
      scale: 'logarithmic',
      help: 'Keeps hiss and sibilants out of the room, at 12 dB/octave. Darker rooms stay in the background.',
    }),
  })
  .refine(({ impulse, file }) => impulse !== 'file' || file !== null, 'Choose the uploaded impulse response.');

/** A touch of room around the music. */
export type RoomSettings = z.infer<typeof roomSettings>;
