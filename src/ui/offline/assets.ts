/** Where the build puts what never changes under its name. */
const STATIC = '/_next/static/';
const DESTINATIONS: readonly string[] = ['script', 'style', 'font', 'image'];

/** Whether a request is for something that a page itself loads: not for a worker, a worklet, or an address with a fragment. */
export function isPageAsset({ pathname, hash }: URL, destination: string): boolean {
  return (
    hash === '' && DESTINATIONS.includes(destination) && (pathname.startsWith(STATIC) || pathname.startsWith('/icon'))
  );
}

/** Addresses of the scripts, styles, fonts and icons that a page names, each once. */
export function assetsIn(html: string): string[] {
  return [...new Set(html.match(/\/_next\/static\/[\w./~%-]+\.(?:js|css|woff2?)|\/icon[\w.-]*(?:\?[\w.-]+)?(?=")/g))];
}

/** Addresses of the fonts that a style sheet names, each once. */
export function fontsIn(css: string, sheetUrl: string): string[] {
  const named = [...css.matchAll(/url\(["']?([^"')]+\.woff2?)["']?\)/g)].map(([, url]) => url);
  return [...new Set(named.map((url) => new URL(url, new URL(sheetUrl, 'http://page')).pathname))];
}
