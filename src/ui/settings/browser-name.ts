const BROWSERS: [RegExp, string][] = [
  [/Firefox\//, 'Firefox'],
  [/Chrom(e|ium)\//, 'A Chromium browser'],
  [/Safari\//, 'Safari'],
];
const SYSTEMS: [RegExp, string][] = [
  [/iPhone|iPad/, 'iOS'],
  [/Android/, 'Android'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
];

function first(list: [RegExp, string][], agent: string): string | undefined {
  return list.find(([pattern]) => pattern.test(agent))?.[1];
}

/** What a browser calls itself, in words that its owner recognises. */
export function browserName(agent: string): string {
  const browser = first(BROWSERS, agent) ?? 'Another program';
  const system = first(SYSTEMS, agent);
  return system ? `${browser} on ${system}` : browser;
}
