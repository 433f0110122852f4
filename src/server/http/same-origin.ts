import { Problem } from '../problem';

/** Methods that change nothing. */
const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses requests that a browser sends for another site's page, by Fetch Metadata and by Origin. Throws a Problem (403).
 * Programs that are no browsers send neither header, and have no cookies that another site could make use of.
 */
export function requireSameOrigin(request: Request): void {
  if (SAFE.has(request.method)) return;
  const { headers } = request;
  const site = headers.get('sec-fetch-site');
  const origin = headers.get('origin');
  const foreignSite = site !== null && site !== 'same-origin' && site !== 'none';
  const foreignOrigin = origin !== null && (!URL.canParse(origin) || new URL(origin).host !== headers.get('host'));
  if (foreignSite || foreignOrigin)
    throw new Problem(403, 'This request came from another site. Open Copper Lane itself and do it there.');
}
