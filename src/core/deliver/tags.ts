/** What is known of a track and its release where a file is tagged; empty where nothing is. */
export interface Particulars {
  title: string;
  position: number;
  trackArtist: string;
  isrc: string;
  composer: string;
  trackCopyright: string;
  release: string;
  releaseArtist: string;
  releaseCopyright: string;
  year: number | null;
}

/** What a file says about itself, as tags by name; empty tags are left out. */
export function tagsOf(of: Particulars): Record<string, string> {
  const tags = {
    title: of.title,
    album: of.release,
    artist: of.trackArtist || of.releaseArtist,
    album_artist: of.trackArtist === '' ? '' : of.releaseArtist,
    track: String(of.position),
    composer: of.composer,
    copyright: of.trackCopyright || of.releaseCopyright,
    isrc: of.isrc,
    date: of.year === null ? '' : String(of.year),
  };
  return Object.fromEntries(Object.entries(tags).filter(([, value]) => value !== ''));
}
