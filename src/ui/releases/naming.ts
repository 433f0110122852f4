/** What some dropped files are called: the release, and each track in order. */
export interface Named<Item> {
  release: string;
  tracks: { item: Item; title: string }[];
}

const MOST = 120;
/** Shorter beginnings that files share are chance. */
const LEAST_PREFIX = 3;
const NUMBER = /^(\d{1,3})(\s*[-–._)]+\s*|\s+)(?=\S)/;
const SEPARATORS = /^[\s\-–._]+|[\s\-–._]+$/g;

function baseName(path: string): string {
  const name = path.split(/[\\/]/).at(-1)!;
  return name
    .replace(/\.[^.]+$/, '')
    .replace(/_/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
}

/** The folder that all paths lie in, the innermost; empty without one. */
function commonFolder(paths: string[]): string {
  const folders = paths.map((path) =>
    path
      .split(/[\\/]/)
      .slice(0, -1)
      .filter((part) => part && part !== '.'),
  );
  const depth = Math.min(...folders.map(({ length }) => length));
  let shared = '';
  for (let i = 0; i < depth && folders.every((each) => each[i] === folders[0][i]); i++) shared = folders[0][i]!;
  return shared;
}

/** The words that all names begin with, as long as each has more to it. */
function commonPrefix(names: string[]): string {
  if (names.length < 2) return '';
  let prefix = names[0];
  for (const name of names) while (!name.startsWith(prefix)) prefix = prefix.slice(0, -1);
  // Whole words only, and no number that begins the rest.
  prefix = prefix.replace(/[^\s\-–.]*$/, '').replace(/\d+[\s\-–.]*$/, '');
  return prefix.replace(SEPARATORS, '').length >= LEAST_PREFIX ? prefix : '';
}

/**
 * Names a release and its tracks from the files that were dropped: the folder or the beginning they share becomes the
 * release, track numbers become the order, and what is left the titles.
 */
export function namesOf<Item>(items: Item[], pathOf: (item: Item) => string): Named<Item> {
  const paths = items.map(pathOf);
  const names = paths.map(baseName);
  const prefix = commonPrefix(names);
  const rests = names.map((name) => name.slice(prefix.length));
  const numbers = rests.map((rest) => NUMBER.exec(rest));
  // One name alone may begin with a number of its own, unless it is written like a track's.
  const numbered =
    numbers.every((found) => found !== null) &&
    (items.length > 1 || /^0/.test(numbers[0][1]) || numbers[0][2].trim() !== '');
  const tracks = items.map((item, i) => ({
    item,
    order: numbered ? Number(numbers[i][1]) : i,
    title:
      (numbered ? rests[i].slice(numbers[i][0].length) : rests[i]).replace(SEPARATORS, '').slice(0, MOST) || 'Untitled',
  }));
  tracks.sort((a, b) => a.order - b.order);
  const release = commonFolder(paths) || prefix.replace(SEPARATORS, '') || (items.length === 1 ? tracks[0].title : '');
  return {
    release: release.slice(0, MOST) || 'New release',
    tracks: tracks.map(({ item, title }) => ({ item, title })),
  };
}
