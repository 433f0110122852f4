// What a change can touch: which tests import a changed file, or run a program, a page or a route that does.
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';

/** Pages that only some browser tests open; the others are on the way of all of them. */
const OPENED_BY = {
  '(listening)': ['phone', 'handles', 'newcomer', 'firefox'],
  '(application)/destinations': ['access', 'destinations', 'hands'],
  '(application)/references': ['listening'],
  '(application)/settings': ['access', 'account', 'newcomer', 'objects'],
  '(application)/releases/[releaseId]/sequence': ['access', 'sequence'],
  '(application)/playground': [],
};

const filesIn = (folder, pattern) =>
  readdirSync(folder, { recursive: true })
    .map((name) => path.join(folder, name))
    .filter((name) => pattern.test(name));

/** Everything that each entry imports, itself included; what is loaded by address (workers, worklets) is taken as imported. */
async function closures(entryPoints) {
  const { metafile } = await build({
    ...{
      entryPoints,
      bundle: true,
      write: false,
      metafile: true,
      packages: 'external',
      platform: 'node',
      format: 'esm',
    },
    ...{ outdir: 'nowhere', logLevel: 'error', loader: { '.css': 'empty', '.png': 'empty', '.svg': 'empty' } },
  });
  return Object.values(metafile.outputs).map(({ entryPoint, inputs }) => [entryPoint, Object.keys(inputs)]);
}

/** Changed files since a commit, and what to run for them: files for Jest, and tests, null for none and [] for all of a kind. */
export async function touchedBy(commit) {
  const git = (...args) => execFileSync('git', args, { encoding: 'utf8' }).split('\n').filter(Boolean);
  const files = [...git('diff', '--name-only', commit), ...git('ls-files', '--others', '--exclude-standard')];
  const changed = new Set(files);
  const pages = filesIn('src/app', /\/(page|layout|error|not-found)\.tsx$/);
  const programs = [
    ...filesIn('src/app/api', /route\.ts$/),
    ...['src/server/serve.ts', 'src/server/jobs/worker.ts', ...filesIn('src/server/jobs/threads', /\.ts$/)],
  ];
  const commands = filesIn('src/cli', /^src\/cli\/(?!.*\.test)\w+\.ts$/);
  const [specs, serverTests, referenceTests] = ['browser', 'server', 'reference'].map((name) =>
    filesIn(`tests/${name}`, /\.(spec|test)\.ts$/),
  );
  const touched = new Set(
    (await closures([...pages, ...programs, ...commands, ...specs, ...serverTests]))
      .filter(([, inputs]) => inputs.some((name) => changed.has(name)))
      .map(([entry]) => entry),
  );
  const any = (entries) => entries.some((entry) => touched.has(entry));
  const under = (...folders) => files.some((name) => folders.some((folder) => name.startsWith(folder)));
  // Locked packages, set-up and start belong to everything.
  const everything = under('package', 'next.config', 'tsconfig', 'start', 'build/', 'scripts/');

  const opened = pages
    .filter((page) => touched.has(page))
    .map((page) => {
      const place = Object.keys(OPENED_BY).find((folder) => page.startsWith(`src/app/${folder}/`));
      return place ? OPENED_BY[place].map((name) => `tests/browser/${name}.spec.ts`) : null;
    });
  const allSpecs =
    everything || any(programs) || under('src/core/', 'src/engine/', 'tests/browser/setup') || opened.includes(null);
  const someSpecs = [
    ...new Set([...opened.flatMap((each) => each ?? []), ...specs.filter((spec) => touched.has(spec))]),
  ];
  const allServer = everything || any(programs) || any(commands) || under('tests/server/setup', 'tests/server/dumps');
  const someServer = serverTests.filter((test) => touched.has(test));
  // Those that run commands, or read the pages of the documentation, import nothing of them.
  const runs = (pattern) => referenceTests.filter((test) => pattern.test(readFileSync(test, 'utf8')));
  const units = [
    ...files.filter((name) => /^(src|tests)\/.*\.tsx?$/.test(name)),
    ...(everything || any(commands) ? runs(/scripts\/command|npm/) : []),
    ...(files.some((name) => name.endsWith('.md')) ? runs(/README/) : []),
  ];
  return {
    files,
    units: [...new Set(units)],
    server: allServer ? [] : someServer.length > 0 ? someServer : null,
    browser: allSpecs ? [] : someSpecs.length > 0 ? someSpecs : null,
  };
}
