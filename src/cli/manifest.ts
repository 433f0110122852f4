import { z } from 'zod';
import { parseEan, parseIsrc } from '../core/deliver/identifiers';
import { destinationSchema, type Destination } from '../core/deliver/destination';
import { READY_MADE, readyMade } from '../core/deliver/ready-made';
import { type NamePart, patternProblem, STANDARD_PATTERN } from '../core/deliver/file-name';

const MOST_TRACKS = 500;
const MOST_DESTINATIONS = 50;
const LONGEST_TEXT = 400;

const text = z.string().trim().max(LONGEST_TEXT);
const file = z.string().min(1).max(4096);
/** An identifier that may be left out, in its stored form. */
const identifier = (parse: (text: string) => string | null, message: string) =>
  text.default('').transform((given, context) => {
    const stored = given === '' ? '' : parse(given);
    if (stored === null) context.addIssue({ code: 'custom', message });
    return stored ?? z.NEVER;
  });

const track = z.strictObject({
  /** The mix, from the manifest's folder. */
  file,
  /** A lane file; left out: an empty lane. */
  lane: file.optional(),
  title: text.min(1, 'Give the track a title.'),
  artist: text.default(''),
  isrc: identifier(parseIsrc, 'An ISRC has 12 characters, such as AA-6Q7-20-00047.'),
  composer: text.default(''),
  copyright: text.default(''),
  /** Changes of level in dB at delivery, by the name of the destination. */
  levels: z.record(z.string(), z.number().min(-40).max(20)).default({}),
});

/** What is to be rendered from files: tracks, each for every destination. */
export const manifestSchema = z.strictObject({
  schema: z.literal(1).default(1),
  /** Where the files go, from the manifest's folder. */
  folder: file.default('masters'),
  release: z
    .strictObject({
      title: text.default(''),
      artist: text.default(''),
      ean: identifier(parseEan, 'An EAN has 13 digits, the last of which checks the others.'),
      year: z.number().int().min(1000).max(9999).nullable().default(null),
      copyright: text.default(''),
      /** A cover picture, from the manifest's folder. */
      cover: file.optional(),
    })
    .prefault({}),
  by: z.strictObject({ studio: text.default(''), engineer: text.default('') }).prefault({}),
  /** How files are named, of the parts that the settings list. */
  pattern: z
    .string()
    .max(200)
    .default(STANDARD_PATTERN)
    .superRefine((pattern, context) => {
      const problem = patternProblem(pattern);
      if (problem) context.addIssue({ code: 'custom', message: problem });
    }),
  /** Impulse responses that lanes name, as files. */
  impulses: z.record(z.string(), file).default({}),
  tracks: z.array(track).min(1, 'The manifest has no track.').max(MOST_TRACKS),
  /** Ready-made ones by name, or all of their values. */
  destinations: z
    .array(z.union([z.string(), destinationSchema]))
    .min(1, 'The manifest has no destination.')
    .max(MOST_DESTINATIONS),
});
export type Manifest = z.infer<typeof manifestSchema>;

/** The destinations that a manifest means. Throws an Error with a sentence for a name that is not known. */
export function destinationsOf({ destinations }: Manifest): Destination[] {
  return destinations.map((each) => {
    if (typeof each !== 'string') return each;
    const known = readyMade(each);
    if (known) return known;
    const names = READY_MADE.map(({ name }) => name).join(', ');
    throw new Error(`There is no ready-made destination ${each}. There are ${names}; or give its values.`);
  });
}

/** What a file is named after. */
export function namePartsOf(
  { release }: Manifest,
  { title, artist, isrc }: Manifest['tracks'][number],
  index: number,
  destination: Destination,
): Record<NamePart, string> {
  return {
    artist: artist || release.artist,
    release: release.title,
    position: String(index + 1).padStart(2, '0'),
    ...{ title, destination: destination.name, version: '', isrc, ean: release.ean },
    year: release.year === null ? '' : String(release.year),
  };
}
