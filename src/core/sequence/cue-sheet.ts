import { DISC_FRAMES, type PlacedTrack } from './joint';

/** What a cue sheet says of an image. */
export interface CueSheet {
  /** Name of the image file. */
  file: string;
  title: string;
  artist: string;
  /** EAN of 13 digits; empty for none. */
  ean: string;
  tracks: readonly (Pick<PlacedTrack, 'index0' | 'index1'> & { title: string; artist: string; isrc: string })[];
}

/** A text as it can stand in quotes: the format knows no escape. */
const quoted = (text: string) => `"${text.replace(/["\r\n]+/g, '’')}"`;

/**
 * Disc frames as minutes, seconds and frames.
 *
 * @example
 *   discTime(4500 + 75 + 1) // '01:01:01'
 */
export function discTime(discFrames: number): string {
  const two = (value: number) => String(Math.floor(value)).padStart(2, '0');
  const seconds = discFrames / DISC_FRAMES;
  return `${two(seconds / 60)}:${two(seconds % 60)}:${two(discFrames % DISC_FRAMES)}`;
}

/** The cue sheet of an image as text: where each track is in the one file, and what it is. */
export function cueSheet({ file, title, artist, ean, tracks }: CueSheet): string {
  const lines = [
    ...(ean ? [`CATALOG ${ean}`] : []),
    ...(artist ? [`PERFORMER ${quoted(artist)}`] : []),
    `TITLE ${quoted(title)}`,
    `FILE ${quoted(file)} WAVE`,
  ];
  tracks.forEach((track, i) => {
    lines.push(`  TRACK ${String(i + 1).padStart(2, '0')} AUDIO`, `    TITLE ${quoted(track.title)}`);
    if (track.artist) lines.push(`    PERFORMER ${quoted(track.artist)}`);
    if (track.isrc) lines.push(`    ISRC ${track.isrc}`);
    if (track.index0 !== null) lines.push(`    INDEX 00 ${discTime(track.index0)}`);
    lines.push(`    INDEX 01 ${discTime(track.index1)}`);
  });
  return `${lines.join('\r\n')}\r\n`;
}
