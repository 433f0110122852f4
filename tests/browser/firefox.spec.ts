// The main walk in Firefox, through the protocol that it shares with other browsers (WebDriver BiDi).
import { expect, test } from '@playwright/test';
import puppeteer, { type Browser, type Page } from 'puppeteer-core';
import { newClient } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';
import { expectSameBits, noteScripts } from './same-bits';

let firefox: Browser;
let page: Page;

/** Firefox with an output device that takes everything, or without one. */
async function open(device: 'media.cubeb.force_mock_context' | 'media.cubeb.force_null_context'): Promise<void> {
  firefox = await puppeteer.launch({
    browser: 'firefox',
    executablePath: '/usr/bin/firefox-esr',
    extraPrefsFirefox: { [device]: true },
  });
  page = await firefox.newPage();
  page.setDefaultTimeout(150_000);
  await page.setViewport({ width: 1280, height: 800 });
}
test.afterEach(() => firefox.close());

const named = (role: string, name: string) => `::-p-aria([name="${name}"][role="${role}"])`;
const press = (role: string, name: string) => page.locator(named(role, name)).click();
const text = (selector: string) => page.$eval(selector, (element) => element.textContent);
const checked = () =>
  expect
    .poll(() => text('[data-testid="measuring-state"]').catch(() => ''), { timeout: 150_000 })
    .toBe('whole track checked');
async function setValue(title: string, value: string): Promise<void> {
  const field = (await page.waitForSelector(`input[aria-label="${title} value"]`))!;
  await field.evaluate((input) => input.select());
  await field.type(value);
  await page.keyboard.press('Enter');
}
const seconds = async () => {
  const [minutes, rest] = (await text('[data-testid="position"]')).split(':').map(Number);
  return minutes * 60 + rest;
};
/** Short-term loudness of what is heard, LUFS. */
const shortTerm = async () =>
  Number((await text('dd[aria-label="Short-term loudness, LUFS"]')).replace('−', '-').replace('–', 'NaN'));

/** Signs in to an account of its own, with a release of one mix, and opens that. */
async function openNewTrack(name: string, gain: number): Promise<void> {
  const client = await newClient();
  const bytes = wave(music(15, 44100, gain), 44100);
  const { track } = await client.takeIn<{ track: { id: string } }>(await client.newRelease(), name, bytes);
  const { hostname } = new URL(client.url);
  await firefox.setCookie(
    ...client.cookies.map(([key, value]) => ({ name: key, value, domain: hostname, path: '/', httpOnly: true })),
  );
  await page.goto(`${client.url}/tracks/${track.id}`);
  await checked();
}

test('Firefox: from a mix to a proven master, heard on the way, with the bits of the server', async () => {
  await open('media.cubeb.force_mock_context');
  await page.evaluateOnNewDocument(noteScripts);
  await openNewTrack('Night walk.wav', 0.35);
  for (const [kind, place] of [
    ['Trim', 1],
    ['Limiter', 2],
  ] as const) {
    await press('button', `Add a stage at position ${place}`);
    await page.locator(`li[role="menuitem"] ::-p-text(${kind})`).click();
    await checked();
  }
  await setValue('Input gain', '6');
  await checked();

  // What is heard follows the lane, at the place that is shown.
  await press('button', 'Play');
  await expect.poll(seconds, { timeout: 30_000 }).toBeGreaterThan(4);
  await expect.poll(shortTerm).toBeGreaterThan(-40);
  const master = await shortTerm();
  await page.keyboard.press('x');
  await expect.poll(shortTerm, { timeout: 30_000 }).toBeLessThan(master - 4);
  await press('button', 'Pause');
  const rested = await seconds();
  expect(rested).toBeGreaterThan(4);

  await setValue('Input gain', '9');
  await checked();
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await expect.poll(() => page.$eval('input[aria-label="Input gain value"]', (input) => input.value)).toBe('6.0');
  await checked();

  await expectSameBits((run, order) => page.evaluate(run, order));

  await press('button', 'Deliver…');
  await page.locator('label ::-p-text(Broadcast)').click();
  await press('button', 'Start delivery');
  await page.waitForSelector('::-p-text(The finished file)');
  expect(await text('main')).toMatch(/[0-9a-f]{64}/);

  // The page of a listening link plays here too, and switches at the same place.
  const address = await page.evaluate(async () => {
    const ask = async (path: string, body?: object) => {
      const headers = { 'Content-Type': 'application/json' };
      const options = body && { method: 'POST', headers, body: JSON.stringify(body) };
      return (await fetch(path, options)).json() as Promise<unknown>;
    };
    const { releases } = (await ask('/api/releases')) as { releases: { id: string }[] };
    const own = `/api/releases/${releases[0].id}`;
    const { tracks } = (await ask(own)) as { tracks: { id: string }[] };
    await ask(`${own}/links`, { recipient: 'Dana', tracks: [{ trackId: tracks[0].id }] });
    for (;;) {
      const [link] = (await ask(`${own}/links`)) as { path: string; status: string; problem: string | null }[];
      if (link.status === 'failed') throw new Error(link.problem ?? 'It failed.');
      if (link.status === 'finished') return link.path;
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
  });
  await page.goto(new URL(address, page.url()).href);
  const place = () => page.$eval('input[type="range"]', (input) => Number(input.value));
  await press('button', 'Play');
  await expect.poll(place, { timeout: 30_000 }).toBeGreaterThan(1);
  await press('button', 'Mix');
  await page.waitForSelector('button[data-source="mix"][aria-pressed="true"]');
  const switched = await place();
  await expect.poll(place).toBeGreaterThan(switched + 0.5);
});

test('Firefox without an output device says so, and goes on saying it until there is one', async () => {
  await open('media.cubeb.force_null_context');
  await openNewTrack('Silent.wav', 0.1);
  await press('button', 'Play');
  await page.waitForSelector('[role="alert"] ::-p-text(No sound is coming out)');
  await press('button', 'Try again');
  expect(await seconds()).toBe(0);
  await page.waitForSelector('[role="alert"] ::-p-text(No sound is coming out)');
  await press('button', 'Pause');
  await expect.poll(() => page.$('[role="alert"] ::-p-text(No sound is coming out)')).toBeNull();
});
