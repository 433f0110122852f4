import { chromium, type Page } from '@playwright/test';
import { Application } from '../tests/support/application';
import { newClient } from '../tests/support/client';
import { pageBytes } from '../tests/support/memory';
import { music } from '../tests/support/music';
import { wave } from '../tests/support/wave';
import type { Lane } from '../src/core/lane/schema';
import { REFERENCE_LANE, SHORT_LANE } from './core';
import { FINEST_LOUD_LANE } from './loud';
import { print } from './support';

const RATE = 44100;
const WORKLET_RATE = 96000;
const SECONDS = 240;

/** Milliseconds until a text stands on the page. */
async function until(page: Page, text: string, since: number): Promise<number> {
  await page.getByText(text).first().waitFor({ timeout: 120_000 });
  return Date.now() - since;
}

/** Time that the page's own worklet takes for a lane with meters and taps, as a share of the time it plays. */
function workletShare(page: Page, lane: Lane, candidates = 0): Promise<number> {
  return page.evaluate(
    async ({ lane, sampleRate, seconds, candidates }) => {
      const { workletUrl } = window as unknown as { workletUrl: string };
      const side = new Float32Array(seconds * sampleRate).map((_, i) => 0.4 * Math.sin(i / 17) * Math.sin(i / 5000));
      const audio = { left: side, right: side, sampleRate };
      const taps = {
        before: new Float32Array(new SharedArrayBuffer(65536)),
        after: new Float32Array(new SharedArrayBuffer(65536)),
        afterSide: new Float32Array(new SharedArrayBuffer(65536)),
        beforeSide: new Float32Array(new SharedArrayBuffer(65536)),
        written: new Int32Array(new SharedArrayBuffer(4)),
      };
      const instruments = [0, 1].map(() => ({
        mid: new Float32Array(new SharedArrayBuffer(262144)),
        side: new Float32Array(new SharedArrayBuffer(262144)),
        written: new Int32Array(new SharedArrayBuffer(4)),
      }));
      const context = new OfflineAudioContext(2, seconds * sampleRate, sampleRate);
      await context.audioWorklet.addModule(workletUrl);
      const node = new AudioWorkletNode(context, 'copper-lane', {
        numberOfInputs: 0,
        numberOfOutputs: 1,
        outputChannelCount: [2],
        processorOptions: { audio, lane, taps, playing: true, instruments },
      });
      node.connect(context.destination);
      for (let i = 0; i < candidates; i++)
        node.port.postMessage({ type: 'source', id: `candidate ${i}`, buffer: { left: side, right: side } });
      if (candidates > 0) {
        // The one that is heard is metered besides the lane, and all instruments read at both ends of that.
        node.port.postMessage({ type: 'hear', source: 'candidate 0', less: 'candidate 1' });
        node.port.postMessage({ type: 'instruments', places: [0, lane.stages.length], ppm: 'I' });
      }
      const start = performance.now();
      await context.startRendering();
      return (performance.now() - start) / 1000 / seconds;
    },
    { lane, sampleRate: WORKLET_RATE, seconds: 20, candidates },
  );
}

/** Adds candidates until there are nine, all rendered; gives the milliseconds that the first of them took. */
async function addCandidates(page: Page): Promise<number> {
  await page.getByRole('button', { name: 'Candidates' }).click();
  const chosen = page.getByRole('list', { name: 'Chosen candidates' }).getByRole('listitem');
  const add = page.getByRole('button', { name: /^Add (Version|Master without)/ });
  let first = 0;
  for (let count = 3; count <= 9; count++) {
    const since = Date.now();
    await add.first().click();
    await chosen
      .nth(count - 1)
      .getByText(/raised|lowered|as it is/)
      .waitFor({ timeout: 60_000 });
    first ||= Date.now() - since;
  }
  await page.keyboard.press('Escape');
  return first;
}

/** Bytes of the page when nothing is under way. */
async function restingBytes(page: Page): Promise<number> {
  const browser = await page.context().newCDPSession(page);
  await browser.send('HeapProfiler.collectGarbage');
  return pageBytes();
}

/** How long the page takes, with the reference lane on a mix of four minutes. */
export async function benchBrowser(): Promise<void> {
  const application = await new Application().start();
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic'],
  });
  try {
    const client = await newClient(application.url, application.databaseUrl);
    const { track, versions } = await client.takeIn<{ track: { id: string }; versions: { id: string }[] }>(
      await client.newRelease(),
      'four minutes.wav',
      wave(music(SECONDS, RATE, 0.35), RATE),
    );
    await client.ask('PUT', `/api/versions/${versions[0].id}/lane`, {
      lane: SHORT_LANE,
      label: 'Set up',
      after: 0,
    });

    for (let i = 1; i <= 5; i++) {
      const name = `Version ${i}`;
      const { body } = await client.ask<{ id: string }>('POST', `/api/versions/${versions[0].id}/copies`, { name });
      const stages = SHORT_LANE.stages.map((stage) =>
        stage.kind === 'trim' ? { ...stage, settings: { ...stage.settings, gainDb: -i } } : stage,
      );
      const lane = { ...SHORT_LANE, stages };
      await client.ask('PUT', `/api/versions/${body.id}/lane`, { lane, label: 'Set up', after: 0 });
    }

    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: application.url });
    await context.addCookies(
      client.cookie.split('; ').map((pair) => {
        const [, name, value] = /^([^=]+)=(.*)$/.exec(pair)!;
        return { name, value: decodeURIComponent(value), url: application.url };
      }),
    );
    const page = await context.newPage();
    await page.addInitScript(() => {
      const add = AudioWorklet.prototype.addModule;
      AudioWorklet.prototype.addModule = function (this: AudioWorklet, address: string | URL) {
        (window as unknown as { workletUrl: string }).workletUrl = String(address);
        return add.call(this, address);
      };
    });
    let since = Date.now();
    await page.goto(`/tracks/${track.id}`);
    const controls = await until(page, 'Loudest', since);
    await page
      .getByRole('button', { name: 'Play', exact: true })
      .and(page.locator(':enabled'))
      .waitFor({ timeout: 60_000 });
    const playable = Date.now() - since;
    const verdicts = await until(page, 'whole track checked', since);

    const changes: number[] = [];
    await page.getByRole('button', { name: /^Limiter,/ }).click();
    for (const [title, gain] of [
      ['Input gain', '7'],
      ['Input gain', '6'],
      ['Input gain', '5'],
    ]) {
      const field = page.getByRole('textbox', { name: `${title} value` });
      await field.fill(gain);
      since = Date.now();
      await field.press('Enter');
      await page.getByText(/checking… \d+ %/).waitFor();
      changes.push(await until(page, 'whole track checked', since));
    }
    await page.getByRole('button', { name: /^Trim,/ }).click();
    const field = page.getByRole('textbox', { name: 'Gain value' });
    await field.fill('-4');
    since = Date.now();
    await field.press('Enter');
    await page.getByText(/checking… \d+ %/).waitFor();
    const firstStage = await until(page, 'whole track checked', since);

    const candidate = await addCandidates(page);
    const bytes = await restingBytes(page);
    const share = await workletShare(page, REFERENCE_LANE);
    const sharedShare = await workletShare(page, REFERENCE_LANE, 7);
    const loudShare = await workletShare(page, FINEST_LOUD_LANE);
    const seconds = (ms: number) => `${(ms / 1000).toFixed(2)} s`;
    print('In the browser, a 4-minute mix', [
      { what: 'first load: controls', figure: seconds(controls) },
      { what: 'first load: ready to play', figure: seconds(playable) },
      { what: 'first load: verdicts', figure: seconds(verdicts) },
      {
        what: 'from a change of the last stage to fresh verdicts',
        figure: seconds(changes.sort((a, b) => a - b)[1]),
        aim: 'at most 1.5 s',
      },
      { what: 'from a change of the first stage to fresh verdicts', figure: seconds(firstStage), aim: 'at most 2.5 s' },
      {
        what: 'share of the real-time budget that the worklet uses: reference lane, meters and taps, 96 kHz',
        figure: `${(100 * share).toFixed(1)} %`,
        aim: 'at most 30 %',
      },
      {
        what: 'the same with nine candidates, the difference of two heard, and instruments at both ends',
        figure: `${(100 * sharedShare).toFixed(1)} %`,
        aim: 'at most 15 %',
      },
      {
        what: 'a rendered candidate, from its choice until it can be heard',
        figure: seconds(candidate),
        aim: 'at most 4 s',
      },
      {
        what: 'memory of the page with nine candidates',
        figure: `${(bytes / 1e9).toFixed(2)} GB`,
        aim: 'at most 1.2 GB',
      },
      {
        what: 'the same with the loud lane, saturation and clipper at 16×',
        figure: `${(100 * loudShare).toFixed(1)} %`,
        aim: 'below 100 %',
      },
    ]);
  } finally {
    await browser.close();
    await application.stop();
  }
}
