// What README and docs show must work: examples of lanes are rendered, commands exist, links lead somewhere, and the table of
// settings is what the program reads.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { music } from '../support/music';
import { writeWave } from '../support/wave';

const ROOT = path.join(import.meta.dirname, '../..');
const read = (file: string) => readFileSync(path.join(ROOT, file), 'utf8');
const inFolder = (folder: string) =>
  readdirSync(path.join(ROOT, folder))
    .filter((name) => name.endsWith('.md'))
    .map((name) => `${folder}/${name}`);
const PAGES = ['README.md', 'CONTRIBUTING.md', 'CHANGELOG.md', ...inFolder('docs'), ...inFolder('docs/decisions')];
const { scripts } = JSON.parse(read('package.json')) as { scripts: Record<string, string> };

const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-documentation-'));
afterAll(() => rmSync(folder, { recursive: true }));

const lanes = PAGES.flatMap((page) =>
  [...read(page).matchAll(/```json\n([\s\S]*?)```/g)].map(([, json], i) => ({ page, i, json })),
).filter(({ json }) => json.includes('"stages"'));

test('there are examples of lanes', () => expect(lanes.map(({ page }) => page)).toContain('README.md'));

test.each(lanes)('the lane in $page renders, and takes off the 6 dB that it says', ({ i, json }) => {
  const [input, output, lane] = ['in.wav', `out-${i}.wav`, `lane-${i}.json`].map((name) => path.join(folder, name));
  writeWave(input, music(2, 48000), 48000);
  writeFileSync(lane, json);
  const run = (script: string, ...args: string[]) =>
    execFileSync('npm', ['run', '--silent', script, '--', ...args], { cwd: ROOT, encoding: 'utf8' });
  run('render', input, output, '--lane', lane, '--depth', '32f');
  const loudness = (file: string) => (JSON.parse(run('measure', file)) as { integratedLufs: number }).integratedLufs;
  expect(loudness(output) - loudness(input)).toBeCloseTo(-6, 1);
});

/** What of a page is not there, each with the page's name. */
const missing = (find: (page: string) => string[]) =>
  PAGES.flatMap((page) => find(page).map((each) => `${page}: ${each}`));

test('every command and every file that is named exists', () => {
  const commands = missing((page) =>
    [...read(page).matchAll(/npm run (?:--silent |-s )?([a-z:]+)/g)]
      .map(([, name]) => name)
      .filter((name) => !Object.hasOwn(scripts, name)),
  );
  const files = missing((page) =>
    [...read(page).matchAll(/`(?:\.\/)?((?:src|tests|scripts|build|benchmarks|docs)\/[\w./-]+)`/g)]
      .map(([, file]) => file)
      .filter((file) => !existsSync(path.join(ROOT, file))),
  );
  expect([...commands, ...files]).toEqual([]);
});

/** Every file of the project, as a document may name it: from the root or by the end of its path. */
const FILES = [
  ...readdirSync(ROOT),
  ...['src', 'tests', 'scripts', 'build', 'benchmarks'].flatMap((place) =>
    readdirSync(path.join(ROOT, place), { recursive: true, encoding: 'utf8' }).map((name) => `${place}/${name}`),
  ),
];

test('every source that is named by the end of its path is there', () => {
  const sources = missing((page) =>
    [...read(page).matchAll(/`([\w-]+(?:\/[\w-]+)*\.(?:ts|tsx|mjs|sql))`/g)]
      .map(([, name]) => name)
      .filter((name) => !FILES.some((file) => `/${file}`.endsWith(`/${name}`))),
  );
  expect(sources).toEqual([]);
});

test('what can be proved, and what can be tested alone, is what the documents say', () => {
  const program = read('tests/prove/prove.ts');
  const checks = read('scripts/checks.mjs');
  const proofs = missing((page) =>
    [...read(page).matchAll(/npm run prove -- ((?:\w+(?: \| )?)+)/g)]
      .flatMap(([, names]) => names.split(' | '))
      .filter((name) => !program.includes(`'${name}'`)),
  );
  const places = missing((page) =>
    [...read(page).matchAll(/\.\/test --only ([\w/ ]+)/g)]
      .flatMap(([, names]) => names.trim().split(' '))
      .filter((name) => !checks.includes(`  ${name}: {`) && !FILES.some((file) => file.includes(name))),
  );
  expect([...proofs, ...places]).toEqual([]);
});

test('the README names what ./test installs from Debian', () => {
  const packages = [...read('test').matchAll(/['\s]([\w-]+):/g)].map(([, name]) => name);
  expect(packages).toContain('sox');
  const words = read('README.md').toLowerCase();
  const names: Record<string, string> = { 'firefox-esr': 'firefox', 'python3-scipy': 'scipy' };
  expect(packages.filter((name) => !words.includes(names[name] ?? name))).toEqual([]);
});

test('an installation of each earlier form is kept to be upgraded', () => {
  const forms = (folder: string) =>
    readdirSync(path.join(ROOT, folder)).flatMap((name) => /^\d{3}-[\w-]+/.exec(name) ?? []);
  expect(forms('tests/server/dumps')).toEqual(forms('src/server/database/migrations').slice(0, -1));
});

test('every link leads somewhere', () => {
  const links = missing((page) =>
    [...read(page).matchAll(/\]\(([^)#]+)[^)]*\)/g)]
      .map(([, link]) => link)
      .filter((link) => !/^[a-z]+:/.test(link) && !existsSync(path.join(ROOT, path.dirname(page), link))),
  );
  expect(links).toEqual([]);
});

test('the README’s settings are those that the program reads', () => {
  const documented = [...read('README.md').matchAll(/^\| `([A-Z_]+)` \|/gm)].map(([, name]) => name);
  const programs = ['src/server/config.ts', 'src/server/serve.ts', 'start', 'scripts/cluster'].map(read).join('\n');
  const known = new Set(
    [...programs.matchAll(/\b(COPPER_[A-Z_]+|DATABASE_URL)\b/g)]
      .map(([, name]) => name)
      // What ./start tells the supervisor.
      .filter((name) => name !== 'COPPER_OWN_CLUSTER_PORT'),
  );
  expect(documented.sort()).toEqual([...known].sort());
});
