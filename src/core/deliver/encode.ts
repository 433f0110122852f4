import { z } from 'zod';

/** Lossy codecs that listeners get. */
export const CODECS = ['AAC', 'MP3', 'Opus', 'Vorbis'] as const;
export type Codec = (typeof CODECS)[number];

/** Rates in kb/s that every one of them has for stereo. */
export const ENCODE_RATES = [96, 128, 160, 192, 256, 320] as const;

/** A lossy encode: codec and rate in kb/s. */
export const encodeSchema = z.strictObject({ codec: z.enum(CODECS), kbps: z.literal(ENCODE_RATES) });
export type Encode = z.infer<typeof encodeSchema>;

/**
 * The name of an encode.
 *
 * @example
 * encodeName({ codec: 'AAC', kbps: 256 }) // 'AAC 256 kb/s'
 */
export function encodeName({ codec, kbps }: Encode): string {
  return `${codec} ${kbps} kb/s`;
}

export function sameEncode(one: Encode, other: Encode): boolean {
  return one.codec === other.codec && one.kbps === other.kbps;
}

/** Each encode once, in the order of its first mention. */
export function distinctEncodes(encodes: readonly Encode[]): Encode[] {
  return encodes
    .filter((each, i) => encodes.findIndex((other) => sameEncode(each, other)) === i)
    .map(({ codec, kbps }) => ({ codec, kbps }));
}

/**
 * The rate in Hz at which an encoder gets a signal: Opus has 48 kHz, the others their sound's own rate up to 48 kHz, and
 * above that the one that divides it.
 *
 * @example
 * encodeSampleRate('MP3', 88200) // 44100
 */
export function encodeSampleRate(codec: Codec, sampleRate: number): number {
  if (codec === 'Opus') return 48000;
  if (sampleRate <= 48000) return sampleRate;
  return sampleRate % 44100 === 0 ? 44100 : 48000;
}
