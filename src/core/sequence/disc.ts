import { clock } from '../measure/figure';
import type { Requirement } from '../deliver/requirement';
import { DISC_FRAMES, type PlacedTrack } from './joint';

const RATE = 44100;
const BITS = 16;
export const MOST_TRACKS = 99;
const SHORTEST_SECONDS = 4;
/** About 79 min 57 s: what the last address of the time code leaves. */
const LONGEST_SECONDS = 79 * 60 + 57;
const SOURCE = 'IEC 60908';

/** A release as one continuous image. */
export interface ImageProgramme {
  /** Hz */
  sampleRate: number;
  /** Word length, 32 for float. */
  bits: number;
  tracks: readonly (PlacedTrack & { title: string; isrc: string })[];
  /** EAN as it is stored; empty for none. */
  ean: string;
}

/** Length in disc frames, the last one filled up. */
export function discFramesOf({
  tracks,
  sampleRate,
}: {
  tracks: readonly Pick<PlacedTrack, 'end'>[];
  /** Hz */
  sampleRate: number;
}): number {
  const frames = tracks.reduce((most, { end }) => Math.max(most, end), 0);
  // An end that was rounded to whole samples lies on its disc frame.
  return Math.ceil(((frames - 0.5) * DISC_FRAMES) / sampleRate);
}

/** The rules of Compact Disc Digital Audio that an image can be held against. */
export function discRequirements(image: ImageProgramme): Requirement[] {
  const { sampleRate, bits, tracks, ean } = image;
  const requirement = (
    title: string,
    meets: boolean,
    [measured, asked, miss]: readonly [string, string, string],
    reason: string,
    advice = false,
  ): Requirement => ({
    ...{ title, standing: meets ? 'meets' : 'misses', advice, measured, asked, miss: meets ? '' : miss },
    ...{ reason, source: SOURCE },
  });
  const seconds = discFramesOf(image) / DISC_FRAMES;
  const lengths = tracks.map(({ index1 }, i) => (tracks.at(i + 1)?.index1 ?? discFramesOf(image)) - index1);
  const short = tracks.filter((_, i) => lengths[i] < SHORTEST_SECONDS * DISC_FRAMES);
  const without = tracks.filter(({ isrc }) => isrc === '');
  const named = (some: typeof tracks) => some.map(({ title }) => `“${title}”`).join(', ');
  return [
    requirement(
      'Samples',
      sampleRate === RATE && bits === BITS,
      [`${sampleRate / 1000} kHz, ${bits} bits`, '44.1 kHz, 16 bits', 'can’t be put on a disc'],
      'A disc has no other samples.',
    ),
    requirement(
      'Tracks',
      tracks.length <= MOST_TRACKS,
      [String(tracks.length), `≤ ${MOST_TRACKS}`, `${tracks.length - MOST_TRACKS} too many`],
      'Track numbers have two digits.',
    ),
    requirement(
      'Shortest track',
      short.length === 0,
      [`${(Math.min(...lengths) / DISC_FRAMES).toFixed(2)} s`, `≥ ${SHORTEST_SECONDS} s`, `too short: ${named(short)}`],
      'Players need four seconds to find the start of a track.',
    ),
    requirement(
      'Whole disc',
      seconds <= LONGEST_SECONDS,
      [clock(seconds, 2), `≤ ${clock(LONGEST_SECONDS)}`, `${clock(seconds - LONGEST_SECONDS, 2)} too long`],
      'The time code of a disc ends there. Many plants ask for less than 74 minutes.',
    ),
    requirement(
      'ISRC',
      without.length === 0,
      [`${tracks.length - without.length} of ${tracks.length}`, 'every track', `missing: ${named(without)}`],
      'Who plays a track pays its owners by this code. It stands beside the audio of each track.',
      true,
    ),
    requirement(
      'EAN',
      ean !== '',
      [ean || 'none', '13 digits', 'none'],
      'The catalogue number of the disc, which shops and databases know it by.',
      true,
    ),
  ];
}
