// Bundles the server, the worker and its job threads, the commands, and the browser's service worker, so that each starts in a
// blink instead of translating its sources first. With `commands` the commands alone; with --watch worker and threads into
// dist/dev, and again whenever a source changes.
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, context } from 'esbuild';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

const watching = process.argv.includes('--watch');
const common = {
  absWorkingDir: root,
  bundle: true,
  packages: 'external',
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
};
const programs = {
  ...common,
  entryPoints: ['src/server/serve.ts', 'src/server/jobs/worker.ts', 'src/server/jobs/threads/*.ts'],
  outbase: 'src/server',
  outdir: watching ? 'dist/dev' : 'dist',
  sourcemap: 'inline',
};
/** Those that a line in the table of scripts runs; the others are what they share. */
const { scripts } = JSON.parse(readFileSync(path.join(root, 'package.json'), 'utf8'));
const names = readdirSync(path.join(root, 'src/cli')).filter((name) => Object.hasOwn(scripts, name.replace('.ts', '')));
const commands = {
  ...common,
  entryPoints: names.map((name) => `src/cli/${name}`),
  outbase: 'src/cli',
  outdir: 'dist/cli',
  // Next leaves out the extension that Node asks for.
  alias: { 'next/headers': 'next/headers.js' },
};
/** Service workers: files at the root, which decides how far they may reach. */
const offline = {
  absWorkingDir: root,
  entryPoints: {
    'listening-worker': 'src/ui/offline/listening-worker.ts',
    'service-worker': 'src/ui/offline/retired-worker.ts',
  },
  outdir: path.join(root, 'public'),
  bundle: true,
  minify: true,
  platform: 'browser',
  format: 'iife',
  target: 'es2022',
  define: { 'process.env.NODE_ENV': '"production"' },
  logLevel: 'warning',
};
if (watching) await (await context(programs)).watch();
else if (process.argv.includes('commands')) await build(commands);
else await Promise.all([build(programs), build(offline)]);
