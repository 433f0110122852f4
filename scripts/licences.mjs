// Lists the licences of all npm packages of the lock file in docs/third-party.md. With --check it writes nothing, and fails
// when the list is out of date or a package has a licence that was not looked at.
import { readFileSync, writeFileSync } from 'node:fs';

const PAGE = 'docs/third-party.md';
/** Licences under which a package may be used and passed on with this one. */
const ALLOWED = new Set([
  ...['MIT', 'ISC', 'Apache-2.0', 'BSD-2-Clause', 'BSD-3-Clause', '0BSD', 'Unlicense', 'BlueOak-1.0.0', 'CC0-1.0'],
  ...[
    'Python-2.0',
    'MPL-2.0',
    'OFL-1.1',
    'CC-BY-4.0',
    'MIT-0',
    'LGPL-2.1-or-later',
    'LGPL-3.0-or-later',
    'WTFPL',
    'Zlib',
    'Bitstream-Vera',
  ],
]);

/** Packages that name their licence in their readme alone. */
const IN_README = new Map([
  ['combine-errors', 'MIT'],
  ['png-js', 'MIT'],
  ['dejavu-fonts-ttf', 'Bitstream-Vera'],
]);

/** Whether a licence expression leaves a way to use the package: any of an OR, all of an AND. */
function allowed(expression) {
  return expression
    .replace(/[()]/g, '')
    .split(' OR ')
    .some((part) => part.split(' AND ').every((name) => ALLOWED.has(name.trim())));
}

const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const found = new Map();
for (const [place, { version, license, dev, link }] of Object.entries(packages)) {
  if (place === '' || link) continue;
  const name = place.slice(place.lastIndexOf('node_modules/') + 'node_modules/'.length);
  let named = /^SEE /.test(license ?? '') ? IN_README.get(name) : license;
  if (!named)
    named = JSON.parse(readFileSync(`${place}/package.json`, 'utf8')).license ?? IN_README.get(name) ?? 'none named';
  const key = `${name} ${version}`;
  if (!found.has(key) || !dev) found.set(key, { name, version, license: String(named), dev: Boolean(dev) });
}
const rows = [...found.values()].sort((a, b) => (a.name + a.version < b.name + b.version ? -1 : 1));
const unknown = rows.filter(({ license }) => !allowed(license));
const table = (list) =>
  [
    '| package | version | licence |',
    '| --- | --- | --- |',
    ...list.map(({ name, version, license }) => `| ${name} | ${version} | ${license} |`),
  ].join('\n');
const page = `# Third-party software

Made by \`npm run licences\` from the lock file. Copper Lane itself is under the MIT licence (LICENSE). From Debian it uses
PostgreSQL (PostgreSQL licence) and ffmpeg (LGPL 2.1 or later, with parts under the GPL), as programs of their own.

## Part of the running application

${table(rows.filter(({ dev }) => !dev))}

## For building and testing only

${table(rows.filter(({ dev }) => dev))}
`;

for (const { name, license } of unknown)
  console.error(`${name} has the licence “${license}”, which nobody has looked at.`);
if (process.argv.includes('--check')) {
  let current = '';
  try {
    current = readFileSync(PAGE, 'utf8');
  } catch {
    // Told below.
  }
  if (current !== page) console.error(`${PAGE} is out of date: npm run licences`);
  process.exit(unknown.length > 0 || current !== page ? 1 : 0);
}
writeFileSync(PAGE, page);
process.exit(unknown.length > 0 ? 1 : 0);
