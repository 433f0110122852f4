// Bundles the server, the worker and its job threads, and the browser's service worker, so that each starts in a blink instead of translating its sources
// first. With --watch into dist/dev, and again whenever a source changes.
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, context } from 'esbuild';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const jobs = path.join(root, 'src/server/jobs');

const watching = process.argv.includes('--watch');
const options = {
  absWorkingDir: root,
  entryPoints: [
    path.join(root, 'src/server/serve.ts'),
    path.join(jobs, 'worker.ts'),
    path.join(jobs, 'threads/intake.ts'),
    path.join(jobs, 'threads/lane.ts'),
    path.join(jobs, 'threads/deliver.ts'),
    path.join(jobs, 'threads/measure.ts'),
    path.join(jobs, 'threads/reference.ts'),
    path.join(jobs, 'threads/encode.ts'),
    path.join(jobs, 'threads/passage.ts'),
    path.join(jobs, 'threads/image.ts'),
    path.join(jobs, 'threads/joint.ts'),
    path.join(jobs, 'threads/listening.ts'),
  ],
  outbase: path.join(root, 'src/server'),
  outdir: path.join(root, watching ? 'dist/dev' : 'dist'),
  bundle: true,
  packages: 'external',
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: 'inline',
  logLevel: 'warning',
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
if (watching) await (await context(options)).watch();
else await Promise.all([build(options), build(offline)]);
