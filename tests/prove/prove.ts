// prove faults | attack | fuzz | sound | intake | batches | memory [--seed N] [--times N]: looks for what is wrong, on loopback only, with an application of its own,
// bounded in count. What is found is printed and ends with status 1; `./test` runs short versions of the same.
import { execFileSync } from 'node:child_process';
import { parseArgs } from 'node:util';
import { Application } from '../support/application';
import { Supervised } from '../support/supervised';
import { ATTACKS, QUOTA_GB } from './attack';
import { FAULTS, FAULTS_ENVIRONMENT } from './faults';
import { fuzz } from './fuzz';
import { sound } from './sound';

const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: { seed: { type: 'string', default: '1' }, times: { type: 'string', default: '1' } },
});
const [what] = positionals;
const [seed, times] = [Number(values.seed), Number(values.times)];
if (
  !['faults', 'attack', 'fuzz', 'sound', 'intake', 'batches', 'memory'].includes(what) ||
  !Number.isInteger(seed) ||
  !(times >= 1 && times <= 20)
)
  throw new Error(
    'Say what to look for: npm run prove -- faults | attack | fuzz | sound | intake | batches | memory [--seed N] [--times 1…20]',
  );

let failed = 0;
async function step(name: string, work: () => Promise<void>): Promise<void> {
  const begun = Date.now();
  try {
    await work();
    console.log(`held    ${name} (${((Date.now() - begun) / 1000).toFixed(1)} s)`);
  } catch (error) {
    failed++;
    console.log(`FAILED  ${name}: ${error instanceof Error ? error.message : String(error)}`);
  }
}

async function withApplication(work: (application: Application) => Promise<void>, more = {}): Promise<void> {
  execFileSync('scripts/build-app', { stdio: 'inherit' });
  const env = { COPPER_MIN_FREE_MB: '0', COPPER_PROXIES: '1', ...more };
  const application = await new Application({ env }).start();
  try {
    await work(application);
  } finally {
    await application.stop();
  }
}

if (what === 'faults')
  await withApplication(async (application) => {
    for (let i = 0; i < times; i++)
      for (const fault of FAULTS) await step(fault.name, () => fault.provoke(application));
  }, FAULTS_ENVIRONMENT);
if (what === 'attack')
  await withApplication(
    async (application) => {
      for (const { name, attack } of ATTACKS) await step(name, () => attack(application, 5 * times));
    },
    { COPPER_QUOTA_GB: String(QUOTA_GB), COPPER_STALL_MS: '3000' },
  );
if (what === 'attack')
  await step(`${20 * times} restarts of the server under load`, async () => {
    const installation = new Supervised({ COPPER_DEMO: 'no', COPPER_LOG_LEVEL: 'silent' });
    try {
      await installation.settle();
      installation.begin();
      await installation.ready(120_000);
      await installation.well();
      await installation.restartUnderLoad(20 * times);
    } finally {
      await installation.remove();
    }
  });
if (what === 'fuzz')
  await withApplication(async ({ url, databaseUrl }) => {
    for (let i = 0; i < times; i++)
      await step(`500 uploads, 1,500 lanes and 600 bodies, seed ${seed + i}`, () =>
        fuzz({ url, databaseUrl, uploads: 500, lanes: 1500, bodies: 600, seed: seed + i }),
      );
  });
if (what === 'sound')
  for (let i = 0; i < times; i++)
    await step(`300 bands, 20 masters and 12 dithered files, seed ${seed + i}`, () =>
      sound({ bands: 300, masters: 20, dithers: 12, seed: seed + i }),
    );
/** Tests that have a short form in ./test, at their full length. */
const whole = (program: string, ...args: string[]) =>
  step(`${args.at(-1)}, at full length`, () => {
    const env = { ...process.env, COPPER_AT_LENGTH: 'yes' };
    execFileSync(`node_modules/.bin/${program}`, args, { stdio: 'inherit', env });
    return Promise.resolve();
  });
if (what === 'intake') await whole('jest', '--selectProjects', 'core', '--testPathPatterns', 'intake-corpus');
if (what === 'batches') {
  execFileSync('scripts/build-app', { stdio: 'inherit' });
  await whole('jest', '--selectProjects', 'server', '--testPathPatterns', 'batches');
}
if (what === 'memory') {
  execFileSync('scripts/build-app', { stdio: 'inherit' });
  await whole('playwright', 'test', 'memory');
}
console.log(failed === 0 ? 'Everything held.' : `${failed} failed.`);
process.exitCode = failed === 0 ? 0 : 1;
