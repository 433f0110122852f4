/** The token in the address of a listening page, of its answers and of its streams. */
export const LISTENING_PATH = /^\/(?:api\/listening|listen)\/([^/]+)/;

/** Streams of a link that a page asks the service worker to keep. */
export interface Kept {
  token: string;
  urls: string[];
}

/** What a page asked for, if it is such: without the schema library, which the listening page does not load. */
export function keptAsked(data: unknown): Kept | null {
  const { token, urls } = (data ?? {}) as Record<string, unknown>;
  if (typeof token !== 'string' || !Array.isArray(urls)) return null;
  const own = `/api/listening/${encodeURIComponent(token)}/streams/`;
  return urls.every((url): url is string => typeof url === 'string' && url.startsWith(own)) ? { token, urls } : null;
}
