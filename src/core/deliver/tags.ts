/** What a file can say about itself. */
export const TAG_NAMES = [
  ...(['title', 'artist', 'album', 'album_artist', 'track', 'tracks', 'composer', 'isrc', 'barcode', 'date'] as const),
  'copyright',
] as const;
export type TagName = (typeof TAG_NAMES)[number];

/** Tags by name; an empty one is left out. */
export type Tags = Partial<Record<TagName, string>>;

/** As they are called beside their values. */
export const TAG_TITLES: Record<TagName, string> = {
  ...{ title: 'title', artist: 'artist', album: 'release title', album_artist: 'release artist' },
  ...{ track: 'track number', tracks: 'number of tracks', composer: 'composer', isrc: 'ISRC', barcode: 'EAN' },
  ...{ date: 'year', copyright: 'copyright' },
};

/** What is known of a track and its release where a file is tagged; empty where nothing is. */
export interface Particulars {
  title: string;
  position: number;
  /** Tracks of the release. */
  tracks: number;
  trackArtist: string;
  isrc: string;
  composer: string;
  trackCopyright: string;
  release: string;
  releaseArtist: string;
  releaseCopyright: string;
  ean: string;
  year: number | null;
}

/** What a file says about itself, as tags by name; empty tags are left out. */
export function tagsOf(of: Particulars): Tags {
  const tags: Record<TagName, string> = {
    title: of.title,
    album: of.release,
    artist: of.trackArtist || of.releaseArtist,
    album_artist: of.trackArtist === '' ? '' : of.releaseArtist,
    track: String(of.position),
    tracks: String(of.tracks),
    composer: of.composer,
    copyright: of.trackCopyright || of.releaseCopyright,
    isrc: of.isrc,
    barcode: of.ean,
    date: of.year === null ? '' : String(of.year),
  };
  return Object.fromEntries(Object.entries(tags).filter(([, value]) => value !== ''));
}
