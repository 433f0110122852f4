import type { HeardSource, ListeningPage, StreamCodec } from '../../contracts/listening';

/** What this browser can play best of what is streamed: Opus, else AAC. */
export function playableCodec(): StreamCodec {
  return document.createElement('audio').canPlayType('audio/webm; codecs="opus"') === '' ? 'aac' : 'opus';
}

/** Address of the page's interface on the server. */
export const pathOf = (token: string) => `/api/listening/${encodeURIComponent(token)}`;

/** Address of a stream; it changes with every rendering. */
export function streamUrl(token: string, { edition }: ListeningPage, source: HeardSource, codec: StreamCodec): string {
  return `${pathOf(token)}/streams/${source}/${codec}?edition=${edition}`;
}

/** What a source of a track is called. */
export function sourceTitle(source: HeardSource): string {
  return { mix: 'Mix', master: 'Master', other: 'Other master' }[source];
}

/** Streams that a device keeps, so that they play without a connection; none where someone saves data. */
export function keptUrls(token: string, page: ListeningPage): string[] {
  if (typeof document === 'undefined' || page.edition === '') return [];
  const { connection } = navigator as { connection?: { saveData?: boolean } };
  if (connection?.saveData) return [];
  return page.sources.map((source) => streamUrl(token, page, source, playableCodec()));
}
