import { chromium, type BrowserContext } from '@playwright/test';
import type { LinkSummary } from '../src/contracts/listening';
import { LANE_SCHEMA } from '../src/core/lane/schema';
import { Application, until } from '../tests/support/application';
import { newClient } from '../tests/support/client';
import { music } from '../tests/support/music';
import { wave } from '../tests/support/wave';
import { print } from './support';

const RATE = 44100;
const SECONDS = 240;
/** A line as on the road: 4 Mbit/s down, 1 Mbit/s up, 40 ms. */
const LINE = { offline: false, latency: 40, downloadThroughput: 4e6 / 8, uploadThroughput: 1e6 / 8 };
const RUNS = 5;

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];
const seconds = (ms: number) => `${(ms / 1000).toFixed(2)} s`;

/** Opens the page on a throttled line with nothing kept: ms until it can be played, from there to sound, and to the other source. */
async function visit(context: BrowserContext, path: string): Promise<[open: number, sound: number, change: number]> {
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await session.send('Network.enable');
  await session.send('Network.setCacheDisabled', { cacheDisabled: true });
  await session.send('Network.emulateNetworkConditions', LINE);
  const opened = Date.now();
  await page.goto(path);
  const play = page.getByRole('button', { name: 'Play', exact: true });
  await play.waitFor();
  const open = Date.now() - opened;
  const pressed = Date.now();
  await play.tap();
  await page.waitForFunction(() => Number(document.querySelector('input')?.value) > 0, null, { polling: 10 });
  const sound = Date.now() - pressed;
  const asked = Date.now();
  await page.getByRole('button', { name: 'Mix', exact: true }).tap();
  await page.waitForSelector('[data-source="mix"][aria-pressed="true"]');
  const change = Date.now() - asked;
  await page.close();
  return [open, sound, change];
}

/** How long a client waits on a listening page, and the server for its streams. */
export async function benchListening(): Promise<void> {
  const application = await new Application().start();
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--autoplay-policy=no-user-gesture-required'],
  });
  try {
    const client = await newClient(application.url, application.databaseUrl);
    const release = await client.newRelease();
    const { track, versions } = await client.takeIn<{ track: { id: string }; versions: { id: string }[] }>(
      ...([release, 'four minutes.wav', wave(music(SECONDS, RATE, 0.35), RATE)] as const),
    );
    const lane = { schema: LANE_SCHEMA, stages: [{ id: 'l', kind: 'limiter', settings: { inputGainDb: 4 } }] };
    await client.ask('PUT', `/api/versions/${versions[0].id}/lane`, { lane, label: 'Set up', after: 0 });
    const asked = Date.now();
    await client.ask('POST', `/api/releases/${release}/links`, { recipient: 'x', tracks: [{ trackId: track.id }] });
    const { path } = await until('the streams are rendered', async () => {
      const { body } = await client.ask<LinkSummary[]>('GET', `/api/releases/${release}/links`);
      return body[0].status === 'finished' && body[0];
    });
    const rendered = Date.now() - asked;
    const context = await browser.newContext({
      ...{ baseURL: application.url, viewport: { width: 360, height: 740 }, hasTouch: true },
    });
    const visits: [number, number, number][] = [];
    for (let i = 0; i <= RUNS; i++) visits.push(await visit(context, path!));
    const [open, sound, change] = [0, 1, 2].map((k) => median(visits.slice(1).map((times) => times[k])));
    print('A listening page on a line of 4 Mbit/s, nothing kept', [
      { what: 'until it can be played', figure: seconds(open) },
      { what: 'from the press to the first sound', figure: seconds(sound), aim: 'at most 1.5 s' },
      { what: 'from the first press of “Mix” until it is heard', figure: seconds(change) },
      { what: 'rendering and encoding the streams of a track of four minutes', figure: seconds(rendered) },
    ]);
  } finally {
    await browser.close();
    await application.stop();
  }
}
