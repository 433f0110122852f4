import { z } from 'zod';
import { DITHERS } from './dither';
import { CODECS, ENCODE_RATES, encodeSampleRate } from './encode';
import { patternProblem } from './file-name';
import { FORMATS, FORMAT_TRAITS, WORD_LENGTHS, type WordLength } from './format';
import { TAG_NAMES } from './tags';

/** Version of a destination's saved form. */
const DESTINATION_SCHEMA = 3;

/** Why a requirement is there, and who asks for it. Without a source it is that of the whole destination. */
const grounds = {
  reason: z.string().trim().max(300, 'A reason can have up to 300 characters.').default(''),
  source: z.string().trim().max(200, 'A source can have up to 200 characters.').default(''),
};

/** A number between two, with the sentence for one outside. */
function between(min: number, max: number, unit: string) {
  const message = `Enter a number from ${min} to ${max} ${unit}.`.replaceAll('-', '\u2212');
  return z.number(message).min(min, message).max(max, message);
}

const lufs = between(-60, 0, 'LUFS');
const seconds = between(0, 36_000, 's');
const hertz = between(44_100, 192_000, 'Hz').int('A sample rate is a whole number of Hz.');
const span = z
  .strictObject({ minSeconds: seconds, maxSeconds: seconds })
  .refine(({ minSeconds, maxSeconds }) => minSeconds <= maxSeconds, 'The shortest is longer than the longest.');

const currentSchema = z
  .strictObject({
    schema: z.literal(DESTINATION_SCHEMA).default(DESTINATION_SCHEMA),
    name: z.string().trim().min(1, 'Give the destination a name.').max(80, 'The name can have up to 80 characters.'),
    /** Where its figures come from. */
    source: z.string().trim().max(200, 'The source can have up to 200 characters.'),
    loudness: z
      .discriminatedUnion('rule', [
        z.strictObject({ rule: z.literal('target'), lufs, toleranceLu: between(0, 5, 'LU'), ...grounds }),
        z.strictObject({ rule: z.literal('maximum'), lufs, ...grounds }),
      ])
      .nullable(),
    momentary: z.strictObject({ maxLufs: lufs, ...grounds }).nullable(),
    shortTerm: z.strictObject({ maxLufs: lufs, ...grounds }).nullable(),
    range: z.strictObject({ maxLu: between(0, 60, 'LU'), ...grounds }).nullable(),
    plr: z.strictObject({ minLu: between(0, 40, 'LU'), ...grounds }).nullable(),
    truePeak: z.strictObject({ maxDbtp: between(-12, 0, 'dBTP'), ...grounds }),
    /** Encodes in which the true peak must stay within a limit, too. */
    encodes: z
      .array(
        z.strictObject({
          ...{ codec: z.enum(CODECS), kbps: z.literal(ENCODE_RATES), maxDbtp: between(-12, 3, 'dBTP') },
          ...grounds,
        }),
      )
      .max(4, 'A destination can ask for up to four encodes.'),
    /** `mix`: the mix's own; `minimum`: the same, and the mix must have at least this. */
    sampleRate: z.discriminatedUnion('rule', [
      z.strictObject({ rule: z.literal('mix'), ...grounds }),
      z.strictObject({ rule: z.literal('fixed'), hertz, upsampling: z.boolean(), ...grounds }),
      z.strictObject({ rule: z.literal('minimum'), hertz, ...grounds }),
    ]),
    wordLength: z.strictObject({
      bits: z.literal(WORD_LENGTHS),
      /** What is added before the word length is reduced. */
      dither: z.enum(DITHERS),
      /** Writes zeros where the master is silent. */
      digitalSilence: z.boolean(),
      /** Takes only mixes whose word length was not reduced before. */
      reducedOnce: z.boolean(),
      ...grounds,
    }),
    /** Format of the file; encodes have a rate. */
    format: z
      .strictObject({ name: z.enum(FORMATS), kbps: z.literal(ENCODE_RATES).nullable(), ...grounds })
      .refine(({ name, kbps }) => FORMAT_TRAITS[name].lossless === (kbps === null), 'MP3 and AAC have a rate in kb/s.'),
    silence: z.strictObject({ head: span, tail: span, ...grounds }).nullable(),
    duration: span.safeExtend(grounds).nullable(),
    /** Null: that of the account. */
    fileNamePattern: z
      .string()
      .trim()
      .max(200, 'The pattern can have up to 200 characters.')
      .superRefine((pattern, context) => {
        const problem = patternProblem(pattern);
        if (problem) context.addIssue({ code: 'custom', message: problem });
      })
      .nullable(),
    /** Tags that may not be empty. */
    tags: z.strictObject({ required: z.array(z.enum(TAG_NAMES)).max(TAG_NAMES.length), ...grounds }).nullable(),
    /** Puts a checksum file beside the file. */
    checksum: z.boolean(),
    /** Tells what matters when a lacquer is cut, as advice. */
    cutting: z.strictObject(grounds).nullable(),
  })
  .refine(
    ({ format, sampleRate }) =>
      FORMAT_TRAITS[format.name].lossless || sampleRate.rule !== 'fixed' || sampleRate.hertz <= 48000,
    { path: ['sampleRate'], message: 'MP3 and AAC go up to 48 kHz here. Choose 44.1 or 48 kHz.' },
  );

/** What the first forms had: TPDF always, then a dither of its own. */
const earlierSchema = z.object({
  schema: z.literal([1, 2]).default(1),
  name: z.string(),
  source: z.string().default(''),
  loudness: z.object({ targetLufs: z.number(), toleranceLu: z.number() }).nullable(),
  maxTruePeakDbtp: z.number(),
  depth: z.literal([16, 24]),
  sampleRate: z.number().nullable(),
  container: z.enum(['wav', 'flac']),
  dither: z.enum(DITHERS).default('TPDF'),
  digitalSilence: z.boolean().default(false),
});

function migrated(saved: unknown): unknown {
  const earlier = earlierSchema.safeParse(saved);
  if (!earlier.success) return saved;
  const { name, source, loudness, maxTruePeakDbtp, depth, sampleRate, container, dither, digitalSilence } =
    earlier.data;
  return {
    ...NOTHING_ASKED,
    ...{ name, source },
    loudness: loudness && { rule: 'target', lufs: loudness.targetLufs, toleranceLu: loudness.toleranceLu },
    truePeak: { maxDbtp: maxTruePeakDbtp },
    sampleRate: sampleRate === null ? { rule: 'mix' } : { rule: 'fixed', hertz: sampleRate, upsampling: true },
    wordLength: { bits: depth, dither, digitalSilence, reducedOnce: false },
    format: { name: container === 'wav' ? 'WAV' : 'FLAC', kbps: null },
  };
}

/** What a destination asks for that asks for nothing it can do without. */
export const NOTHING_ASKED = {
  schema: DESTINATION_SCHEMA as typeof DESTINATION_SCHEMA,
  ...{ loudness: null, momentary: null, shortTerm: null, range: null, plr: null },
  ...{ silence: null, duration: null, fileNamePattern: null, tags: null, cutting: null },
  encodes: [] as [],
  checksum: false,
};

/** What a file must be. Missing limits are not asked for. Older forms are brought up to date. */
export const destinationSchema = z.preprocess(migrated, currentSchema);

export type Destination = z.infer<typeof currentSchema>;
/** A destination as it is written down: grounds may be left out. */
export type DestinationInput = z.input<typeof currentSchema>;

/** The rate in Hz of what is delivered of a mix with its own rate in Hz. */
export function deliveredRate({ sampleRate, format }: Destination, mixRate: number): number {
  if (sampleRate.rule === 'fixed') return sampleRate.hertz;
  return format.name === 'MP3' || format.name === 'AAC' ? encodeSampleRate(format.name, mixRate) : mixRate;
}

/** Word length in bits that a master is reduced to; null for an encode, which is made from floats. */
export function deliveredWordLength({ format, wordLength }: Destination): WordLength | null {
  return FORMAT_TRAITS[format.name].lossless ? wordLength.bits : null;
}
