/** What a file name can be made of. */
export const NAME_PARTS = {
  artist: 'Artist of the track, else of the release',
  release: 'Title of the release',
  position: 'Number of the track, two digits',
  title: 'Title of the track',
  destination: 'Name of the destination',
  version: 'Name of the version',
  isrc: 'ISRC',
  ean: 'EAN of the release',
  year: 'Year',
} as const;
export type NamePart = keyof typeof NAME_PARTS;

export const STANDARD_PATTERN = '{artist} - {release} - {position} {title} ({destination})';

const PART = /\{([^{}]*)\}/g;

/** What is wrong with a file-name pattern, as a sentence; null when nothing is. */
export function patternProblem(pattern: string): string | null {
  const parts = [...pattern.matchAll(PART)].map(([, part]) => part);
  const unknown = parts.find((part) => !Object.hasOwn(NAME_PARTS, part));
  if (unknown !== undefined)
    return `{${unknown}} is not a part of a name. Use ${Object.keys(NAME_PARTS)
      .map((part) => `{${part}}`)
      .join(', ')}.`;
  if (/[{}]/.test(pattern.replace(PART, ''))) return 'Each part stands between one { and one }.';
  if (!parts.includes('title') && !parts.includes('position'))
    return 'Use {title} or {position}: without them all tracks would have the same name.';
  return null;
}

const SEPARATOR = '[\\s\\-–—_.,·]';
const EMPTY = '\u0000';

/**
 * A file's name, without its ending, by a pattern. A part without a value goes with its brackets and the separator after
 * it.
 *
 * @example
 * nameByPattern('{artist} - {position} {title}', { position: '01', title: 'Perihelion' }) // '01 Perihelion'
 */
export function nameByPattern(pattern: string, values: Partial<Record<NamePart, string>>): string {
  return pattern
    .replace(PART, (_, part: NamePart) => values[part]?.replaceAll(EMPTY, '').trim() || EMPTY)
    .replace(new RegExp(`[([]${EMPTY}[)\\]]`, 'g'), EMPTY)
    .replace(new RegExp(`${SEPARATOR}*${EMPTY}(?=$|${EMPTY})`, 'g'), '')
    .replace(new RegExp(`${EMPTY}${SEPARATOR}*`, 'g'), '')
    .replace(/\s+/g, ' ')
    .trim();
}
