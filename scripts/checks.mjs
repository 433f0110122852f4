// Runs the checks of ./test and counts them. What waits for a clock, a browser or a database runs in front, one after the other;
// what only computes runs behind it at low priority and takes the processors when they are free.
//   checks.mjs                     every check
//   checks.mjs --only PLACE…       some: browser/edges, server/notes, reference/dither, core/deliver, lint
//   checks.mjs --changed [COMMIT]  what a change since a commit (the last one) can touch
// The last line is "N passed, N failed".
import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { stripVTControlCharacters } from 'node:util';

process.chdir(path.join(import.meta.dirname, '..'));
// Everything that the checks make for a while is in one folder, by which what they start is known as well.
const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-test-'));
chmodSync(folder, 0o755);
const environment = {
  ...process.env,
  CI: process.env.CI ?? 'true',
  NEXT_TELEMETRY_DISABLED: '1',
  TMPDIR: folder,
  COPPER_TEST_TEMPLATES: path.join(folder, 'templates'),
};

/** The native compiler checks types in a fifth of the time of the one that lint and the build need; on one thread it takes least. */
const TYPES = ['node_modules/typescript-native/bin/tsc', '--noEmit', '--incremental', 'false', '--singleThreaded'];

/** A program of a package. With two processors, collecting garbage on several threads costs more time than it saves. */
const bin = (name) => [
  process.execPath,
  ...['--single-threaded-gc', '--max-semi-space-size=64'],
  path.join('node_modules/.bin', name),
];
const report = (name) => path.join(folder, `${name}.json`);
const jest = (name, projects, ...args) => [
  ...bin('jest'),
  ...['--selectProjects', ...projects, '--json', '--outputFile', report(name), ...args],
];

/** Each check: whether it runs behind the others, what has to be done before it, and its command with what it is asked about. */
const CHECKS = {
  commands: { title: 'Commands', after: [], command: () => ['scripts/bundle-commands'] },
  build: { title: 'Build', after: ['commands'], command: () => ['scripts/build-app'] },
  templates: {
    title: 'Prepared installations',
    after: ['commands'],
    command: () => [...bin('tsx'), 'tests/support/prepare-templates.ts', environment.COPPER_TEST_TEMPLATES],
  },
  formatting: {
    title: 'Formatting',
    behind: true,
    command: (files) => [...bin('prettier'), '--check', '--log-level', 'warn', '--ignore-unknown', ...(files ?? ['.'])],
  },
  lint: {
    title: 'Lint and import rules',
    behind: true,
    command: (files) => [...bin('eslint'), '--max-warnings', '0', '--no-warn-ignored', ...(files ?? ['.'])],
  },
  types: { title: 'Types', behind: true, command: () => [process.execPath, ...TYPES] },
  unused: { title: 'Unused code', behind: true, command: () => [...bin('knip'), '--no-progress'] },
  licences: { title: 'Licences', behind: true, command: () => [process.execPath, 'scripts/licences.mjs', '--check'] },
  browser: {
    title: 'Browser tests',
    after: ['build', 'templates'],
    read: resultOfPlaywright,
    env: { PLAYWRIGHT_JSON_OUTPUT_NAME: report('browser') },
    command: (places = []) => [...bin('playwright'), 'test', '--reporter=list,json', ...places],
  },
  server: {
    title: 'Server tests',
    after: ['build', 'templates', 'browser'],
    read: resultOfJest,
    command: (places = []) => jest('server', ['server'], ...places),
  },
  units: {
    title: 'Unit and reference tests',
    behind: true,
    after: ['commands', 'types'],
    read: resultOfJest,
    command: (places = []) => jest('units', ['core', 'views'], ...places),
  },
};

/** What a report says: how many passed, and of what failed where and why. */
function resultOfJest({ numPassedTests, testResults }) {
  const failures = testResults.flatMap(({ name, status, message, assertionResults }) => {
    const bad = assertionResults.filter((test) => test.status === 'failed');
    if (bad.length === 0) return status === 'failed' ? [[path.relative('.', name), message]] : [];
    return bad.map(({ fullName, failureMessages }) => [
      `${path.relative('.', name)}: ${fullName}`,
      failureMessages.join('\n'),
    ]);
  });
  return { good: numPassedTests, failures };
}
function resultOfPlaywright({ stats, errors, suites }) {
  const specs = (suite) => [...suite.specs, ...(suite.suites ?? []).flatMap(specs)];
  const failures = suites.flatMap(specs).flatMap(({ ok, file, title, tests }) => {
    const messages = tests.flatMap(({ results }) =>
      results.flatMap((result) => result.errors.map(({ message }) => message)),
    );
    return ok ? [] : [[`tests/browser/${file}: ${title}`, messages.join('\n')]];
  });
  return { good: stats.expected, failures: [...failures, ...errors.map(({ message }) => ['tests/browser', message])] };
}

/** Which checks are asked for, each with what it is asked about (nothing: everything). Ends with words when that can't be told. */
async function wanted([mode, ...places]) {
  if (mode === undefined) return new Map(Object.keys(CHECKS).map((name) => [name, undefined]));
  const found = new Map();
  const add = (name, ...of) => found.set(name, [...(found.get(name) ?? []), ...of]);
  if (mode === '--only' && places.length > 0) {
    for (const place of places) {
      const [kind] = place.split('/');
      if (kind === 'browser') add('browser', ...(place === kind ? [] : [`tests/${place}`]));
      else if (kind === 'server') add('server', ...(place === kind ? [] : [`tests/${place}`]));
      else if (kind in CHECKS) found.set(kind, undefined);
      else add('units', place);
    }
  } else if (mode === '--changed' && places.length <= 1) {
    // Only now: it needs packages.
    const { touchedBy } = await import('./touched.mjs');
    const { files, units, server, browser } = await touchedBy(places[0] ?? 'HEAD');
    const there = files.filter((file) => existsSync(file));
    const scripts = there.filter((file) => /\.(m?js|cjs|tsx?)$/.test(file));
    if (there.length > 0) found.set('formatting', there);
    if (scripts.length > 0) found.set('lint', scripts);
    for (const name of ['types', 'unused', 'licences']) found.set(name, undefined);
    if (units.length > 0) found.set('units', ['--findRelatedTests', '--passWithNoTests', ...units]);
    if (server) found.set('server', server);
    if (browser) found.set('browser', browser);
  } else {
    console.error('Usage: ./test [--only PLACE… | --changed [COMMIT]]');
    process.exit(1);
  }
  for (const name of found.keys()) for (const before of CHECKS[name].after ?? []) if (isStep(before)) add(before);
  return found;
}
/** Whether a check is made for what others need. */
function isStep(name) {
  return ['commands', 'build', 'templates'].includes(name);
}

let passed = 0;
/** What failed, each with what is known of it. */
const failures = [];
const running = new Set();

/** Runs a check to its end and counts it; its output is shown as it comes, or at its end when it runs behind others. */
function run(name, of) {
  const { title, behind, command, read, env } = CHECKS[name];
  const [program, ...args] = command(of?.length === 0 ? undefined : of);
  const child = spawn(...(behind ? ['nice', ['-n', '19', program, ...args]] : [program, args]), {
    env: { ...environment, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  running.add(child);
  const output = [];
  const show = (text) => {
    output.push(text);
    if (!behind) process.stdout.write(text);
  };
  if (!behind) process.stdout.write(`\n== ${title}\n`);
  for (const stream of [child.stdout, child.stderr]) stream.setEncoding('utf8').on('data', show);
  const begun = Date.now();
  return new Promise((resolve) => {
    child.on('close', (status) => {
      running.delete(child);
      if (behind) process.stdout.write(`\n== ${title}\n${output.join('')}`);
      const result = resultOf(name, status, output.join(''));
      passed += result.good;
      failures.push(...result.failures);
      const took = Math.round((Date.now() - begun) / 1000);
      const bad = result.failures.length;
      process.stdout.write(`== ${title}: ${bad === 0 ? 'passed' : `${bad} failed`} in ${took} s\n`);
      resolve(bad === 0);
    });
  });
}
/** What came of a check; one that ended badly has failed whatever its report says. */
function resultOf(name, status, output) {
  const { title, read } = CHECKS[name];
  const whole = { good: 0, failures: [[title, output.slice(-2000)]] };
  if (!read) return status === 0 ? { good: 1, failures: [] } : whole;
  try {
    const result = read(JSON.parse(readFileSync(report(name), 'utf8')));
    if (status !== 0 && result.failures.length === 0) return { ...result, failures: whole.failures };
    return result;
  } catch {
    return whole;
  }
}

/** The processes that were started for these checks and have not ended: the number and the command of each. */
function leftRunning() {
  return readdirSync('/proc').flatMap((pid) => {
    if (!/^\d+$/.test(pid) || Number(pid) === process.pid) return [];
    try {
      const environ = readFileSync(`/proc/${pid}/environ`, 'utf8').split('\0');
      if (!environ.includes(`TMPDIR=${folder}`)) return [];
      return [{ pid, command: readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ') }];
    } catch {
      return []; // It has ended, or is not ours.
    }
  });
}
function end(signal) {
  for (const { pid } of leftRunning()) spawnSync('kill', [`-${signal}`, pid]);
}
function removeFolder() {
  rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
}
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    end('KILL');
    removeFolder();
    process.exit(1);
  });

const checks = await wanted(process.argv.slice(2));
const done = new Map();
const ready = (name) => (CHECKS[name].after ?? []).every((before) => !checks.has(before) || done.has(before));
const waiting = new Set(checks.keys());
await new Promise((resolve) => {
  let behind = 0;
  const begin = () => {
    if (waiting.size === 0 && running.size === 0) return resolve();
    for (const name of waiting) {
      if (!ready(name) || (CHECKS[name].behind && behind > 0)) continue;
      waiting.delete(name);
      if (CHECKS[name].behind) behind++;
      void run(name, checks.get(name)).then((well) => {
        if (CHECKS[name].behind) behind--;
        done.set(name, well);
        begin();
      });
    }
  };
  begin();
});

// What was told to end a moment ago may still be at it.
for (let tries = 0; tries < 20 && leftRunning().length > 0; tries++) await pause(250);
const left = leftRunning();
const files = readdirSync(folder).filter((name) => name.startsWith('copper-'));
process.stdout.write('\n== Nothing is left behind\n');
if (left.length + files.length === 0) passed++;
else {
  const processes = left.map(({ command }) => `still running: ${command}`);
  const what = [...processes, ...files.map((file) => `still there: ${file}`)];
  failures.push(['Nothing is left behind', what.join('\n')]);
  end('KILL');
}
removeFolder();
for (const [what, why] of failures) {
  const lines = stripVTControlCharacters(why).trim().split('\n').slice(0, 20);
  process.stdout.write(`\nFAILED ${what}\n${lines.map((line) => `  ${line}\n`).join('')}`);
}
process.stdout.write(`\n${passed} passed, ${failures.length} failed\n`);
process.exitCode = failures.length === 0 ? 0 : 1;
